/**
 * Judgements on a voice measurement. One entry a fault, each with its thresholds; they are common practice
 * (rules of thumb of the trade) unless the entry names a source.
 */

import type { FlatTopMeter } from '../signal/clipping.ts';
import { powerToDb } from '../signal/conversions.ts';
import { bandPower, nyquistHz, type Spectrum } from '../signal/spectrum.ts';
import { mean } from '../signal/statistics.ts';
import type { Decibels, Hertz } from '../signal/units.ts';
import { findHum } from './hum.ts';
import { LONG_TERM_SPEECH } from './longTermSpeech.ts';
import type { Finding, FindingCode, Severity, VoiceMeasurement } from './measurement.ts';
import type { PlosiveMeter } from './plosives.ts';

/** What a judgement may look at beside the numbers. */
export interface VoiceEvidence {
  readonly speech: Spectrum | null;
  /** Spectrum of the quietest moments. */
  readonly quiet: Spectrum | null;
  readonly flatTops: FlatTopMeter;
  readonly plosives: PlosiveMeter;
  readonly peakDb: Decibels;
  /** Which third octaves are upper bounds, because noise explains more than half of them. */
  readonly isLimited: readonly boolean[];
  /** Level of the quietest frames (2nd percentile); null in digital silence. */
  readonly quietestDb: Decibels | null;
}

type Numbers = Omit<VoiceMeasurement, 'findings'>;
type Judge = (numbers: Numbers, evidence: VoiceEvidence) => Finding | null;

const PRACTICE = 'common practice';
/** In this time anybody's talk dips, if only within words. */
const LONG_TALK_S = 4;

const finding = (code: FindingCode, severity: Severity, text: string, evidence: string): Finding => ({
  code,
  severity,
  text,
  evidence,
});

/** Severity of a value that gets worse as it grows; null below the first threshold. */
function grade(value: number, watch: number, fault: number): Severity | null {
  return value >= fault ? 'fault' : value >= watch ? 'watch' : null;
}

const db = (value: number) => `${value < 0 ? '−' : ''}${Math.abs(value).toFixed(1)} dB`;

const clipping: Judge = ({ clippedShare }) => {
  const severity = clippedShare > 0 ? (clippedShare >= 1e-4 ? 'fault' : 'watch') : null;
  return (
    severity &&
    finding(
      'clipping',
      severity,
      'The recording is clipped: turn the recorder or the receiver down and record again.',
      `${(100 * clippedShare).toPrecision(2)} % of the samples sit at full scale in runs (fault from 0.01 %, ${PRACTICE})`,
    )
  );
};

const flatTops: Judge = ({ clippedShare }, { flatTops: meter, peakDb }) => {
  if (clippedShare > 0 || meter.tops < 6) return null;
  return finding(
    'flat-tops',
    'fault',
    'Peaks are cut off flat below full scale: something ahead of the recorder clips.',
    `${meter.tops} flat tops at ${db(peakDb)} (6 or more, ${PRACTICE})`,
  );
};

const level: Judge = ({ activeSpeechLevelDb: speech }) => {
  if (speech === null) return null;
  if (speech < -45) {
    const severity = speech < -60 ? 'fault' : 'watch';
    return finding(
      'low-level',
      severity,
      'The recording is very quiet: raise the recording level.',
      `speech at ${db(speech)} (watch under −45, fault under −60 dB, ${PRACTICE})`,
    );
  }
  if (speech > -10) {
    return finding(
      'high-level',
      'watch',
      'The recording runs close to full scale: leave more headroom.',
      `speech at ${db(speech)} (watch above −10 dB, ${PRACTICE})`,
    );
  }
  return null;
};

const hum: Judge = ({ activeSpeechLevelDb: speech }, { quiet }) => {
  const found = quiet && speech !== null ? findHum(quiet) : null;
  if (!found || speech === null) return null;
  const below = powerToDb(found.power) - speech;
  const severity = grade(below, -45, -30);
  return (
    severity &&
    finding(
      'hum',
      severity,
      `Mains hum of ${found.mainsHz} Hz is in the audio: look for a ground loop or a supply near the mic cable.`,
      `${found.lines.length} lines, together ${db(below)} re speech (watch from −45, fault from −30 dB, ${PRACTICE})`,
    )
  );
};

const roomNoise: Judge = ({ snrDb, activeSpeechLevelDb: speech, durationS }, { quietestDb }) => {
  const text = 'Noise between the words is loud: a fan, the room, or a weak path. Compression would lift it further.';
  if (snrDb !== null) {
    const severity = grade(-snrDb, -20, -12);
    return (
      severity && finding('room-noise', severity, text, `noise ${db(snrDb)} under speech (watch under 20, fault under 12 dB, ${PRACTICE})`)
    );
  }
  // No pause was found. Long talk without one dip, even within words, has its dips filled with noise.
  if (speech === null || quietestDb === null || durationS < LONG_TALK_S) return null;
  const severity = grade(quietestDb - speech, -20, -14);
  return (
    severity &&
    finding(
      'room-noise',
      severity,
      text,
      `the quietest moments are only ${db(speech - quietestDb)} under speech (watch under 20, fault under 14 dB, ${PRACTICE})`,
    )
  );
};

const plosives: Judge = ({ activeSpeechLevelDb: speech, durationS }, { plosives: meter }) => {
  if (speech === null) return null;
  const pops = meter.pops(speech);
  const perMinute = (60 * pops) / Math.max(durationS, 10);
  const severity = pops < 2 ? null : grade(perMinute, 6, 20);
  return (
    severity &&
    finding(
      'plosives',
      severity,
      'The mic pops: use a windscreen or speak past it.',
      `${pops} bursts below 70 Hz as loud as the talk (watch from 6 a minute, ${PRACTICE})`,
    )
  );
};

const sibilance: Judge = (_, { speech }) => {
  if (!speech || nyquistHz(speech) < 8000) return null;
  const excess = powerToDb(bandPower(speech, 5000, 8000) / bandPower(speech, 500, 2000));
  const severity = grade(excess, -4, 0);
  return (
    severity &&
    finding(
      'sibilance',
      severity,
      'S sounds stick out.',
      `5–8 kHz at ${db(excess)} re 500–2000 Hz (watch from −4, fault from 0 dB, ${PRACTICE})`,
    )
  );
};

/**
 * Mean level of third octaves in [low, high] over ordinary speech, null when none is known.
 * @param skip bands to leave out
 */
function overSpeech(numbers: Numbers, [low, high]: Region, skip: readonly boolean[] = []): Decibels | null {
  const over = numbers.thirdOctaveDb.flatMap(([hz, level], i) =>
    level === null || skip[i] || hz < low * 0.97 || hz > high * 1.03 ? [] : [level - LONG_TERM_SPEECH[i][1]],
  );
  return over.length === 0 ? null : mean(over);
}

/** How far a region stands above another, both re ordinary speech. Noise must not speak for the strong one. */
function excess(numbers: Numbers, { isLimited }: VoiceEvidence, strong: Region, weak: Region): Decibels | null {
  const here = overSpeech(numbers, strong, isLimited);
  // An upper bound is enough to call a region weak.
  const there = overSpeech(numbers, weak);
  return here === null || there === null ? null : here - there;
}

type Region = readonly [Hertz, Hertz];
const MIDDLE: Region = [500, 1250];
const PRESENCE: Region = [1600, 2500];

const boomy: Judge = (numbers, evidence) => {
  const over = excess(numbers, evidence, [100, 250], MIDDLE);
  const severity = over === null ? null : grade(over, 6, 11);
  return (
    severity &&
    finding(
      'boomy',
      severity,
      'Boomy: the lows below 280 Hz stand far above the middle.',
      `${db(over ?? 0)} over ordinary speech (Byrne et al. 1994), re 500–1250 Hz (watch from 6, fault from 11 dB, ${PRACTICE})`,
    )
  );
};

const muffled: Judge = (numbers, evidence) => {
  const under = excess(numbers, evidence, MIDDLE, PRESENCE);
  const severity = under === null ? null : grade(under, 6, 11);
  return (
    severity &&
    finding(
      'muffled',
      severity,
      'Muffled: consonants between 1.6 and 2.5 kHz are weak.',
      `${db(-(under ?? 0))} re ordinary speech (Byrne et al. 1994) and 500–1250 Hz (watch from −6, fault from −11 dB, ${PRACTICE})`,
    )
  );
};

const thin: Judge = (numbers, evidence) => {
  const under = excess(numbers, evidence, [1000, 2500], [315, 630]);
  const severity = under === null ? null : grade(under, 12, 17);
  return (
    severity &&
    finding(
      'thin',
      severity,
      'Thin: there is little body between 300 and 700 Hz.',
      `${db(-(under ?? 0))} re ordinary speech (Byrne et al. 1994) and 1–2.5 kHz (watch from −12, fault from −17 dB, ${PRACTICE})`,
    )
  );
};

const harsh: Judge = (numbers, evidence) => {
  const over = excess(numbers, evidence, [2000, 3150], MIDDLE);
  const severity = over === null ? null : grade(over, 11, 16);
  return (
    severity &&
    finding(
      'harsh',
      severity,
      'Harsh: 2 to 3 kHz stands far above the middle.',
      `${db(over ?? 0)} over ordinary speech (Byrne et al. 1994), re 500–1250 Hz (watch from 11, fault from 16 dB, ${PRACTICE})`,
    )
  );
};

const narrow: Judge = ({ passbandHz, notes }) => {
  const [low, high] = passbandHz ?? [null, null];
  if (low === null || high === null || notes.passbandHz) return null;
  const severity = grade(-(high - low), -1600, -1000);
  return (
    severity &&
    finding(
      'narrow',
      severity,
      'The audio is very narrow.',
      `${Math.round(low)}–${Math.round(high)} Hz (watch under 1600, fault under 1000 Hz wide, ${PRACTICE})`,
    )
  );
};

/** Bands that carry the words; noise in others is the filter's business. */
const WORDS: Region = [400, 2500];
const MOST_LIMITED = 3;

const limited: Judge = ({ thirdOctaveDb }, { isLimited }) => {
  const hidden = thirdOctaveDb
    .filter(([hz], i) => isLimited[i] && hz > WORDS[0] * 0.97 && hz < WORDS[1] * 1.03)
    .map(([hz]) => Math.round(hz));
  if (hidden.length < MOST_LIMITED) return null;
  return finding(
    'noise-limited',
    'watch',
    'Noise hides part of the voice: its tone there can only be worse than it looks.',
    `the pauses explain more than half of ${hidden.join(', ')} Hz (${MOST_LIMITED} bands or more between 400 and 2500 Hz, ${PRACTICE})`,
  );
};

/** Talk under this level is next to nothing: only its level is judged. */
const NEXT_TO_NOTHING_DB: Decibels = -75;

const JUDGES: readonly Judge[] = [
  clipping,
  flatTops,
  level,
  hum,
  roomNoise,
  plosives,
  boomy,
  muffled,
  thin,
  harsh,
  narrow,
  limited,
  sibilance,
];

/** Tells the worst first; an empty list means that nothing stood out. */
export function voiceFindings(numbers: Numbers, evidence: VoiceEvidence): Finding[] {
  if (numbers.activeSpeechLevelDb === null) return [];
  const order: Severity[] = ['fault', 'watch', 'ok'];
  const judges = numbers.activeSpeechLevelDb < NEXT_TO_NOTHING_DB ? [level] : JUDGES;
  return judges
    .map((judge) => judge(numbers, evidence))
    .filter((found) => found !== null)
    .sort((a, b) => order.indexOf(a.severity) - order.indexOf(b.severity));
}
