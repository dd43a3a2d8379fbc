/** The search behind the equalizer fit: every combination of dial positions, band by band, weighed against what it costs. */
import { addResponseDb, halfSines, seededRandom, sum, TWELFTH_CENTRES } from '../dsp/index.ts';
import {
  bandCentre,
  bandFilter,
  type Card,
  type Dial,
  type DialValue,
  type DialValues,
  dialOf,
  type EqualizerBand,
  MODEL_RATE_HZ,
  positionsOf,
  type RigProfile,
} from '../rig/index.ts';
import type { Decibels, Hertz } from '../units/index.ts';
import { improved, type Slot, type Solution, searchGrid } from './gridSearch.ts';
import { bandEffects, type HeardSpeech, type ToneBasis } from './toneError.ts';

/** Costs in squared dB, weighed against the squared RMS error. Small: they decide between near equals. */
export interface FitCosts {
  /** For every dial that moves. */
  readonly move: number;
  /** For every dB that a band lifts or cuts: few broad moves rather than many that undo each other. */
  readonly lift: number;
  /** For every squared dB of a band's boost beyond 3 dB: boost lifts noise and eats headroom. */
  readonly boost: number;
  /** For every squared dB of a band's cut beyond 6 dB. */
  readonly cut: number;
  /** Factor on what bands cost that stand on one spot or fight each other (see pairCost); 0 where only the curve counts. */
  readonly crowding: number;
  /** For every squared dB by which the level into the ALC leaves its place: the overall gain is free, but mic gain has to make it up. */
  readonly level: number;
}

/** What moves cost besides the error they leave, chosen so that few broad moves win over many narrow ones. */
export const DEFAULT_COSTS: FitCosts = { move: 0.12, lift: 0.06, boost: 0.02, cut: 0.02, crowding: 1, level: 0.02 };
const FREE_BOOST_DB: Decibels = 3;
const FREE_CUT_DB: Decibels = 6;

/** What a band's level costs by itself. */
export function levelCost(level: Decibels, costs: FitCosts): number {
  const boost = Math.max(0, level - FREE_BOOST_DB);
  const cut = Math.max(0, -level - FREE_CUT_DB);
  return costs.lift * Math.abs(level) + costs.boost * boost ** 2 + costs.cut * cut ** 2;
}

const RANDOM_SEED = 20;

/** What is searched: a card, its bands, the voice, and what counts. */
export interface FitSearch {
  readonly rig: RigProfile;
  readonly costs: FitCosts;
  /** What the level into the ALC should change by; it is held where it is when left out. */
  readonly levelDb?: Decibels;
  /** Leave alone what is mostly outside the passband. */
  readonly isInsideOnly: boolean;
  /** The card with the equalizer's own switches on. */
  readonly awake: Card;
  readonly bands: readonly EqualizerBand[];
  readonly basis: ToneBasis;
  readonly voice: HeardSpeech;
  readonly passbandHz: readonly [Hertz, Hertz];
  /** Equalizer response that the recording has in it. */
  readonly heardDb: readonly Decibels[];
  /** Equalizer response of the card as it stands. */
  readonly presentDb: readonly Decibels[];
}

/** Dial parts of a band that the fit may move. */
export function movableDials(rig: RigProfile, band: EqualizerBand): Dial[] {
  const isUnknown = rig.equalizer.kind === 'parametric' && rig.equalizer.width.meaning === 'unknown';
  return [band.centre, band.level, isUnknown ? null : band.width].filter((part) => typeof part === 'string').map((id) => dialOf(rig, id));
}

/** Every combination of positions of a band's dials, once each. */
function combinations(dials: readonly Dial[]): DialValue[][] {
  return dials.reduce<DialValue[][]>(
    (rows, { scale }) => {
      const positions = positionsOf(scale);
      return rows.flatMap((row) => positions.map((position) => [...row, position]));
    },
    [[]],
  );
}

interface BandSlot extends Slot {
  readonly dials: readonly Dial[];
  readonly options: readonly DialValue[][];
}

/** So many ends of the search are where the least error is looked for. */
const LEAST_FROM = 6;

/** What a search comes to. */
export interface Searched {
  /** Dial values that leave little error for what they cost, the best first. */
  readonly ends: readonly DialValues[];
  /** Those that leave the least error, whatever they cost. */
  readonly nearest: () => DialValues;
}

/** Dial values that leave little error. */
export function searchFit(question: FitSearch): Searched {
  const { basis, awake, bands, heardDb, presentDb } = question;
  const project = projection(question);
  const base = new Float64Array(project.width);
  const removed = bandEffects(basis, heardDb);
  project.shape(
    basis.bands.map((band, b) => band.heardDb - removed[b] - band.targetDb),
    base,
    0,
  );
  project.level(
    presentDb.map((db) => -db),
    base,
    0,
  );
  base[project.width - 1] -= Math.sqrt(question.costs.level) * (question.levelDb ?? 0);
  const slots = bands.map((band) => bandSlot(question, band, project));
  const valuesAt = ({ choice }: Solution) => {
    const values = { ...awake.values };
    choice.forEach((option, s) => {
      slots[s].dials.forEach((dial, d) => {
        values[dial.id] = slots[s].options[option][d];
      });
    });
    return values;
  };
  const ends = searchGrid(base, slots, seededRandom(RANDOM_SEED));
  const nearest = () => {
    const free = slots.map((slot) => freeOf(slot, project.width));
    const start = base.slice();
    start[project.width - 1] = 0;
    const from = ends.slice(0, LEAST_FROM).map(({ choice }) => choice);
    return valuesAt(improved(start, free, from));
  };
  return { ends: ends.map(valuesAt), nearest };
}

/** A slot whose options cost nothing: neither turns and lifts, nor the level, which is the last number of each. */
function freeOf({ vectors, costs, present, flat }: Slot, width: number): Slot {
  const shapes = vectors.slice();
  for (let at = width - 1; at < shapes.length; at += width) shapes[at] = 0;
  return { vectors: shapes, costs: new Float64Array(costs.length), present, flat };
}

/** Turns band effects and responses into numbers whose plain sum of squares is what the search makes small. */
interface Projection {
  readonly width: number;
  /** Gain taken out, weighted: adds up to the squared RMS error. */
  shape(effects: readonly Decibels[], into: Float64Array, at: number): void;
  /** The last number: change of the talk's level, to first order, against the card as it stands. */
  level(responseDb: ArrayLike<Decibels>, into: Float64Array, at: number): void;
}

function projection({ basis, voice, costs }: FitSearch): Projection {
  const weights = basis.bands.map((band) => band.weight);
  const scale = weights.map((weight) => Math.sqrt(weight / sum(weights)));
  const parts = basis.bands.flatMap((band) => band.parts);
  const talk = sum(parts.map((i) => voice.speechPowers[i] ?? 0));
  const shares = parts.map((i) => (voice.speechPowers[i] ?? 0) / talk);
  const total = sum(weights);
  const last = basis.bands.length;
  return {
    width: last + 1,
    shape(effects, into, at) {
      let gain = 0;
      for (let b = 0; b < last; b++) gain += (weights[b] / total) * effects[b];
      for (let b = 0; b < last; b++) into[at + b] = scale[b] * (effects[b] - gain);
    },
    level(responseDb, into, at) {
      let change = 0;
      for (let k = 0; k < parts.length; k++) change += shares[k] * responseDb[parts[k]];
      into[at + last] = Math.sqrt(costs.level) * change;
    },
  };
}

function bandSlot({ rig, costs, isInsideOnly, awake, basis, passbandHz }: FitSearch, band: EqualizerBand, project: Projection): BandSlot {
  const dials = movableDials(rig, band);
  const now = dials.map((dial) => awake.values[dial.id]);
  const levelAt = dials.findIndex((dial) => dial.id === band.level);
  // At 0 dB centre and width do nothing: one option stands for them all, with the dials where they are.
  const centreAt = dials.findIndex((dial) => dial.id === band.centre);
  const isAllowed = (option: readonly DialValue[]) => {
    if (Number(option[levelAt]) === 0) return option.every((value, d) => d === levelAt || value === now[d]);
    if (!isInsideOnly || band.shape !== 'bell' || option.every((value, d) => value === now[d])) return true;
    const centre = Number(centreAt >= 0 ? option[centreAt] : bandCentre(band, awake.values));
    return centre >= passbandHz[0] && centre <= passbandHz[1];
  };
  const options = combinations(dials).filter(isAllowed);
  const { width } = project;
  const vectors = new Float64Array(options.length * width);
  const used = [...new Set(basis.bands.flatMap((each) => each.parts))];
  const frequencies = used.map((i) => TWELFTH_CENTRES[i]);
  const response = new Float64Array(TWELFTH_CENTRES.length);
  const [phis, own] = [halfSines(MODEL_RATE_HZ, frequencies), new Float64Array(used.length)];
  const values = { ...awake.values };
  options.forEach((option, o) => {
    for (let d = 0; d < dials.length; d++) values[dials[d].id] = option[d];
    addResponseDb(bandFilter(rig, band, values), phis, own.fill(0));
    for (let k = 0; k < used.length; k++) response[used[k]] = own[k];
    project.shape(bandEffects(basis, response), vectors, o * width);
    project.level(response, vectors, o * width);
  });
  const moved = (option: DialValue[]) => option.reduce<number>((count, value, d) => count + Number(value !== now[d]), 0);
  return {
    dials,
    options,
    vectors,
    costs: Float64Array.from(options, (option) => {
      return costs.move * moved(option) + levelCost(Number(option[levelAt]), costs);
    }),
    place:
      costs.crowding === 0
        ? undefined
        : {
            octaves: Float64Array.from(options, (option) =>
              Math.log2(Number(centreAt >= 0 ? option[centreAt] : bandCentre(band, awake.values))),
            ),
            liftDb: Float64Array.from(options, (option) => costs.crowding * Number(option[levelAt])),
          },
    present: options.findIndex((option) => moved(option) === 0),
    flat: nearestToFlat(options, levelAt),
  };
}

const nearestToFlat = (options: readonly DialValue[][], levelAt: number): number =>
  options.reduce((best, option, o) => (Math.abs(Number(option[levelAt])) < Math.abs(Number(options[best][levelAt])) ? o : best), 0);
