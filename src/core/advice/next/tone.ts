/** The tone: how far the voice is from its target, the dials that bring it nearer, and how sure that is. */
import { type CurvePoint, curveAt } from '../../curve/index.ts';
import { mean, sum, TWELFTH_CENTRES, weightedMean } from '../../dsp/index.ts';
import {
  type Card,
  type DialValues,
  effective,
  equalizerBands,
  positionsOf,
  type RigProfile,
  responseOf,
  valueOn,
} from '../../rig/index.ts';
import type { Decibels } from '../../units/index.ts';
import { type EqualizerFit, FitImpossible, fitEqualizer } from '../fitEqualizer.ts';
import { DEFAULT_COSTS, type FitCosts } from '../fitQuestion.ts';
import { defaultTarget, tiltedTarget } from '../targets.ts';
import { bandEffects, type ToneBasis, usualErrorDb } from '../toneError.ts';
import { isCompressedAlike } from './compression.ts';
import { type ComparableOver, type EqualizerBelief, type EqualizerHypothesis, equalizerBelief, type Sweep } from './equalizerBelief.ts';
import { cardOf, type NextInput, type SeenOver } from './seen.ts';

/** What is known of the tone. */
export interface ToneStanding {
  readonly belief: EqualizerBelief;
  /** RMS off the target of the voice as it usually is, with the card as it stands; doubt of the voice counts. */
  readonly errorDb: Decibels;
  /** The least that this rig's dials can reach. */
  readonly bestDb: Decibels;
  /** How much nearer the dials of `values` bring it. The doubt of the voice counts on both sides: without it twice as much is promised as comes. */
  readonly gainDb: Decibels;
  readonly values: DialValues;
  /** What the next over will show with them: 10th, 50th and 90th percentile. */
  readonly expected: readonly [Decibels, Decibels, Decibels];
  /** Third octaves of the voice with them, [Hz, dB re the strongest]. */
  readonly bandsDb: readonly CurvePoint[];
  /** What other dial values would leave, doubt aside. */
  readonly errorWith: (values: DialValues) => Decibels;
  /** What the target lost of its top because the next channel would not be clean, dB per octave; 0 for nothing. */
  readonly tiltDb: Decibels;
  readonly fit: EqualizerFit;
}

/** A level that is wanted of an equalizer, since the mic gain has no room left. */
export interface WantedLevel {
  readonly levelDb: Decibels;
  /** For every squared dB that the level is away from it. */
  readonly cost: number;
  /** So much of the tone may be lost for it. */
  readonly mostLostDb: Decibels;
}

/** Lighter than on the Bench, where a hand turns every dial: here the goal is what the dials can reach. */
const COSTS: Omit<FitCosts, 'level'> = {
  move: DEFAULT_COSTS.move / 3,
  lift: DEFAULT_COSTS.lift / 8,
  boost: DEFAULT_COSTS.boost / 2,
  cut: DEFAULT_COSTS.cut / 4,
  crowding: 0.25,
};
/** What moves the level makes its readings doubtful; up to so many overs there is little to lose. */
const LEVEL_COSTS: readonly (readonly [overs: number, cost: number])[] = [
  [2, 0.005],
  [Number.POSITIVE_INFINITY, 0.02],
];
/** With less than this to win a tone is right, and no turn by itself is worth it. */
export const WORTH_DB: Decibels = 0.3;
/** What dial values that cost less than the best may leave above the least error. */
const WELL_ENOUGH_DB: Decibels = 0.2;
/** What a setting that is right either way may lose against the best of each meaning, and what trying one of them may cost. */
const EITHER_WAY_DB: Decibels = 0.4;
const MOST_WORSE_DB: Decibels = 0.3;
/** A width number that is nearly as wide read as octaves and read as Q. */
const EITHER_WIDTH = 1.3;

/** What the equalizer's dials do, by overs of one receiver and all sweeps. */
export const beliefOf = ({ rig, overs: all }: NextInput, overs: readonly ComparableOver[]): EqualizerBelief =>
  equalizerBelief(rig, overs, all.flatMap(sweepsOf));

/**
 * @param overs  comparable ones, oldest first; the last is the one the tone is judged by
 * @param belief by them
 * @param card   the card to fit for, its compression already set
 * @param wish   level: what the level into the ALC should change by, where the mic gain has no room left; then `values` has it;
 *               tiltDb: what the target loses of its top, dB per octave from 1 kHz up; errors are those against the whole target;
 *               leastDb: what another fit has shown to be possible
 * @returns null where no fit can be made
 */
export function toneStanding(
  { purpose, target = defaultTarget(purpose), overs: all }: NextInput,
  overs: readonly ComparableOver[],
  belief: EqualizerBelief,
  card: Card,
  { level, tiltDb = 0, leastDb = Infinity }: { readonly level?: WantedLevel; readonly tiltDb?: Decibels; readonly leastDb?: Decibels } = {},
): ToneStanding | null {
  const aim = tiltedTarget(target, tiltDb);
  const costs = { ...COSTS, level: level ? level.cost : upTo(LEVEL_COSTS, all.length) };
  const levelDb = level ? level.levelDb : 0;
  const worthDb = level ? -level.mostLostDb : 0;
  const asked = belief.likely.map((each) => ({
    ...each,
    question: { ...questionOf(each, overs, card, aim), costs, levelDb, worthDb, isReachAsked: true },
  }));
  try {
    const fits = asked.map((each) => {
      const fit = fitEqualizer(each.question);
      const bands = fit.basis.bands.map((band) => ({ ...band, targetDb: curveAt(target, band.centreHz) }));
      const whole = { ...each, fit, whole: { ...fit.basis, bands } };
      return { ...whole, proposed: level ? fit.best.values : wellEnough(whole) };
    });
    const candidates: DialValues[] = fits.map(({ proposed }) => proposed);
    if (fits.length > 1) {
      // Widths that mean nearly the same either way: right whichever it is.
      const [first] = [...fits].sort((a, b) => b.weight - a.weight);
      candidates.push(
        tidied(
          first.rig,
          card,
          fitEqualizer({ ...first.question, rig: eitherWay(first.rig), card: widthsAt(first.rig, card) }).best.values,
        ),
      );
    }
    const errorBy = (basisOf: (fit: (typeof fits)[number]) => ToneBasis, values: DialValues, doubtShare = 0): Decibels =>
      sum(
        fits.map((each) => {
          const response = responseOf(each.rig, { mode: card.mode, values });
          return each.weight * usualErrorDb(basisOf(each), minus(response, each.question.heardResponseDb), doubtShare);
        }),
      );
    const errorOf = (values: DialValues, doubtShare = 0) => errorBy(({ whole }) => whole, values, doubtShare);
    const aimedError = (values: DialValues) => errorBy(({ fit }) => fit.basis, values);
    const now = cardOf(overs[overs.length - 1].over).values;
    candidates.push(now);
    const safest = candidates.reduce((a, b) => (aimedError(b) < aimedError(a) ? b : a));
    const [likeliest] = [...fits].sort((a, b) => b.weight - a.weight);
    const { fit } = likeliest;
    const possibleDb = Math.min(leastDb, sum(fits.map((each) => each.weight * leastErrorDb(each))));
    // Where what is right either way is far from what one meaning could reach, the likelier one is tried: the next over tells.
    const { proposed } = likeliest;
    const isTried = !level && errorOf(safest) - possibleDb > EITHER_WAY_DB && errorOf(proposed) <= errorOf(now) + MOST_WORSE_DB;
    const best = isTried || level ? proposed : safest;
    // What is tried should bring what it would if its meaning were the right one.
    const doubtedDb = isTried ? sum(fits.map((each) => each.weight * errorIn(each, each.whole, each.proposed, 1))) : errorOf(best, 1);
    const errorDb = errorOf(now, 1);
    return {
      belief,
      errorDb,
      bestDb: possibleDb,
      gainDb: errorDb - doubtedDb,
      values: best,
      expected: expectedOf(fit, errorOf(best)),
      bandsDb: bandsWith(likeliest, best),
      errorWith: errorOf,
      tiltDb,
      fit,
    };
  } catch (error) {
    if (error instanceof FitImpossible) return null;
    throw error;
  }
}

/** Third octaves with the dials of `values`, [Hz, dB re the strongest]. */
function bandsWith({ rig, fit: { basis }, question }: AskedFit, values: DialValues): CurvePoint[] {
  const change = minus(responseOf(rig, { mode: question.card.mode, values }), question.heardResponseDb);
  const effects = bandEffects(basis, change);
  const levels = basis.bands.map(({ heardDb }, b) => heardDb + effects[b]);
  const strongest = Math.max(...levels);
  return basis.bands.map(({ centreHz }, b): CurvePoint => [centreHz, levels[b] - strongest]);
}

/** What holds for so many overs. */
const upTo = (steps: readonly (readonly [overs: number, value: number])[], overs: number): number =>
  steps.find(([most]) => overs <= most)?.[1] ?? 0;

const sweepsOf = (over: SeenOver): Sweep[] =>
  (over.tests ?? []).flatMap((test) =>
    test.kind === 'response' && test.curve.length > 1 ? [{ card: cardOf(over), curve: test.curve }] : [],
  );

/** A fit under one meaning of the dials. */
interface AskedFit {
  readonly rig: RigProfile;
  readonly fit: EqualizerFit;
  /** Its basis with the whole target. */
  readonly whole: ToneBasis;
  readonly question: ReturnType<typeof questionOf>;
}

const errorIn = ({ rig, question }: AskedFit, basis: ToneBasis, values: DialValues, doubtShare = 0): Decibels =>
  usualErrorDb(basis, minus(responseOf(rig, { mode: question.card.mode, values }), question.heardResponseDb), doubtShare);

const reachOf = ({ fit: { best, reach } }: AskedFit) => reach ?? { ends: [], nearest: best.values };

/** The least error that any dial values reach under a meaning, were it the right one: what they cost does not count. */
const leastErrorDb = (each: AskedFit): Decibels => errorIn(each, each.whole, reachOf(each).nearest);

/**
 * The cheapest dial values that come near enough to the least error. Bands that can be put anywhere are not turned for what is cheap to
 * promise: two that fight each other come near a voice that was heard once, and nobody knows what they do to the level.
 */
function wellEnough(each: AskedFit): DialValues {
  const { rig, fit } = each;
  const { ends, nearest } = reachOf(each);
  const most = errorIn(each, fit.basis, nearest) + WELL_ENOUGH_DB;
  const others = rig.equalizer.kind === 'parametric' ? [] : ends;
  return [fit.best.values, ...others].find((values) => errorIn(each, fit.basis, values) <= most) ?? fit.best.values;
}

const minus = (a: readonly Decibels[], b: readonly Decibels[]): Decibels[] => a.map((db, i) => db - b[i]);
const FLAT: readonly Decibels[] = TWELFTH_CENTRES.map(() => 0);

/** An over made with another equalizer tells less of the present one: how radios filter is known to about so much. */
const MODEL_DOUBT = 0.3;
const SCATTER_DB: Decibels = 1.75;
function weightOf(then: readonly Decibels[], now: readonly Decibels[]): number {
  const apart = minus(then, now);
  const gain = mean(apart);
  const doubt = MODEL_DOUBT * Math.sqrt(mean(apart.map((db) => (db - gain) ** 2)));
  return SCATTER_DB ** 2 / (SCATTER_DB ** 2 + doubt ** 2);
}

/** A compressor lifts what is faint in talk, its highs first: an over with another compression tells less of this one. */
const OTHER_COMPRESSION = 0.3;

function questionOf({ rig }: EqualizerHypothesis, overs: readonly ComparableOver[], card: Card, target: readonly CurvePoint[]) {
  const responseDb = ({ over, isDead }: ComparableOver) => (isDead ? FLAT : responseOf(rig, cardOf(over)));
  const last = overs[overs.length - 1];
  return {
    rig,
    card,
    heardResponseDb: responseDb(last),
    voice: last.voice.detail,
    others: overs.slice(0, -1).map((each) => ({
      voice: each.voice.detail,
      responseDb: responseDb(each),
      weight:
        each.weight *
        (isCompressedAlike(rig, cardOf(each.over), cardOf(last.over)) ? 1 : OTHER_COMPRESSION) *
        weightOf(responseDb(each), responseDb(last)),
    })),
    target,
    ...(last.voice.passbandHz && { receiverPassbandHz: last.voice.passbandHz }),
  };
}

/** The spread that talk alone gives the next over's error: so much of it lies between the 10th, 50th and 90th percentile (93 turns, docs/methods/next.md). */
function expectedOf({ basis }: EqualizerFit, bestDb: Decibels): [Decibels, Decibels, Decibels] {
  const scatter = Math.sqrt(
    weightedMean(
      basis.bands.map(({ doubtDb2 = 0 }) => doubtDb2),
      basis.bands.map(({ weight }) => weight),
    ),
  );
  const likely = Math.hypot(bestDb, scatter);
  return [Math.max(0, likely - 0.45 * scatter), likely, likely + 0.5 * scatter];
}

const widthDials = (rig: RigProfile) =>
  equalizerBands(rig).flatMap(({ width }) => (typeof width === 'string' ? rig.dials.filter(({ id }) => id === width) : []));

const nearest = (positions: readonly (number | string)[]): number | string =>
  positions.reduce((a, b) => (Math.abs(Number(b) - EITHER_WIDTH) < Math.abs(Number(a) - EITHER_WIDTH) ? b : a));

/** The rig with its width dials held where both readings agree best. */
function eitherWay(rig: RigProfile): RigProfile {
  const held = new Map(widthDials(rig).map((dial) => [dial.id, Number(nearest(positionsOf(dial.scale)))]));
  return {
    ...rig,
    dials: rig.dials.map((dial) => {
      const at = held.get(dial.id);
      return at === undefined ? dial : { ...dial, scale: { kind: 'values', values: [at] }, rest: at };
    }),
  };
}

/** Widths of bands that do nothing stay where they are. */
function tidied(rig: RigProfile, card: Card, values: DialValues): DialValues {
  const { bands } = effective(rig, { ...card, values });
  const isIdle = (id: string) => !bands.some(({ width, level }) => width === id && Number(values[level]) !== 0);
  const idle = widthDials(rig).filter(({ id }) => isIdle(id));
  return { ...values, ...Object.fromEntries(idle.map((dial) => [dial.id, valueOn(card, dial)])) };
}

function widthsAt(rig: RigProfile, card: Card): Card {
  const set = Object.fromEntries(widthDials(rig).map((dial) => [dial.id, nearest(positionsOf(dial.scale))]));
  return { ...card, values: { ...Object.fromEntries(rig.dials.map((dial) => [dial.id, valueOn(card, dial)])), ...set } };
}
