/** The one move that helps most now, and what to expect of a change of card. */
import { mean, sum, TWELFTH_CENTRES } from '../dsp/index.ts';
import {
  bandsResponseDb,
  type Card,
  type Dial,
  type DialValue,
  type DialValues,
  type EqualizerBand,
  effective,
  enableEqualizer,
  positionsOf,
  type RigProfile,
  responseOf,
  valueOn,
} from '../rig/index.ts';
import type { Decibels, Hertz } from '../units/index.ts';
import { explainBand, explainDial } from './bandWords.ts';
import type { FittedMove } from './fitEqualizer.ts';
import { DEFAULT_COSTS, type FitCosts, levelCost, movableDials } from './fitQuestion.ts';
import { bandEffects, type HeardSpeech, levelChangeDb, residuals, type ToneBasis, toneErrorDb } from './toneError.ts';

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

/** A single move, what it is expected to do, and how much it is worth. */
export interface RankedMove {
  readonly move: FittedMove;
  /** Null for a move that only prepares others. */
  readonly expected: Expectation | null;
}

/** A voice as it was heard, and with what. */
export interface MoveEvidence {
  readonly rig: RigProfile;
  readonly heardWith: Card;
  readonly voice: HeardSpeech;
  readonly basis: ToneBasis;
  readonly passbandHz: readonly [Hertz, Hertz];
}

/** A move whose own effect stays below this changes nothing that could be heard or measured. */
const LEAST_EFFECT_DB: Decibels = 0.2;
/** A move that brings the voice less than this nearer to the target is not worth a hand on the dial. */
const LEAST_GAIN_DB: Decibels = 0.1;

/** Change of each band from one card to another, against the average of them all. */
function shapeOfChange({ rig, basis }: MoveEvidence, from: Card, to: Card): Decibels[] {
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
function expectation(evidence: MoveEvidence, from: Card, to: Card): Expectation | null {
  const shape = shapeOfChange(evidence, from, to);
  const at = strongest(shape);
  if (Math.abs(shape[at]) < LEAST_EFFECT_DB) return null;
  const { rig, heardWith, voice, basis, passbandHz } = evidence;
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
export function expectTogether(
  evidence: MoveEvidence,
  from: Card,
  moves: readonly Pick<FittedMove, 'dial' | 'to'>[],
): (Expectation | null)[] {
  const to = moves.reduce(withDial, from);
  return moves.map((move) => {
    // Seen from the finished card: what would be missing without this move.
    const before = from.values[move.dial.id];
    const without = before === undefined ? from : withDial(to, { dial: move.dial, to: before });
    const shape = shapeOfChange(evidence, without, to);
    const own = strongest(shape);
    if (Math.abs(shape[own]) < LEAST_EFFECT_DB) return null;
    const whole = expectation(evidence, from, to);
    return whole && { ...whole, hz: evidence.basis.bands[own].centreHz, changeDb: shapeOfChange(evidence, from, to)[own] };
  });
}

/**
 * The one-dial moves that help by themselves, strongest first, each dial at its own best position with all others
 * where they are. While the equalizer is switched off its switch comes first, and the rest as if it were on.
 */
export function rankMoves(evidence: MoveEvidence, card: Card, costs: FitCosts = DEFAULT_COSTS): RankedMove[] {
  const { rig } = evidence;
  const awake = enableEqualizer(rig, card);
  const switches = rig.dials.filter((dial) => valueOn(awake, dial) !== valueOn(card, dial));
  const score = scoring(evidence, awake, costs);
  const moves = score.bands
    .flatMap((band) => movableDials(rig, band).map((dial) => ({ band, dial, ...bestPosition(dial, band, score) })))
    .filter(({ dial, to, left }) => to !== valueOn(awake, dial) && left < score.now - costs.move)
    .sort((a, b) => a.left - b.left)
    .flatMap(({ band, dial, to }) => {
      const after = withDial(awake, { dial, to });
      const expected = expectation(evidence, awake, after);
      if (!expected || expected.errorBeforeDb - expected.errorAfterDb < LEAST_GAIN_DB) return [];
      const why = explainMove({ evidence, from: awake, after, band, dial });
      return [{ move: { dial, from: valueOn(card, dial), to, why }, expected }];
    });
  if (moves.length === 0) return [];
  const waking = switches.map((dial) => ({
    move: {
      dial,
      from: valueOn(card, dial),
      to: valueOn(awake, dial),
      why: explainDial(rig, dial, valueOn(card, dial), valueOn(awake, dial), undefined, ''),
    },
    expected: expectation(evidence, card, awake),
  }));
  return [...waking, ...moves];
}

/** What cards cost that differ from one in a single band: squared error, boosts and cuts, level for the mic gain to make up. */
interface Scoring {
  /** The bands that work. */
  readonly bands: readonly EqualizerBand[];
  readonly now: number;
  /** @param band one of `bands` */
  with(band: EqualizerBand, dial: Dial, to: DialValue): number;
}

function scoring({ rig, heardWith, basis, voice, passbandHz }: MoveEvidence, card: Card, costs: FitCosts): Scoring {
  const heard = responseOf(rig, heardWith);
  const { bands } = effective(rig, card);
  const own = new Map(bands.map((band) => [band, bandsResponseDb(rig, [band], card.values, TWELFTH_CENTRES)]));
  const change = responseOf(rig, card).map((db, i) => db - heard[i]);
  const levelNow = levelChangeDb(voice, change, passbandHz);
  const costOf = (values: DialValues) => sum(bands.map((band) => levelCost(Number(values[band.level]), costs)));
  const score = (after: readonly Decibels[], values: DialValues) =>
    toneErrorDb(basis, after) ** 2 + costOf(values) + costs.level * (levelChangeDb(voice, after, passbandHz) - levelNow) ** 2;
  return {
    bands,
    now: score(change, card.values),
    with(band, dial, to) {
      const values = { ...card.values, [dial.id]: to };
      const was = own.get(band) ?? [];
      const is = bandsResponseDb(rig, [band], values, TWELFTH_CENTRES);
      return score(
        change.map((db, i) => db - was[i] + is[i]),
        values,
      );
    },
  };
}

function bestPosition(dial: Dial, band: EqualizerBand, score: Scoring): { to: DialValue; left: number } {
  const tried = positionsOf(dial.scale).map((to) => ({ to, left: score.with(band, dial, to) }));
  return tried.reduce((best, each) => (each.left < best.left - 1e-9 ? each : best));
}

function explainMove(what: { evidence: MoveEvidence; from: Card; after: Card; band: EqualizerBand; dial: FittedMove['dial'] }): string {
  const { evidence, from, after, band, dial } = what;
  const { rig, heardWith, basis, passbandHz } = evidence;
  const heard = responseOf(rig, heardWith);
  const before = residuals(
    basis,
    responseOf(rig, from).map((db, i) => db - heard[i]),
  );
  const own = bandsResponseDb(rig, [band], after.values, TWELFTH_CENTRES);
  const was = bandsResponseDb(rig, [band], from.values, TWELFTH_CENTRES);
  const story = explainBand({ band, values: after.values, own, was, basis, before, passbandHz });
  return explainDial(rig, dial, valueOn(from, dial), valueOn(after, dial), band, story);
}
