/** How the level stands against the school's zone, and whether something holds it whatever the mic gain does. */
import { mean, sum } from '../../dsp/index.ts';
import { dialInRole, positionsOf, type RigProfile, shareOf, valueOn } from '../../rig/index.ts';
import type { Decibels, Fraction } from '../../units/index.ts';
import { gainSpanDb, METER_DB } from '../alcGain.ts';
import { type HeardWay, shiftSince } from '../alcStanding.ts';
import { compressionReadings, compressionShare, isCompressedAlike } from './compression.ts';
import { cardOf, type GoalState, type SeenOver } from './seen.ts';

/** Readings at the ends of the scale are bounds, and show no slope. */
const INSIDE: readonly [Fraction, Fraction] = [0.05, 0.95];
/** Readings of talk scatter by so much (common practice); what is held, by as little as they show, an eye's twentieth at least. */
const SCATTER: Fraction = 0.12;
const LEAST_SCATTER: Fraction = 0.04;
/** A reading grows by a tenth of the scale for a decibel, or two thirds of that; with less than so much of it the level is held. */
const LEAST_GROWTH: Fraction = 0.035;
const LEAST_READINGS = 4;
/** What is held stays where it is: the newest reading is no further from the others. */
const MOST_APART: Fraction = 0.15;
/** Between levels nearer than this nothing is told. */
const LEAST_BETWEEN_DB: Decibels = 4;
/** The compression meter takes up so much of a turn of the gain, so many decibels of level apart, where the ALC stays as near as that. */
const TAKEN_UP = 0.6;
const LEAST_TURN_DB: Decibels = 7;
const STILL: Fraction = 0.1;
/** A compressor that takes so much away, and leaves so much less on the ALC than the same gain gives without it. */
const LEAST_TAKEN_DB: Decibels = 6;
const FAR_MORE: Fraction = 0.3;
/** So many readings in a row on one side of the zone contradict a belief that has the level inside. */
const ONE_SIDED = 3;

/**
 * The reading at which a processor or a limiter holds the level: it hardly grows with the level before it.
 * Null where it grows, or too little is known.
 */
export function heldAt(rig: RigProfile, overs: readonly SeenOver[], ways: readonly HeardWay[]): Fraction | null {
  const last = overs[overs.length - 1];
  const dial = dialInRole(rig, 'mic-gain', last.card.mode);
  if (!dial) return null;
  const taken = takenUpAt(rig, overs, compressionReadings(rig, overs, last.card, ways));
  if (taken !== null) return taken;
  const span = gainSpanDb(positionsOf(dial.scale).length);
  const points = overs
    .filter(({ card }) => isCompressedAlike(rig, card, last.card))
    .flatMap((over) => {
      if (!isInside(over.alc)) return [];
      const { shiftDb, shiftDoubtDb } = shiftSince(rig, over.card, last.card, ways);
      return [{ db: span * shareOf(dial, valueOn(cardOf(over), dial)) - shiftDb, alc: over.alc, doubt: shiftDoubtDb / METER_DB }];
    });
  const levels = points.map(({ db }) => db);
  if (points.length < LEAST_READINGS || Math.max(...levels) - Math.min(...levels) < LEAST_BETWEEN_DB) return null;
  const [db, alc] = [mean(levels), mean(points.map((point) => point.alc))];
  const spread = sum(points.map((point) => (point.db - db) ** 2));
  const growth = sum(points.map((point) => (point.db - db) * (point.alc - alc))) / spread;
  const left = sum(points.map((point) => (point.alc - alc - growth * (point.db - db)) ** 2)) / (points.length - 2);
  const shown = Math.min(SCATTER, Math.max(LEAST_SCATTER, Math.sqrt(left)));
  const isHeld = growth + mean(points.map(({ doubt }) => Math.hypot(shown, doubt))) / Math.sqrt(spread) < LEAST_GROWTH;
  // Where it stands now, by the newest two.
  return isHeld && Math.abs(points[points.length - 1].alc - alc) <= MOST_APART ? mean(points.slice(-2).map((point) => point.alc)) : null;
}

/**
 * The reading at which a compressor holds the level, by its own meter: it takes up what the gain adds, or without it the same gain
 * read far more. The amount may have been turned meanwhile. Null where it does not, or nobody read it.
 * @param readings of those overs that have one
 */
function takenUpAt(rig: RigProfile, overs: readonly SeenOver[], readings: ReturnType<typeof compressionReadings>): Fraction | null {
  const points = readings.flatMap((reading) => (isInside(reading.over.alc) ? [{ ...reading, alc: reading.over.alc }] : []));
  const newest = points.at(-1);
  if (!newest || newest.over !== overs[overs.length - 1]) return null;
  const isHeld = points.some(
    ({ alc, db, levelDb }) =>
      Math.abs(newest.levelDb - levelDb) >= LEAST_TURN_DB &&
      (newest.db - db) / (newest.levelDb - levelDb) >= TAKEN_UP &&
      Math.abs(newest.alc - alc) <= STILL + 1e-9,
  );
  const gain = dialInRole(rig, 'mic-gain', newest.over.card.mode);
  const gainOf = ({ card }: SeenOver) => (gain ? shareOf(gain, valueOn(card, gain)) : 0);
  const isLower =
    newest.db >= LEAST_TAKEN_DB &&
    overs.some(
      (over) =>
        compressionShare(rig, cardOf(over)) === 0 &&
        over.alc !== null &&
        over.alc >= newest.alc + FAR_MORE &&
        gainOf(over) <= gainOf(newest.over) + 1e-9,
    );
  return isHeld || isLower ? newest.alc : null;
}

export const isInside = (alc: Fraction | null): alc is Fraction => alc !== null && alc > INSIDE[0] && alc < INSIDE[1];

/** On which side of the zone the newest readings all were; null where they were not, are too few, or are bounds. */
export function oneSided(overs: readonly SeenOver[], [low, high]: readonly [Fraction, Fraction]): 'low' | 'high' | null {
  const newest = overs.flatMap(({ alc }) => (alc === null ? [] : [alc])).slice(-ONE_SIDED);
  if (newest.length < ONE_SIDED || newest.some((alc) => alc <= INSIDE[0] || alc >= INSIDE[1])) return null;
  if (Math.max(...newest) < low - 1e-9) return 'low';
  return Math.min(...newest) > high + 1e-9 ? 'high' : null;
}

/** By all readings together where they tell: a single one scatters by a tenth of the scale. */
export function alcState(
  known: {
    readonly reading: Fraction | null;
    readonly chance: number | null;
    readonly likely: Fraction | null;
    readonly held: Fraction | null;
    readonly side: 'low' | 'high' | null;
  },
  [low, high]: readonly [Fraction, Fraction],
): GoalState['alc'] {
  const { reading, chance, likely, held, side } = known;
  if (reading === null) return 'unknown';
  const sideOf = (share: Fraction) => (share < low - 1e-9 ? 'low' : share > high + 1e-9 ? 'high' : 'ok');
  if (held !== null) return sideOf(held);
  if (side !== null) return side;
  if (chance !== null && chance >= 0.5) return 'ok';
  const told = sideOf(reading);
  return told === 'ok' && likely !== null ? sideOf(likely) : told;
}
