/** What every measurement has in common. Keys and definitions: docs/measurements.md. */
import type { Decibels, Fraction, Hertz, Seconds } from '../signal/units.ts';

/** Raised whenever a number may come out differently; stored with every measurement. */
export const CORE_VERSION = '1.0.0';

export type Severity = 'ok' | 'watch' | 'fault';

/** Codes in use; names stay, more may be added. */
export type FindingCode =
  | 'clipping'
  | 'flat-tops'
  | 'low-level'
  | 'high-level'
  | 'hum'
  | 'room-noise'
  | 'plosives'
  | 'sibilance'
  | 'boomy'
  | 'muffled'
  | 'thin'
  | 'harsh'
  | 'narrow'
  | 'noise-limited';

/** A judgement with what it rests on. */
export interface Finding {
  readonly code: FindingCode;
  readonly severity: Severity;
  /** One sentence in the operator's words. */
  readonly text: string;
  /** The numbers behind it, with the threshold and where that comes from. */
  readonly evidence: string;
}

/** Key of a number to the reason why it is missing or bounded. */
export type Notes = Record<string, string>;

/** Numbers of a receiver-audio or microphone recording of a voice. */
export interface VoiceMeasurement {
  readonly kind: 'voice';
  readonly durationS: Seconds;
  readonly sampleRateHz: Hertz;
  readonly clippedShare: Fraction;
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
  readonly notes: Notes;
  readonly findings: readonly Finding[];
}

/** What screens and the equalizer fit need beside the numbers. */
export interface VoiceDetail {
  /** Power (mean square) of talk in each of VOICE_TWELFTH_OCTAVES; null past the file's end. */
  readonly speechPowers: readonly (number | null)[];
  /** The same of the pauses, or of the quietest moments where there are none; null when neither is there. */
  readonly pausePowers: readonly (number | null)[] | null;
  /** Levels over time for the strip: dB of equal stretches of `stripSeconds`, null for digital silence. */
  readonly stripDb: readonly (Decibels | null)[];
  readonly stripSeconds: Seconds;
  /** Which stretches count as talk. */
  readonly stripActive: readonly boolean[];
}
