/** The one move that helps most now, with what to expect of it. */
import type { Decibels, Hertz } from '../signal/units.ts';
import type { Card } from '../station/card.ts';
import type { RigProfile } from '../station/rig.ts';
import { type EqualizerFit, type FittedMove, responseOf, TWELFTH_CENTRES } from './fitEqualizer.ts';
import { bandEffects, type HeardVoice, levelChangeDb, toneErrorDb } from './toneError.ts';

/** What a change of card should do, measurable on the next over. */
export interface Expectation {
  /** Where it shows most. */
  readonly hz: Hertz;
  /** Change there against the average of the passband (recording levels don't matter then). */
  readonly changeDb: Decibels;
  /** Change of level into the ALC. */
  readonly alcChangeDb: Decibels;
  readonly errorBeforeDb: Decibels;
  readonly errorAfterDb: Decibels;
}

export interface RankedMove {
  readonly move: FittedMove;
  readonly expected: Expectation;
}

/** What changing the dials from one card to another should do to a voice heard with the first. */
export function expectation(rig: RigProfile, from: Card, to: Card, fit: Pick<EqualizerFit, 'basis' | 'passbandHz'>, voice: HeardVoice): Expectation {
  const before = responseOf(rig, from);
  const changeDb = responseOf(rig, to).map((db, i) => db - before[i]);
  const effects = bandEffects(fit.basis, changeDb);
  const shape = effects.map((effect) => effect - effects.reduce((a, b) => a + b) / effects.length);
  const most = shape.reduce((best, effect, b) => (Math.abs(effect) > Math.abs(shape[best]) ? b : best), 0);
  return {
    hz: fit.basis.bands[most].centreHz,
    changeDb: shape[most],
    alcChangeDb: levelChangeDb(voice, changeDb, fit.passbandHz),
    errorBeforeDb: toneErrorDb(fit.basis, TWELFTH_CENTRES.map(() => 0)),
    errorAfterDb: toneErrorDb(fit.basis, changeDb),
  };
}

/**
 * The fit's moves one at a time, strongest first: a switch that wakes the equalizer leads, then always the dial
 * that leaves the least error given those before it.
 */
export function rankMoves(rig: RigProfile, card: Card, fit: EqualizerFit, voice: HeardVoice): RankedMove[] {
  const ranked: RankedMove[] = [];
  const left = [...fit.best.moves];
  let standing = card;
  while (left.length > 0) {
    const tried = left.map((move) => {
      const after = { mode: card.mode, values: { ...standing.values, [move.dial.id]: move.to } };
      return { move, after, expected: expectation(rig, standing, after, fit, voice), error: errorOf(rig, card, after, fit) };
    });
    const isSwitch = (each: (typeof tried)[number]) => each.move.dial.scale.kind === 'options';
    tried.sort((a, b) => Number(isSwitch(b)) - Number(isSwitch(a)) || a.error - b.error);
    const next = tried[0];
    const before = errorOf(rig, card, standing, fit);
    ranked.push({ move: next.move, expected: { ...next.expected, errorBeforeDb: before, errorAfterDb: next.error } });
    standing = next.after;
    left.splice(left.indexOf(next.move), 1);
  }
  return ranked;
}

/** Error of the voice, heard with `heardWith`, if the card were `card`. */
function errorOf(rig: RigProfile, heardWith: Card, card: Card, fit: EqualizerFit): Decibels {
  const present = responseOf(rig, heardWith);
  return toneErrorDb(fit.basis, responseOf(rig, card).map((db, i) => db - present[i]));
}
