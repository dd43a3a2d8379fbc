/** Sounds to be compared are played at one level, so that none wins by being louder. */
import { ActiveSpeechMeter } from '../dsp/index.ts';
import { type Decibels, dbToAmplitude, type Hertz } from '../units/index.ts';

/** Listening level and the highest peak. */
const LISTEN_DB: Decibels = -24;
const HIGHEST_PEAK = 0.89;

/** Factor that brings one sound to the listening level by its active speech level (ITU-T P.56); 1 for silence. */
function speechGain(samples: Float64Array, rateHz: Hertz): number {
  const meter = new ActiveSpeechMeter(rateHz);
  meter.push(samples);
  const { levelDb } = meter.result();
  return levelDb === null ? 1 : dbToAmplitude(LISTEN_DB - levelDb);
}

const peakOf = (samples: Float64Array): number => samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0);

/** Factor that brings one sound to the listening level without clipping it. */
export function listeningGain(samples: Float64Array, rateHz: Hertz): number {
  const [gain, peak] = [speechGain(samples, rateHz), peakOf(samples)];
  return peak * gain > HIGHEST_PEAK ? HIGHEST_PEAK / peak : gain;
}

/**
 * Several sounds at one active speech level, all turned down together where one would clip.
 * @param isLossLeftIn the loudest is brought to that level, and the others stay as much softer as they are
 */
export function levelMatched(sounds: readonly Float64Array[], rateHz: Hertz, isLossLeftIn = false): Float64Array[] {
  const each = sounds.map((samples) => speechGain(samples, rateHz));
  const gains = isLossLeftIn ? each.map(() => Math.min(...each)) : each;
  const peak = sounds.reduce((most, samples, k) => Math.max(most, gains[k] * peakOf(samples)), 0);
  const down = peak > HIGHEST_PEAK ? HIGHEST_PEAK / peak : 1;
  return sounds.map((samples, k) => samples.map((x) => down * gains[k] * x));
}

/**
 * Sounds that were each brought to the listening level, at their own levels again: the loudest stays where it is.
 * @param gains what each was multiplied by
 * @returns what to multiply each by
 */
export function levelsAsTheyAre(gains: readonly number[]): number[] {
  const least = Math.min(...gains);
  return gains.map((gain) => least / gain);
}
