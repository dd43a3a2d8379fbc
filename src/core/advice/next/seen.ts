/** What is known of a radio and its operator when the next move is asked for: overs with their cards, meters and captures. */
import type { CurvePoint } from '../../curve/index.ts';
import type {
  PowerMeasurement,
  ResponseMeasurement,
  SsbMeasurement,
  TwoToneMeasurement,
  VoiceDetail,
  VoiceMeasurement,
} from '../../measure/index.ts';
import type { Card, Dial, DialValue, Mode, Purpose, RigProfile } from '../../rig/index.ts';
import type { Decibels, Fraction, Hertz } from '../../units/index.ts';
import type { GainLaw } from '../alcGain.ts';
import type { StandingCard } from '../alcStanding.ts';
import type { HeardReport } from '../weighReports.ts';
import type { CompressionWish } from './schools.ts';

/** Where a capture was taken, the best evidence for tone first. */
export const TAPS = ['second', 'remote', 'tap', 'monitor'] as const;
/** One of them. */
export type Tap = (typeof TAPS)[number];

/** A voice as a receiver heard it. */
export interface SeenVoice {
  readonly tap: Tap;
  readonly passbandHz?: readonly [Hertz, Hertz];
  readonly result: VoiceMeasurement;
  readonly detail: VoiceDetail;
}

/** What test signals tell. */
export type TestMeasurement = TwoToneMeasurement | ResponseMeasurement | PowerMeasurement;

/** One over with everything that was seen of it. */
export interface SeenOver {
  readonly card: StandingCard;
  readonly alc: Fraction | null;
  readonly compressionDb: Decibels | null;
  readonly swr: number | null;
  readonly voices: readonly SeenVoice[];
  readonly radios: readonly SsbMeasurement[];
  /** Two tones, sweeps and scope traces that were sent with this card. */
  readonly tests?: readonly TestMeasurement[];
  /** What the power meter showed on peaks. */
  readonly powerW?: number | null;
  /** Next channel re the voice, as somebody read it off an analyser or a spectrum display. */
  readonly adjacentDb?: Decibels | null;
  /** What other stations said of it. */
  readonly reports?: readonly HeardReport[];
}

/** What a school asks for. */
export interface SchoolWish {
  readonly alcZone: readonly [Fraction, Fraction];
  readonly compression: CompressionWish;
}

/** One question to the engine. */
export interface NextInput {
  readonly rig: RigProfile;
  readonly mode: Mode;
  readonly purpose: Purpose;
  readonly school: SchoolWish;
  /** Oldest first. */
  readonly overs: readonly SeenOver[];
  /** Tone balance aimed at; the purpose's own when left out. */
  readonly target?: readonly CurvePoint[];
  /** What may be turned beside the mic gain; everything when left out. */
  readonly scope?: readonly Purposed[];
  /** The level is measured otherwise (depth of AM, deviation of FM): the ALC has no say, and the gain only makes up for the equalizer. */
  readonly hasOwnLevel?: boolean;
}

/** What dials are set for, the level aside; the passband is the carrier offset of radios that have one. */
export type Purposed = 'compression' | 'tone' | 'passband';
/** The thoughts of an answer: what dials are set for, and why. */
export type Reasons = Readonly<Partial<Record<Purposed | 'level' | 'drive', string>>>;

/** A dial to set. */
export interface Setting {
  readonly dial: Dial;
  readonly from: DialValue;
  readonly to: DialValue;
}

/** How things stand against the goal. */
export interface GoalState {
  readonly alc: 'ok' | 'low' | 'high' | 'unknown';
  readonly drive: 'ok' | 'high' | 'unknown';
  readonly compression: 'ok' | 'low' | 'high' | 'unknown';
  readonly toneErrorDb: Decibels | null;
  /** What this rig's dials can reach. */
  readonly bestToneErrorDb: Decibels | null;
}

/** What was found out of the radio. */
export interface Learned {
  /** ALC readings used, what the card as it stands should read (10th, 50th, 90th percentile), and the law of gain dial and meter where the radio has one. */
  readonly alc: {
    readonly readings: number;
    readonly expected: readonly [Fraction, Fraction, Fraction];
    readonly law: GainLaw | null;
  } | null;
  /**
   * Readings of the compression meter with the compressor on, what it should show with the card as it stands, and what a step of its
   * dial does to it, in decibels: 10th, 50th, 90th percentile.
   */
  readonly compression: {
    readonly readings: number;
    readonly expectedDb: readonly [Decibels, Decibels, Decibels];
    readonly perStepDb: readonly [Decibels, Decibels, Decibels];
  } | null;
  /**
   * What the amplifier bears: the highest mic gain that keeps the next channel clean (null where nothing was dirty), and what the
   * target must lose of its top for it, dB per octave from 1 kHz up (0: nothing); and what the next channel should be with the card as
   * it stands: 10th, 50th, 90th percentile of an over. Null where nothing told of the drive, or of the next channel inside the zone.
   */
  readonly drive: {
    readonly mostGain: DialValue | null;
    readonly tiltDb: Decibels;
    readonly nextChannelDb: readonly [Decibels, Decibels, Decibels] | null;
  } | null;
  /**
   * Probability that the width number is octaves (null without a width dial); that lifts are wider and cuts narrower than it says (null
   * where bands are not parametric); and what a decibel on a dial is: 10th, 50th, 90th percentile.
   */
  readonly equalizer: {
    readonly octaves: number | null;
    readonly resonance: number | null;
    readonly clickDb: readonly [Decibels, Decibels, Decibels];
  } | null;
  /** −6 dB edges of the transmit passband by the newest sweep; null where none was sent with this passband. */
  readonly filterEdgesHz: readonly [Hertz | null, Hertz | null] | null;
  /** Probability that the equalizer is not in the path, by what was heard of it. */
  readonly deadChance: number;
  /** Its dials that were moved: the operator is asked to look at them, since they may have done nothing. */
  readonly deadDials: readonly string[];
}

/** What to do before the next over. */
export interface NextAnswer {
  readonly status: 'move' | 'measure' | 'done' | 'stop';
  readonly why: string;
  /** The same taken apart, where dials are set for more than one purpose. */
  readonly reasons: Reasons;
  readonly set: readonly Setting[];
  readonly expected: {
    readonly alc: readonly [Fraction, Fraction, Fraction] | null;
    readonly toneErrorDb: readonly [Decibels, Decibels, Decibels] | null;
    /** The compression meter on peaks, where its dial is turned and it was read before. */
    readonly compressionDb: readonly [Decibels, Decibels, Decibels] | null;
    /** The next channel re the voice, where a recording or an analyser told of it. */
    readonly adjacentDb: readonly [Decibels, Decibels, Decibels] | null;
    /** Third octaves of the voice, where dials are turned for the tone: [Hz, dB re the strongest]. */
    readonly bandsDb: readonly CurvePoint[] | null;
  };
  readonly confidence: Fraction;
  /** What else could be done, in a sentence each. */
  readonly runnersUp: readonly string[];
  readonly goal: GoalState;
  readonly learned: Learned;
}

/** The card an over was made with, without how the microphone was used. */
export const cardOf = ({ card: { mode, values } }: SeenOver): Card => ({ mode, values });
