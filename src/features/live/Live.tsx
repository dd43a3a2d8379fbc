'use client';
/** Live level, spectrum with peak hold and tone against the target; the last ten seconds become a recording. */
import { useEffect, useMemo, useRef, useState } from 'react';
import styled from 'styled-components';
import { useAddFiles } from '@/client/addRecording.ts';
import { sentenceOf } from '@/client/sentence.ts';
import { inputs, openSoundCard, type SoundCard, whyNot } from '@/client/soundCard.ts';
import { useWorkingCard } from '@/client/useWorkingCard.ts';
import { coreWork } from '@/client/workers/coreWork.ts';
import type { CurvePoint } from '@/core/curve/index.ts';
import { LIVE_HZ, type LiveReading, toneAgainst } from '@/core/measure/index.ts';
import { PURPOSE_LABELS, PURPOSES, type Purpose } from '@/core/rig/index.ts';
import { decibels } from '@/core/units/index.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { SpectrumChart, type SpectrumLine } from '@/ui/charts/SpectrumChart.tsx';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { type Neighbours, Sentence } from '@/ui/shell/Sentence.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';

const GRAB_S = 10;
const TICKS = [100, 200, 300, 500, 1000, 2000, 3000, 5000];
const RANGE = [-110, 0] as const;
const TONE_RANGE = [-40, 10] as const;
const X = [80, 5000] as const;

const Scale = styled.div`
  position: relative; height: 22px; border: 1px solid var(--line); background: var(--sheet); margin: 10px 0 4px; max-width: 720px;
  .level { position: absolute; inset: 0 auto 0 0; background: var(--signal); opacity: 0.75; }
  .peak { position: absolute; top: -3px; bottom: -3px; width: 3px; background: var(--ink); }`;
/** Levels drawn from here to full scale. */
const LOWEST_DB = -72;
const share = (db: number | null): number => (db === null ? 0 : Math.max(0, Math.min(1, 1 - db / LOWEST_DB)));

type State = 'idle' | 'opening' | 'on';

interface LiveProps {
  /** Where a recording goes. */
  readonly card: CardView;
  readonly neighbours: Neighbours;
  readonly targets: Readonly<Record<Purpose, readonly CurvePoint[]>>;
}

export function Live({ card: onCard, neighbours, targets }: LiveProps) {
  useWorkingCard(onCard.id);
  const [state, setState] = useState<State>('idle');
  const [message, setMessage] = useState<string | null>(null);
  const [reading, setReading] = useState<LiveReading | null>(null);
  const [devices, setDevices] = useState<readonly { id: string; text: string }[]>([]);
  const [device, setDevice] = useState<string | null>(null);
  const [purpose, setPurpose] = useState<Purpose>(onCard.purpose);
  const card = useRef<SoundCard | null>(null);
  const isBusy = useRef(false);
  const waiting = useRef<Float32Array[]>([]);
  const addFiles = useAddFiles();

  const stop = (why: string | null = null) => {
    card.current?.close();
    card.current = null;
    setState('idle');
    setMessage(why);
  };
  useEffect(() => () => card.current?.close(), []);

  /** The worker gets what has come since its last answer: it never falls behind. */
  const feed = async () => {
    if (isBusy.current || waiting.current.length === 0) return;
    isBusy.current = true;
    const blocks = waiting.current;
    waiting.current = [];
    try {
      setReading(await coreWork().live(blocks));
    } finally {
      isBusy.current = false;
    }
  };
  const start = async (wanted: string | null) => {
    stop();
    setState('opening');
    try {
      const opened = await openSoundCard(wanted, {
        onBlock(block) {
          waiting.current.push(block);
          void feed();
        },
        onLost: () =>
          stop(
            'The sound input went away: it was unplugged, or the browser withdrew it. What was heard up to then is gone from this page; grabbed recordings are kept.',
          ),
      });
      await coreWork().startLive(opened.sampleRateHz);
      card.current = opened;
      setState('on');
      setDevices(await inputs());
    } catch (error) {
      stop(whyNot(error));
    }
  };
  const grab = async () => {
    const opened = card.current;
    if (!opened) return;
    const samples = opened.last(GRAB_S);
    if (samples.length < opened.sampleRateHz / 2) return setMessage('Half a second is the least that can be measured: wait a moment.');
    const file = await coreWork().asRecording(samples, opened.sampleRateHz);
    addFiles([new File([file], `live-${new Date().toISOString().slice(0, 19).replaceAll(':', '')}Z.wav`, { type: 'audio/wav' })]);
  };

  const spectrum = useMemo<SpectrumLine[]>(
    () =>
      reading
        ? [
            { name: 'peak hold', role: 'highest', points: LIVE_HZ.map((hz, i) => [hz, reading.held[i]] as const) },
            { name: 'now', role: 'measured', points: LIVE_HZ.map((hz, i) => [hz, reading.now[i]] as const) },
          ]
        : [],
    [reading],
  );
  const tone = useMemo<SpectrumLine[]>(() => {
    const { wanted, heard } = toneAgainst(targets[purpose], reading?.thirdOctaves ?? null);
    return [
      { name: 'target', role: 'noise', points: wanted },
      ...(heard ? [{ name: 'your voice', role: 'measured' as const, points: heard }] : []),
    ];
  }, [reading, targets, purpose]);
  return (
    <Shell sentence={<Sentence card={onCard} neighbours={neighbours} to="/live" {...sentenceOf(onCard)} />}>
      <Page data-card={onCard.id}>
        <h1>Live</h1>
        <p className="soft">
          A second receiver’s line output into the sound card: what you sound like while you talk. Monitor on headphones, never a speaker.
          The sound stays in this page until you grab it; what you grab becomes an over of {onCard.name}.
        </p>
        <Bar>
          {state === 'on' ? (
            <Button onPress={() => stop()}>Stop</Button>
          ) : (
            <Button primary isDisabled={state === 'opening'} onPress={() => void start(device)}>
              {state === 'opening' ? 'Opening ...' : 'Listen'}
            </Button>
          )}
          <Button isDisabled={state !== 'on'} onPress={() => void grab()}>
            Grab the last {Math.min(GRAB_S, Math.max(1, Math.floor(card.current?.keptS() ?? GRAB_S)))} s
          </Button>
          <Button isDisabled={state !== 'on'} onPress={() => void coreWork().releaseLive()}>
            Clear peak hold
          </Button>
          {devices.length > 0 && (
            <Picker
              label="Input"
              choices={devices}
              value={device ?? devices[0]?.id ?? null}
              onChange={(id) => {
                setDevice(id);
                if (state === 'on') void start(id);
              }}
            />
          )}
          <Picker
            label="Target"
            choices={PURPOSES.map((id) => ({ id, text: PURPOSE_LABELS[id] }))}
            value={purpose}
            onChange={(id) => setPurpose(id as Purpose)}
          />
        </Bar>
        {message && <Notice tone="fault">{message}</Notice>}
        <Scale aria-hidden>
          <div className="level" style={{ width: `${100 * share(reading?.levelDb ?? null)}%` }} />
          {reading?.heldPeakDb != null && <div className="peak" style={{ left: `calc(${100 * share(reading.heldPeakDb)}% - 3px)` }} />}
        </Scale>
        <p className="mono">
          level {reading?.levelDb == null ? 'none' : decibels(reading.levelDb)}, peak hold{' '}
          {reading?.heldPeakDb == null ? 'none' : decibels(reading.heldPeakDb)} re full scale
          {reading?.isClipping && <strong> — clipping: turn the receiver or the input down</strong>}
        </p>
        <h2>Spectrum</h2>
        <SpectrumChart
          lines={spectrum}
          range={RANGE}
          xRange={X}
          logTicks={TICKS}
          yUnit="dB/Hz"
          height={230}
          label="Live spectrum from 80 Hz to 5 kHz: now, and the peak hold."
        />
        <h2>Third octaves against the target</h2>
        <SpectrumChart
          lines={tone}
          range={TONE_RANGE}
          xRange={X}
          logTicks={TICKS}
          height={210}
          label={`Tone of your voice over the last seconds against the target for ${PURPOSE_LABELS[purpose]}.`}
        />
        {!reading && state !== 'on' && (
          <p className="soft">Press Listen and let the browser use the input; nothing is sent anywhere but to this machine.</p>
        )}
      </Page>
    </Shell>
  );
}
