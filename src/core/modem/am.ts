/** Amplitude modulation: a carrier whose size follows the audio. */
import { type Complex, shifted } from '../dsp/signals/analytic.ts';
import type { Fraction, Hertz } from '../units/units.ts';

/** @param depth modulation depth at audio of magnitude 1; the carrier has magnitude 1. Over-modulation cuts the carrier off at 0. */
export const amModulate = (audio: Float64Array, rateHz: Hertz, carrierHz: Hertz, depth: Fraction): Complex =>
  shifted({ i: audio.map((x) => Math.max(0, 1 + depth * x)), q: new Float64Array(audio.length) }, rateHz, carrierHz);
