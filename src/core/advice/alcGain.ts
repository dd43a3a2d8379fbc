/**
 * What the readings so far say of a radio's mic gain and ALC, and which gain to try next. The level is taken as so many
 * decibels over the dial, the reading as that level over the meter's span: nearly linear inside the scale, a bound at its
 * ends. Priors are common practice (docs/methods); the belief is a grid, so that bounds and contradictions need no special
 * case.
 */
import { type Dial, type DialValue, isTurnedOff, positionsOf, shareOf } from '../rig/index.ts';
import type { Decibels, Fraction } from '../units/index.ts';

/** A reading with where the gain stood. */
export interface GainReading {
  readonly gain: DialValue;
  /** On speech peaks, as a fraction of the scale. */
  readonly alc: Fraction;
  /** How much more level the card sends into the ALC now than it did then, the gain aside. */
  readonly shiftDb?: Decibels;
  /** Spread of that shift, where it is a guess. */
  readonly shiftDoubtDb?: Decibels;
}

/**
 * What readings have shown of a gain dial and its meter; each 10th, 50th and 90th percentile. They tell how far a step goes on
 * the meter; how many decibels that is, only what is usual of radios tells.
 */
export interface GainLaw {
  /** Decibels for one step of the dial. */
  readonly stepDb: readonly [Decibels, Decibels, Decibels];
  /** Decibels over the meter's whole scale. */
  readonly scaleDb: readonly [Decibels, Decibels, Decibels];
  /** What a step moves the reading by, inside the scale. */
  readonly perStep: readonly [Fraction, Fraction, Fraction];
}

export interface GainAdvice {
  readonly from: DialValue;
  readonly to: DialValue;
  /** What to read then: 10th, 50th and 90th percentile. */
  readonly expected: readonly [low: Fraction, likely: Fraction, high: Fraction];
  /** Probability that it is inside the zone. */
  readonly chance: number;
  /** The same for the gain as it stands. */
  readonly now: { readonly expected: readonly [Fraction, Fraction, Fraction]; readonly chance: number };
  readonly law: GainLaw;
}

/** A voice differs by so much from over to over, and how likely each is beforehand (common practice): readings tell which. */
const VOICES: readonly (readonly [spreadDb: Decibels, chance: number])[] = [
  [0.45, 0.25],
  [0.9, 0.35],
  [1.4, 0.4],
];
/** An eye that reads to a twentieth, of a moving needle. */
const EYE: Fraction = 0.025;
/** A reading that fits nothing must not rule out everything else. */
const WILD = 0.0005;
/** Cells with less than this of the likeliest one's weight make no difference; and none either while more readings come. */
const NEGLIGIBLE = 1e-5;
const HOPELESS = 1e-8;
/** Decibels over the meter's whole scale: 7 to 14 on radios of many makes (common practice). */
export const METER_DB: Decibels = 10;
/** How far the spans of meters lie apart, as a factor: standard deviation of its logarithm. */
const METERS_APART = 0.22;
/** Decibels over the whole gain dial, and how far they lie apart: 28 to 48 on a fine one; on one of ten steps or less 12 to 20, or as much. */
const FINE = { db: 38, apart: 0.22 } as const;
const COARSE = { db: 19, apart: 0.4 } as const;
/** A compressor behind the gain lets less of a turn through: by its ratio, or all of it. */
const COMPRESSED = { share: 0.75, apart: 0.45 } as const;
const COARSE_POSITIONS = 12;
const spanOf = (positions: number) => (positions <= COARSE_POSITIONS ? COARSE : FINE);
/** Usual decibels over a whole gain dial of so many positions (common practice). */
export const gainSpanDb = (positions: number): Decibels => spanOf(positions).db;
/** A position that is right with this probability after one look is left alone. */
const GOOD_ENOUGH = 0.4;
/** Another position must be so much better to be worth a turn; from where the zone is less likely than that any better one is. */
const STAY = 0.04;
const HOPELESS_HERE = 0.05;
const OUT_OF_REACH = 0.01;
/** A meter at its end shows no more: a zone that goes up to it ends so far beyond. */
const BEYOND_END: Fraction = 0.15;
/** What a reading above the zone costs beside one inside it: at the end of the scale the sound tells less as well. */
const TOO_HIGH = 0.15;
/** The gain is turned down to no less than this part of where it stands, at once. */
const LEAST_PART = 0.3;

interface Belief {
  /** Where the reading would be half the scale, as a share of the dial. */
  readonly half: Float64Array;
  /** Decibels over the whole dial. */
  readonly dialDb: Float64Array;
  /** Decibels over the whole scale. */
  readonly meterDb: Float64Array;
  /** Standard deviation of the voice's level from over to over. */
  readonly voiceDb: Float64Array;
  readonly weight: Float64Array;
}

const HALVES = 129;
const SPANS = [-2, -1, 0, 1, 2];

/** Before any reading: half the scale anywhere on the dial and a little beyond, the spans by the kind of dial and what is behind it. */
function prior(positions: number, isCompressed: boolean): Belief {
  const usual = spanOf(positions);
  const dial = isCompressed ? { db: COMPRESSED.share * usual.db, apart: Math.max(COMPRESSED.apart, usual.apart) } : usual;
  const n = HALVES * SPANS.length ** 2 * VOICES.length;
  const belief: Belief = {
    half: new Float64Array(n),
    dialDb: new Float64Array(n),
    meterDb: new Float64Array(n),
    voiceDb: new Float64Array(n),
    weight: new Float64Array(n),
  };
  let k = 0;
  for (let i = 0; i < HALVES; i++) {
    const half = -0.3 + (1.6 * i) / (HALVES - 1);
    for (const a of SPANS) {
      for (const b of SPANS) {
        const chance = Math.exp(-0.5 * (a * a + b * b)) * Math.exp(-0.5 * ((half - 0.45) / 0.35) ** 2);
        for (const [voiceDb, part] of VOICES) {
          belief.half[k] = half;
          belief.dialDb[k] = dial.db * Math.exp(dial.apart * a);
          belief.meterDb[k] = METER_DB * Math.exp(METERS_APART * b);
          belief.voiceDb[k] = voiceDb;
          belief.weight[k++] = part * chance;
        }
      }
    }
  }
  return belief;
}

const levelAt = ({ half, dialDb, meterDb }: Belief, k: number, share: Fraction): number =>
  0.5 + (dialDb[k] * (share - half[k])) / meterDb[k];

/** Scatter of readings, of the scale. */
const scatterAt = ({ voiceDb, meterDb }: Belief, k: number): Fraction => Math.hypot(voiceDb[k] / meterDb[k], EYE);

/** A normal spread in seven steps: where, in standard deviations, and how much of it. */
const SPREAD: readonly (readonly [z: number, share: number])[] = [-1.8, -1.2, -0.6, 0, 0.6, 1.2, 1.8].map((z) => [
  z,
  Math.exp(-0.5 * z * z),
]);

/** How close to an end of the scale a reading is one of it. */
const AT_END = 0.025;
/** The normal distribution's integral, to a hundredth (logistic approximation). */
const below = (z: number): number => 1 / (1 + Math.exp(-1.702 * z));

/**
 * Likelihood of a reading where the level is at so much of the scale. Voices scatter before the meter cuts off: a reading
 * inside the scale speaks against a level far beyond it, and one at an end is a bound.
 */
function likelihoodOf(alc: Fraction, level: number, scatter: Fraction): number {
  if (alc <= AT_END) return below((AT_END - level) / scatter);
  if (alc >= 1 - AT_END) return below((level - 1 + AT_END) / scatter);
  // Per twentieth of the scale, as an eye reads it.
  return (0.05 / (scatter * Math.sqrt(2 * Math.PI))) * Math.exp(-0.5 * ((alc - level) / scatter) ** 2);
}

/**
 * Readings of cards that differ from the present one alike: what that difference does is a guess, but one guess for all of
 * them.
 */
function learn(belief: Belief, readings: readonly { share: Fraction; alc: Fraction }[], shiftDb: Decibels, doubtDb: Decibels): void {
  const shifts =
    doubtDb > 0 ? SPREAD.map(([z, part]): readonly [number, number] => [shiftDb + z * doubtDb, part]) : [[shiftDb, 1] as const];
  const total = shifts.reduce((sum, [, part]) => sum + part, 0);
  for (let k = 0; k < belief.weight.length; k++) {
    const meterDb = belief.meterDb[k];
    const scatter = scatterAt(belief, k);
    let likelihood = 0;
    for (const [by, part] of shifts) {
      let together = part;
      for (const { share, alc } of readings) together *= likelihoodOf(alc, levelAt(belief, k, share) - by / meterDb, scatter) + WILD;
      likelihood += together;
    }
    belief.weight[k] *= likelihood / total;
  }
}

/** What is left of a belief once the cells that readings have ruled out are dropped. */
function likely(belief: Belief, share: number): Belief {
  const { half, dialDb, meterDb, voiceDb, weight } = belief;
  const least = share * weight.reduce((most, each) => Math.max(most, each), 0);
  const cells: number[] = [];
  for (let k = 0; k < weight.length; k++) if (weight[k] > least) cells.push(k);
  const kept = (values: Float64Array) => {
    const left = new Float64Array(cells.length);
    for (let n = 0; n < cells.length; n++) left[n] = values[cells[n]];
    return left;
  };
  return { half: kept(half), dialDb: kept(dialDb), meterDb: kept(meterDb), voiceDb: kept(voiceDb), weight: kept(weight) };
}

/**
 * The gain to try next.
 * @param readings oldest first; none is good too: then the prior speaks
 * @param now      where the gain stands
 * @param zone     of the school, as fractions of the scale
 * @param most     share of the dial above which the next channel fills
 * @param isCompressed a compressor is on
 */
export function nextGain(
  dial: Pick<Dial, 'scale'>,
  readings: readonly GainReading[],
  now: DialValue,
  zone: readonly [Fraction, Fraction],
  most: Fraction = 1,
  isCompressed = false,
): GainAdvice {
  const positions = positionsOf(dial.scale);
  let belief = prior(positions.length, isCompressed);
  const keyOf = ({ shiftDb = 0, shiftDoubtDb = 0 }: GainReading) => `${shiftDb} ${shiftDoubtDb}`;
  for (const key of new Set(readings.map(keyOf))) {
    const group = readings.filter((reading) => keyOf(reading) === key);
    const [{ shiftDb = 0, shiftDoubtDb = 0 }] = group;
    learn(
      belief,
      group.map(({ gain, alc }) => ({ share: shareOf(dial, gain), alc })),
      shiftDb,
      shiftDoubtDb,
    );
    belief = likely(belief, HOPELESS);
  }
  belief = likely(belief, NEGLIGIBLE);
  const here = shareOf(dial, now);
  const worthOf = (value: DialValue): number => {
    const share = shareOf(dial, value);
    const { inside, over } = odds(belief, share, zone);
    // Of two that are as likely the nearer one, and rather too low than too high.
    return inside - TOO_HIGH * over - 0.02 * Math.abs(share - here);
  };
  const isTooMuch = here > most;
  const isHopeless = odds(belief, here, zone).inside < HOPELESS_HERE;
  let [to, worth] = [now, isTooMuch ? Number.NEGATIVE_INFINITY : worthOf(now) + (isHopeless ? 0 : STAY)];
  // What was looked at once here and is likelier right than not is looked at again before it is turned.
  const looks = readings.filter(({ gain, shiftDb = 0, shiftDoubtDb = 0 }) => gain === now && shiftDb === 0 && shiftDoubtDb === 0).length;
  const isGood = !isTooMuch && looks === 1 && odds(belief, here, zone).inside >= GOOD_ENOUGH;
  // One look at the meter sends nobody to the end of the dial, nor anybody to a position where nothing is heard at all.
  const next = positions[positions.indexOf(now) - 1];
  const near = positions.filter((value) => {
    const share = shareOf(dial, value);
    return (share >= LEAST_PART * here || value === next) && !isTurnedOff(dial, value) && share <= most;
  });
  for (const value of isGood ? [] : near) {
    const other = worthOf(value);
    if (other > worth) [to, worth] = [value, other];
  }
  // Where the zone is out of reach everywhere, as near to it as one turn goes.
  if (!isGood && odds(belief, shareOf(dial, to), zone).inside < OUT_OF_REACH) {
    const away = (value: DialValue) => distance(belief, shareOf(dial, value), zone);
    to = near.reduce((a, b) => (away(b) < away(a) - 1e-9 ? b : a), to);
  }
  const foreseen = (value: DialValue) => {
    const share = shareOf(dial, value);
    // No eye tells the zone's edges better than that.
    const [low, high] = zone;
    return { expected: percentiles(belief, share), chance: odds(belief, share, [low - EYE, high + EYE]).inside };
  };
  return { from: now, to, ...foreseen(to), now: foreseen(now), law: lawOf(belief, Math.max(1, positions.length - 1)) };
}

/** Spread of a normal distribution from its middle to its 90th percentile. */
export const TENTH = 1.28;

/** Beforehand all of it is doubtful by factors, and so it is told. */
function lawOf({ dialDb, meterDb, weight }: Belief, steps: number): GainLaw {
  const spread = (of: (k: number) => number): [number, number, number] => {
    let [total, first, second] = [0, 0, 0];
    for (let k = 0; k < weight.length; k++) {
      const log = Math.log(of(k));
      total += weight[k];
      first += weight[k] * log;
      second += weight[k] * log * log;
    }
    const middle = first / total;
    const apart = TENTH * Math.sqrt(Math.max(0, second / total - middle * middle));
    return [Math.exp(middle - apart), Math.exp(middle), Math.exp(middle + apart)];
  };
  return {
    stepDb: spread((k) => dialDb[k] / steps),
    scaleDb: spread((k) => meterDb[k]),
    perStep: spread((k) => dialDb[k] / meterDb[k] / steps),
  };
}

/** Probabilities that the reading is inside the zone and above it. */
function odds(belief: Belief, share: Fraction, [low, top]: readonly [Fraction, Fraction]): { inside: number; over: number } {
  const high = top >= 1 - AT_END ? top + BEYOND_END : top;
  let [total, inside, over] = [0, 0, 0];
  for (let k = 0; k < belief.weight.length; k++) {
    const reading = levelAt(belief, k, share);
    const weight = belief.weight[k];
    total += weight;
    if (reading > high) over += weight;
    else if (reading >= low) inside += weight;
  }
  return { inside: inside / total, over: over / total };
}

/** How far from the zone's middle the level is likely to be, of the scale. */
function distance(belief: Belief, share: Fraction, [low, high]: readonly [Fraction, Fraction]): number {
  let [total, away] = [0, 0];
  for (let k = 0; k < belief.weight.length; k++) {
    total += belief.weight[k];
    away += belief.weight[k] * Math.abs(levelAt(belief, k, share) - (low + high) / 2);
  }
  return away / total;
}

/** 10th, 50th and 90th percentile of the reading at a share of the dial. */
function percentiles(belief: Belief, share: Fraction): [Fraction, Fraction, Fraction] {
  const bins = new Float64Array(101);
  let total = 0;
  for (let k = 0; k < belief.weight.length; k++) {
    const reading = levelAt(belief, k, share);
    const scatter = scatterAt(belief, k);
    for (const [z, part] of SPREAD) {
      const weight = part * belief.weight[k];
      bins[Math.round(100 * Math.min(1, Math.max(0, reading + z * scatter)))] += weight;
      total += weight;
    }
  }
  const at = (part: number): Fraction => {
    let sum = 0;
    const found = bins.findIndex((each) => {
      sum += each;
      return sum >= part * total;
    });
    return (found < 0 ? 100 : found) / 100;
  };
  return [at(0.1), at(0.5), at(0.9)];
}
