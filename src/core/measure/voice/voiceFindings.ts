/** Judgements on a voice measurement, one entry a fault. The limits stand in limits.ts. */
import { bandPower, highestHz, mean, type Spectrum, VOICE_THIRD_OCTAVES } from '../../dsp/index.ts';
import { type Finding, judge, type OwnLimits, worstFirst } from '../../findings/index.ts';
import { type Decibels, decibels, type Hertz, powerToDb, roughPercent } from '../../units/index.ts';
import type { VoiceMeasurement } from '../measurement.ts';
import type { Hum } from './hum.ts';
import type { PassedBand } from './passedBand.ts';
import type { PlosiveMeter } from './plosives.ts';

/** Levels of 50 ms frames between the first and the last word. */
export interface Room {
  /** 10th percentile: the noise between the words. */
  readonly floorDb: Decibels;
  readonly lowestDb: Decibels;
  /** From the 2nd to the 20th percentile: noise is steady, soft talk is not. */
  readonly spreadDb: Decibels;
}

/** What a judgement may look at beside the numbers. */
export interface VoiceEvidence {
  readonly speech: Spectrum | null;
  readonly hum: Hum | null;
  readonly flatTops: { readonly tops: number; readonly samples: number };
  readonly plosives: PlosiveMeter;
  readonly peakDb: Decibels;
  /** What the filter lets through. */
  readonly passed: PassedBand;
  /** Levels of VOICE_THIRD_OCTAVES re ordinary speech through the same filter, to a common constant; null outside it. */
  readonly overSpeechDb: readonly (Decibels | null)[];
  /** Which third octaves are upper bounds, because noise explains more than half of them. */
  readonly isLimited: readonly boolean[];
  /** Null of too few frames. */
  readonly room: Room | null;
}

type Numbers = Omit<VoiceMeasurement, 'findings'>;
type Judge = (numbers: Numbers, evidence: VoiceEvidence, own?: OwnLimits) => Finding | null;

const clipping: Judge = ({ clippedShare }, _, own) =>
  judge('clipping', 100 * clippedShare, own, {
    code: 'clipping',
    text: 'The recording is clipped: turn the recorder or the receiver down and record again.',
    evidence: `${roughPercent(clippedShare)} of the samples sit at full scale in runs`,
  });

const flatTops: Judge = ({ clippedShare }, { flatTops: meter, peakDb }, own) =>
  judge('flatTops', clippedShare > 0 ? null : meter.tops, own, {
    code: 'flat-tops',
    text: 'Peaks are cut off flat below full scale: something ahead of the recorder clips.',
    evidence: `${meter.tops} flat tops at ${decibels(peakDb)}`,
  });

const level: Judge = ({ activeSpeechLevelDb: speech }, _, own) => {
  const evidence = `speech at ${decibels(speech ?? 0)}`;
  return (
    judge('lowLevel', speech, own, { code: 'low-level', text: 'The recording is very quiet: raise the recording level.', evidence }) ??
    judge('highLevel', speech, own, {
      code: 'high-level',
      text: 'The recording runs close to full scale: leave more headroom.',
      evidence,
    })
  );
};

const hum: Judge = ({ activeSpeechLevelDb: speech }, { hum: found }, own) => {
  if (!found || speech === null) return null;
  const below = powerToDb(found.power) - speech;
  return judge('hum', below, own, {
    code: 'hum',
    text: `Mains hum of ${found.mainsHz} Hz is in the audio: look for a ground loop or a supply near the mic cable.`,
    evidence: `lines at ${found.lines.join(', ')} Hz through talk and pauses, together ${decibels(below)} re speech`,
  });
};

/** Frames of noise lie this close together; the quietest moments of talk do not. */
const MOST_NOISE_SPREAD_DB: Decibels = 4;
/** A tone stands no further over its own quietest moments; noise, and a voice drowned in it, do. */
const TONE_DB: Decibels = 0.5;

const roomNoise: Judge = ({ activeSpeechLevelDb: speech, notes }, { room }, own) => {
  if (speech === null || room === null) return null;
  const code = 'room-noise';
  const text = 'Noise between the words is loud: a fan, the room, or a weak path. Compression would lift it further.';
  const under = speech - room.floorDb;
  // Without pauses the quietest moments may still be talk, unless they are as steady as noise is.
  if (notes.snrDb && room.spreadDb > MOST_NOISE_SPREAD_DB) return null;
  if (under < TONE_DB) return null;
  return judge('roomNoise', under, own, { code, text, evidence: `noise ${decibels(under)} under speech` });
};

/** One or two may be the recording's own. */
const LEAST_POPS = 3;

const plosives: Judge = ({ activeSpeechLevelDb: speech, durationS }, { plosives: meter }, own) => {
  if (speech === null) return null;
  const pops = meter.pops(speech);
  return judge('plosives', pops < LEAST_POPS ? null : (60 * pops) / Math.max(durationS, 10), own, {
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
    evidence: `5–8 kHz at ${decibels(excess)} re 500–2000 Hz`,
  });
};

type Region = readonly [Hertz, Hertz];

/**
 * Mean level of the third octaves in a region re ordinary speech through the same filter, null when none is known.
 * @param skip bands to leave out
 */
function overSpeech({ overSpeechDb }: VoiceEvidence, [low, high]: Region, skip: readonly boolean[] = []): Decibels | null {
  const levels = overSpeechDb.filter((level, i): level is Decibels => {
    const { centreHz } = VOICE_THIRD_OCTAVES[i];
    return level !== null && !skip[i] && centreHz > low * 0.97 && centreHz < high * 1.03;
  });
  return levels.length === 0 ? null : mean(levels);
}

/** How far a region stands above another, both re ordinary speech. Noise must not speak for the strong one. */
function excess(evidence: VoiceEvidence, strong: Region, weak: Region): Decibels | null {
  const here = overSpeech(evidence, strong, evidence.isLimited);
  // An upper bound is enough to call a region weak.
  const there = overSpeech(evidence, weak);
  return here === null || there === null ? null : here - there;
}

/** A high voice's third octave at 315 Hz lies between its first two harmonics and says little. */
const lowsOf = (pitchHz: Hertz | null): Region => [200, (pitchHz ?? HIGH_VOICE_HZ) < MIDDLE_VOICE_HZ ? 315 : 250];
const BODY: Region = [315, 630];
const MIDDLE: Region = [500, 1000];
const LOW_MIDDLE: Region = [500, 800];
const UPPER: Region = [1250, 2500];
const CONSONANTS: Region = [1600, 2500];
const BITE: Region = [2000, 2500];

const reSpeech = (region: Region) => `ordinary speech through the same passband (Byrne et al. 1994), re ${region[0]}–${region[1]} Hz`;

const LOW_VOICE_HZ: Hertz = 120;
const MIDDLE_VOICE_HZ: Hertz = 140;
const HIGH_VOICE_HZ: Hertz = 180;

/**
 * A high voice has its fundamental where a low one has its second harmonic: its lows stand higher by nature. Tried on
 * recorded voices (docs/validation): 7 dB between a fundamental of 120 and one of 180 Hz.
 */
function roomForHighVoice(pitchHz: Hertz | null): Decibels {
  const octaves = Math.log2((pitchHz ?? HIGH_VOICE_HZ) / LOW_VOICE_HZ) / Math.log2(HIGH_VOICE_HZ / LOW_VOICE_HZ);
  return 7 * Math.min(1, Math.max(0, octaves));
}

const boomy: Judge = ({ pitchHz }, evidence, own) => {
  const over = excess(evidence, lowsOf(pitchHz), MIDDLE);
  const left = over === null ? null : over - roomForHighVoice(pitchHz);
  return judge('boomy', left, own, {
    code: 'boomy',
    text: 'Boomy: the lows around 200 Hz stand far above the middle.',
    evidence: `${decibels(over ?? 0)} over ${reSpeech(MIDDLE)}, of which ${decibels(roomForHighVoice(pitchHz))} may be a high voice's own`,
  });
};

const muffled: Judge = (_, evidence, own) => {
  const under = excess(evidence, LOW_MIDDLE, CONSONANTS);
  return judge('muffled', under, own, {
    code: 'muffled',
    text: 'Muffled: consonants between 1.6 and 2.5 kHz are weak.',
    evidence: `${decibels(under ?? 0)} under ${reSpeech(LOW_MIDDLE)}`,
  });
};

const thin: Judge = (_, evidence, own) => {
  const under = excess(evidence, UPPER, BODY);
  return judge('thin', under, own, {
    code: 'thin',
    text: 'Thin: there is little body between 300 and 700 Hz.',
    evidence: `${decibels(under ?? 0)} under ${reSpeech(UPPER)}`,
  });
};

const harsh: Judge = (_, evidence, own) => {
  const over = excess(evidence, BITE, [400, 1250]);
  return judge('harsh', over, own, {
    code: 'harsh',
    text: 'Harsh: 2 to 3 kHz stands far above the middle.',
    evidence: `${decibels(over ?? 0)} over ${reSpeech([400, 1250])}`,
  });
};

/** Where nothing cuts it off, a voice begins about here. */
const LOWEST_VOICE_HZ: Hertz = 100;

const narrow: Judge = (_, { passed: [low, high] }, own) => {
  if (high === null) return null;
  const from = low ?? LOWEST_VOICE_HZ;
  return judge('narrow', high - from, own, {
    code: 'narrow',
    text: 'The audio is very narrow.',
    evidence: `${Math.round(from)}–${Math.round(high)} Hz`,
  });
};

/** Bands that carry the words; noise in others is the filter's business. */
const WORDS: Region = [500, 2500];

const limited: Judge = ({ thirdOctaveDb }, { isLimited }) => {
  const hidden = thirdOctaveDb
    .filter(([hz], i) => isLimited[i] && hz > WORDS[0] * 0.97 && hz < WORDS[1] * 1.03)
    .map(([hz]) => Math.round(hz));
  if (hidden.length < LEAST_HIDDEN) return null;
  return {
    code: 'noise-limited',
    severity: 'ok',
    text: 'Noise hides part of the voice: its tone there can only be worse than it looks.',
    evidence: `the pauses explain more than half of ${hidden.join(', ')} Hz`,
  };
};

const LEAST_HIDDEN = 3;

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
