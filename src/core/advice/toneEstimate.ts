/**
 * What an operator's voice is like, from one over or several: long-term levels scatter from one text to the next by 2 dB
 * and more, and a fit to one over's bumps is no fit to the voice. So the voice is estimated, not copied: what all overs
 * have in common, smooth over neighbouring bands as voices and microphones are, with what is left in doubt.
 * Method: Gaussian process regression over log frequency (C. Rasmussen and C. Williams 2006, chapter 2); the spreads are
 * those of recorded voices (docs/fit.md).
 */
import { type CurvePoint, curveAt, LONG_TERM_SPEECH } from '../curve/index.ts';
import { mean, solveSymmetric, sum, TWELFTH_CENTRES, VOICE_THIRD_OCTAVES, weightedMean } from '../dsp/index.ts';
import { type Decibels, dbToPower, type Hertz, type Power, powerToDb, type Seconds } from '../units/index.ts';
import { bandEffects, type HeardSpeech, PARTS, type ToneBand, type ToneBasis, toneBasis } from './toneError.ts';

/** A voice as an over has it, and the equalizer it went through (at VOICE_TWELFTH_OCTAVES). */
export interface HeardOver {
  readonly voice: HeardSpeech;
  readonly responseDb: readonly Decibels[];
  /** How much it counts beside the others; 1 when left out. */
  readonly weight?: number;
}

/** How far voices and microphones stand from ordinary speech, and over how many octaves they stay alike. */
const SMOOTH_DB: Decibels = 4;
const SMOOTH_OCTAVES = 0.4;
/** What is a voice's own in single bands. */
const OWN_DB: Decibels = 2;
/** Scatter of a third octave from over to over, for USUAL_TALK_S of talk. */
const SCATTER_DB: Decibels = 1.75;
/** Some texts are far from the voice's usual: a single over's variance counts so much more. Among several that shows by itself. */
const ODD_TEXTS = 1.4;
/**
 * Talk as it is over talk with every moment at one level, in VOICE_THIRD_OCTAVES: mean of nine recorded voices. The
 * second scatters a fifth less from text to text.
 */
const OVER_EVEN_DB: readonly Decibels[] = [-4.2, -3.6, -1.7, -0.2, 0.4, -0.1, 0.5, 0.6, 0.5, 0.5, 0.4, 0, -0.5, -0.9, -1.1, -1.5, -2.9];
const USUAL_TALK_S: Seconds = 6;
const LEAST_TALK_S: Seconds = 2;
/** The usual scatter counts as so many bands of one's own. */
const USUAL_COUNT = 12;
/** The overall gain is free. */
const GAIN_DB: Decibels = 100;

/**
 * The voice of several overs, as it would have been heard with the first one's equalizer, each over counting by its weight.
 * Bands that one of them does not reach are left to the others.
 */
export function pooledVoice(overs: readonly HeardOver[], [low, high]: readonly [Hertz, Hertz]): HeardSpeech {
  const isInside = (i: number) => TWELFTH_CENTRES[i] >= low && TWELFTH_CENTRES[i] <= high;
  const [{ responseDb: frame }] = overs;
  const moved = overs.map(({ voice, responseDb }) => {
    const gains = frame.map((db, i) => dbToPower(db - responseDb[i]));
    const total = sum(voice.speechPowers.map((power, i) => (isInside(i) ? (power ?? 0) * gains[i] : 0)));
    const scale = (powers: readonly (Power | null)[] | null) =>
      powers?.map((power, i) => (power === null ? null : (power * gains[i]) / total)) ?? null;
    const evenTotal = sum((voice.evenPowers ?? []).map((power, i) => (isInside(i) ? (power ?? 0) * gains[i] : 0)));
    const even = voice.evenPowers?.map((power, i) => (power === null ? null : (power * gains[i]) / evenTotal)) ?? null;
    return { speech: scale(voice.speechPowers) ?? [], pause: scale(voice.pausePowers), even };
  });
  const weights = overs.map(({ weight = 1 }) => weight);
  const average = (rows: readonly (readonly (Power | null)[] | null)[], i: number): Power | null => {
    const known = rows.flatMap((row, k) =>
      row?.[i] === null || row?.[i] === undefined ? [] : [{ power: row[i] as Power, weight: weights[k] }],
    );
    return known.length === 0
      ? null
      : weightedMean(
          known.map(({ power }) => power),
          known.map(({ weight }) => weight),
        );
  };
  const pauses = moved.map(({ pause }) => pause);
  const evens = moved.map(({ even }) => even);
  return {
    ...(evens.every((even) => even !== null) && { evenPowers: frame.map((_, i) => average(evens, i)) }),
    speechPowers: frame.map((_, i) =>
      average(
        moved.map(({ speech }) => speech),
        i,
      ),
    ),
    pausePowers: pauses.every((pause) => pause === null) ? null : frame.map((_, i) => average(pauses, i)),
  };
}

/** The basis of a fit, with the voice estimated from all overs; levels are in the first one's frame. */
export function estimateTone(
  overs: readonly HeardOver[],
  target: readonly CurvePoint[],
  passbandHz: readonly [Hertz, Hertz],
): { basis: ToneBasis; voice: HeardSpeech } {
  const voice = overs.length === 1 ? overs[0].voice : pooledVoice(overs, passbandHz);
  const raw = toneBasis(voice, target, passbandHz);
  if (raw.bands.length < 3) return { basis: raw, voice };
  const scatter = scatterOf(overs, raw);
  const added = bandEffects(raw, overs[0].responseDb);
  const usual = raw.bands.map(({ centreHz }) => curveAt(LONG_TERM_SPEECH, centreHz));
  const count = countOf(overs);
  const heard = raw.bands.map((band, b) => steadyLevel(band, voice, count) - added[b] - usual[b]);
  const { levels, variances } = smoothed(
    raw.bands.map(({ centreHz }) => Math.log2(centreHz)),
    heard,
    ((1 + ODD_TEXTS / count) * scatter) / count,
  );
  const doubts = variances.map((variance) => variance + scatter);
  const bands = raw.bands.map((band, b) => ({
    ...band,
    heardDb: levels[b] + added[b] + usual[b],
    doubtDb2: doubts[b],
    estimateDb2: variances[b],
  }));
  return { basis: { ...raw, bands }, voice };
}

/** How many overs of weight 1 they are worth. */
const countOf = (overs: readonly HeardOver[]): number => {
  const weights = overs.map(({ weight = 1 }) => weight);
  return sum(weights) ** 2 / sum(weights.map((weight) => weight ** 2));
};

/**
 * Level of a band as the voice usually has it. Talk whose moments all count alike scatters less, but what it lacks against
 * talk as it is differs from voice to voice by about as much as one over scatters: the more overs, the less it counts.
 */
function steadyLevel({ parts, centreHz, heardDb }: ToneBand, { evenPowers }: HeardSpeech, overs: number): Decibels {
  if (!evenPowers) return heardDb;
  const third = VOICE_THIRD_OCTAVES.findIndex((band) => band.centreHz === centreHz);
  const power = sum(parts.map((i) => evenPowers[i] ?? 0));
  if (power <= 0) return heardDb;
  const even = powerToDb((power * PARTS) / parts.length) + OVER_EVEN_DB[third];
  return heardDb + (even - heardDb) / (1 + overs);
}

/** Variance of a band from over to over: the usual one, corrected by what halves of the overs and the overs among themselves show. */
function scatterOf(overs: readonly HeardOver[], basis: ToneBasis): number {
  let count = USUAL_COUNT;
  const talk = mean(overs.map(({ voice }) => Math.max(LEAST_TALK_S, voice.talkSeconds ?? USUAL_TALK_S)));
  let total = (USUAL_COUNT * SCATTER_DB ** 2 * USUAL_TALK_S) / talk;
  const add = (differences: readonly Decibels[], share: number) => {
    const gain = mean(differences);
    total += sum(differences.map((db) => (db - gain) ** 2)) * share;
    count += differences.length - 1;
  };
  const levelsOf = ({ responseDb }: HeardOver, powers: readonly (Power | null)[]) => {
    const effects = bandEffects(basis, responseDb);
    return basis.bands.map(({ parts }, b) => powerToDb(Math.max(1e-30, sum(parts.map((i) => powers[i] ?? 0)))) - effects[b]);
  };
  for (const over of overs) {
    if (!over.voice.halfPowers) continue;
    const [a, b] = over.voice.halfPowers.map((powers) => levelsOf(over, powers));
    // Half the talk scatters twice as much, and their difference twice that again.
    add(
      a.map((db, k) => db - b[k]),
      1 / 4,
    );
  }
  if (overs.length > 1) {
    const all = overs.map((over) => levelsOf(over, over.voice.speechPowers));
    const middle = all[0].map((_, b) => mean(all.map((levels) => levels[b])));
    for (const levels of all)
      add(
        levels.map((db, b) => db - middle[b]),
        overs.length / (overs.length - 1),
      );
  }
  return total / count;
}

/** Estimates and variances of levels at places in octaves, from values with a variance of their own; the mean of all is free. */
function smoothed(octaves: readonly number[], values: readonly Decibels[], variance: number): { levels: Decibels[]; variances: number[] } {
  const alike = octaves.map((a, i) =>
    octaves.map((b, k) => GAIN_DB ** 2 + SMOOTH_DB ** 2 * Math.exp(-0.5 * ((a - b) / SMOOTH_OCTAVES) ** 2) + (i === k ? OWN_DB ** 2 : 0)),
  );
  const seen = alike.map((row, i) => row.map((value, k) => value + (i === k ? variance : 0)));
  const [weights, ...columns] = solveSymmetric(seen, [values, ...alike]);
  const levels = alike.map((row) => sum(row.map((value, k) => value * weights[k])));
  const left = alike.map((row, i) => row.map((value, j) => value - sum(row.map((_, k) => alike[i][k] * columns[j][k]))));
  // What all bands have in common is gain, and no doubt of the tone.
  const n = octaves.length;
  const all = sum(left.map((row) => sum(row))) / n ** 2;
  return { levels, variances: left.map((row, i) => Math.max(0, row[i] - (2 * sum(row)) / n + all)) };
}
