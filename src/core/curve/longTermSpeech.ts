/** What ordinary speech looks like, as a yardstick for judgements and targets. */
import type { CurvePoint } from './curve.ts';

/**
 * Long-term average speech spectrum in third octaves at 70 dB overall.
 * Source: Byrne et al. 1994, combined languages and sexes (values from memory).
 */
export const LONG_TERM_SPEECH: readonly CurvePoint[] = [
  [100, 54.4],
  [125, 57.7],
  [160, 56.8],
  [200, 60.2],
  [250, 60.3],
  [315, 59.0],
  [400, 62.1],
  [500, 62.1],
  [630, 60.5],
  [800, 56.8],
  [1000, 53.7],
  [1250, 53.0],
  [1600, 52.0],
  [2000, 48.7],
  [2500, 48.1],
  [3150, 46.8],
  [4000, 45.6],
];
