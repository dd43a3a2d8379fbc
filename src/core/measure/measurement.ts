/** What every measurement has in common. Keys and definitions: docs/measurements.md. */
import type { Finding } from '../findings/index.ts';
import type { Sideband } from '../modem/index.ts';
import type { Decibels, Fraction, Hertz, Seconds } from '../units/index.ts';
import type { DrawnSpectrum } from './radio/radioSpectrum.ts';

/** Raised whenever a number may come out differently; stored with every measurement. */
export const CORE_VERSION = '1.6.0';

/** Key of a number to the reason why it is missing or bounded. */
export type Notes = Record<string, string>;

/** What every measurement holds. */
export interface Measured {
  readonly durationS: Seconds;
  readonly sampleRateHz: Hertz;
  readonly clippedShare: Fraction;
  readonly notes: Notes;
  readonly findings: readonly Finding[];
}

/** Numbers of a receiver-audio or microphone recording of a voice. */
export interface VoiceMeasurement extends Measured {
  readonly kind: 'voice';
  readonly activeSpeechLevelDb: Decibels | null;
  readonly activityFactor: Fraction | null;
  readonly loudnessLufs: number | null;
  readonly peakToAverageDb: Decibels | null;
  /** [exact centre, level re the strongest band]; null level past the file's end or in silence. */
  readonly thirdOctaveDb: readonly (readonly [Hertz, Decibels | null])[];
  readonly tiltDbPerOctave: number | null;
  /** [low, high]; null as a whole in silence, null edge where there is none. */
  readonly passbandHz: readonly [Hertz | null, Hertz | null] | null;
  readonly noiseFloorDb: Decibels | null;
  readonly snrDb: Decibels | null;
  readonly pitchHz: Hertz | null;
  /** 90th minus 50th percentile of the levels of the active 400 ms blocks: how steadily somebody talks. */
  readonly levelSpreadDb: Decibels | null;
}

/** What screens and the equalizer fit need beside the numbers. */
export interface VoiceDetail {
  /** Power (mean square) of talk in each of VOICE_TWELFTH_OCTAVES; null past the file's end. */
  readonly speechPowers: readonly (number | null)[];
  /** The same with every moment of talk brought to one level: loud vowels say no more than the rest. */
  readonly evenPowers?: readonly (number | null)[];
  /** Talk of every other second, and of the seconds between them. */
  readonly halfPowers?: readonly [readonly (number | null)[], readonly (number | null)[]];
  readonly talkSeconds?: Seconds;
  /** The same of the pauses, or of the quietest moments where there are none; null when neither is there. */
  readonly pausePowers: readonly (number | null)[] | null;
  /** Levels over time for the strip: dB of equal stretches of `stripSeconds`, null for digital silence. */
  readonly stripDb: readonly (Decibels | null)[];
  readonly stripSeconds: Seconds;
  /** Which stretches count as talk. */
  readonly stripActive: readonly boolean[];
}

/** Numbers of an I/Q recording of an SSB over. */
export interface SsbMeasurement extends Measured {
  readonly kind: 'ssb';
  /** Suppressed carrier re the file's centre that everything counts from. */
  readonly carrierHz: Hertz;
  readonly sideband: Sideband;
  readonly peakToAverageDb: Decibels | null;
  /** 99.9 percentile of the envelope's power, dB re full scale: how hard the receiver was driven. */
  readonly peakDb: Decibels | null;
  readonly passbandHz: readonly [Hertz | null, Hertz | null] | null;
  readonly occupiedBandwidthHz: Hertz | null;
  readonly oppositeSidebandDb: Decibels | null;
  readonly carrierDb: Decibels | null;
  /** The carrier re PEP, by which it is judged. */
  readonly carrierPepDb: Decibels | null;
  readonly adjacentDb: { readonly wantedSide: Decibels | null; readonly otherSide: Decibels | null };
  readonly extentHz: readonly [Hertz, Hertz] | null;
}

/** Numbers of an I/Q recording of an AM over. */
export interface AmMeasurement extends Measured {
  readonly kind: 'am';
  readonly carrierOffsetHz: Hertz | null;
  readonly occupiedBandwidthHz: Hertz | null;
  /** Held peaks, as a peak-holding monitor shows them. */
  readonly modulationDepth: { readonly positive: Fraction | null; readonly negative: Fraction | null };
  /** The same by the 99.9 and 0.1 percentiles of the envelope. */
  readonly modulationDepthUsual: { readonly positive: Fraction | null; readonly negative: Fraction | null };
  readonly audioBandwidthHz: Hertz | null;
}

/** Numbers of an I/Q recording of an FM over. */
export interface FmMeasurement extends Measured {
  readonly kind: 'fm';
  readonly offsetHz: Hertz | null;
  readonly occupiedBandwidthHz: Hertz | null;
  /** Held peak. */
  readonly peakDeviationHz: Hertz | null;
  /** 99.9 percentile. */
  readonly peakDeviationUsualHz: Hertz | null;
  /** Held peak without the sub-audible tone. */
  readonly voicePeakDeviationHz: Hertz | null;
  readonly rmsDeviationHz: Hertz | null;
  readonly audioBandwidthHz: Hertz | null;
  readonly carsonBandwidthHz: Hertz | null;
  /** Sub-audible tone, the nearest of the usual ones; null when there is none. */
  readonly ctcssHz: Hertz | null;
}

/** Numbers of an I/Q recording of two tones. */
export interface TwoToneMeasurement extends Measured {
  readonly kind: 'two-tone';
  /** The two tones re the file's centre, lower one first. */
  readonly tonesHz: readonly [Hertz, Hertz] | null;
  readonly imd3Db: Decibels | null;
  readonly imd5Db: Decibels | null;
  readonly imd3PepDb: Decibels | null;
  readonly imd5PepDb: Decibels | null;
}

/** Numbers of a recording of the response test signal, or of another signal named as the reference. */
export interface ResponseMeasurement extends Measured {
  readonly kind: 'response';
  /** [Hz, dB re 1 kHz], 24 points an octave. */
  readonly curve: readonly (readonly [Hertz, Decibels])[];
  /** -6 dB edges re the median of 500-2000 Hz. */
  readonly passbandHz: readonly [Hertz | null, Hertz | null] | null;
  /** Top to bottom between 500 and 2000 Hz. */
  readonly rippleDb: Decibels | null;
  /** Harmonics of orders 2 to 5 together re the fundamental. */
  readonly distortionDb: Decibels | null;
  readonly harmonicsDb: readonly (readonly [number, Decibels])[] | null;
  /** Frequency shift of the recording, positive when it is higher. */
  readonly mistuneHz: Hertz | null;
  /** (recorded / nominal duration - 1) 10^6. */
  readonly clockPpm: number | null;
  /** Level of the second sweep re the first: a receiver's AGC, or a transmitter getting warm. */
  readonly levelDriftDb: Decibels | null;
}

/** Numbers of an oscilloscope trace across a load. */
export interface PowerMeasurement extends Omit<Measured, 'sampleRateHz'> {
  readonly kind: 'power';
  readonly loadOhms: number;
  /** All null for a flat trace. */
  readonly pepW: number | null;
  readonly pepDbm: number | null;
  readonly meanW: number | null;
  readonly pepToMeanDb: Decibels | null;
  readonly crestV: number | null;
  readonly traceKind: 'rf' | 'envelope';
}

/** What screens draw of a trace. */
export interface PowerDetail {
  /** [seconds, volts] of the envelope. */
  readonly envelope: readonly (readonly [Seconds, number])[];
}

/** What screens draw of a radio recording. */
export interface RadioDetail {
  /** Mean and highest density over the active part, dB re full scale in 1 Hz. */
  readonly mean: DrawnSpectrum | null;
  readonly highest: DrawnSpectrum | null;
  readonly noiseDb: Decibels | null;
  /** Demodulated audio of AM and FM. */
  readonly audio?: DrawnSpectrum | null;
  /** Where an SSB carrier came from, and how sure that is when it was proposed; asked: it is a guess, and nothing was measured from it. */
  readonly carrierFrom?: { readonly how: 'given' | 'proposed' | 'assumed' | 'asked'; readonly confidence: Fraction | null };
}

/** Every kind of evidence. */
export const MEASUREMENT_KINDS = ['voice', 'ssb', 'am', 'fm', 'two-tone', 'response', 'power'] as const;
/** One of them. */
export type MeasurementKind = (typeof MEASUREMENT_KINDS)[number];
/** Kinds that need I and Q. */
export const RADIO_KINDS: readonly MeasurementKind[] = ['ssb', 'am', 'fm', 'two-tone'];

/** Numbers of any kind; `kind` tells which. */
export type Measurement =
  | VoiceMeasurement
  | SsbMeasurement
  | AmMeasurement
  | FmMeasurement
  | TwoToneMeasurement
  | ResponseMeasurement
  | PowerMeasurement;
/** What drawings of any kind need; null for a response. */
export type MeasurementDetail = VoiceDetail | RadioDetail | PowerDetail;
