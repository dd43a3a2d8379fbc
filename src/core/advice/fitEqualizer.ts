/**
 * The equalizer fit: from a voice as heard, the card it was heard with, the rig's real dial positions and a
 * target, the dial values that bring the voice nearest to the target inside the passband.
 */
import { type CurvePoint, curveAt } from '../curve/index.ts';
import { TWELFTH_CENTRES, weightedMean } from '../dsp/index.ts';
import {
  bandsResponseDb,
  type Card,
  compareMenu,
  type Dial,
  type DialValue,
  type DialValues,
  effective,
  enableEqualizer,
  equalizerBands,
  type RigProfile,
  responseOf,
  valueOn,
  valuesOf,
} from '../rig/index.ts';
import { type Decibels, dbToPower, type Hertz } from '../units/index.ts';
import { explainBand, explainDial } from './bandWords.ts';
import { DEFAULT_COSTS, type FitCosts, type FitSearch } from './fitQuestion.ts';
import { searchFit } from './fitSearch.ts';
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

/** Two fits differ when their curves are this far apart (RMS over the bands, gain taken out). */
const RUNNER_UP_DISTANCE_DB: Decibels = 0.75;
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
  /** What the level into the ALC should change by, where the mic gain has no room left. */
  readonly levelDb?: Decibels;
  /** What the fit must promise before any dial is turned; WORTH_DB when left out. */
  readonly worthDb?: Decibels;
  /** What the dials can reach is told as well. */
  readonly isReachAsked?: boolean;
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
  /** Where asked for: dial values of every end of the search, the best first, and those that leave the least error, whatever they cost. */
  readonly reach?: { readonly ends: readonly DialValues[]; readonly nearest: DialValues };
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
  const { costs = DEFAULT_COSTS, isExact = false, isInsideOnly = !isExact } = input;
  const context = { rig, costs, levelDb: input.levelDb, isInsideOnly, awake, bands, basis, voice, passbandHz, heardDb, presentDb, card };
  const search = searchFit(context);
  const fits = search.ends.slice(0, DESCRIBED).map((values) => outcomeOf(context, values));
  const left = outcomeOf(context, valuesOf(card, rig));
  const errorBeforeDb = left.errorDb;
  // What promises less than that may as well make things worse.
  const best =
    errorBeforeDb - fits[0].errorDb >= (input.worthDb ?? WORTH_DB) || (isExact && fits[0].errorDb < errorBeforeDb) ? fits[0] : left;
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
    ...(input.isReachAsked && { reach: { ends: search.ends, nearest: search.nearest() } }),
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

/** With the card as it stands. */
type Context = FitSearch & { readonly card: Card };

function outcomeOf({ rig, card, basis, voice, passbandHz, heardDb, presentDb }: Context, values: DialValues): Outcome {
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
  const { rig, card, basis, passbandHz, heardDb, presentDb, bands } = context;
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
