/**
 * What the readings so far say of a radio's mic gain and ALC, and which gain to try next. The reading is taken as
 * clamp(a + b * share of the dial): nearly linear inside the scale, a bound at its ends. Priors of a and b are common
 * practice (docs/methods); the belief is a grid, so that bounds and contradictions need no special case.
 */
import { type Dial, type DialValue, positionsOf, shareOf } from '../rig/index.ts';
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

export interface GainAdvice {
  readonly from: DialValue;
  readonly to: DialValue;
  /** What to read then: 10th, 50th and 90th percentile. */
  readonly expected: readonly [low: Fraction, likely: Fraction, high: Fraction];
  /** Probability that it is inside the zone. */
  readonly chance: number;
  /** The same for the gain as it stands. */
  readonly now: { readonly expected: readonly [Fraction, Fraction, Fraction]; readonly chance: number };
}

/** An eye on a moving needle, and a voice that differs by 1.2 dB from over to over, together (of the scale). */
const READING_SD = 0.12;
/** A reading that fits nothing must not rule out everything else. */
const WILD = 0.0005;
/** Decibels over the meter's whole scale: 7 to 14 on radios of many makes (common practice). */
const METER_DB = 10.5;
/** Decibels over the whole gain dial: 28 to 48 on a fine one, 12 to 20 on one of ten steps or less. */
const DIAL_DB = { fine: 38, coarse: 16 } as const;
const COARSE_POSITIONS = 12;
/** Usual decibels over a whole gain dial of so many positions (common practice). */
export const gainSpanDb = (positions: number): Decibels => (positions <= COARSE_POSITIONS ? DIAL_DB.coarse : DIAL_DB.fine);
/** A dial that is right with this probability is left alone; else another position must be so much better. */
const GOOD_ENOUGH = 0.5;
/** The same once it was read twice here: what stays at an edge of the zone is moved into it. */
const GOOD_AFTER_TWO = 0.85;
const STAY = 0.04;
/** What a reading above the zone costs beside one inside it. */
const TOO_HIGH = 0.06;
/** The gain is turned down to no less than this part of where it stands, at once. */
const LEAST_PART = 0.3;

interface Belief {
  /** Where the reading would be half the scale, as a share of the dial. */
  readonly half: Float64Array;
  /** Scales a whole turn of the dial. */
  readonly slope: Float64Array;
  readonly weight: Float64Array;
}

/** Before any reading: half the scale anywhere on the dial and a little beyond, the slope by the kind of dial. */
function prior(positions: number): Belief {
  const middle = Math.log(gainSpanDb(positions) / METER_DB);
  const [halves, slopes] = [161, 25];
  const n = halves * slopes;
  const belief = { half: new Float64Array(n), slope: new Float64Array(n), weight: new Float64Array(n) };
  for (let i = 0; i < halves; i++) {
    for (let j = 0; j < slopes; j++) {
      const k = i * slopes + j;
      const z = -2.5 + (5 * j) / (slopes - 1);
      belief.half[k] = -0.3 + (1.6 * i) / (halves - 1);
      belief.slope[k] = Math.exp(middle + 0.35 * z);
      belief.weight[k] = Math.exp(-0.5 * z * z) * Math.exp(-0.5 * ((belief.half[k] - 0.45) / 0.35) ** 2);
    }
  }
  return belief;
}

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
function likelihoodOf(alc: Fraction, level: number): number {
  if (alc <= AT_END) return below((AT_END - level) / READING_SD);
  if (alc >= 1 - AT_END) return below((level - 1 + AT_END) / READING_SD);
  // Per twentieth of the scale, as an eye reads it.
  return (0.05 / (READING_SD * Math.sqrt(2 * Math.PI))) * Math.exp(-0.5 * ((alc - level) / READING_SD) ** 2);
}

/**
 * Readings of cards that differ from the present one alike: what that difference does is a guess, but one guess for all of
 * them.
 */
function learn(
  { half, slope, weight }: Belief,
  readings: readonly { share: Fraction; alc: Fraction }[],
  shift: number,
  shiftSd: number,
): void {
  const shifts = shiftSd > 0 ? SPREAD.map(([z, part]): readonly [number, number] => [shift + z * shiftSd, part]) : [[shift, 1] as const];
  const total = shifts.reduce((sum, [, part]) => sum + part, 0);
  for (let k = 0; k < weight.length; k++) {
    let likelihood = 0;
    for (const [by, part] of shifts) {
      let together = part;
      for (const { share, alc } of readings) together *= likelihoodOf(alc, 0.5 + slope[k] * (share - half[k]) - by) + WILD;
      likelihood += together;
    }
    weight[k] *= likelihood / total;
  }
}

/**
 * The gain to try next.
 * @param readings oldest first; none is good too: then the prior speaks
 * @param now      where the gain stands
 * @param zone     of the school, as fractions of the scale
 * @param most     share of the dial above which the next channel fills
 */
export function nextGain(
  dial: Pick<Dial, 'scale'>,
  readings: readonly GainReading[],
  now: DialValue,
  zone: readonly [Fraction, Fraction],
  most: Fraction = 1,
): GainAdvice {
  const positions = positionsOf(dial.scale);
  const belief = prior(positions.length);
  const keyOf = ({ shiftDb = 0, shiftDoubtDb = 0 }: GainReading) => `${shiftDb} ${shiftDoubtDb}`;
  for (const key of new Set(readings.map(keyOf))) {
    const group = readings.filter((reading) => keyOf(reading) === key);
    const [{ shiftDb = 0, shiftDoubtDb = 0 }] = group;
    learn(
      belief,
      group.map(({ gain, alc }) => ({ share: shareOf(dial, gain), alc })),
      shiftDb / METER_DB,
      shiftDoubtDb / METER_DB,
    );
  }
  const here = shareOf(dial, now);
  const worthOf = (value: DialValue): number => {
    const share = shareOf(dial, value);
    const { inside, over } = odds(belief, share, zone);
    // Of two that are as likely the nearer one, and rather too low than too high.
    return inside - TOO_HIGH * over - 0.02 * Math.abs(share - here);
  };
  const isTooMuch = here > most;
  let [to, worth] = [now, isTooMuch ? Number.NEGATIVE_INFINITY : worthOf(now) + STAY];
  const looks = readings.filter(({ gain, shiftDb = 0, shiftDoubtDb = 0 }) => gain === now && shiftDb === 0 && shiftDoubtDb === 0).length;
  const isGood = !isTooMuch && odds(belief, here, zone).inside >= (looks < 2 ? GOOD_ENOUGH : GOOD_AFTER_TWO);
  // One look at the meter sends nobody to the end of the dial, where nothing is heard at all.
  const near = positions.filter((value) => {
    const share = shareOf(dial, value);
    return share >= LEAST_PART * here && share > 0 && share <= most;
  });
  for (const value of isGood ? [] : near) {
    const other = worthOf(value);
    if (other > worth) [to, worth] = [value, other];
  }
  const foreseen = (value: DialValue) => {
    const share = shareOf(dial, value);
    return { expected: percentiles(belief, share), chance: odds(belief, share, zone).inside };
  };
  return { from: now, to, ...foreseen(to), now: foreseen(now) };
}

/** Probabilities that the reading is inside the zone and above it. */
function odds(
  { half, slope, weight }: Belief,
  share: Fraction,
  [low, high]: readonly [Fraction, Fraction],
): { inside: number; over: number } {
  let [total, inside, over] = [0, 0, 0];
  for (let k = 0; k < weight.length; k++) {
    const reading = 0.5 + slope[k] * (share - half[k]);
    total += weight[k];
    if (reading > high) over += weight[k];
    else if (reading >= low) inside += weight[k];
  }
  return { inside: inside / total, over: over / total };
}

/** 10th, 50th and 90th percentile of the reading at a share of the dial. */
function percentiles({ half, slope, weight }: Belief, share: Fraction): [Fraction, Fraction, Fraction] {
  const bins = new Float64Array(101);
  let total = 0;
  for (let k = 0; k < weight.length; k++) {
    const reading = 0.5 + slope[k] * (share - half[k]);
    for (const [z, part] of SPREAD) {
      bins[Math.round(100 * Math.min(1, Math.max(0, reading + z * READING_SD)))] += part * weight[k];
      total += part * weight[k];
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
