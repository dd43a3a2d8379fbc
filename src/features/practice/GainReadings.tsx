'use client';
/** ALC readings of a practice radio and the mic gain to try next. They stay here: a practice radio says nothing of the real one. */
import { heardVoice } from '@/client/cardStanding.ts';
import { type AlcReading, alcStanding, gainSentence } from '@/core/advice/index.ts';
import { type DialValues, readingText, valueText } from '@/core/rig/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';

interface GainReadingsProps {
  readonly bench: BenchView;
  readonly values: DialValues;
  /** Oldest first. */
  readonly readings: readonly AlcReading[];
  readonly onDial: (change: DialValues) => void;
}

export function GainReadings({ bench, values, readings, onDial }: GainReadingsProps) {
  const { card } = bench;
  const rig = card.rig.profile;
  const [{ use }] = card.revisions;
  if (readings.length === 0) return null;
  const { gain } = alcStanding(rig, { mode: card.mode, values, use }, readings, heardVoice(bench));
  if (!gain) return null;
  const { dial, from, to } = gain;
  return (
    <section aria-label="Readings of this radio">
      <h2 style={{ marginTop: 18 }}>Readings of this radio</h2>
      <p className="soft">
        {readings
          .slice(-6)
          .map(({ card: then, alc }) => `${valueText(dial, then.values[dial.id] ?? dial.rest)}: ALC ${readingText(rig.alc, alc)}`)
          .join('; ')}
        . They stay in Practice.
      </p>
      <p>
        <b>{gainSentence(rig, gain)}</b>
      </p>
      {from !== to && (
        <Bar>
          <Button onPress={() => onDial({ [dial.id]: to })}>
            Set {dial.label} to {valueText(dial, to)}
          </Button>
        </Bar>
      )}
    </section>
  );
}
