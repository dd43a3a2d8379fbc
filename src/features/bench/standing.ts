/** The ALC readings of the card on the Bench, as core weighs them. */
import { type AlcStanding, alcStanding } from '@/core/advice/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';

export function standingOf({ card, over, voice, readings }: BenchView): AlcStanding {
  const [newest] = card.revisions;
  const read = [...readings]
    .reverse()
    .flatMap(({ alc, revision: { values, use } }) => (alc === null ? [] : [{ alc, card: { mode: card.mode, values, use } }]));
  const detail = (over ?? voice?.over)?.measured?.detail ?? null;
  return alcStanding(card.rig.profile, { mode: card.mode, values: newest.values, use: newest.use }, read, detail);
}
