/**
 * How far a voice is from a target: RMS in dB over the third octaves inside the passband, overall gain free.
 * Everything works on the twelfth-octave powers under them, so that filters act where the voice has its power.
 */
import { type CurvePoint, curveAt } from '../curve/index.ts';
import { mean, sum, VOICE_THIRD_OCTAVES, VOICE_TWELFTH_OCTAVES, weightedMean } from '../dsp/index.ts';
import { type Decibels, dbToPower, type Hertz, type Power, powerToDb, type Seconds } from '../units/index.ts';

/** Twelfths to a third octave. */
export const PARTS = 4;
/** A band whose talk is less than this above the pauses tells more of the noise than of the voice. */
const LEAST_OVER_NOISE = 2;
/** Of its four parts a band must have two inside the passband. */
const LEAST_PARTS = 2;

/** A third octave that can be judged. */
export interface ToneBand {
  readonly centreHz: Hertz;
  /** Which twelfths (indices into VOICE_TWELFTH_OCTAVES) lie inside the passband. */
  readonly parts: readonly number[];
  /** Share of the band's power in each of `parts`; sums to 1. */
  readonly shares: readonly number[];
  /** Level as heard, as if the whole band were as strong as its parts inside. */
  readonly heardDb: Decibels;
  readonly targetDb: Decibels;
  /** Share of the band inside the passband: its weight. */
  readonly weight: number;
  /** Variance in dB^2 of what another over will show there; left out where the voice is known exactly. */
  readonly doubtDb2?: number;
  /** The part of it that is doubt of the voice itself, not scatter from over to over. */
  readonly estimateDb2?: number;
}

/** The third octaves of a voice that count, with their levels, targets and weights. */
export interface ToneBasis {
  readonly bands: readonly ToneBand[];
  /** Bands inside the passband that are mostly noise and are left out. */
  readonly noisyHz: readonly Hertz[];
}

/** What was heard, in power per twelfth octave; null where the file does not reach. */
export interface HeardSpeech {
  readonly speechPowers: readonly (Power | null)[];
  readonly pausePowers: readonly (Power | null)[] | null;
  /** Talk with every moment brought to one level: it scatters less from text to text. */
  readonly evenPowers?: readonly (Power | null)[];
  /** Talk of every other second, and of the seconds between them. */
  readonly halfPowers?: readonly [readonly (Power | null)[], readonly (Power | null)[]];
  readonly talkSeconds?: Seconds;
}

/** Lays a heard voice and a target over the bands inside a passband. */
export function toneBasis(voice: HeardSpeech, target: readonly CurvePoint[], [low, high]: readonly [Hertz, Hertz]): ToneBasis {
  const bands: ToneBand[] = [];
  const noisyHz: Hertz[] = [];
  VOICE_THIRD_OCTAVES.forEach(({ centreHz }, b) => {
    const all = Array.from({ length: PARTS }, (_, i) => b * PARTS + i);
    const parts = all.filter((i) => {
      const part = VOICE_TWELFTH_OCTAVES[i];
      return part.centreHz >= low && part.centreHz <= high && (voice.speechPowers[i] ?? 0) > 0;
    });
    if (parts.length < LEAST_PARTS) return;
    const total = sum(parts.map((i) => voice.speechPowers[i] ?? 0));
    const noise = sum(parts.map((i) => voice.pausePowers?.[i] ?? 0));
    if (noise * LEAST_OVER_NOISE > total) {
      noisyHz.push(centreHz);
      return;
    }
    bands.push({
      centreHz,
      parts,
      shares: parts.map((i) => (voice.speechPowers[i] ?? 0) / total),
      heardDb: powerToDb((total * PARTS) / parts.length),
      targetDb: curveAt(target, centreHz),
      weight: parts.length / PARTS,
    });
  });
  return { bands, noisyHz };
}

/** A response given at every twelfth octave, as what it does to each band. */
export const bandEffects = (basis: ToneBasis, responseDb: ArrayLike<Decibels>): Decibels[] =>
  basis.bands.map(({ parts, shares }) => {
    // Called for every position of every dial: no arrays in between.
    let effect = 0;
    for (let k = 0; k < parts.length; k++) effect += shares[k] * responseDb[parts[k]];
    return effect;
  });

/** Residual of each band after a response, the overall gain taken out. */
export function residuals(basis: ToneBasis, responseDb: ArrayLike<Decibels>): Decibels[] {
  const weights = basis.bands.map((band) => band.weight);
  const effects = bandEffects(basis, responseDb);
  const raw = basis.bands.map((band, b) => band.heardDb + effects[b] - band.targetDb);
  const gain = weightedMean(raw, weights);
  return raw.map((value) => value - gain);
}

/** RMS of the residuals in dB, as the next over is expected to show it: what is in doubt counts too. */
export function toneErrorDb(basis: ToneBasis, responseDb: ArrayLike<Decibels>): Decibels {
  const weights = basis.bands.map((band) => band.weight);
  const squares = residuals(basis, responseDb).map((value, b) => value ** 2 + (basis.bands[b].doubtDb2 ?? 0));
  return Math.sqrt(weightedMean(squares, weights));
}

/** RMS of the residuals of the voice as such, in dB: what it comes to over many overs. Doubt of the voice counts by its part. */
export function usualErrorDb(basis: ToneBasis, responseDb: ArrayLike<Decibels>, doubtShare = 0): Decibels {
  const weights = basis.bands.map((band) => band.weight);
  const squares = residuals(basis, responseDb).map((value, b) => value ** 2 + doubtShare * (basis.bands[b].estimateDb2 ?? 0));
  return Math.sqrt(weightedMean(squares, weights));
}

/** One standard deviation of what the next over will show for that: neighbouring bands scatter together, by pairs about. */
export function toneDoubtDb(basis: ToneBasis, responseDb: ArrayLike<Decibels>): Decibels {
  const weights = basis.bands.map((band) => band.weight);
  const total = sum(weights);
  const variance = sum(
    residuals(basis, responseDb).map((value, b) => {
      const doubt = basis.bands[b].doubtDb2 ?? 0;
      return 2 * (weights[b] / total) ** 2 * (2 * doubt ** 2 + 4 * value ** 2 * doubt);
    }),
  );
  const error = toneErrorDb(basis, responseDb);
  return error > 0 ? Math.sqrt(variance) / (2 * error) : 0;
}

/** Level of talk inside the passband after a response, re before: what the ALC will see of it. */
export const levelChangeDb = (
  { speechPowers }: HeardSpeech,
  responseDb: ArrayLike<Decibels>,
  passbandHz: readonly [Hertz, Hertz],
): Decibels => changeOf(speechPowers, responseDb, passbandHz);

/** What equalizers do to what is loud and what is faint is seen by how much less talk of one level would change; it counts once more. */
const LOUDER = 1;
/** Whatever an equalizer bends, some moments are bent up by it: so much of how uneven it is. */
const UNEVEN = 0.11;

/**
 * What another response does to the loud moments of a voice, which a meter follows. 144 random equalizers on 12 texts of recorded
 * voices: met within 0.6 dB RMS; by the change of power alone within 0.8 dB (tests/reference/equalizerEffects.test.ts).
 * @param heardDb what the voice has been through
 */
export function peakChangeDb(
  voice: HeardSpeech,
  heardDb: readonly Decibels[],
  responseDb: readonly Decibels[],
  passbandHz: readonly [Hertz, Hertz],
): Decibels {
  const moved = responseDb.map((db, i) => db - heardDb[i]);
  const change = levelChangeDb(voice, moved, passbandHz);
  const even = voice.evenPowers ? changeOf(voice.evenPowers, moved, passbandHz) : change;
  return change + LOUDER * (change - even) + UNEVEN * (unevenDb(responseDb, passbandHz) - unevenDb(heardDb, passbandHz));
}

/** RMS about its mean. */
function unevenDb(responseDb: readonly Decibels[], [low, high]: readonly [Hertz, Hertz]): Decibels {
  const inside = responseDb.filter((_, i) => VOICE_TWELFTH_OCTAVES[i].centreHz >= low && VOICE_TWELFTH_OCTAVES[i].centreHz <= high);
  if (inside.length === 0) return 0;
  const middle = mean(inside);
  return Math.sqrt(mean(inside.map((db) => (db - middle) ** 2)));
}

function changeOf(powers: HeardSpeech['speechPowers'], responseDb: ArrayLike<Decibels>, [low, high]: readonly [Hertz, Hertz]): Decibels {
  let before = 0;
  let after = 0;
  VOICE_TWELFTH_OCTAVES.forEach(({ centreHz }, i) => {
    const power = powers[i] ?? 0;
    if (centreHz < low || centreHz > high) return;
    before += power;
    after += power * dbToPower(responseDb[i]);
  });
  return before > 0 ? powerToDb(after / before) : 0;
}
