'use client';
/** The numbers, findings, spectrum and level strip of a measured over. */
import { useMemo } from 'react';
import styled from 'styled-components';
import { slidingThirdOctaves, VOICE_TWELFTH_OCTAVES } from '@/core/signal/bands.ts';
import { powerToDb } from '@/core/signal/conversions.ts';
import { effective } from '@/core/station/effective.ts';
import type { OverView } from '@/server/overs.ts';
import { BalanceChart, type Curve } from '@/ui/charts/BalanceChart.tsx';
import { LevelStrip } from '@/ui/charts/LevelStrip.tsx';
import { decibels, duration, fixed, percent } from '@/ui/format.ts';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Findings } from './Findings.tsx';

const Numbers = styled.dl`
  display: grid; grid-template-columns: repeat(auto-fill, minmax(124px, 1fr)); gap: 8px 16px; margin: 0 0 10px;
  div { border-top: 1px solid var(--line); padding-top: 4px; }
  dt { color: var(--soft); font-size: 13px; } dd { margin: 0; font-weight: 600; }
  dd small { font-weight: 400; color: var(--soft); display: block; font-size: 12.5px; }`;

export function VoiceReport({ over }: { over: OverView }) {
  const { measured, rig, card, revision } = over;
  const curves = useMemo(() => (measured ? spectrum(measured.detail) : []), [measured]);
  const sent = useMemo(
    () => effective(rig.profile, { mode: card.mode, values: revision.values }).passbandHz,
    [rig.profile, card.mode, revision.values],
  );
  if (!measured) {
    return <p>{over.measurement?.error ?? (over.measurement ? 'This over is being measured.' : 'This over has no recording.')}</p>;
  }
  const { result, detail } = measured;
  const [low, high] = result.passbandHz ?? [null, null];
  const numbers: readonly (readonly [string, string, keyof typeof result | null])[] = [
    ['talk', decibels(result.activeSpeechLevelDb), 'activeSpeechLevelDb'],
    ['loudness', result.loudnessLufs === null ? 'not to be had' : `${fixed(result.loudnessLufs, 1)} LUFS`, 'loudnessLufs'],
    ['peak over talk', decibels(result.peakToAverageDb), 'peakToAverageDb'],
    ['noise floor', decibels(result.noiseFloorDb), 'noiseFloorDb'],
    ['talk over noise', decibels(result.snrDb), 'snrDb'],
    ['pitch', result.pitchHz === null ? 'not to be had' : `${fixed(result.pitchHz, 0)} Hz`, 'pitchHz'],
    ['holds 99 %', low === null || high === null ? 'not to be had' : `${fixed(low, 0)}–${fixed(high, 0)} Hz`, 'passbandHz'],
    ['tilt', result.tiltDbPerOctave === null ? 'not to be had' : `${fixed(result.tiltDbPerOctave, 1)} dB/oct`, 'tiltDbPerOctave'],
    ['clipped', percent(result.clippedShare, result.clippedShare > 0 ? 3 : 0), 'clippedShare'],
    ['talking', result.activityFactor === null ? 'not to be had' : percent(result.activityFactor), 'activityFactor'],
    ['length', duration(result.durationS), 'durationS'],
    ['sample rate', `${Number((result.sampleRateHz / 1000).toFixed(3))} kHz`, null],
  ];
  return (
    <>
      <Numbers>
        {numbers.map(([name, text, key]) => (
          <div key={name}>
            <dt>{name}</dt>
            <dd>
              {text}
              {key && result.notes[key] && <small>{result.notes[key]}</small>}
            </dd>
          </div>
        ))}
      </Numbers>
      {result.notes.samples && <Notice>{result.notes.samples}</Notice>}
      {result.activeSpeechLevelDb === null ? (
        <Notice tone="fault">
          There is nothing to hear in this recording: digital silence. Check the recorder's input and record again.
        </Notice>
      ) : (
        <Findings findings={result.findings} />
      )}
      <BalanceChart
        curves={curves}
        passbandHz={sent}
        range={[-48, 6]}
        height={230}
        label={`Third-octave levels of the talk from 100 Hz to 4 kHz, strongest at ${Math.round(strongest(result.thirdOctaveDb))} Hz.`}
      />
      <LevelStrip
        levelsDb={detail.stripDb}
        active={detail.stripActive}
        stepSeconds={detail.stripSeconds}
        speechDb={result.activeSpeechLevelDb}
        noiseDb={result.noiseFloorDb}
        label={`Level over ${duration(result.durationS)}: talk at ${decibels(result.activeSpeechLevelDb)}, noise floor at ${decibels(result.noiseFloorDb)}.`}
      />
    </>
  );
}

const strongest = (bands: readonly (readonly [number, number | null])[]): number =>
  bands.reduce((best, band) => ((band[1] ?? -Infinity) > (best[1] ?? -Infinity) ? band : best))[0];

/** Talk and pauses as smooth third-octave levels re the strongest of the talk. */
function spectrum({ speechPowers, pausePowers }: NonNullable<OverView['measured']>['detail']): Curve[] {
  const talk = slidingThirdOctaves(speechPowers);
  const top = Math.max(...talk.map((power) => power ?? 0));
  const points = (powers: readonly (number | null)[]) =>
    powers.map((power, i) => [VOICE_TWELFTH_OCTAVES[i].centreHz, power === null || power === 0 ? null : powerToDb(power / top)] as const);
  return [
    { name: 'talk', role: 'measured', points: points(talk) },
    ...(pausePowers
      ? [
          {
            name: 'pauses',
            role: 'noise' as const,
            points: points(slidingThirdOctaves(pausePowers)),
          },
        ]
      : []),
  ];
}
