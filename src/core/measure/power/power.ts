/**
 * Power on the bench: from volts across a load, from dBm behind a pad, from a scope trace; pads and what they must
 * take; harmonics against a limit. Sources: Ohm's law and the definition of dBm (1 mW = 0 dBm); PEP is the mean power
 * over one RF cycle at the crest of the envelope (ITU Radio Regulations, 1.157).
 */
import type { ScopeTrace } from '../../files/index.ts';
import { type Decibels, dbToPower, type Hertz, powerToDb } from '../../units/index.ts';
import type { PowerDetail, PowerMeasurement } from '../measurement.ts';

/** Volts, as a scope shows them. */
export type Volts = number;
/** Watts. */
export type Watts = number;
/** Ohms. */
export type Ohms = number;
/** dB re 1 mW. */
export type Dbm = number;

/** How the volts were read. */
export type VoltsKind = 'peak-to-peak' | 'peak' | 'rms';

/** PEP from the voltage at the crest of the envelope: Vpp^2 / 8R, Vp^2 / 2R, Vrms^2 / R. */
export function pepOfVolts(volts: Volts, kind: VoltsKind, load: Ohms): Watts {
  const rms = kind === 'rms' ? volts : kind === 'peak' ? volts / Math.SQRT2 : volts / 2 / Math.SQRT2;
  return rms ** 2 / load;
}

/** Power in dBm, re 1 mW. */
export const wattsToDbm = (watts: Watts): Dbm => powerToDb(watts) + 30;
/** The other way. */
export const dbmToWatts = (dbm: Dbm): Watts => dbToPower(dbm - 30);

/** Power in front of a pad, from what is read behind it. */
export const powerBeforePad = (readDbm: Dbm, padDb: Decibels): Watts => dbmToWatts(readDbm + padDb);

/** A pad and what its first resistors must bear. */
export interface Pad {
  /** At least this much, never under 0. */
  readonly leastDb: Decibels;
  /** Power its resistors turn into heat while the transmitter is keyed. */
  readonly heatW: Watts;
  /** What arrives behind it. */
  readonly outDbm: Dbm;
}

/** The pad for a power and an input that stands `mostDbm`. @param marginDb kept below it */
export function padFor(power: Watts, mostDbm: Dbm, marginDb: Decibels): Pad {
  const leastDb = Math.max(0, Math.ceil(wattsToDbm(power) - (mostDbm - marginDb)));
  return { leastDb, heatW: power * (1 - dbToPower(-leastDb)), outDbm: wattsToDbm(power) - leastDb };
}

/** Powers of a scope trace across a load. */
export interface TracePower {
  readonly pepW: Watts;
  readonly meanW: Watts;
  readonly pepToMeanDb: Decibels;
  /** Peak voltage of the envelope's crest. */
  readonly crestV: Volts;
  /** RF as it swings, or an envelope that a detector made. */
  readonly kind: 'rf' | 'envelope';
  /** [seconds, volts] of the envelope for drawing. */
  readonly envelope: readonly (readonly [number, Volts])[];
}

/** A trace that never goes below this share of its top is an envelope. */
const LEAST_SWING = 0.3;
const DRAWN_POINTS = 400;
/** A crest is more than a spike: this many samples, and this share of them, come within a tenth of it. */
const CREST_SAMPLES = 3;
const CREST_SHARE = 2e-4;
const CREST_NEARNESS = 0.9;

/** The largest magnitude that others come near to; the largest of all in a trace of a few points. */
function crestOf(magnitudes: ArrayLike<number>): Volts {
  const sorted = Float64Array.from(magnitudes).sort().reverse();
  const others = Math.max(CREST_SAMPLES, Math.ceil(CREST_SHARE * sorted.length));
  const found = sorted.find((value, k) => (sorted[k + others] ?? value) >= CREST_NEARNESS * value);
  return found ?? 0;
}

/**
 * Power from a scope trace across a load. A constant part of an RF trace is the scope's own offset and is taken off.
 * Times may be uneven; each point counts for the time around it.
 */
export function powerOfTrace({ seconds, volts }: ScopeTrace, load: Ohms): TracePower {
  const weights = seconds.map((_, n) => (seconds[Math.min(n + 1, seconds.length - 1)] - seconds[Math.max(0, n - 1)]) / 2);
  const total = weights.reduce((a, b) => a + b, 0);
  const meanOf = (value: (volt: Volts) => number) => volts.reduce((sum, volt, n) => sum + weights[n] * value(volt), 0) / total;
  const top = volts.reduce((a, b) => Math.max(a, b), -Infinity);
  const bottom = volts.reduce((a, b) => Math.min(a, b), Infinity);
  const kind = bottom < -LEAST_SWING * top ? 'rf' : 'envelope';
  const offset = kind === 'rf' ? meanOf((volt) => volt) : 0;
  const magnitudes = volts.map((volt) => Math.abs(volt - offset));
  const meanSquare = meanOf((volt) => (volt - offset) ** 2);
  const group = Math.max(1, Math.ceil(magnitudes.length / DRAWN_POINTS));
  const envelope: [number, Volts][] = [];
  for (let from = 0; from < magnitudes.length; from += group) {
    envelope.push([seconds[from], magnitudes.slice(from, from + group).reduce((a, b) => Math.max(a, b), 0)]);
  }
  const crestV = crestOf(magnitudes);
  const pepW = crestV ** 2 / 2 / load;
  const meanW = kind === 'rf' ? meanSquare / load : meanSquare / 2 / load;
  return { pepW, meanW, pepToMeanDb: powerToDb(pepW / meanW), crestV, kind, envelope };
}

/** A limit for spurious emissions: so many dB under the fundamental, and never more than so much. */
export interface SpuriousLimit {
  readonly leastDb: Decibels;
  readonly mostW: Watts | null;
}

/**
 * An example of one regulator's limits: 47 CFR 97.307(d) below 30 MHz (43 dB under the mean power of the
 * fundamental) and (e) from 30 to 225 MHz (60 dB; 25 microwatts and 40 dB for 25 W or less). The operator's own
 * regulator decides.
 */
export function exampleLimit(fundamentalHz: Hertz, power: Watts): SpuriousLimit {
  if (fundamentalHz < 30e6) return { leastDb: 43, mostW: null };
  return power <= 25 ? { leastDb: 40, mostW: 25e-6 } : { leastDb: 60, mostW: null };
}

/** A harmonic as it was read, in dB re the fundamental. */
export interface Harmonic {
  readonly order: number;
  /** Level re the fundamental, negative. */
  readonly levelDb: Decibels;
}

/** The same with its limit and power. */
export interface JudgedHarmonic extends Harmonic {
  readonly watts: Watts;
  /** Room to the limit; negative when it is passed. */
  readonly marginDb: Decibels;
}

/** @param power of the fundamental */
export function judgeHarmonics(harmonics: readonly Harmonic[], power: Watts, { leastDb, mostW }: SpuriousLimit): JudgedHarmonic[] {
  return harmonics.map(({ order, levelDb }) => {
    const watts = power * dbToPower(levelDb);
    const byRatio = -leastDb - levelDb;
    const byPower = mostW === null ? Number.POSITIVE_INFINITY : powerToDb(mostW / watts);
    return { order, levelDb, watts, marginDb: Math.min(byRatio, byPower) };
  });
}

/** A dummy load's resistance. */
export const USUAL_LOAD_OHMS: Ohms = 50;

/** A scope trace as a measurement. */
export function measureTrace(trace: ScopeTrace, loadOhms: Ohms = USUAL_LOAD_OHMS): { measurement: PowerMeasurement; detail: PowerDetail } {
  const { pepW, meanW, pepToMeanDb, crestV, kind, envelope } = powerOfTrace(trace, loadOhms);
  const durationS = trace.seconds[trace.seconds.length - 1] - trace.seconds[0];
  const notes: PowerMeasurement['notes'] = {};
  const common = { kind: 'power' as const, durationS, clippedShare: 0, loadOhms, traceKind: kind, notes, findings: [] };
  const drawn = { envelope: envelope.map(([at, volts]): [number, Volts] => [at - trace.seconds[0], volts]) };
  if (!(crestV > 0)) {
    for (const key of ['pepW', 'pepDbm', 'meanW', 'pepToMeanDb', 'crestV']) notes[key] = 'The trace is flat: there is no signal in it.';
    return { measurement: { ...common, pepW: null, pepDbm: null, meanW: null, pepToMeanDb: null, crestV: null }, detail: drawn };
  }
  return { measurement: { ...common, pepW, pepDbm: wattsToDbm(pepW), meanW, pepToMeanDb, crestV }, detail: drawn };
}
