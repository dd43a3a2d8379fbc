/**
 * What an equalizer's dials really do. Hypotheses (the width number as octaves or as Q, and what a decibel on a dial is) are
 * weighed by how alike the voice becomes when every over is freed of its own card: least squares over third octaves, with
 * the scatter of talk from over to over. Priors are common practice (docs/methods/next.md).
 */
import { curveAt } from '../../curve/index.ts';
import { mean, sum, VOICE_THIRD_OCTAVES } from '../../dsp/index.ts';
import { type Card, clickOf, effective, equalizerBands, type RigProfile, responseOf } from '../../rig/index.ts';
import { type Decibels, dbToPower, type Hertz, powerToDb } from '../../units/index.ts';
import { PARTS } from '../toneError.ts';
import { cardOf, type SeenOver, type SeenVoice } from './seen.ts';

/** One way the equalizer may be, as a profile. */
export interface EqualizerHypothesis {
  readonly rig: RigProfile;
  readonly meaning: 'octaves' | 'q' | null;
  readonly bells: Bells | null;
  readonly clickDb: Decibels;
  readonly weight: number;
}

/** What a width number tells of a band (see the rig profile's schema). */
type Bells = 'mirrored' | 'resonance';

/** What is believed of an equalizer. */
export interface EqualizerBelief {
  /** Probability that the width number is octaves; null where the radio has no width dial. */
  readonly octaves: number | null;
  /** Probability that lifts are wider and cuts narrower than the width number says; null where bands are not parametric. */
  readonly resonance: number | null;
  /** What a decibel on a dial is: 10th, 50th, 90th percentile. */
  readonly clickDb: readonly [Decibels, Decibels, Decibels];
  /** The profile with the likeliest click, once for each reading of the width number that is not ruled out. */
  readonly possible: readonly EqualizerHypothesis[];
  /** The likelier of those for octaves and for Q, each with what both kinds of band count: what fits are made for. */
  readonly likely: readonly EqualizerHypothesis[];
}

/** An over that can be compared with others: what was heard, and whether its equalizer was in the path at all. */
export interface ComparableOver {
  readonly over: SeenOver;
  readonly voice: SeenVoice;
  /** What it counts beside others, up to 1. */
  readonly weight: number;
  readonly isDead: boolean;
}

/** Decibels of a dial's decibel, with their prior weights (0.75 to 1.2 are usual). */
const CLICKS: readonly (readonly [Decibels, number])[] = [
  [0.65, 0.3],
  [0.75, 0.8],
  [0.85, 1],
  [0.95, 1.2],
  [1, 1.4],
  [1.05, 1.2],
  [1.15, 1],
  [1.25, 0.6],
];
/** Profiles are wrong about the width number as often as operators are. */
const PROFILE_IS_RIGHT = 0.65;
/** Both ways to make a band are common (common practice); a profile that names one is believed as much as with the width number. */
const MIRRORED = 0.6;
/** Scatter of a third octave from over to over; neighbours scatter together, so a band counts for less than one. */
const SCATTER_DB: Decibels = 1.9;
const INDEPENDENT = 0.5;
/** The usual scatter counts as so many bands of one's own. */
const SCATTER_DEGREES = 12;
/** A sweep repeats better than talk. */
const SWEEP_SCATTER_DB: Decibels = 0.7;
/** A band whose talk is less than this above its pauses tells nothing. */
const LEAST_OVER_NOISE = 4;
const LEAST_BANDS = 5;
/** Bands this near an edge of the passband are left out. */
const EDGE = 1.05;
/** A meaning with less than this is ruled out. */
const RULED_OUT = 0.08;

/** How often an equalizer is found switched off, in another bank, or without effect (common practice). */
const DEAD_PRIOR = 0.08;
/** From this probability on the operator is asked to look. */
export const SUSPECTED = 0.2;
/** Whoever was asked at such a probability has looked, and has found it so often, where there was something to find. */
const LOOKED = 0.4;
const FOUND = 0.85;

/**
 * Up to which over the equalizer was not in the path, -1 where it always was: the likeliest cut by how alike the voice
 * becomes; and the probability that it is not in the path now. An operator who was asked to look in earnest has looked.
 */
export function deadUpTo(rig: RigProfile, voices: readonly Omit<ComparableOver, 'isDead'>[]): { cut: number; now: number } {
  const flat = voices.map((each) => freedLevels(rig, each, true));
  const variants = hypothesesOf(rig).map(({ variant }) => voices.map((each) => freedLevels(variant, each, false)));
  let standing = { cut: -1, now: 0 };
  let asked: number | null = null;
  for (let count = 2; count <= voices.length; count++) {
    const cuts = Array.from({ length: count + 1 }, (_, k) => k - 1);
    const logs = cuts.map((cut) => {
      const rowsOf = (freed: (typeof variants)[number]) => freed.slice(0, count).map((row, k) => (k <= cut ? flat[k] : row));
      return Math.log(deadPrior(cut, count, asked)) - Math.min(...variants.map((freed) => misfit(rowsOf(freed))));
    });
    const most = Math.max(...logs);
    const total = sum(logs.map((log) => Math.exp(log - most)));
    standing = { cut: cuts[logs.indexOf(most)], now: Math.exp(logs[logs.length - 1] - most) / total };
    if (asked === null && standing.now >= LOOKED) asked = count - 1;
  }
  return standing;
}

function deadPrior(cut: number, count: number, asked: number | null): number {
  if (cut < 0) return 1 - DEAD_PRIOR;
  if (asked === null) return DEAD_PRIOR / count;
  return cut === asked ? DEAD_PRIOR * FOUND : (DEAD_PRIOR * (1 - FOUND)) / count;
}

const hypothesesOf = (rig: RigProfile) =>
  readingsOf(rig).flatMap(({ meaning, bells, prior }) =>
    CLICKS.map(([click, share]) => {
      const clickDb = click * clickOf(rig);
      return { variant: variantOf(rig, meaning, clickDb, bells), meaning, bells, clickDb, prior: prior * share };
    }),
  );

/** A sweep with the card it was sent with. */
export interface Sweep {
  readonly card: Card;
  /** [Hz, dB]. */
  readonly curve: readonly (readonly [Hertz, Decibels])[];
}

/**
 * @param overs  of one radio and receiver, oldest first
 * @param sweeps of the same radio
 */
export function equalizerBelief(rig: RigProfile, overs: readonly ComparableOver[], sweeps: readonly Sweep[] = []): EqualizerBelief {
  const readings = readingsOf(rig);
  const all = hypothesesOf(rig).map(({ variant, prior, ...rest }) => ({
    ...rest,
    rig: variant,
    log:
      Math.log(prior) -
      misfit(overs.map((each) => freedLevels(variant, each, each.isDead))) -
      misfit(
        sweeps.map((sweep) => freedCurve(variant, sweep)),
        SWEEP_SCATTER_DB,
      ),
  }));
  const most = Math.max(...all.map(({ log }) => log));
  const total = sum(all.map(({ log }) => Math.exp(log - most)));
  const weighed: EqualizerHypothesis[] = all.map(({ log, ...each }) => ({ ...each, weight: Math.exp(log - most) / total }));
  const possible = readings.flatMap(({ meaning, bells }): EqualizerHypothesis[] => {
    const same = weighed.filter((each) => each.meaning === meaning && each.bells === bells);
    const weight = sum(same.map((each) => each.weight));
    if (weight < RULED_OUT) return [];
    const clickDb = sum(same.map((each) => each.weight * each.clickDb)) / weight;
    return [{ rig: variantOf(rig, meaning, clickDb, bells), meaning, bells, clickDb, weight }];
  });
  return {
    octaves: readings[0].meaning === null ? null : sum(weighed.filter(({ meaning }) => meaning === 'octaves').map(({ weight }) => weight)),
    resonance: readings[0].bells === null ? null : sum(weighed.filter(({ bells }) => bells === 'resonance').map(({ weight }) => weight)),
    clickDb: percentilesOf(weighed),
    possible: shared(possible),
    likely: shared(
      meaningsOf(rig).flatMap(({ meaning }) => {
        const same = possible.filter((each) => each.meaning === meaning);
        const likelier = same.reduce<EqualizerHypothesis | null>((a, b) => (a && a.weight >= b.weight ? a : b), null);
        return likelier ? [{ ...likelier, weight: sum(same.map(({ weight }) => weight)) }] : [];
      }),
    ),
  };
}

/** With weights that sum to 1. */
const shared = (all: readonly EqualizerHypothesis[]): EqualizerHypothesis[] =>
  all.map((each) => ({ ...each, weight: each.weight / sum(all.map(({ weight }) => weight)) }));

function meaningsOf(rig: RigProfile): { meaning: 'octaves' | 'q' | null; prior: number }[] {
  const hasWidth = equalizerBands(rig).some(({ width }) => typeof width === 'string');
  if (rig.equalizer.kind !== 'parametric' || !hasWidth || rig.equalizer.width.meaning === 'table') return [{ meaning: null, prior: 1 }];
  const told = rig.equalizer.width.meaning;
  const priorOf = (meaning: 'octaves' | 'q') => (told === 'unknown' ? 0.5 : told === meaning ? PROFILE_IS_RIGHT : 1 - PROFILE_IS_RIGHT);
  return (['octaves', 'q'] as const).map((meaning) => ({ meaning, prior: priorOf(meaning) }));
}

/** Every way to read the width number, with what it counts beforehand. */
function readingsOf(rig: RigProfile): { meaning: 'octaves' | 'q' | null; bells: Bells | null; prior: number }[] {
  const meanings = meaningsOf(rig);
  const { equalizer } = rig;
  if (equalizer.kind !== 'parametric') return meanings.map((each) => ({ ...each, bells: null }));
  const mirrored = equalizer.bells === undefined ? MIRRORED : equalizer.bells === 'mirrored' ? PROFILE_IS_RIGHT : 1 - PROFILE_IS_RIGHT;
  return meanings.flatMap(({ meaning, prior }) => [
    { meaning, bells: 'mirrored', prior: prior * mirrored },
    { meaning, bells: 'resonance', prior: prior * (1 - mirrored) },
  ]);
}

/** The profile with another click and, where told, another meaning of its width number. */
export function variantOf(rig: RigProfile, meaning: 'octaves' | 'q' | null, clickDb: Decibels, bells: Bells | null = null): RigProfile {
  const { equalizer } = rig;
  if (equalizer.kind === 'none') return rig;
  if (equalizer.kind !== 'parametric') return { ...rig, equalizer: { ...equalizer, clickDb } };
  return { ...rig, equalizer: { ...equalizer, clickDb, ...(meaning && { width: { meaning } }), ...(bells && { bells }) } };
}

/**
 * Negative log likelihood of overs freed of their cards, up to a constant. How much this voice scatters is found out with it
 * (inverse gamma prior; A. Gelman et al. 2013, chapter 3): where overs agree well under one reading, what another leaves counts for more.
 */
function misfit(rows: readonly (readonly (Decibels | null)[])[], scatterDb = SCATTER_DB): number {
  if (rows.length < 2) return 0;
  const shared = VOICE_THIRD_OCTAVES.map((_, b) => b).filter((b) => rows.every((row) => row[b] !== null));
  if (shared.length < LEAST_BANDS) return 0;
  const levels = rows.map((row) => {
    const own = shared.map((b) => row[b] ?? 0);
    const gain = mean(own);
    return own.map((db) => db - gain);
  });
  const voice = shared.map((_, k) => mean(levels.map((row) => row[k])));
  const squares = sum(levels.map((row) => sum(row.map((db, k) => (db - voice[k]) ** 2))));
  const degrees = INDEPENDENT * (rows.length - 1) * (shared.length - 1);
  return 0.5 * (SCATTER_DEGREES + degrees) * Math.log1p((INDEPENDENT * squares) / (SCATTER_DEGREES * scatterDb ** 2));
}

/**
 * Third octaves of an over without its card; null outside the passband and where it is mostly noise. Every moment at one
 * level, where that was measured: a compressor changes it little.
 * @param isFlat its equalizer was not in the path
 */
function freedLevels(rig: RigProfile, { over, voice }: Omit<ComparableOver, 'isDead'>, isFlat: boolean): (Decibels | null)[] {
  const card = cardOf(over);
  const [low, high] = effective(rig, card).passbandHz;
  const response = isFlat ? null : responseOf(rig, card);
  const { speechPowers, pausePowers, evenPowers = speechPowers } = voice.detail;
  return VOICE_THIRD_OCTAVES.map(({ centreHz }, b) => {
    if (centreHz < EDGE * low || centreHz > high / EDGE) return null;
    const parts = Array.from({ length: PARTS }, (_, i) => b * PARTS + i);
    const heard = sum(parts.map((i) => speechPowers[i] ?? 0));
    const noise = sum(parts.map((i) => pausePowers?.[i] ?? 0));
    if (heard <= 0 || heard < LEAST_OVER_NOISE * noise) return null;
    return powerToDb(Math.max(1e-30, sum(parts.map((i) => (evenPowers[i] ?? 0) * dbToPower(-(response?.[i] ?? 0))))));
  });
}

/** A sweep in third octaves without its card: the radio's own filters, the same for every card with its passband. */
function freedCurve(rig: RigProfile, { card, curve }: Sweep): (Decibels | null)[] {
  const [low, high] = effective(rig, card).passbandHz;
  const response = responseOf(rig, card);
  return VOICE_THIRD_OCTAVES.map(({ centreHz }, b) => {
    const isKnown = centreHz >= EDGE * low && centreHz <= high / EDGE && centreHz >= curve[0][0] && centreHz <= curve[curve.length - 1][0];
    return isKnown ? curveAt(curve, centreHz) - mean(response.slice(b * PARTS, (b + 1) * PARTS)) : null;
  });
}

function percentilesOf(all: readonly EqualizerHypothesis[]): [Decibels, Decibels, Decibels] {
  const sorted = [...all].sort((a, b) => a.clickDb - b.clickDb);
  const at = (share: number): Decibels => {
    let held = 0;
    const found = sorted.find(({ weight }) => {
      held += weight;
      return held >= share;
    });
    return (found ?? sorted[sorted.length - 1]).clickDb;
  };
  return [at(0.1), at(0.5), at(0.9)];
}
