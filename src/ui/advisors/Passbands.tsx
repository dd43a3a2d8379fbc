'use client';
/** Passbands to choose from, narrow to wide. */
import { modelVoiceOf } from '@/client/useJudged.ts';
import { narrowVoiceNote, passbandWords, reachesBeyond } from '@/core/advice/index.ts';
import { effective } from '@/core/rig/index.ts';
import { passbandChoices } from '@/core/tune/index.ts';
import type { Hertz } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { JudgedChoices } from './JudgedChoices.tsx';

export function Passbands({ bench }: { bench: BenchView }) {
  const { card, over } = bench;
  const rig = card.rig.profile;
  const now = { mode: card.mode, values: card.revisions[0].values };
  const choices = passbandChoices(rig, now, card.purpose);
  const edges = choices.flatMap(({ edgesHz }) => edgesHz);
  const through = over ? effective(over.rig.profile, { mode: over.card.mode, values: over.revision.values }).passbandHz : null;
  const isBeyond = (edgesHz: readonly [Hertz, Hertz]) => through !== null && reachesBeyond(edgesHz, through);
  const beyond = choices.filter((choice) => isBeyond(choice.edgesHz)).map(({ name }) => ({ name, judged: null }));
  const note = modelVoiceOf(bench) && through ? narrowVoiceNote(through, [Math.min(...edges), Math.max(...edges)]) : null;
  return (
    <section aria-label="Narrow or wide" style={{ marginTop: 16 }}>
      <h2>Narrow or wide?</h2>
      {choices.length < 2 ? (
        <p>{rig.name} has one transmit passband in this mode.</p>
      ) : (
        <JudgedChoices
          label="Passband"
          bench={bench}
          choices={choices.map(({ edgesHz, suitsPurpose, note: about, ...choice }) => ({
            ...choice,
            note: suitsPurpose ? `${about}; usual for this purpose` : about,
            value: `${edgesHz[0]}–${edgesHz[1]}`,
            isBeyond: isBeyond(edgesHz),
          }))}
          reason={({ name }) => `passband: ${name.toLowerCase()}`}
          words={(answers) => passbandWords([...answers, ...beyond].map(({ name, judged }) => ({ name: name.toLowerCase(), judged })))}
        />
      )}
      {note && choices.length > 1 && (
        <p className="soft" style={{ marginTop: 8 }}>
          {note}
        </p>
      )}
    </section>
  );
}
