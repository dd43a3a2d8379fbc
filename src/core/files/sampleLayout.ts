/** How samples lie in a file, whatever its header looks like. */
import type { FullScale } from '../dsp/index.ts';
import type { Hertz } from '../units/index.ts';

/** Lower rates are taken for damage. */
export const LOWEST_RATE_HZ = 4000;
/** Higher rates are taken for damage. */
export const HIGHEST_RATE_HZ = 20_000_000;

/** How samples are written: integers or floats. */
export type SampleEncoding = 'pcm' | 'float';

/** Where the samples of a file lie, and how they are written. */
export interface SampleLayout {
  readonly sampleRateHz: Hertz;
  readonly channels: number;
  /** Bits of one stored sample: 8, 16, 24, 32 or 64. */
  readonly bits: number;
  readonly encoding: SampleEncoding;
  /** 8-bit codes with a sign; WAV's have none. */
  readonly isSigned8?: boolean;
  readonly dataOffset: number;
  /** Sample frames that are really in the file. */
  readonly frames: number;
  /** What was wrong and how it was read, for people; empty when the header told the truth. */
  readonly warnings: readonly string[];
}

/** Where full scale begins for this file (contract: extreme codes at up to 16-bit resolution; floats 1 - 2^-15). */
export function fullScaleOf({ encoding, bits }: Pick<SampleLayout, 'encoding' | 'bits'>): FullScale {
  if (encoding === 'float') return { positive: 1 - 2 ** -15, negative: -(1 - 2 ** -15) };
  const step = 2 ** (1 - Math.min(bits, 16));
  // The lowest 16-bit code covers 2^(bits - 16) codes of a longer word; all lie below -1 + step.
  return { positive: 1 - step, negative: -1 + step - 2 ** (1 - bits) };
}

/** Size of one code, 0 for floats. */
export const codeStep = ({ encoding, bits }: Pick<SampleLayout, 'encoding' | 'bits'>): number =>
  encoding === 'float' ? 0 : 2 ** (1 - bits);
