/** The way from the antenna to a receiver's socket. */
import { inRow, instantRadio, joinedRadio, type RadioStage } from '../../dsp/index.ts';
import type { Decibels, Hertz } from '../../units/index.ts';
import { fadingStage, type HfClass, type TwoRays, twoRayStage } from './fading.ts';
import { type Impulses, impulseNoise, whiteNoise } from './noise.ts';

/** All that lies between the antennas. */
export interface PathShape {
  /** Peak envelope power of full drive over the noise in 3 kHz; null for no noise. */
  readonly snrDb: Decibels | null;
  /** Fading of an HF class, two still rays, or none. */
  readonly fading: HfClass | TwoRays | null;
  readonly impulses: Impulses | null;
  readonly seed: number;
}

/** Nothing in the way. */
export const CLEAR_PATH: PathShape = { snrDb: null, fading: null, impulses: null, seed: 1 };

/** Fading, rays, noise and static, in that order. */
export function pathStage({ snrDb, fading, impulses, seed }: PathShape, rateHz: Hertz): RadioStage {
  const stages: RadioStage[] = [instantRadio((block) => block)];
  if (typeof fading === 'string') stages.push(fadingStage(fading, rateHz, seed));
  else if (fading) stages.push(twoRayStage(fading, rateHz));
  if (impulses && impulses.perSecond > 0) stages.push(impulseNoise(impulses, rateHz, seed + 1));
  if (snrDb !== null) stages.push(whiteNoise(snrDb, rateHz, seed + 2));
  return inRow(stages, joinedRadio);
}
