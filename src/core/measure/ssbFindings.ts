/** Judgements on an SSB measurement. The limits stand in limits.ts. */
import { amplitudeToDb, dbToPower, powerToDb } from '../signal/conversions.ts';
import { bandPower, type Spectrum } from '../signal/spectrum.ts';
import type { Decibels } from '../signal/units.ts';
import { type IqLevels, recordingFindings } from './iq.ts';
import { db, hertz, judge, worstFirst } from './judging.ts';
import type { OwnLimits } from './limits.ts';
import type { Finding, SsbMeasurement } from './measurement.ts';
import { noiseDensity } from './radioSpectrum.ts';

/** How power falls off beside the voice. */
export interface Skirts {
  /** Just below the voice's lowest part, over the carrier and beyond, re wanted power; null in noise. */
  readonly lowerDb: Decibels | null;
  /** Just above its highest part; null in noise. */
  readonly upperDb: Decibels | null;
  /** The carrier's 60 Hz over as much a little further on the other side. */
  readonly carrierOverDb: Decibels;
}

export interface RadioEvidence {
  readonly skirts: Skirts | null;
  readonly levels: IqLevels;
  readonly active: Spectrum | null;
  readonly pauses: Spectrum | null;
  readonly noise: number | null;
}

type Numbers = Omit<SsbMeasurement, 'findings'>;
type Judge = (numbers: Numbers, evidence: RadioEvidence, own?: OwnLimits) => Finding | null;

/** A number that noise does not explain; bounded ones accuse nobody. */
const clean = (numbers: Numbers, key: string, value: Decibels | null): Decibels | null => (key in numbers.notes ? null : value);
const wantedSide = (numbers: Numbers) => clean(numbers, 'adjacentDb.wantedSide', numbers.adjacentDb.wantedSide);
/**
 * Odd-order products of an amplifier fall on both sides of the voice alike; talk, strongest at its low end, favours
 * the lower side by some dB. A sideband filter lets power through on one side only.
 */
const MOST_LOPSIDED_DB: Decibels = 15;
/** A steady carrier stands out of what surrounds it. */
const LEAST_CARRIER_OVER_DB: Decibels = 8;

const isLopsided = ({ lowerDb, upperDb }: Skirts): boolean =>
  lowerDb !== null && (upperDb === null || lowerDb - upperDb > MOST_LOPSIDED_DB);

/** Mean power of the two sides, where both stand clear of the noise and are alike. */
function distortionDb(skirts: Skirts | null): Decibels | null {
  if (!skirts || isLopsided(skirts) || skirts.upperDb === null) return null;
  return powerToDb((dbToPower(skirts.upperDb) + dbToPower(skirts.lowerDb ?? -200)) / 2);
}

const overdrive: Judge = (_, { skirts }, own) =>
  judge('overdrive', distortionDb(skirts), own, {
    code: 'overdrive',
    text: 'The transmitter is driven too hard: its distortion stands on both sides of the voice. Less mic gain, compression or drive, until it falls away.',
    evidence: `just above the voice ${db(skirts?.upperDb ?? 0)}, just below it ${db(skirts?.lowerDb ?? 0)} re the voice, mean ${db(distortionDb(skirts) ?? 0)}`,
  });

const splatter: Judge = (numbers, _, own) => {
  const { wantedSide: here, otherSide: there } = numbers.adjacentDb;
  const values = [wantedSide(numbers), clean(numbers, 'adjacentDb.otherSide', there)].filter((value) => value !== null);
  return judge('splatter', values.length === 0 ? null : Math.max(...values), own, {
    code: 'splatter',
    text: 'The neighbours hear you: there is power beyond your own channel.',
    evidence: `wanted side ${here === null ? 'unknown' : db(here)}, other side ${there === null ? 'unknown' : db(there)}, 3.3–6.3 kHz`,
  });
};

const wide: Judge = (numbers, _, own) =>
  judge('ssbWidth', numbers.notes.occupiedBandwidthHz ? null : numbers.occupiedBandwidthHz, own, {
    code: 'wide',
    text: 'The signal is wide.',
    evidence: `99 % of the power in ${hertz(numbers.occupiedBandwidthHz ?? 0)}`,
  });

const wrongSideband: Judge = (numbers, _, own) => {
  const { oppositeSidebandDb: opposite, sideband } = numbers;
  return judge('wrongSideband', opposite, own, {
    code: 'wrong-sideband',
    text: `Most of the power is on the other side of the carrier: is this ${sideband === 'usb' ? 'LSB' : 'USB'}, or are I and Q swapped, or the carrier set wrong?`,
    evidence: `the other side stands ${db(opposite ?? 0)} over the wanted one`,
  });
};

const oppositeSideband: Judge = (numbers, evidence, own) => {
  // What the amplifier makes there is not the sideband filter's fault.
  if (wrongSideband(numbers, evidence, own) || (evidence.skirts && !isLopsided(evidence.skirts))) return null;
  const value = clean(numbers, 'oppositeSidebandDb', numbers.oppositeSidebandDb);
  return judge('oppositeSideband', value, own, {
    code: 'opposite-sideband',
    text: 'The opposite sideband is poorly suppressed: filter, balance or carrier offset. It wastes power and disturbs others.',
    evidence: `${db(value ?? 0)} re the wanted sideband, 100–3000 Hz on the other side`,
  });
};

const carrierLeak: Judge = (numbers, evidence, own) => {
  const isSteady = evidence.skirts === null || evidence.skirts.carrierOverDb >= LEAST_CARRIER_OVER_DB;
  if (wrongSideband(numbers, evidence, own) || overdrive(numbers, evidence, own) || !isSteady) return null;
  const value = clean(numbers, 'carrierDb', numbers.carrierDb);
  const isCentre = Math.abs(numbers.carrierHz) < 30;
  return judge('carrierLeak', value, own, {
    code: 'carrier-leak',
    text: isCentre
      ? 'There is a steady carrier under the voice. It sits at the centre of the file, where receivers have an offset of their own: tune a few kHz aside before blaming the transmitter.'
      : 'There is a steady carrier under the voice: the carrier balance needs a look.',
    evidence: `${db(value ?? 0)} re the voice, within 30 Hz of the carrier`,
    most: isCentre ? 'watch' : 'fault',
  });
};

const narrow: Judge = (numbers, _, own) => {
  const [low, high] = numbers.passbandHz ?? [null, null];
  return judge('narrow', low === null || high === null || numbers.notes.passbandHz ? null : high - low, own, {
    code: 'narrow',
    text: 'The audio is very narrow.',
    evidence: `${hertz(low ?? 0)} to ${hertz(high ?? 0)}`,
  });
};

/** Keys in words. */
const BOUNDED_NAMES: Record<string, string> = {
  wanted: 'the voice itself',
  passbandHz: 'the edges of the audio',
  oppositeSidebandDb: 'the opposite sideband',
  carrierDb: 'the carrier',
  'adjacentDb.wantedSide': 'the next channel',
  'adjacentDb.otherSide': 'the next channel on the other side',
  extentHz: 'the extent at −40 dB',
};

const noiseLimited: Judge = ({ notes }) => {
  const bounded = Object.entries(notes).filter(([, note]) => note.startsWith('Noise'));
  if (bounded.length === 0) return null;
  return {
    code: 'noise-limited',
    severity: bounded.some(([key]) => key === 'wanted') ? 'watch' : 'ok',
    text: 'The recording’s noise hides part of what was asked: those numbers can only be better than they look.',
    evidence: `noise explains more than half of: ${bounded.map(([key]) => BOUNDED_NAMES[key] ?? key).join(', ')}`,
  };
};

const level: Judge = (_, { levels }, own) => {
  const loudest = levels.frames.powers.reduce((most, power) => Math.max(most, power), 0);
  return judge('iqLevel', loudest > 0 ? powerToDb(loudest) : null, own, {
    code: 'low-level',
    text: 'The recording is very quiet: raise the receiver’s gain so that the signal fills more of its range.',
    evidence: `the loudest 50 ms reach ${db(powerToDb(loudest))} re full scale, peaks ${db(amplitudeToDb(levels.moments.peak))}`,
  });
};

/** Noise beside the signal that rises with the talk: an overloaded receiver looks like this, and so does a bad transmitter. */
const raisedFloor: Judge = (numbers, { active, pauses }, own) => {
  if (!active || !pauses) return null;
  const talk = noiseDensity(active, numbers.carrierHz, [-6500, 6500]);
  const quiet = noiseDensity(pauses, numbers.carrierHz, [-6500, 6500]);
  if (talk === null || quiet === null || quiet <= 0 || talk <= 0) return null;
  const rise = powerToDb(talk / quiet);
  return judge('raisedFloor', rise, own, {
    code: 'receiver-overload',
    text: 'The noise far from the signal rises with the talk: suspect the receiver first. Put 10 dB in front of it; if the rest falls by more than the signal does, it was the receiver.',
    evidence: `more than 10 kHz away the floor rises by ${db(rise)} between pauses and talk`,
  });
};

/** The same pattern mirrored about the file's centre. Only when the carrier stands clear of the centre can it be told. */
const image: Judge = (numbers, { active }, own) => {
  const { carrierHz } = numbers;
  if (!active || Math.abs(carrierHz) < 7000) return null;
  const side = (centre: number) => bandPower(active, centre - 3000, centre + 3000);
  const [here, mirrored] = [side(carrierHz), side(-carrierHz)];
  const noise = noiseDensity(active, carrierHz, [-6500, 6500]) ?? 0;
  if (here <= 0 || mirrored < 4 * noise * 6000) return null;
  const value = powerToDb(mirrored / here);
  return judge('image', value, own, {
    code: 'iq-imbalance',
    text: 'A mirror image of the signal stands on the other side of the file’s centre: the receiver’s I and Q are out of balance, or something else transmits there.',
    evidence: `the image is at ${db(value)} re the signal`,
    most: 'watch',
  });
};

const JUDGES: readonly Judge[] = [
  raisedFloor,
  wrongSideband,
  overdrive,
  splatter,
  oppositeSideband,
  carrierLeak,
  wide,
  narrow,
  image,
  level,
  noiseLimited,
];

/** Tells the worst first; an empty list means that nothing stood out. */
export function ssbFindings(numbers: Numbers, evidence: RadioEvidence, own?: OwnLimits): Finding[] {
  if (!evidence.active) return [];
  return worstFirst([...recordingFindings(evidence.levels, own), ...JUDGES.map((each) => each(numbers, evidence, own))]);
}
