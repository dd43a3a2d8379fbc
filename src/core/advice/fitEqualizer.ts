/**
 * The equalizer fit: from a voice as heard, the card it was heard with, the rig's real dial positions and an
 * target, the dial values that bring the voice nearest to the target inside the passband.
 */
import { type CurvePoint, curveAt } from '../curve/index.ts';
import { addResponseDb, halfSines, seededRandom, sum, TWELFTH_CENTRES, weightedMean } from '../dsp/index.ts';
import {
  bandCentre,
  bandFilter,
  bandsResponseDb,
  type Card,
  compareMenu,
  type Dial,
  type DialValue,
  type DialValues,
  dialOf,
  type EqualizerBand,
  effective,
  enableEqualizer,
  equalizerBands,
  MODEL_RATE_HZ,
  positionsOf,
  type RigProfile,
  responseOf,
  valueOn,
  valuesOf,
} from '../rig/index.ts';
import { type Decibels, dbToPower, type Hertz } from '../units/index.ts';
import { explainBand, explainDial } from './bandWords.ts';
import { type Slot, searchGrid } from './gridSearch.ts';
import {
  bandEffects,
  type HeardSpeech,
  levelChangeDb,
  residuals,
  type ToneBasis,
  toneBasis,
  toneDoubtDb,
  toneErrorDb,
} from './toneError.ts';
import { estimateTone, type HeardOver } from './toneEstimate.ts';

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

/** Two fits differ when their curves are this far apart (RMS over the bands, gain taken out). */
const RUNNER_UP_DISTANCE_DB: Decibels = 0.75;
const RANDOM_SEED = 20;
/** How many of the search's ends are looked at for a best and a second best. */
const DESCRIBED = 12;

/** One question to the fit: a rig, a card, a voice as heard, and the target. */
export interface FitInput {
  readonly rig: RigProfile;
  /** The card to start from: moves count from its values. */
  readonly card: Card;
  /** The card the voice was recorded with, where that is another. */
  readonly heardWith?: Card;
  /** What the voice has been through at VOICE_TWELFTH_OCTAVES, where that was no card of this rig. */
  readonly heardResponseDb?: readonly Decibels[];
  readonly voice: HeardSpeech;
  /** Further overs of the same operator, microphone, use and receiver. */
  readonly others?: readonly HeardOver[];
  /** The voice is not one over's but known exactly: nothing is estimated. */
  readonly isExact?: boolean;
  readonly target: readonly CurvePoint[];
  /** What the judging receiver lets through; limits the bands that count. */
  readonly receiverPassbandHz?: readonly [Hertz, Hertz];
  /** Response of a microphone that the recording has not been through. */
  readonly microphone?: readonly CurvePoint[];
  readonly costs?: FitCosts;
  /** What the fit must promise before any dial is turned; WORTH_DB when left out. */
  readonly worthDb?: Decibels;
  /** Leave alone what is mostly outside the passband; so it is with a voice, unless it is known exactly. */
  readonly isInsideOnly?: boolean;
}

/** One dial to move. */
export interface FittedMove {
  readonly dial: Dial;
  readonly from: DialValue;
  readonly to: DialValue;
  readonly why: string;
}

/** Dial values, and what they are expected to bring. */
export interface Outcome {
  /** All dial values of the card with the fit in it. */
  readonly values: DialValues;
  /** RMS error against the target in dB that the next over is expected to show. */
  readonly errorDb: Decibels;
  /** One standard deviation of that. */
  readonly uncertaintyDb: Decibels;
  /** Change of the talk's level into the ALC. */
  readonly alcChangeDb: Decibels;
  /** Change of response from the voice as heard, at VOICE_TWELFTH_OCTAVES. */
  readonly changeDb: readonly Decibels[];
}

/** The same with its moves, explained. */
export interface Fit extends Outcome {
  /** Dials that move, in menu order. */
  readonly moves: readonly FittedMove[];
  /** What each live band does, in words, in band order. */
  readonly bands: readonly string[];
}

/** The best fit, its runner-up, and what they were worked out from. */
export interface EqualizerFit {
  readonly best: Fit;
  /** A different fit that comes near; null when there is none. */
  readonly runnerUp: Fit | null;
  /** Error with the card as it stands. */
  readonly errorBeforeDb: Decibels;
  readonly passbandHz: readonly [Hertz, Hertz];
  readonly basis: ToneBasis;
  /** How many overs the voice was estimated from. */
  readonly overs: number;
  /** Remarks on what limits the fit. */
  readonly notes: readonly string[];
}

/** Under this gain the dials are not worth a hand: overs differ by as much from one to the next. Common practice. */
const WORTH_DB: Decibels = 0.2;

/** Whether the best fit brings the voice so much nearer to the target that it would be noticed. */
export const isWorthwhile = ({ best, errorBeforeDb }: Pick<EqualizerFit, 'best' | 'errorBeforeDb'>): boolean =>
  errorBeforeDb - best.errorDb >= WORTH_DB;

/** With fewer bands above the noise there is nothing to fit. */
const LEAST_BANDS = 3;

/** Why no fit can be made, in one sentence. */
export class FitImpossible extends Error {
  override name = 'FitImpossible';
}

/** @throws FitImpossible when the rig has no equalizer in this mode, or too little of the voice was heard */
export function fitEqualizer(input: FitInput): EqualizerFit {
  const { rig, card } = input;
  const notes: string[] = [];
  const awake = enableEqualizer(rig, card);
  const settings = effective(rig, awake);
  const bands = settings.bands;
  if (bands.length === 0) throw new FitImpossible(noBandsReason(rig, card));
  const passbandHz = meet(settings.passbandHz, input.receiverPassbandHz);
  const heardDb = input.heardResponseDb ?? responseOf(rig, input.heardWith ?? card);
  const { basis, voice } = estimated(input, heardDb, passbandHz);
  if (basis.bands.length < LEAST_BANDS) {
    throw new FitImpossible('Too little of the voice stands above the noise inside the passband to fit anything.');
  }
  if (basis.noisyHz.length > 0) {
    notes.push(`Left out because the pauses are nearly as loud: ${basis.noisyHz.map(Math.round).join(', ')} Hz.`);
  }
  if (rig.equalizer.kind === 'parametric' && rig.equalizer.width.meaning === 'unknown') {
    notes.push("What this radio's width number means is unknown: it was read as octaves and left where it is.");
  }
  const presentDb = responseOf(rig, card);
  const context = { input, awake, bands, basis, voice, passbandHz, heardDb, presentDb };
  const fits = search(context)
    .slice(0, DESCRIBED)
    .map((values) => outcomeOf(context, values));
  const left = outcomeOf(context, valuesOf(card, rig));
  const errorBeforeDb = left.errorDb;
  // What promises less than that may as well make things worse.
  const best =
    errorBeforeDb - fits[0].errorDb >= (input.worthDb ?? WORTH_DB) || (input.isExact && fits[0].errorDb < errorBeforeDb) ? fits[0] : left;
  const isMoved = ({ values }: Outcome) => rig.dials.some((dial) => valueOn(card, dial) !== values[dial.id]);
  const other = fits.find(
    (fit) => fit !== best && isMoved(fit) && fit.errorDb < errorBeforeDb && distance(basis, fit, best) > RUNNER_UP_DISTANCE_DB,
  );
  return {
    best: { ...best, ...explained(context, best.values) },
    runnerUp: other ? { ...other, ...explained(context, other.values) } : null,
    errorBeforeDb,
    passbandHz,
    basis,
    overs: 1 + (input.others?.length ?? 0),
    notes,
  };
}

function estimated(input: FitInput, heardDb: readonly Decibels[], passbandHz: readonly [Hertz, Hertz]) {
  const heard = (voice: HeardSpeech) => (input.microphone ? throughMicrophone(voice, input.microphone) : voice);
  const own = { voice: heard(input.voice), responseDb: heardDb };
  if (input.isExact) return { voice: own.voice, basis: toneBasis(own.voice, input.target, passbandHz) };
  const alone = toneBasis(own.voice, input.target, passbandHz);
  // An over in which nobody talks is not made up for by others.
  if (alone.bands.length < LEAST_BANDS) return { voice: own.voice, basis: alone };
  const others = (input.others ?? [])
    .map(({ voice, ...rest }) => ({ ...rest, voice: heard(voice) }))
    .filter(({ voice }) => toneBasis(voice, input.target, passbandHz).bands.length >= LEAST_BANDS);
  return estimateTone([own, ...others], input.target, passbandHz);
}

interface Context {
  readonly input: FitInput;
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

function noBandsReason(rig: RigProfile, card: Card): string {
  if (rig.equalizer.kind === 'none') return `${rig.name} has no equalizer.`;
  const first = effective(rig, card).dials.find(({ dial }) => dial.id === equalizerBands(rig)[0].level);
  return `No equalizer dial of ${rig.name} works here. ${first?.dead?.text ?? ''}`.trim();
}

const meet = (a: readonly [Hertz, Hertz], b?: readonly [Hertz, Hertz]): readonly [Hertz, Hertz] =>
  b ? [Math.max(a[0], b[0]), Math.min(a[1], b[1])] : a;

function throughMicrophone(voice: HeardSpeech, curve: readonly CurvePoint[]): HeardSpeech {
  const gains = TWELFTH_CENTRES.map((hz) => dbToPower(curveAt(curve, hz)));
  const apply = (powers: HeardSpeech['speechPowers']) => powers.map((power, i) => (power === null ? null : power * gains[i]));
  const [first, second] = voice.halfPowers ?? [];
  return {
    ...voice,
    speechPowers: apply(voice.speechPowers),
    pausePowers: voice.pausePowers && apply(voice.pausePowers),
    ...(voice.evenPowers && { evenPowers: apply(voice.evenPowers) }),
    ...(first && second && { halfPowers: [apply(first), apply(second)] as const }),
  };
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

function search(context: Context): DialValues[] {
  const { basis, awake, input, heardDb, presentDb } = context;
  const costs = input.costs ?? DEFAULT_COSTS;
  const project = projection(context, costs);
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
  const slots = context.bands.map((band) => bandSlot(context, band, costs, project));
  return searchGrid(base, slots, seededRandom(RANDOM_SEED)).map(({ choice }) => {
    const values = { ...awake.values };
    choice.forEach((option, s) => {
      slots[s].dials.forEach((dial, d) => {
        values[dial.id] = slots[s].options[option][d];
      });
    });
    return values;
  });
}

/** Turns band effects and responses into numbers whose plain sum of squares is what the search makes small. */
interface Projection {
  readonly width: number;
  /** Gain taken out, weighted: adds up to the squared RMS error. */
  shape(effects: readonly Decibels[], into: Float64Array, at: number): void;
  /** The last number: change of the talk's level, to first order, against the card as it stands. */
  level(responseDb: ArrayLike<Decibels>, into: Float64Array, at: number): void;
}

function projection({ basis, voice }: Context, costs: FitCosts): Projection {
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

function bandSlot(
  { input: { rig, isExact, isInsideOnly = !isExact }, awake, basis, passbandHz }: Context,
  band: EqualizerBand,
  costs: FitCosts,
  project: Projection,
): BandSlot {
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

function outcomeOf({ input: { rig, card }, basis, voice, passbandHz, heardDb, presentDb }: Context, values: DialValues): Outcome {
  const response = responseOf(rig, { mode: card.mode, values });
  const changeDb = response.map((db, i) => db - heardDb[i]);
  return {
    values,
    errorDb: toneErrorDb(basis, changeDb),
    uncertaintyDb: toneDoubtDb(basis, changeDb),
    alcChangeDb:
      levelChangeDb(voice, changeDb, passbandHz) -
      levelChangeDb(
        voice,
        presentDb.map((db, i) => db - heardDb[i]),
        passbandHz,
      ),
    changeDb,
  };
}

/** The dials that move and what the bands do, in words. */
function explained(context: Context, values: DialValues): Pick<Fit, 'moves' | 'bands'> {
  const { input, basis, passbandHz, heardDb, presentDb, bands } = context;
  const { rig, card } = input;
  const before = residuals(
    basis,
    presentDb.map((db, i) => db - heardDb[i]),
  );
  const words = new Map(
    bands.map((band) => {
      const own = bandsResponseDb(rig, [band], values, TWELFTH_CENTRES);
      const was = bandsResponseDb(rig, [band], context.awake.values, TWELFTH_CENTRES);
      const story = { band, values, own, basis, before, passbandHz };
      return [band, { whole: explainBand(story), move: explainBand({ ...story, was }) }] as const;
    }),
  );
  const moves = rig.dials
    .filter((dial) => valueOn(card, dial) !== values[dial.id])
    .sort(compareMenu)
    .map((dial) => {
      const from = valueOn(card, dial);
      const band = bands.find((each) => [each.centre, each.level, each.width].includes(dial.id));
      return {
        dial,
        from,
        to: values[dial.id],
        why: explainDial(rig, dial, from, values[dial.id], band, (band && words.get(band)?.move) ?? ''),
      };
    });
  return { moves, bands: [...words.values()].map(({ whole }) => whole) };
}

function distance(basis: ToneBasis, a: Outcome, b: Outcome): Decibels {
  const weights = basis.bands.map((band) => band.weight);
  const apart = bandEffects(
    basis,
    a.changeDb.map((db, i) => db - b.changeDb[i]),
  );
  const gain = weightedMean(apart, weights);
  return Math.sqrt(
    weightedMean(
      apart.map((db) => (db - gain) ** 2),
      weights,
    ),
  );
}
