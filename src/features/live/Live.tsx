'use client';
/** Live level, spectrum with peak hold and tone against the target; the last ten seconds become a recording. */
import { useMemo, useState } from 'react';
import { sentenceOf } from '@/client/sentence.ts';
import { useGrab } from '@/client/useGrab.ts';
import { type Live as LiveSound, useLive } from '@/client/useLive.ts';
import { useWorkingCard } from '@/client/useWorkingCard.ts';
import type { CurvePoint } from '@/core/curve/index.ts';
import { LIVE_HZ, type LiveReading, toneAgainst } from '@/core/measure/index.ts';
import { PURPOSE_LABELS, PURPOSES, type Purpose } from '@/core/rig/index.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { SpectrumChart, type SpectrumLine } from '@/ui/charts/SpectrumChart.tsx';
import { LiveLevel } from '@/ui/measured/LiveLevel.tsx';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { type Neighbours, Sentence } from '@/ui/shell/Sentence.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';

const TICKS = [100, 200, 300, 500, 1000, 2000, 3000, 5000];
const RANGE = [-110, 0] as const;
const TONE_RANGE = [-40, 10] as const;
const X = [80, 5000] as const;

interface LiveProps {
  /** Where a recording goes. */
  readonly card: CardView;
  readonly neighbours: Neighbours;
  readonly targets: Readonly<Record<Purpose, readonly CurvePoint[]>>;
}

export function Live({ card, neighbours, targets }: LiveProps) {
  useWorkingCard(card.id);
  const live = useLive();
  const [purpose, setPurpose] = useState<Purpose>(card.purpose);
  const { reading, state, message } = live;
  return (
    <Shell sentence={<Sentence card={card} neighbours={neighbours} to="/live" {...sentenceOf(card)} />}>
      <Page data-card={card.id}>
        <h1>Live</h1>
        <p className="soft">
          A second receiver’s line output into the sound card: what you sound like while you talk. Monitor on headphones, never a speaker.
          The sound stays in this page until you grab it; what you grab becomes an over of {card.name}.
        </p>
        <Controls live={live} purpose={purpose} onPurpose={setPurpose} />
        {message && <Notice tone="fault">{message}</Notice>}
        <LiveLevel reading={reading} />
        <Spectrum reading={reading} />
        <Tone reading={reading} target={targets[purpose]} purpose={purpose} />
        {!reading && state !== 'on' && (
          <p className="soft">Press Listen and let the browser use the input; nothing is sent anywhere but to this machine.</p>
        )}
      </Page>
    </Shell>
  );
}

function Controls({ live, purpose, onPurpose }: { live: LiveSound; purpose: Purpose; onPurpose: (purpose: Purpose) => void }) {
  const isOn = live.state === 'on';
  const grab = useGrab(live);
  return (
    <Bar>
      {isOn ? (
        <Button onPress={live.stop}>Stop</Button>
      ) : (
        <Button primary isDisabled={live.state === 'opening'} onPress={live.start}>
          {live.state === 'opening' ? 'Opening ...' : 'Listen'}
        </Button>
      )}
      <Button isDisabled={!isOn} onPress={() => void grab()}>
        Grab the last {live.grabS} s
      </Button>
      <Button isDisabled={!isOn} onPress={live.clearPeakHold}>
        Clear peak hold
      </Button>
      {live.devices.length > 0 && <Picker label="Input" choices={live.devices} value={live.device} onChange={live.choose} />}
      <Picker
        label="Target"
        choices={PURPOSES.map((id) => ({ id, text: PURPOSE_LABELS[id] }))}
        value={purpose}
        onChange={(id) => onPurpose(id as Purpose)}
      />
    </Bar>
  );
}

function Spectrum({ reading }: { reading: LiveReading | null }) {
  const lines = useMemo<SpectrumLine[]>(() => {
    const points = (levels: ArrayLike<number | null>) => LIVE_HZ.map((hz, i) => [hz, levels[i]] as const);
    if (!reading) return [];
    return [
      { name: 'peak hold', role: 'highest', points: points(reading.held) },
      { name: 'now', role: 'measured', points: points(reading.now) },
    ];
  }, [reading]);
  return (
    <>
      <h2>Spectrum</h2>
      <SpectrumChart
        lines={lines}
        range={RANGE}
        xRange={X}
        logTicks={TICKS}
        yUnit="dB/Hz"
        height={230}
        label="Live spectrum from 80 Hz to 5 kHz: now, and the peak hold."
      />
    </>
  );
}

function Tone({ reading, target, purpose }: { reading: LiveReading | null; target: readonly CurvePoint[]; purpose: Purpose }) {
  const lines = useMemo<SpectrumLine[]>(() => {
    const { wanted, heard } = toneAgainst(target, reading?.thirdOctaves ?? null);
    return [
      { name: 'target', role: 'noise', points: wanted },
      ...(heard ? [{ name: 'your voice', role: 'measured' as const, points: heard }] : []),
    ];
  }, [reading, target]);
  return (
    <>
      <h2>Third octaves against the target</h2>
      <SpectrumChart
        lines={lines}
        range={TONE_RANGE}
        xRange={X}
        logTicks={TICKS}
        height={210}
        label={`Tone of your voice over the last seconds against the target for ${PURPOSE_LABELS[purpose]}.`}
      />
    </>
  );
}
