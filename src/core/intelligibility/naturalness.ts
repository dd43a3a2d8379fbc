/**
 * Naturalness: how close what is heard comes to the operator's own voice, on a scale of 0 to 100. Three distances in
 * decibels: of the spectrum (third octaves, RMS), of the dynamics (spread of the levels of the words, and of words
 * over pauses), and of the distortion. Every 18 dB of distance halve the score. The scale is this project's own; only
 * differences on it mean something.
 */
import { median, percentile, standardDeviation, weightedMean } from '../dsp/index.ts';
import { type Decibels, dbToPower, type Hertz, powerToDb } from '../units/index.ts';
import { activeFrames, type BandFrames, frameLevelsDb } from './bandFrames.ts';
import { SII_BANDS } from './speechIntelligibility.ts';

/** What single sideband can carry; what a recording holds beyond it is no yardstick. */
export const SSB_HZ: readonly [Hertz, Hertz] = [100, 3000];
/** A band this far under the strongest is as good as gone. */
const GONE_DB: Decibels = -35;
/** One that is gone counts as so many decibels, however far it has gone. */
const MOST_LOSS_DB: Decibels = 9;
/** Pauses deeper than this under the words are silent to a listener. */
const SILENT_DB: Decibels = 40;
const HALVING_DB: Decibels = 18;
/** Distortion below this is not heard in a voice. */
const CLEAN_DB: Decibels = -25;

/** Score of 100, and what it is made of. */
export interface Naturalness {
  /** 0 to 100. */
  readonly score: number;
  readonly spectrumDb: Decibels;
  readonly dynamicsDb: Decibels;
  /** What does not follow the voice, re what does. */
  readonly distortionDb: Decibels;
}

/** Long-term levels of the bands over the frames that count, re the whole. */
function longTerm({ powers, edges }: BandFrames, frames: readonly number[]): Decibels[] {
  const sums = edges
    .map((_, b) => frames.reduce((sum, f) => sum + powers[f * edges.length + b], 0))
    .filter((_, b) => SII_BANDS[b] > SSB_HZ[0] && SII_BANDS[b] < SSB_HZ[1]);
  const strongest = Math.max(...sums, Number.MIN_VALUE);
  const levels = sums.map((power) => Math.max(GONE_DB, powerToDb(power / strongest)));
  return levels;
}

/** A band counts by how loud it is in the operator's own voice: the 0.3rd power of its power (S. S. Stevens 1957). */
const loudness = (db: Decibels): number => dbToPower(0.3 * db);

/** Differences of the bands with the gain taken out, by the median: one band that is gone does not tilt the others. */
function differences(own: readonly Decibels[], heard: readonly Decibels[]): Decibels[] {
  const raw = own.map((db, b) => heard[b] - db);
  const gain = median(raw);
  return raw.map((db) => Math.max(-MOST_LOSS_DB, Math.min(MOST_LOSS_DB, db - gain)));
}

/** @param a the operator's voice inside SSB_HZ; @param b what is heard, in step with it. @param distortionDb from the coherence with the clean voice */
export function naturalness(a: BandFrames, b: BandFrames, distortionDb: Decibels): Naturalness {
  const frames = activeFrames(a);
  const levels = longTerm(a, frames);
  const squares = differences(levels, longTerm(b, frames)).map((db) => db ** 2);
  const spectrumDb = Math.sqrt(weightedMean(squares, levels.map(loudness)));
  const spread = (all: BandFrames) => standardDeviation(frameLevelsDb(all, frames));
  const wordsDb = Math.abs(spread(a) - spread(b));
  const dynamicsDb = Math.hypot(wordsDb, pauses(a, b, frames) / 6);
  const distance = spectrumDb + 1.5 * dynamicsDb + 0.3 * Math.max(0, distortionDb - CLEAN_DB);
  return { score: 100 * 2 ** (-distance / HALVING_DB), spectrumDb, dynamicsDb, distortionDb };
}

/** By how much the pauses have come up against the words. */
function pauses(own: BandFrames, heard: BandFrames, active: readonly number[]): Decibels {
  const isActive = new Set(active);
  const quiet = Array.from({ length: own.count }, (_, f) => f).filter((f) => !isActive.has(f));
  if (quiet.length < 5) return 0;
  const over = (all: BandFrames) =>
    percentile(frameLevelsDb(all, active), 50) -
    percentile(
      frameLevelsDb(all, quiet).map((db) => Math.max(-120, db)),
      50,
    );
  return Math.max(0, Math.min(SILENT_DB, over(own)) - Math.min(SILENT_DB, over(heard)));
}
