'use client';
/** SSB, AM, FM and two tones: the spectrum about the carrier, which can be moved, and what follows from it. */
import { useMemo, useState } from 'react';
import styled from 'styled-components';
import type { MeasureAgain } from '@/client/useMeasureAgain.ts';
import {
  type AmMeasurement,
  type DrawnSpectrum,
  type FmMeasurement,
  FULL_DEVIATION_HZ,
  fmWidthOf,
  heardReFullDb,
  type RadioDetail,
  type SsbMeasurement,
  type TwoToneMeasurement,
} from '@/core/measure/index.ts';
import { fixed, neededNumber, percent, signed } from '@/core/units/index.ts';
import type { OverView } from '@/server/overs/overView.ts';
import { MarkerSlider } from '../charts/MarkerSlider.tsx';
import { SpectrumChart, type SpectrumLine } from '../charts/SpectrumChart.tsx';
import { Bar, Button } from '../parts/Button.tsx';
import { Notice } from '../parts/Notice.tsx';
import { StepField } from '../parts/StepField.tsx';

/** The field has its label over it: the button stands level with the field. */
const CarrierBar = styled(Bar)`align-items: end; .soft { align-self: end; padding-bottom: 7px; }`;

export type RadioMeasurement = SsbMeasurement | AmMeasurement | FmMeasurement | TwoToneMeasurement;

export const pointsOf = ({ firstHz, stepHz, db }: DrawnSpectrum): [number, number | null][] =>
  db.map((level, k) => [firstHz + k * stepHz, level]);

/** Range of levels that holds everything worth seeing, in tens. */
export function levelRange(lines: readonly SpectrumLine[], noiseDb: number | null): [number, number] {
  const levels = lines.flatMap(({ points }) => points.flatMap(([, level]) => (level === null ? [] : [level])));
  const top = Math.ceil((Math.max(...levels, -200) + 3) / 10) * 10;
  const bottom = Math.max(top - 110, Math.floor(((noiseDb ?? Math.min(...levels)) - 8) / 10) * 10);
  return [Math.min(bottom, top - 40), top];
}

function carrierOf(m: RadioMeasurement): number | null {
  if (m.kind === 'ssb') return m.carrierHz;
  if (m.kind === 'am') return m.carrierOffsetHz;
  return m.kind === 'fm' ? m.offsetHz : null;
}

/** Of the mouse: a hertz is less than a pixel. */
const CARRIER_STEP_HZ = 1;

interface RadioReportProps {
  readonly over: OverView;
  readonly result: RadioMeasurement;
  readonly detail: RadioDetail;
  readonly again: MeasureAgain;
}

export function RadioReport({ over, result, detail, again: { measure, isSending } }: RadioReportProps) {
  const carrier = carrierOf(result);
  const [typed, setTyped] = useState(carrier === null ? '' : String(Math.round(carrier)));
  const half = Math.floor(result.sampleRateHz / 2) - 1;
  const wanted = neededNumber(typed, -half, half);
  const setWanted = (hz: number) => setTyped(String(Math.round(hz)));
  const isAsked = detail.carrierFrom?.how === 'asked';
  const lines = useMemo<SpectrumLine[]>(
    () => [
      ...(detail.highest ? [{ name: 'highest', role: 'highest' as const, points: pointsOf(detail.highest) }] : []),
      ...(detail.mean ? [{ name: 'mean', role: 'measured' as const, points: pointsOf(detail.mean) }] : []),
      ...(detail.noiseDb !== null && detail.mean
        ? [
            {
              name: '',
              role: 'noise' as const,
              points: [detail.mean.firstHz, detail.mean.firstHz + detail.mean.stepHz * detail.mean.db.length].map(
                (hz) => [hz, detail.noiseDb] as const,
              ),
            },
          ]
        : []),
    ],
    [detail],
  );
  const range = useMemo(() => levelRange(lines, detail.noiseDb), [lines, detail.noiseDb]);
  const drawn = detail.mean;
  const xRange = useMemo<[number, number]>(
    () => (drawn ? [drawn.firstHz, drawn.firstHz + drawn.stepHz * (drawn.db.length - 1)] : [-1000, 1000]),
    [drawn],
  );
  const shade = useMemo(() => shadeOf(result, wanted), [result, wanted]);
  const isMoved = wanted !== null && (isAsked || (carrier !== null && Math.abs(wanted - carrier) >= 1));
  return (
    <>
      {drawn && (
        <SpectrumChart
          lines={lines}
          range={range}
          xRange={xRange}
          shade={shade}
          yUnit="dB/Hz"
          label={`Power per hertz from ${fixed(xRange[0] / 1000, 1)} to ${fixed(xRange[1] / 1000, 1)} kHz from the file's centre: mean and highest.`}
        >
          {result.kind === 'ssb' && wanted !== null && (
            <MarkerSlider
              label={`carrier ${fixed(wanted, 0)} Hz`}
              value={wanted}
              range={xRange}
              step={CARRIER_STEP_HZ}
              onChange={setWanted}
            />
          )}
        </SpectrumChart>
      )}
      <p className="soft">
        Frequency from the file’s centre
        {over.capture?.settings.tunedHz === undefined ? '' : ` at ${Number((over.capture.settings.tunedHz / 1e6).toFixed(4))} MHz`}; the
        dotted line is the noise beside the signal. {result.kind === 'ssb' && carrierWords(detail, over)}
      </p>
      {isAsked && (
        <Notice>
          Where is the carrier? The voice alone does not tell it well enough ({percent(detail.carrierFrom?.confidence ?? 0)} sure of{' '}
          {fixed(carrier ?? 0, 0)} Hz), so nothing is measured yet. Put the line where the voice would have 0 Hz: a few hundred hertz
          {result.kind === 'ssb' && result.sideband === 'lsb' ? ' above its upper' : ' below its lower'} edge.
        </Notice>
      )}
      {result.kind === 'ssb' && (
        <CarrierBar>
          <StepField label="Carrier from the file’s centre, Hz" text={typed} range={[-half, half]} onChange={setTyped} />
          <Button primary isDisabled={!isMoved || isSending} onPress={() => wanted !== null && measure({ carrierHz: Math.round(wanted) })}>
            Measure with this carrier
          </Button>
          <span className="soft">Type it, drag the line, or use the keys: arrows 10 Hz, Page Up and Page Down 100 Hz.</span>
        </CarrierBar>
      )}
      {result.kind === 'ssb' && result.findings.some(({ code }) => code === 'wrong-sideband') && (
        <Bar>
          <Button isDisabled={isSending} onPress={() => measure({ sideband: result.sideband === 'usb' ? 'lsb' : 'usb' })}>
            Measure as {result.sideband === 'usb' ? 'LSB' : 'USB'}
          </Button>
          <Button
            isDisabled={isSending}
            onPress={() => measure({ isSwapped: !over.capture?.settings.isSwapped, carrierHz: -result.carrierHz })}
          >
            Measure with I and Q swapped
          </Button>
        </Bar>
      )}
      {result.kind === 'fm' && <FmWidth result={result} />}
      {result.kind === 'am' && (
        <p>
          Common practice: speech that fills an AM carrier reaches 80 to 100 % on peaks; sidebands that look weak and 1 kHz wide are
          under-modulated.
        </p>
      )}
      {detail.audio && (result.kind === 'am' || result.kind === 'fm') && (
        <AudioSpectrum audio={detail.audio} reaches={result.audioBandwidthHz} />
      )}
    </>
  );
}

/** The wanted sideband of SSB, the measured bandwidth of the others. */
function shadeOf(m: RadioMeasurement, carrier: number | null): [number, number][] {
  if (m.kind === 'ssb' && carrier !== null)
    return m.sideband === 'usb' ? [[carrier + 100, carrier + 3000]] : [[carrier - 3000, carrier - 100]];
  if (m.kind === 'two-tone' || carrier === null || m.kind === 'ssb' || m.occupiedBandwidthHz === null) return [];
  return [[carrier - m.occupiedBandwidthHz / 2, carrier + m.occupiedBandwidthHz / 2]];
}

function carrierWords({ carrierFrom }: RadioDetail, over: OverView): string {
  if (over.capture?.settings.carrierHz !== undefined) return 'The carrier was set by hand.';
  if (carrierFrom?.how === 'proposed')
    return `The carrier is proposed from the recording (confidence ${percent(carrierFrom.confidence ?? 0)}).`;
  return carrierFrom?.how === 'asked' ? '' : 'The carrier is taken to stand at the file’s centre. Set it below.';
}

/** Wide or narrow, and what the other kind of receiver makes of it. */
function FmWidth({ result }: { result: FmMeasurement }) {
  const { peakDeviationHz: peak, notes } = result;
  if (peak === null || notes.peakDeviationHz) return null;
  const width = fmWidthOf(peak);
  const other = width === 'narrow' ? 'wide' : 'narrow';
  const there = heardReFullDb(peak, other);
  return (
    <p>
      <strong>This is {width} FM</strong> (full {width} deviation is {FULL_DEVIATION_HZ[width] / 1000} kHz; common practice). In a {other}{' '}
      receiver it comes out at {signed(there, 1)} dB against a full signal there
      {width === 'narrow'
        ? ': quality unchanged, volume lower. The other operator will report low power. Near and strong it hardly matters; far and weak it decides.'
        : ': louder than the rest, and its peaks leave the receiver’s filter, which distorts.'}
    </p>
  );
}

function AudioSpectrum({ audio, reaches }: { audio: DrawnSpectrum; reaches: number | null }) {
  const lines = useMemo<SpectrumLine[]>(() => [{ name: 'demodulated audio', role: 'measured', points: pointsOf(audio) }], [audio]);
  const range = useMemo(() => levelRange(lines, null), [lines]);
  const xRange = useMemo<[number, number]>(() => [0, audio.firstHz + audio.stepHz * audio.db.length], [audio]);
  const shade = useMemo<[number, number][]>(() => (reaches === null ? [] : [[0, reaches]]), [reaches]);
  return (
    <SpectrumChart
      lines={lines}
      range={range}
      xRange={xRange}
      shade={shade}
      height={170}
      label={`Spectrum of the demodulated audio; it reaches ${reaches === null ? 'nowhere' : `${fixed(reaches, 0)} Hz`}.`}
    />
  );
}
