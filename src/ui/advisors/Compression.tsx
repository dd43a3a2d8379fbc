'use client';
/** How much compression, for this voice: each school's amount, and where more costs more than it gives. */
import { useMemo } from 'react';
import { compressionChoices, compressionWords } from '@/core/advice/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { JudgedChoices } from './JudgedChoices.tsx';

export function Compression({ bench }: { bench: BenchView }) {
  const { card } = bench;
  const rig = card.rig.profile;
  const { values } = card.revisions[0];
  const choices = useMemo(() => compressionChoices(rig, { mode: card.mode, values }), [rig, card.mode, values]);
  if (choices.length === 0) return <p>{rig.name} has no processor in this mode. Nothing to do here.</p>;
  return (
    <section aria-label="How much compression" style={{ marginTop: 18 }}>
      <h2>How much, for this voice</h2>
      <JudgedChoices
        label="Compression"
        bench={bench}
        choices={choices}
        reason={({ name }) => `compression: ${name.toLowerCase()}`}
        words={(answers) => compressionWords(answers, card.purpose)}
      />
    </section>
  );
}
