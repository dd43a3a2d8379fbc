/** Judgements on a voice measurement, one entry a fault. The limits stand in limits.ts. */
import type { FlatTopMeter } from '../signal/clipping.ts';
import { powerToDb } from '../signal/conversions.ts';
import { bandPower, highestHz, type Spectrum } from '../signal/spectrum.ts';
import { mean } from '../signal/statistics.ts';
import type { Decibels, Hertz } from '../signal/units.ts';
import { findHum } from './hum.ts';
import { db, judge, percent, worstFirst } from './judging.ts';
import type { OwnLimits } from './limits.ts';
import { LONG_TERM_SPEECH } from './longTermSpeech.ts';
import type { Finding, VoiceMeasurement } from './measurement.ts';
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
type Judge = (numbers: Numbers, evidence: VoiceEvidence, own?: OwnLimits) => Finding | null;

/** In this time anybody's talk dips, if only within words. */
const LONG_TALK_S = 4;

const clipping: Judge = ({ clippedShare }, _, own) =>
  judge('clipping', 100 * clippedShare, own, {
    code: 'clipping',
    text: 'The recording is clipped: turn the recorder or the receiver down and record again.',
    evidence: `${percent(clippedShare)} of the samples sit at full scale in runs`,
  });

const flatTops: Judge = ({ clippedShare }, { flatTops: meter, peakDb }, own) =>
  judge('flatTops', clippedShare > 0 ? null : meter.tops, own, {
    code: 'flat-tops',
    text: 'Peaks are cut off flat below full scale: something ahead of the recorder clips.',
    evidence: `${meter.tops} flat tops at ${db(peakDb)}`,
  });

const level: Judge = ({ activeSpeechLevelDb: speech }, _, own) => {
  const evidence = `speech at ${db(speech ?? 0)}`;
  return (
    judge('lowLevel', speech, own, { code: 'low-level', text: 'The recording is very quiet: raise the recording level.', evidence }) ??
    judge('highLevel', speech, own, {
      code: 'high-level',
      text: 'The recording runs close to full scale: leave more headroom.',
      evidence,
    })
  );
};

const hum: Judge = ({ activeSpeechLevelDb: speech }, { quiet }, own) => {
  const found = quiet && speech !== null ? findHum(quiet) : null;
  if (!found || speech === null) return null;
  const below = powerToDb(found.power) - speech;
  return judge('hum', below, own, {
    code: 'hum',
    text: `Mains hum of ${found.mainsHz} Hz is in the audio: look for a ground loop or a supply near the mic cable.`,
    evidence: `${found.lines.length} lines, together ${db(below)} re speech`,
  });
};

const roomNoise: Judge = ({ snrDb, activeSpeechLevelDb: speech, durationS }, { quietestDb }, own) => {
  const code = 'room-noise';
  const text = 'Noise between the words is loud: a fan, the room, or a weak path. Compression would lift it further.';
  if (snrDb !== null) return judge('roomNoise', snrDb, own, { code, text, evidence: `noise ${db(snrDb)} under speech` });
  // No pause was found. Long talk without one dip, even within words, has its dips filled with noise.
  if (speech === null || quietestDb === null || durationS < LONG_TALK_S) return null;
  const dip = speech - quietestDb;
  return judge('roomNoiseInTalk', dip, own, { code, text, evidence: `the quietest moments are only ${db(dip)} under speech` });
};

const plosives: Judge = ({ activeSpeechLevelDb: speech, durationS }, { plosives: meter }, own) => {
  if (speech === null) return null;
  const pops = meter.pops(speech);
  return judge('plosives', pops < 2 ? null : (60 * pops) / Math.max(durationS, 10), own, {
    code: 'plosives',
    text: 'The mic pops: use a windscreen or speak past it.',
    evidence: `${pops} bursts below 70 Hz as loud as the talk`,
  });
};

const sibilance: Judge = (_, { speech }, own) => {
  if (!speech || highestHz(speech) < 8000) return null;
  const excess = powerToDb(bandPower(speech, 5000, 8000) / bandPower(speech, 500, 2000));
  return judge('sibilance', excess, own, {
    code: 'sibilance',
    text: 'S sounds stick out.',
    evidence: `5–8 kHz at ${db(excess)} re 500–2000 Hz`,
  });
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

const RE_MIDDLE = 'over ordinary speech (Byrne et al. 1994), re 500–1250 Hz';

const boomy: Judge = (numbers, evidence, own) => {
  const over = excess(numbers, evidence, [100, 250], MIDDLE);
  return judge('boomy', over, own, {
    code: 'boomy',
    text: 'Boomy: the lows below 280 Hz stand far above the middle.',
    evidence: `${db(over ?? 0)} ${RE_MIDDLE}`,
  });
};

const muffled: Judge = (numbers, evidence, own) => {
  const under = excess(numbers, evidence, MIDDLE, PRESENCE);
  return judge('muffled', under, own, {
    code: 'muffled',
    text: 'Muffled: consonants between 1.6 and 2.5 kHz are weak.',
    evidence: `${db(under ?? 0)} under ordinary speech (Byrne et al. 1994), re 500–1250 Hz`,
  });
};

const thin: Judge = (numbers, evidence, own) => {
  const under = excess(numbers, evidence, [1000, 2500], [315, 630]);
  return judge('thin', under, own, {
    code: 'thin',
    text: 'Thin: there is little body between 300 and 700 Hz.',
    evidence: `${db(under ?? 0)} under ordinary speech (Byrne et al. 1994), re 1–2.5 kHz`,
  });
};

const harsh: Judge = (numbers, evidence, own) => {
  const over = excess(numbers, evidence, [2000, 3150], MIDDLE);
  return judge('harsh', over, own, {
    code: 'harsh',
    text: 'Harsh: 2 to 3 kHz stands far above the middle.',
    evidence: `${db(over ?? 0)} ${RE_MIDDLE}`,
  });
};

const narrow: Judge = ({ passbandHz, notes }, _, own) => {
  const [low, high] = passbandHz ?? [null, null];
  if (low === null || high === null || notes.passbandHz) return null;
  return judge('narrow', high - low, own, {
    code: 'narrow',
    text: 'The audio is very narrow.',
    evidence: `${Math.round(low)}–${Math.round(high)} Hz`,
  });
};

/** Bands that carry the words; noise in others is the filter's business. */
const WORDS: Region = [400, 2500];

const limited: Judge = ({ thirdOctaveDb }, { isLimited }, own) => {
  const hidden = thirdOctaveDb
    .filter(([hz], i) => isLimited[i] && hz > WORDS[0] * 0.97 && hz < WORDS[1] * 1.03)
    .map(([hz]) => Math.round(hz));
  return judge('hiddenBands', hidden.length, own, {
    code: 'noise-limited',
    text: 'Noise hides part of the voice: its tone there can only be worse than it looks.',
    evidence: `the pauses explain more than half of ${hidden.join(', ')} Hz`,
  });
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
export function voiceFindings(numbers: Numbers, evidence: VoiceEvidence, own?: OwnLimits): Finding[] {
  if (numbers.activeSpeechLevelDb === null) return [];
  const judges = numbers.activeSpeechLevelDb < NEXT_TO_NOTHING_DB ? [level] : JUDGES;
  return worstFirst(judges.map((each) => each(numbers, evidence, own)));
}
