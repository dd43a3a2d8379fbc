/**
 * Carrier offset of simple radios, bracketed as operators do it (common practice): it slides the voice along the filter.
 * Steps of 500 Hz until one side is too sharp and the other too mellow, then 100 Hz, then the dial's own step. It ends with
 * two candidates: the sharp one reaches further, the mellow one is nicer.
 */
import { type CurvePoint, curveAt } from '../../curve/index.ts';
import { mean, TWELFTH_CENTRES } from '../../dsp/index.ts';
import type { Remark } from '../../language/index.ts';
import { type Card, type Dial, dialInRole, effective, hertzOf, nearestOn, positionsOf, type RigProfile, valueOn } from '../../rig/index.ts';
import { type Decibels, dbToPower, type Hertz, powerToDb } from '../../units/index.ts';
import type { HeardSpeech } from '../toneError.ts';

/** What was heard with one card: a voice, words, or both. */
export interface OffsetHeard {
  readonly card: Card;
  /** As a receiver had it; null where there is no recording. */
  readonly voice: HeardSpeech | null;
  readonly remarks: readonly Remark[];
}

/** One offset that was tried. */
export interface OffsetLine {
  readonly offset: number;
  /** What the filter passes then, as the profile has it. */
  readonly passbandHz: readonly [Hertz, Hertz];
  /** Highs over lows against the target: positive is sharp. Null without a recording. */
  readonly leanDb: Decibels | null;
  /** Words for it, less words against it: positive is sharp. */
  readonly words: number;
  readonly side: 'sharp' | 'balanced' | 'mellow';
}

/** Everything that was tried, sharp to mellow, and what to try next. */
export interface CarrierBracket {
  readonly dial: Dial;
  readonly lines: readonly OffsetLine[];
  /** Null where it is bracketed. */
  readonly next: { readonly offset: number; readonly why: string } | null;
  /** The two that it ends with, where there are such. */
  readonly sharp: OffsetLine | null;
  readonly mellow: OffsetLine | null;
}

const LOWS_HZ = [300, 600] as const;
const HIGHS_HZ = [1600, 2600] as const;
/** A lean of so much is heard. */
const HEARD_DB: Decibels = 3;
const SIDE = 0.5;
const COARSE_HZ: Hertz = 500;
const FINE_HZ: Hertz = 100;
/** Levels this far below the loudest are the filter's floor. */
const FLOOR_DB: Decibels = -40;
/** So far from where the factory put it an offset is likelier wrong than a microphone odd. */
const AWAY_HZ: Hertz = 250;
/** A lean that no microphone has, and no tone knob mends. */
const CUT_DB: Decibels = 25;
/** Words of other stations that add up to this speak for themselves. */
const TOLD_WORDS = 1;
const SHARP_WORDS: readonly Remark['code'][] = ['thin', 'harsh'];
const MELLOW_WORDS: readonly Remark['code'][] = ['muffled', 'boomy', 'mellow'];

/** Far from where the factory put it. */
export const isAway = (dial: Dial, offset: number): boolean => Math.abs(offset - Number(dial.rest)) * hertzOf(dial) >= AWAY_HZ;

/** With half of the voice cut off by the filter. */
export const isCutOff = ({ leanDb }: OffsetLine): boolean => leanDb !== null && Math.abs(leanDb) > CUT_DB;

/** Whether an offset that leans may stay, not bracketed yet, until the tone dials have been turned: where the factory put it, and nobody has complained. */
export const canWait = (rig: RigProfile, { dial, next }: CarrierBracket, line: OffsetLine): boolean =>
  next !== null &&
  line.side !== 'balanced' &&
  rig.equalizer.kind !== 'none' &&
  !isAway(dial, line.offset) &&
  !isCutOff(line) &&
  Math.abs(line.words) < TOLD_WORDS;

/** Null where the rig has no such dial in this mode. @param now the card as it stands */
export function carrierBracket(
  rig: RigProfile,
  now: Card,
  heard: readonly OffsetHeard[],
  target: readonly CurvePoint[],
): CarrierBracket | null {
  const dial = dialInRole(rig, 'carrier-offset', now.mode);
  if (!dial || dial.scale.kind === 'options') return null;
  const lines = linesOf(rig, dial, now, heard, target);
  const up = direction(lines);
  const sorted = [...lines].sort((a, b) => up * (b.offset - a.offset));
  const found = { dial, lines: sorted, sharp: nearest(sorted, 'sharp'), mellow: nearest(sorted, 'mellow') };
  return { ...found, next: nextOffset(found, up) };
}

function linesOf(rig: RigProfile, dial: Dial, now: Card, heard: readonly OffsetHeard[], target: readonly CurvePoint[]): OffsetLine[] {
  const offsets = [...new Set(heard.map(({ card }) => Number(valueOn(card, dial))))];
  return offsets.map((offset) => {
    const own = heard.filter(({ card }) => Number(valueOn(card, dial)) === offset);
    const leans = own.flatMap(({ voice }) => (voice ? [leanOf(voice, target)] : []));
    const leanDb = leans.length === 0 ? null : mean(leans);
    const words = own.flatMap(({ remarks }) => remarks.map(wordOf)).reduce((sum, each) => sum + each, 0);
    const score = words + (leanDb === null ? 0 : Math.max(-1.5, Math.min(1.5, leanDb / HEARD_DB / 2)));
    const side = score > SIDE ? 'sharp' : score < -SIDE ? 'mellow' : 'balanced';
    return { offset, passbandHz: passbandAt(rig, dial, now, offset), leanDb, words, side };
  });
}

/** What the filter passes with an offset. */
function passbandAt(rig: RigProfile, dial: Dial, { mode, values }: Card, offset: number): [Hertz, Hertz] {
  const [low, high] = effective(rig, { mode, values: { ...values, [dial.id]: offset } }).passbandHz;
  return [low, high];
}

/** Highs less lows, both against the target. */
function leanOf({ speechPowers }: HeardSpeech, target: readonly CurvePoint[]): Decibels {
  const loudest = Math.max(...speechPowers.map((power) => power ?? 0));
  const off = ([low, high]: readonly [Hertz, Hertz]) => {
    const inside = TWELFTH_CENTRES.flatMap((hz, i) => (hz >= low && hz <= high ? [{ hz, power: speechPowers[i] ?? 0 }] : []));
    const heard = Math.max(loudest * dbToPower(FLOOR_DB), mean(inside.map(({ power }) => power)));
    return powerToDb(heard / mean(inside.map(({ hz }) => dbToPower(curveAt(target, hz)))));
  };
  return off(HIGHS_HZ) - off(LOWS_HZ);
}

const DEGREE = { slight: 0.6, plain: 1, strong: 1.4 } as const;

function wordOf({ code, sense, degree, about }: Remark): number {
  if (about !== 'signal') return 0;
  const sign = SHARP_WORDS.includes(code) ? 1 : MELLOW_WORDS.includes(code) ? -1 : 0;
  return sense === 'is' || sense === 'more' ? sign * DEGREE[degree] : -0.5 * sign;
}

/** Whether a higher number is sharper: as the model has it, unless the overs say otherwise. */
function direction(lines: readonly OffsetLine[]): 1 | -1 {
  const scored = lines.map(({ offset, leanDb, words }) => ({ offset, score: words + (leanDb ?? 0) / HEARD_DB }));
  if (scored.length < 2) return 1;
  const middle = mean(scored.map(({ offset }) => offset));
  const slope = scored.reduce((sum, { offset, score }) => sum + (offset - middle) * score, 0);
  return slope < 0 ? -1 : 1;
}

/** The one of a side that is nearest to the other side. @param sorted sharp to mellow */
function nearest(sorted: readonly OffsetLine[], side: 'sharp' | 'mellow'): OffsetLine | null {
  return (side === 'sharp' ? sorted.findLast((line) => line.side === side) : sorted.find((line) => line.side === side)) ?? null;
}

function nextOffset({ dial, lines, sharp, mellow }: Omit<CarrierBracket, 'next'>, up: 1 | -1): CarrierBracket['next'] {
  if (lines.length === 0) return { offset: Number(dial.rest), why: 'Begin where the factory put it.' };
  const unit = hertzOf(dial);
  const step = stepOf(dial) * unit;
  const place = (hz: Hertz): number => Number(nearestOn(dial, hz / unit));
  const tried = new Set(lines.map(({ offset }) => offset));
  const offer = (hz: Hertz, why: string): CarrierBracket['next'] => (tried.has(place(hz)) ? null : { offset: place(hz), why });
  const at = ({ offset }: OffsetLine): Hertz => offset * unit;
  if (!sharp || !mellow) {
    const balanced = lines.filter(({ side }) => side === 'balanced');
    const by = balanced.length > 0 ? FINE_HZ : COARSE_HZ;
    const missing = sharp ? 'mellow' : 'sharp';
    const end = sharp ? lines[lines.length - 1] : lines[0];
    const sign = sharp ? -up : up;
    return offer(at(end) + sign * Math.max(step, by), `Nothing tried so far is too ${missing}: ${Math.max(step, by)} Hz further.`);
  }
  const gap = Math.abs(at(sharp) - at(mellow));
  if (gap <= Math.max(step, FINE_HZ)) return null;
  const middle = (at(sharp) + at(mellow)) / 2;
  const grid = gap > 2 * FINE_HZ ? FINE_HZ : step;
  const between = Math.round(middle / grid) * grid;
  return (
    offer(between, `Between ${sharp.offset} (sharp) and ${mellow.offset} (mellow).`) ??
    offer(at(sharp) - up * Math.max(step, FINE_HZ), 'One step from the sharp one.') ??
    offer(at(mellow) + up * Math.max(step, FINE_HZ), 'One step from the mellow one.')
  );
}

function stepOf(dial: Dial): number {
  const [first, second] = positionsOf(dial.scale);
  return Math.abs(Number(second ?? first) - Number(first)) || 1;
}
