/** The one move that helps most now, and what to expect of a change of card. */
import { mean } from '../signal/statistics.ts';
import type { Decibels, Hertz } from '../signal/units.ts';
import type { Card } from '../station/card.ts';
import type { RigProfile } from '../station/rig.ts';
import { type EqualizerFit, type FittedMove, responseOf } from './fitEqualizer.ts';
import { bandEffects, type HeardVoice, levelChangeDb, type ToneBasis, toneErrorDb } from './toneError.ts';

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
  /** Null for a move that only prepares others. */
  readonly expected: Expectation | null;
}

/** A voice as it was heard, and with what. */
export interface Hearing {
  readonly rig: RigProfile;
  readonly heardWith: Card;
  readonly voice: HeardVoice;
  readonly basis: ToneBasis;
  readonly passbandHz: readonly [Hertz, Hertz];
}

/** A move whose own effect stays below this changes nothing that could be heard or measured. */
const LEAST_EFFECT_DB: Decibels = 0.2;

/** Change of each band from one card to another, against the average of them all. */
function shapeOfChange({ rig, basis }: Hearing, from: Card, to: Card): Decibels[] {
  const before = responseOf(rig, from);
  const effects = bandEffects(
    basis,
    responseOf(rig, to).map((db, i) => db - before[i]),
  );
  const average = mean(effects);
  return effects.map((effect) => effect - average);
}

const strongest = (shape: readonly Decibels[]): number =>
  shape.reduce((best, effect, b) => (Math.abs(effect) > Math.abs(shape[best]) ? b : best), 0);

/** What changing from one card to another should do; null when that is nothing. */
function expectation(hearing: Hearing, from: Card, to: Card): Expectation | null {
  const shape = shapeOfChange(hearing, from, to);
  const at = strongest(shape);
  if (Math.abs(shape[at]) < LEAST_EFFECT_DB) return null;
  const { rig, heardWith, voice, basis, passbandHz } = hearing;
  const heard = responseOf(rig, heardWith);
  const asHeard = (card: Card) => responseOf(rig, card).map((db, i) => db - heard[i]);
  return {
    hz: basis.bands[at].centreHz,
    changeDb: shape[at],
    alcChangeDb: levelChangeDb(voice, asHeard(to), passbandHz) - levelChangeDb(voice, asHeard(from), passbandHz),
    errorBeforeDb: toneErrorDb(basis, asHeard(from)),
    errorAfterDb: toneErrorDb(basis, asHeard(to)),
  };
}

const withDial = (card: Card, { dial, to }: Pick<FittedMove, 'dial' | 'to'>): Card => ({
  mode: card.mode,
  values: { ...card.values, [dial.id]: to },
});

/**
 * What to expect of each of several moves made together: all of them at work, told where each acts most.
 * Null for a move that does nothing of its own, as the centre of a band at 0 dB.
 */
export function expectTogether(hearing: Hearing, from: Card, moves: readonly Pick<FittedMove, 'dial' | 'to'>[]): (Expectation | null)[] {
  const to = moves.reduce(withDial, from);
  return moves.map((move) => {
    // Seen from the finished card: what would be missing without this move.
    const before = from.values[move.dial.id];
    const without = before === undefined ? from : withDial(to, { dial: move.dial, to: before });
    const shape = shapeOfChange(hearing, without, to);
    const own = strongest(shape);
    if (Math.abs(shape[own]) < LEAST_EFFECT_DB) return null;
    const whole = expectation(hearing, from, to);
    return whole && { ...whole, hz: hearing.basis.bands[own].centreHz, changeDb: shapeOfChange(hearing, from, to)[own] };
  });
}

/**
 * The fit's moves one at a time, strongest first: a switch that wakes the equalizer leads, then always the dial
 * that leaves the least error given those before it. Moves that only prepare others have no expectation.
 */
export function rankMoves(hearing: Hearing, card: Card, fit: EqualizerFit): RankedMove[] {
  const ranked: RankedMove[] = [];
  const heard = responseOf(hearing.rig, hearing.heardWith);
  const errorOf = (candidate: Card) =>
    toneErrorDb(
      fit.basis,
      responseOf(hearing.rig, candidate).map((db, i) => db - heard[i]),
    );
  const left = [...fit.best.moves];
  let standing = card;
  while (left.length > 0) {
    const isSwitch = (move: FittedMove) => Number(move.dial.scale.kind === 'options');
    const tried = left.map((move) => ({ move, after: withDial(standing, move) }));
    const errors = new Map(tried.map((each) => [each, errorOf(each.after)]));
    tried.sort((a, b) => isSwitch(b.move) - isSwitch(a.move) || (errors.get(a) ?? 0) - (errors.get(b) ?? 0));
    const [next] = tried;
    ranked.push({ move: next.move, expected: expectation(hearing, standing, next.after) });
    standing = next.after;
    left.splice(left.indexOf(next.move), 1);
  }
  return ranked;
}
