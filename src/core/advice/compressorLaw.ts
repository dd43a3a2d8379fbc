/**
 * What the compression meter has shown of a radio's compressor, and what it should show elsewhere on the dial: so many decibels at
 * its foot (below nothing, where it begins further up), so many more over the scale, and on some radios more with more level before
 * it. Priors are common practice; the belief is a grid, so that "nothing shown" is a bound and needs no special case.
 */
import type { Decibels, Fraction } from '../units/index.ts';

/** What the meter showed on speech peaks. */
export interface CompressionReading {
  /** Where the amount stood on its dial. */
  readonly share: Fraction;
  readonly db: Decibels;
  /** How much more level the card sent into the compressor then than it does now. */
  readonly levelDb: Decibels;
}

/** What it would show with the dial all the way down, and how likely beforehand: nothing as a rule, but level alone may drive it. */
const FEET: readonly (readonly [db: Decibels, chance: number])[] = [-12, -8, -5, -3, -1.5, 0, 1.5, 3, 6, 9, 13, 17, 21, 26, 32, 38].map(
  (db) => [db, Math.exp(-0.5 * (db / 4) ** 2) + 0.01],
);
/** Decibels over the scale: 12 to 26 on most radios. */
const USUAL_SCALE_DB: Decibels = 18;
const SCALES_APART = 0.35;
const SCALES: readonly (readonly [db: Decibels, chance: number])[] = [-2, -1.5, -1, -0.5, 0, 0.5, 1, 1.5, 2, 2.5].map((z) => [
  USUAL_SCALE_DB * Math.exp(SCALES_APART * z),
  Math.exp(-0.5 * z * z),
]);
/** The compressor takes its level from behind a gain of its own, or the mic gain drives it, through its ratio. */
const DRIVEN_BY: readonly (readonly [part: number, chance: number])[] = [
  [0, 0.4],
  [0.7, 0.3],
  [1, 0.3],
];
/** Readings of talk scatter by so much, and by a part of what is shown; an eye reads to a decibel. */
const SCATTER_DB: Decibels = 0.7;
const SCATTER_PART = 0.07;
const EYE_DB: Decibels = 0.3;
/** Less than this is nothing shown. */
const NOTHING_DB: Decibels = 0.5;
/** A reading that fits nothing must not rule out everything else. */
const WILD = 1e-4;

interface Cell {
  readonly footDb: Decibels;
  readonly scaleDb: Decibels;
  readonly drivenBy: number;
  readonly weight: number;
}
/** Everything that is possible, each with its probability. */
export type CompressorBelief = readonly Cell[];

/** The normal distribution's integral, to a hundredth (logistic approximation). */
const below = (z: number): number => 1 / (1 + Math.exp(-1.702 * z));
const shown = ({ footDb, scaleDb, drivenBy }: Cell, share: Fraction, levelDb: Decibels): Decibels =>
  footDb + scaleDb * share + drivenBy * levelDb;
const scatterOf = (db: Decibels): Decibels => Math.hypot(SCATTER_DB + SCATTER_PART * Math.max(0, db), EYE_DB);

/** @param readings with the compressor on, in any order; none is good too: then what is usual speaks */
export function compressorBelief(readings: readonly CompressionReading[]): CompressorBelief {
  const cells = FEET.flatMap(([footDb, p]) =>
    SCALES.flatMap(([scaleDb, q]) => DRIVEN_BY.map(([drivenBy, r]): Cell => ({ footDb, scaleDb, drivenBy, weight: p * q * r }))),
  );
  const weighed = cells.map((cell) => ({
    ...cell,
    weight: readings.reduce((weight, reading) => weight * (likelihoodOf(cell, reading) + WILD), cell.weight),
  }));
  const total = weighed.reduce((sum, { weight }) => sum + weight, 0);
  return weighed.map((cell) => ({ ...cell, weight: cell.weight / total }));
}

function likelihoodOf(cell: Cell, { share, db, levelDb }: CompressionReading): number {
  const likely = shown(cell, share, levelDb);
  const scatter = scatterOf(likely);
  return db < NOTHING_DB ? below((NOTHING_DB - likely) / scatter) : Math.exp(-0.5 * ((db - likely) / scatter) ** 2) / scatter;
}

/** Probability that the meter shows something between two levels, at a share of the dial. */
export const chanceBetween = (belief: CompressorBelief, share: Fraction, [low, high]: readonly [Decibels, Decibels]): number =>
  belief.reduce((sum, cell) => {
    const likely = shown(cell, share, 0);
    const scatter = scatterOf(likely);
    return sum + cell.weight * (below((high - likely) / scatter) - below((low - likely) / scatter));
  }, 0);

/** Probability that the level before the compressor drives it. */
export const chanceDriven = (belief: CompressorBelief): number =>
  belief.reduce((sum, { drivenBy, weight }) => sum + (drivenBy > 0 ? weight : 0), 0);

/** What the meter will show at a share of the dial: 10th, 50th and 90th percentile of a reading. */
export function compressionAt(belief: CompressorBelief, share: Fraction): [Decibels, Decibels, Decibels] {
  const atMost = (db: Decibels) => {
    let sum = 0;
    for (const cell of belief) {
      const likely = shown(cell, share, 0);
      sum += cell.weight * below((db - likely) / scatterOf(likely));
    }
    return sum;
  };
  return [percentileOf(atMost, 0.1), percentileOf(atMost, 0.5), percentileOf(atMost, 0.9)];
}

/** Decibels on the meter for one step of a dial of so many steps, where it shows anything: 10th, 50th and 90th percentile. */
export function compressionPerStep(belief: CompressorBelief, steps: number): [Decibels, Decibels, Decibels] {
  const sorted = [...belief].sort((a, b) => a.scaleDb - b.scaleDb);
  const at = (part: number) => {
    let sum = 0;
    const found = sorted.find(({ weight }) => {
      sum += weight;
      return sum >= part;
    });
    return (found ?? sorted[sorted.length - 1]).scaleDb / steps;
  };
  return [at(0.1), at(0.5), at(0.9)];
}

const MOST_DB: Decibels = 60;

/** Where a rising function of the meter comes to a part, found by halves. */
function percentileOf(atMost: (db: Decibels) => number, part: number): Decibels {
  let [low, high] = [0, MOST_DB];
  if (atMost(low) >= part) return 0;
  while (high - low > 0.05) {
    const middle = (low + high) / 2;
    if (atMost(middle) < part) low = middle;
    else high = middle;
  }
  return high;
}
