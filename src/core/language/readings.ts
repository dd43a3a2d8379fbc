/** Meter readings as they are called out: "alc .6", "comp meter 10 dB", "getting 40 watts", "swr 1.3 to 1". */
import { fullScale, ofScale, type RigProfile, readingText } from '../rig/index.ts';
import { type Decibels, decibels, type Fraction, fixed } from '../units/index.ts';
import type { Clause } from './clause.ts';
import { NotUnderstood } from './dialNamed.ts';
import type { Meter, ValueWord } from './phrases.ts';
import type { NumberToken } from './tokens.ts';

/** What the meters showed; only what was read. */
export interface MeterReading {
  /** On speech peaks, as a fraction of the scale. */
  readonly alc?: Fraction;
  readonly compressionDb?: Decibels;
  readonly powerW?: number;
  readonly swr?: number;
  /** Next channel re the voice, by an analyser. */
  readonly adjacentDb?: Decibels;
}

/** Which meter a clause reads; null when it turns something. */
export function meterOf({ targets, numbers, isReading, isTo, sign }: Clause, hasPowerDial: boolean): Meter | null {
  const [target] = targets;
  if (targets.length > 1) return null;
  if (target?.kind === 'meter') return target.meter;
  const [number] = numbers;
  const isWatts = number?.unit === 'w' && number.sign === 0 && sign === 0;
  if (!target) return isWatts && (isReading || !hasPowerDial || !isTo) ? 'power' : null;
  if (target.kind !== 'place') return null;
  if (target.place === 'compressor' && isReading && number) return 'compression';
  if (target.place === 'power' && number && (isReading || ((isWatts || isBare(number)) && !hasPowerDial && sign === 0))) return 'power';
  return null;
}

const isBare = ({ unit, sign, isPart }: NumberToken): boolean => unit === null && sign === 0 && !isPart;

/** @throws NotUnderstood when it is no reading of that meter */
export function readingOf(meter: Meter, clause: Clause, rig: RigProfile): { reading: MeterReading; explained: string } {
  const [number] = clause.numbers;
  if (meter === 'alc') return alc(number, clause, rig);
  if (meter === 'swr' && !number && clause.value === 'flat') return { reading: { swr: 1 }, explained: 'SWR 1.0.' };
  if (!number) throw new NotUnderstood(`What does the meter show? For example: ${EXAMPLES[meter]}.`);
  const { value } = number;
  if (meter === 'swr') {
    const [, second] = clause.numbers;
    const swr = second && value === 1 ? second.value : value;
    if (swr < 1 || swr > 100) throw new NotUnderstood(`An SWR of ${swr} does not exist; it is 1 or more.`);
    return { reading: { swr }, explained: `SWR ${fixed(swr, 1)}.` };
  }
  if (meter === 'power') {
    if (value <= 0 || value > 5000) throw new NotUnderstood(`${value} W is no power of a voice transmitter.`);
    return { reading: { powerW: value }, explained: `Power ${value} W on the meter.` };
  }
  if (meter === 'next channel') {
    if (number.sign > 0 || clause.sign > 0 || value > 120)
      throw new NotUnderstood('The next channel lies below the voice, by 120 dB at most: next channel -42.');
    return { reading: { adjacentDb: -value }, explained: `Next channel ${decibels(-value, 0)} re the voice.` };
  }
  if (value > 60) throw new NotUnderstood(`${value} dB is beyond a compression meter.`);
  return { reading: { compressionDb: value }, explained: `Compression ${value} dB on the meter.` };
}

const EXAMPLES: Record<Meter, string> = {
  alc: 'alc .6',
  compression: 'comp meter 10 dB',
  power: 'power meter 40 watts',
  swr: 'swr 1.3',
  'next channel': 'next channel -42',
};

function alc(
  number: NumberToken | undefined,
  { value: word, sign, option, numbers }: Clause,
  rig: RigProfile,
): { reading: MeterReading; explained: string } {
  const full = fullScale(rig.alc);
  const said = word && needleAt(word, rig.alc.zone);
  if ((!number && said === null) || option !== null || sign !== 0 || (number && number.sign !== 0))
    throw new NotUnderstood('An ALC reading is a number: alc .6, alc 60 %. To change it turn the mic gain.');
  // Between two marks: peaks are what is read.
  const reading = said ?? Math.max(0, ...numbers.map((each) => fractionOf(each, full)));
  if (reading > 1) throw new NotUnderstood(`${number?.text} is beyond the end of the scale (${full}).`);
  return {
    reading: { alc: reading },
    explained: `ALC ${readingText(rig.alc, reading)} ${ofScale(rig.alc)} on speech peaks: ${verdict(reading, rig)}.`,
  };
}

/** Just off its rest: a twentieth of the scale, as near as a meter is read. */
const JUST_MOVES: Fraction = 0.05;

function needleAt(word: ValueWord, [low, high]: readonly [Fraction, Fraction]): Fraction | null {
  switch (word) {
    case 'max':
    case 'pinned':
      return 1;
    case 'min':
    case 'off':
    case 'flat':
    case 'at rest':
      return 0;
    case 'just moves':
      return JUST_MOVES;
    case 'in the zone':
      return (low + high) / 2;
    case 'end of the zone':
      return high;
    default:
      return null;
  }
}

/** A part of the scale, or a mark of it: ".6" is a fraction even on a scale marked to ten. */
function fractionOf({ value, unit, isPart, text }: NumberToken, full: number): Fraction {
  if (unit === '%') return value / 100;
  if (isPart || (value < 1 && full > 1 && /point|\./.test(text))) return value;
  // On an unmarked scale 60 can only be percent, and 6 tenths are said as "6".
  if (full === 1 && value > 1) return value <= 10 ? value / 10 : value / 100;
  return value / full;
}

function verdict(reading: Fraction, rig: RigProfile): string {
  const [low, high] = rig.alc.zone;
  return reading > high ? 'above the zone, mic gain down' : reading < low ? 'below the zone, mic gain up' : 'in the zone';
}
