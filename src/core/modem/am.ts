/** Amplitude modulation: a carrier whose size follows the audio. */
import { type Complex, shifted } from '../dsp/index.ts';
import type { Fraction, Hertz } from '../units/index.ts';

/** Size of a carrier of magnitude 1 at audio x; downward past the carrier it is cut off, which splatters. */
export const amEnvelope = (x: number, depth: Fraction): number => Math.max(0, 1 + depth * x);

/** @param depth modulation depth at audio of magnitude 1; the carrier has magnitude 1 */
export const amModulate = (audio: Float64Array, rateHz: Hertz, carrierHz: Hertz, depth: Fraction): Complex =>
  shifted({ i: audio.map((x) => amEnvelope(x, depth)), q: new Float64Array(audio.length) }, rateHz, carrierHz);
