/** The fit and its single moves in order of merit, from one question. */
import { type EqualizerFit, FitImpossible, type FitInput, fitEqualizer } from './fitEqualizer.ts';
import { type RankedMove, rankMoves } from './nextMove.ts';

/** The whole fit, and its single moves in order of merit. */
export interface FitAnswer {
  readonly fit: EqualizerFit;
  readonly ranked: readonly RankedMove[];
}

/** A sentence where there can be no fit. */
export function adviseEqualizer(input: FitInput): FitAnswer | string {
  try {
    const fit = fitEqualizer(input);
    const { rig, card, voice, heardWith = card } = input;
    return { fit, ranked: rankMoves({ rig, heardWith, voice, basis: fit.basis, passbandHz: fit.passbandHz }, card) };
  } catch (error) {
    if (error instanceof FitImpossible) return error.message;
    throw error;
  }
}
