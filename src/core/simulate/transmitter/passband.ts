/** The transmit passband: a linear-phase filter of one sideband, -6 dB at its edges. Audio in, analytic signal out. */
import { type Complex, FftFilter, type Kernel, oneSidedTaps, type RadioStage, type Stage } from '../../dsp/index.ts';
import type { Hertz } from '../../units/index.ts';

/** Edges and steepness of the transmit filter. */
export interface PassbandShape {
  /** -6 dB edges of the audio. */
  readonly edgesHz: readonly [Hertz, Hertz];
  /** From -0 to -80 dB, each side. */
  readonly transitionHz: Hertz;
}

/** About the slope of a good crystal or digital filter. */
export const USUAL_TRANSITION_HZ: Hertz = 200;

/** Audio becomes the analytic signal of the passband: its size is the envelope that SSB transmits. */
export function sidebandStage(shape: PassbandShape, rateHz: Hertz, kernel: Kernel | null): Stage<Float64Array, Complex> {
  const filter = new FftFilter(oneSidedTaps(rateHz, ...shape.edgesHz, shape.transitionHz), kernel);
  return { push: (block) => filter.push(block), end: () => filter.end() };
}

/** The same filter again, behind a clipper. */
export function passbandStage(shape: PassbandShape, rateHz: Hertz, kernel: Kernel | null): RadioStage {
  const taps = oneSidedTaps(rateHz, ...shape.edgesHz, shape.transitionHz);
  // Already analytic: the gain of 2 is not wanted twice.
  const filter = new FftFilter({ i: taps.i.map((x) => x / 2), q: taps.q.map((x) => x / 2) }, kernel);
  return { push: ({ i, q }) => filter.push(i, q), end: () => filter.end() };
}
