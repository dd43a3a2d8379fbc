/**
 * Naturalness: how close what is heard comes to the operator's own voice, on a scale of 0 to 100. Three distances in
 * decibels: of the spectrum (third octaves, RMS), of the dynamics (spread of the levels of the words, and of words
 * over pauses), and of the distortion. Every 12 dB of distance halve the score. The scale is this project's own; only
 * differences on it mean something.
 */
import { powerToDb } from '../signal/conversions.ts';
import { percentile, standardDeviation } from '../signal/statistics.ts';
import type { Decibels, Hertz } from '../signal/units.ts';
import { activeFrames, type BandFrames, bandFrames, frameLevelsDb } from './bandFrames.ts';
import { SII_BANDS } from './speechIntelligibility.ts';

/** Bands that carry the sound of a voice on SSB and beyond. */
const HIGHEST_HZ: Hertz = 5000;
/** A band this far under the strongest is as good as gone. */
const GONE_DB: Decibels = -35;
const HALVING_DB: Decibels = 12;
/** Distortion below this is not heard in a voice. */
const CLEAN_DB: Decibels = -25;

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
    .filter((_, b) => SII_BANDS[b] <= HIGHEST_HZ);
  const strongest = Math.max(...sums, Number.MIN_VALUE);
  const levels = sums.map((power) => Math.max(GONE_DB, powerToDb(power / strongest)));
  const middle = levels.reduce((a, b) => a + b, 0) / levels.length;
  return levels.map((db) => db - middle);
}

/** @param own the operator's voice; `heard` in step with it. @param distortionDb from the coherence with the clean voice */
export function naturalness(own: Float64Array, heard: Float64Array, rateHz: Hertz, distortionDb: Decibels): Naturalness {
  const [a, b] = [bandFrames(own, rateHz), bandFrames(heard, rateHz)];
  const frames = activeFrames(a);
  const [x, y] = [longTerm(a, frames), longTerm(b, frames)];
  const spectrumDb = Math.sqrt(x.reduce((sum, db, k) => sum + (db - y[k]) ** 2, 0) / x.length);
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
  return Math.max(0, Math.min(60, over(own)) - Math.min(60, over(heard)));
}
