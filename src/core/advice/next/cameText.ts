/** What was expected and what was seen, in a sentence: light, so that pages need not load the engine for it. */
import { type Decibels, decibels, fixed } from '../../units/index.ts';
import { rangeAbout } from './words.ts';

/** One number that was expected, 10th, 50th and 90th percentile, and what was seen. */
export interface Came<T> {
  readonly expected: readonly [T, T, T];
  readonly got: T;
  readonly isInside: boolean;
}

/** "Compression: expected about 14 dB (11 to 18), got 15 dB." */
export function compressionCameText({ expected, got, isInside }: Came<Decibels>): string {
  return `Compression: expected ${rangeAbout(expected)}, got ${decibels(got, 0)}${isInside ? '' : ', which was not expected'}.`;
}

/** "Next channel: expected about −44 dB (−52 to −38), got −45 dB." */
export function nextChannelCameText({ expected, got, isInside }: Came<Decibels>): string {
  return `Next channel: expected ${rangeAbout(expected)}, got ${decibels(got, 0)}${isInside ? '' : ', which was not expected'}.`;
}

/** "Tone expected 1.4 dB off target (0.9 to 2.0), got 1.6." */
export function toneCameText({ expected: [low, likely, high], got, isInside }: Came<Decibels>): string {
  return `Tone: expected ${decibels(likely, 1)} off target (${fixed(low, 1)} to ${fixed(high, 1)}), got ${decibels(got, 1)}${isInside ? '' : ', which was not expected'}.`;
}
