/** How much compression: each school's amount on this rig, and where more costs this voice more than it gives. */
import type { JudgedCard } from '../../intelligibility/index.ts';
import {
  type Card,
  type DialValues,
  dialInRole,
  PURPOSE_LABELS,
  type Purpose,
  type RigProfile,
  shareOf,
  valueOn,
} from '../../rig/index.ts';
import { type Decibels, decibels, type Fraction, fixed } from '../../units/index.ts';
import { compressionDials } from '../nearestDials.ts';
import { COMPRESSION_SCHOOLS, type CompressionWish } from '../next/schools.ts';

/** One amount on this rig's dials. */
export interface CompressionChoice {
  readonly name: string;
  readonly note: string;
  readonly values: DialValues;
  /** As the card has it now. */
  readonly isNow: boolean;
}

/** Shares of the scale (common practice); the handbook's is where its search by the meter begins. */
const AMOUNTS: readonly (readonly [CompressionWish, Fraction])[] = [
  ['none', 0],
  ['token', 0.3],
  ['handbook', 0.5],
  ['weak-mic', 0.62],
];

/**
 * Least to most; empty where this mode has no processor. Amounts that come to the same on this rig are one; where the card
 * has another, it stands among them.
 */
export function compressionChoices(rig: RigProfile, card: Card): CompressionChoice[] {
  const amount = dialInRole(rig, 'compression', card.mode);
  if (!amount) return [];
  const found = new Map<string, CompressionChoice & { readonly share: Fraction }>();
  for (const [wish, share] of AMOUNTS) {
    const values = compressionDials(rig, card.mode, share);
    const key = JSON.stringify(values);
    const isNow = rig.dials.every(({ id }) => values[id] === undefined || values[id] === valueById(rig, card, id));
    if (!found.has(key)) found.set(key, { ...COMPRESSION_SCHOOLS[wish], values, isNow, share });
  }
  const choices = [...found.values()];
  if (!choices.some(({ isNow }) => isNow)) {
    const own = {
      name: 'As it stands',
      note: 'no school’s amount',
      values: {},
      isNow: true,
      share: shareOf(amount, valueOn(card, amount)),
    };
    choices.push(own);
  }
  return choices.sort((a, b) => a.share - b.share).map(({ share: _, ...choice }) => choice);
}

function valueById(rig: RigProfile, card: Card, id: string) {
  const dial = rig.dials.find((each) => each.id === id);
  return dial && valueOn(card, dial);
}

/** More reach than this is worth having. */
const WORTH_DB: Decibels = 0.3;
/** So much naturalness, of 100, is a fair price of a decibel of reach. This project's own choice. */
const PRICE: Readonly<Record<Purpose, number>> = { natural: 2, balanced: 5, 'pile-up': 8, contest: 10 };

/** @param answers least compression first */
export function compressionWords(answers: readonly { readonly name: string; readonly judged: JudgedCard }[], purpose: Purpose): string {
  const known = answers.flatMap(({ name, judged: { reach, naturalness, peakToAverageDb } }) =>
    reach.reachDb === null ? [] : [{ name, reachDb: reach.reachDb, natural: naturalness.score, crestDb: peakToAverageDb }],
  );
  if (known.length < 2) return 'With so much distortion or room noise, none of them is readable.';
  let best = known[0];
  for (const each of known.slice(1)) {
    const won = each.reachDb - best.reachDb;
    if (won >= WORTH_DB && best.natural - each.natural <= PRICE[purpose] * won) best = each;
  }
  const [first] = known;
  const next = known[known.indexOf(best) + 1];
  const won =
    best === first
      ? `For this voice and ${PURPOSE_LABELS[purpose]}, ${first.name === COMPRESSION_SCHOOLS.none.name ? 'no compression' : first.name.toLowerCase()} is best`
      : `${best.name} wins ${decibels(best.reachDb - first.reachDb, 1)} of reach and ${decibels(first.crestDb - best.crestDb, 1)} of average power at the same peak, for ${fixed(first.natural - best.natural, 0)} points of naturalness`;
  if (!next) return `${won}.`;
  const more = next.reachDb - best.reachDb;
  const gain = more >= 0.05 ? `adds ${decibels(more, 1)}` : more <= -0.05 ? `loses ${decibels(-more, 1)} of reach` : 'adds nothing';
  return `${won}. ${next.name} ${gain} and costs ${fixed(best.natural - next.natural, 0)} points more: more costs more than it gives.`;
}
