/** The only place where ratios become decibels and back. */
import type { Decibels, Hertz, Octaves, Power } from './units.ts';

/** Power ratio to dB. 0 gives -Infinity. */
export const powerToDb = (power: Power): Decibels => 10 * Math.log10(power);

/** dB to power ratio. */
export const dbToPower = (db: Decibels): Power => 10 ** (db / 10);

/** Amplitude ratio to dB. 0 gives -Infinity. */
export const amplitudeToDb = (amplitude: number): Decibels => 20 * Math.log10(amplitude);

/** dB to amplitude ratio. */
export const dbToAmplitude = (db: Decibels): number => 10 ** (db / 20);

/**
 * Width in octaves between half-gain points to Q, for the analogue prototype.
 * Source: Audio EQ Cookbook (R. Bristow-Johnson, W3C note): Q = 2^(N/2) / (2^N - 1).
 */
export const octavesToQ = (octaves: Octaves): number => 2 ** (octaves / 2) / (2 ** octaves - 1);

/** Q to width in octaves; inverse of `octavesToQ`: N = 2 asinh(1 / 2Q) / ln 2. */
export const qToOctaves = (q: number): Octaves => (2 * Math.asinh(1 / (2 * q))) / Math.LN2;

/** How many octaves `frequency` lies above `base`. */
export const octavesAbove = (frequency: Hertz, base: Hertz): Octaves => Math.log2(frequency / base);
