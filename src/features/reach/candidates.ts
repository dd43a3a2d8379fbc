/** What is placed on the plane: the operator's cards, what their last overs were made with, and the schools' beginnings. */
import { elsewhereOf } from '@/client/useJudged.ts';
import type { Elsewhere } from '@/core/advice/index.ts';
import type { JudgedCard } from '@/core/intelligibility/index.ts';
import type { Card } from '@/core/rig/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardView } from '@/server/cards/cards.ts';

export type CandidateKind = 'card' | 'over' | 'school';

export interface Candidate {
  readonly key: string;
  readonly name: string;
  readonly kind: CandidateKind;
  readonly what: string;
  readonly href: string | null;
  readonly card: Card;
  readonly elsewhere?: Elsewhere;
}

export interface Placed extends Pick<Candidate, 'key' | 'name' | 'kind' | 'what' | 'href'> {
  readonly point: { readonly reachDb: number; readonly uncertaintyDb: number; readonly score: number } | null;
  /** Why it has no place. */
  readonly why: string | null;
}

const OVERS_SHOWN = 4;

/** A school's starting point on the card's rig. */
export type SchoolStart = Pick<Candidate, 'key' | 'name' | 'card'>;

export function candidatesOf(bench: BenchView, cards: readonly CardView[], starts: readonly SchoolStart[]): Candidate[] {
  const { card, overs } = bench;
  const own = elsewhereOf(bench, card);
  const all: Candidate[] = cards
    .filter(({ mode }) => mode === 'usb' || mode === 'lsb')
    .map((each) => ({
      key: `card ${each.id}`,
      name: each.name,
      kind: 'card',
      what: `${each.rig.name}, ${each.microphone.name}`,
      href: `/cards/${each.id}`,
      card: { mode: each.mode, values: each.revisions[0].values },
      elsewhere: elsewhereOf(bench, each),
    }));
  for (const { id, revision } of overs.slice(0, OVERS_SHOWN)) {
    const made = card.revisions.find(({ number }) => number === revision);
    // The newest revision stands there as the card itself.
    if (!made || made.number === card.revisions[0].number) continue;
    all.push({
      key: `over ${id}`,
      name: `over ${id}`,
      kind: 'over',
      what: `${card.name} as it was, rev. ${revision}`,
      href: `/overs/${id}`,
      card: { mode: card.mode, values: made.values },
      elsewhere: own,
    });
  }
  const gain = card.rig.profile.dials.filter(({ role }) => role === 'mic-gain').map(({ id }) => id);
  const kept = Object.fromEntries(Object.entries(card.revisions[0].values).filter(([id]) => gain.includes(id)));
  for (const { key, name, card: start } of starts) {
    // A school says nothing of the gain: it is left where the operator has it.
    all.push({
      key,
      name,
      kind: 'school',
      what: 'starting point (school)',
      href: null,
      card: { ...start, values: { ...start.values, ...kept } },
      elsewhere: own,
    });
  }
  return all;
}

export function placedOf({ key, name, kind, what, href }: Candidate, judged: JudgedCard | string): Placed {
  const base = { key, name, kind, what, href };
  if (typeof judged === 'string') return { ...base, point: null, why: judged };
  const { reachDb, uncertaintyDb } = judged.reach;
  if (reachDb === null) return { ...base, point: null, why: 'not readable: too much distortion' };
  return { ...base, point: { reachDb, uncertaintyDb: uncertaintyDb ?? 0, score: judged.naturalness.score }, why: null };
}
