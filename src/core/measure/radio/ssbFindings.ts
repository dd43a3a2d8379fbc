/** Judgements on an SSB measurement. The limits stand in limits.ts. */
import { bandPower, type Spectrum } from '../../dsp/index.ts';
import { type Finding, judge, type OwnLimits, receiverFirst } from '../../findings/index.ts';
import { amplitudeToDb, type Decibels, decibels, fixed, type Hertz, hertz, type Power, powerToDb } from '../../units/index.ts';
import type { SsbMeasurement } from '../measurement.ts';
import type { Growth } from './growth.ts';
import { type IqLevels, recordingFindings } from './iq.ts';
import { farDensity, noiseDensity } from './radioSpectrum.ts';

/** What a judgement may look at beside the numbers. */
export interface RadioEvidence {
  /** Tells how a band, in the audio's frequencies, grows with the voice; null where there is too little speech. */
  readonly growth: ((low: Hertz, high: Hertz) => Growth | null) | null;
  readonly levels: IqLevels;
  readonly active: Spectrum | null;
  readonly pauses: Spectrum | null;
  readonly noise: number | null;
  readonly rounding: Rounding;
}

/** What the rounding of samples to whole codes adds to talk, and hardly to silence. What is weaker may be nothing else. */
export interface Rounding {
  readonly power: Power;
  readonly density: number;
  /** Re the wanted power. */
  readonly reWantedDb: Decibels;
}

type Numbers = Omit<SsbMeasurement, 'findings'>;
type Judge = (numbers: Numbers, evidence: RadioEvidence, own?: OwnLimits) => Finding | null;

/** A number that noise does not explain; bounded ones accuse nobody. */
const clean = (numbers: Numbers, key: string, value: Decibels | null): Decibels | null => (key in numbers.notes ? null : value);
const wantedSide = (numbers: Numbers) => clean(numbers, 'adjacentDb.wantedSide', numbers.adjacentDb.wantedSide);
/** Bands where only distortion, leakage and noise can be: the other sideband, and both neighbours. */
const MIRROR: readonly [Hertz, Hertz] = [-2800, -250];
const WANTED_SIDE: readonly [Hertz, Hertz] = [3300, 6300];
const OTHER_SIDE: readonly [Hertz, Hertz] = [-6300, -3300];
const AT_CARRIER: readonly [Hertz, Hertz] = [-40, 40];

/** dB for each dB of the voice: what keeps its distance to the voice grows by 1, what an amplifier makes faster. */
const DISTORTION_SLOPE = 1.35;
const SPLATTER_SLOPE = 1.2;
/** A carrier that is always there does not grow at all. */
const STEADY_SLOPE = 0.15;
/** Beside the mirrored voice an amplifier makes power at the carrier and in the next channel; leakage does not. */
const LEAST_AT_CARRIER_DB: Decibels = -42;
const LEAST_BESIDE_DB: Decibels = -50;
/** Leakage grows alike between any moments. */
const RESTLESS_SPREAD = 0.5;
/** Weaker than this, growth is told from too little. */
const LEAST_TOLD_DB: Decibels = -45;

const steepest = (growth: Growth | null | undefined): number => Math.max(-Infinity, ...(growth?.slopes ?? []));
/** Noise that hides quieter moments bounds each slope otherwise: no sign of an amplifier that levels itself. */
const spread = ({ told }: Growth): number => (told.length === 0 ? 0 : Math.max(...told) - Math.min(...told));
const isSteady = (growth: Growth | null | undefined): boolean =>
  !!growth && growth.slopes.length > 0 && growth.slopes.every((slope) => Math.abs(slope) <= STEADY_SLOPE);

/** Power that the amplifier makes beside the voice: the strongest band of it; null where there is none, or it is leakage. */
function distortion({ growth, rounding }: RadioEvidence): Growth | null {
  if (!growth) return null;
  const [mirror, here, there, carrier] = [MIRROR, WANTED_SIDE, OTHER_SIDE, AT_CARRIER].map((band) => growth(...band));
  const isAtCarrier = carrier !== null && carrier.levelDb >= LEAST_AT_CARRIER_DB && !isSteady(carrier);
  const isBeside = [here, there].some((each) => each !== null && each.levelDb >= LEAST_BESIDE_DB);
  // Driven far into saturation it levels itself: then its share of the voice changes from moment to moment, up and down.
  // Talk of one level (heavy compression, noise as a test) shows no growth at all, but leakage reaches no neighbour.
  const isLevel = isAtCarrier && isBeside && mirror !== null && mirror.slopes.length === 0;
  const isRestless = isAtCarrier && isBeside && mirror !== null && spread(mirror) >= RESTLESS_SPREAD;
  const isGrowing = [mirror, here, there, isAtCarrier ? carrier : null].some(
    (each) => each !== null && each.levelDb >= LEAST_TOLD_DB && steepest(each) >= DISTORTION_SLOPE,
  );
  if (!(isGrowing && (isAtCarrier || isBeside)) && !isRestless && !isLevel) return null;
  const most = [mirror, here, there].reduce((high, each) => (each && (!high || each.levelDb > high.levelDb) ? each : high), null);
  return most && most.levelDb > rounding.reWantedDb ? most : null;
}

const growthText = (growth: Growth | null): string =>
  growth === null || growth.slopes.length === 0 ? 'growth unknown' : `growing up to ${fixed(steepest(growth))} dB for each dB of the voice`;

const overdrive: Judge = (_, evidence, own) => {
  const found = distortion(evidence);
  return judge('overdrive', found?.levelDb ?? null, own, {
    code: 'overdrive',
    text: 'The transmitter is driven too hard: beside the voice there is power that grows faster than the voice. Less mic gain, compression or drive, until it falls away.',
    evidence: `${decibels(found?.levelDb ?? 0)} re the voice in loud moments, ${growthText(found)}`,
  });
};

const splatter: Judge = (numbers, { growth }, own) => {
  const { wantedSide: here, otherSide: there } = numbers.adjacentDb;
  const sides = [
    { level: wantedSide(numbers), band: WANTED_SIDE },
    { level: clean(numbers, 'adjacentDb.otherSide', there), band: OTHER_SIDE },
  ].flatMap(({ level, band }) => (level !== null && steepest(growth?.(...band)) >= SPLATTER_SLOPE ? [level] : []));
  return judge('splatter', sides.length === 0 ? null : Math.max(...sides), own, {
    code: 'splatter',
    text: 'Splatter in the adjacent channel: there is power beyond your own channel, and it grows faster than the voice.',
    evidence: `wanted side ${here === null ? 'unknown' : decibels(here)}, other side ${there === null ? 'unknown' : decibels(there)}, 3.3–6.3 kHz`,
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
    evidence: `the other side stands ${decibels(opposite ?? 0)} over the wanted one`,
  });
};

const oppositeSideband: Judge = (numbers, evidence, own) => {
  // What the amplifier makes there is not the sideband filter's fault.
  if (wrongSideband(numbers, evidence, own) || distortion(evidence)) return null;
  const value = clean(numbers, 'oppositeSidebandDb', numbers.oppositeSidebandDb);
  return judge('oppositeSideband', value, own, {
    code: 'opposite-sideband',
    text: 'The opposite sideband is poorly suppressed: filter, balance or carrier offset. It wastes power and disturbs others.',
    evidence: `${decibels(value ?? 0)} re the wanted sideband, 100–3000 Hz on the other side, keeping its distance to the voice`,
  });
};

const carrierLeak: Judge = (numbers, evidence, own) => {
  if (!isSteady(evidence.growth?.(...AT_CARRIER)) || wrongSideband(numbers, evidence, own)) return null;
  const value = clean(numbers, 'carrierDb', numbers.carrierPepDb);
  const isCentre = Math.abs(numbers.carrierHz) < 30;
  return judge('carrierLeak', value, own, {
    code: 'carrier-leak',
    text: isCentre
      ? 'There is a steady carrier under the voice. It sits at the centre of the file, where receivers have an offset of their own: tune a few kHz aside before blaming the transmitter.'
      : 'There is a steady carrier under the voice: the carrier balance needs a look.',
    evidence: `${decibels(value ?? 0)} re PEP, within 30 Hz of the carrier`,
    most: isCentre ? 'watch' : 'fault',
  });
};

/** By what the loudest moments reach: where 99 % of the power lies says more of the voice than of the filter. */
const narrow: Judge = ({ extentHz, notes }, _, own) => {
  const width = extentHz === null || notes.extentHz ? null : extentHz[1] - extentHz[0];
  return judge('narrow', width, own, {
    code: 'narrow',
    text: 'The audio is very narrow.',
    evidence: `${hertz(width ?? 0)} at −40 dB`,
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
    severity: 'ok',
    text: 'The recording’s noise hides part of what was asked: those numbers can only be better than they look.',
    evidence: `noise explains more than half of: ${bounded.map(([key]) => BOUNDED_NAMES[key] ?? key).join(', ')}`,
  };
};

const level: Judge = (_, { levels }, own) => {
  const loudest = levels.frames.powers.reduce((most, power) => Math.max(most, power), 0);
  return judge('iqLevel', loudest > 0 ? powerToDb(loudest) : null, own, {
    code: 'low-level',
    text: 'The recording is very quiet: raise the receiver’s gain so that the signal fills more of its range.',
    evidence: `the loudest 50 ms reach ${decibels(powerToDb(loudest))} re full scale, peaks ${decibels(amplitudeToDb(levels.moments.peak))}`,
  });
};

const ROUNDING_MARGIN = 2;
/** Noise beside the signal that rises with the talk: an overloaded receiver looks like this, and so does a bad transmitter. */
const raisedFloor: Judge = (numbers, { active, pauses, rounding }, own) => {
  if (!active || !pauses) return null;
  const [talk, quiet] = [farDensity(active, numbers.carrierHz), farDensity(pauses, numbers.carrierHz)];
  if (talk === null || quiet === null || quiet <= 0 || talk <= 0) return null;
  // In a file of few bits silence is rounded away, and talk is not: that is no floor that rises. With talk of few codes it is coloured.
  const rise = powerToDb(talk / Math.max(quiet, ROUNDING_MARGIN * rounding.density));
  return judge('raisedFloor', rise, own, {
    code: 'receiver-overload',
    text: 'The noise far from the signal rises with the talk: suspect the receiver first. Put 10 dB in front of it; if the rest falls by more than the signal does, it was the receiver.',
    evidence: `far from the signal the floor rises by ${decibels(rise)} between pauses and talk`,
  });
};

/** The same pattern mirrored about the file's centre. Only when the carrier stands clear of the centre can it be told. */
const image: Judge = (numbers, { active, rounding }, own) => {
  const { carrierHz } = numbers;
  if (!active || Math.abs(carrierHz) < 7000) return null;
  const side = (centre: number) => bandPower(active, centre - 3000, centre + 3000);
  const [here, mirrored] = [side(carrierHz), side(-carrierHz)];
  const noise = noiseDensity(active, carrierHz, [carrierHz - 6500, carrierHz + 6500]) ?? 0;
  if (here <= 0 || mirrored < 4 * noise * 6000 || mirrored < rounding.power) return null;
  const value = powerToDb(mirrored / here);
  return judge('image', value, own, {
    code: 'iq-imbalance',
    text: 'A mirror image of the signal stands on the other side of the file’s centre: the receiver’s I and Q are out of balance, or something else transmits there.',
    evidence: `the image is at ${decibels(value)} re the signal`,
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
  return receiverFirst([...recordingFindings(evidence.levels, own), ...JUDGES.map((each) => each(numbers, evidence, own))]);
}
