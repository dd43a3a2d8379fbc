/** The model's web worker: cards heard and judged, apart from the page's other work, which goes on meanwhile. */
import { expose } from 'comlink';
import {
  answerSoundQuestion,
  narrowVoiceNote,
  nearestPassband,
  PASSBAND_QUESTION,
  passbandWords,
  SCHOOL_RULES,
  type SoundAnswer,
  schoolsFor,
  startingCard,
} from '@/core/advice/index.ts';
import type { CurvePoint } from '@/core/curve/index.ts';
import { openWav, readPart } from '@/core/files/index.ts';
import { CardJudge, canJudge, type JudgedCard } from '@/core/intelligibility/index.ts';
import type { VoiceDetail } from '@/core/measure/index.ts';
import { levelMatched } from '@/core/playback/index.ts';
import {
  type Card,
  type DialValues,
  effective,
  type Microphone,
  type MicrophoneUse,
  type Purpose,
  passbandOf,
  type RigProfile,
} from '@/core/rig/index.ts';
import {
  atModelRate,
  busiestPart,
  calibrateDrive,
  hearCard,
  type ListenAt,
  ownVoice,
  QUIET_ROOM,
  type StationSetting,
  USUAL_RADIO,
  type Voice,
  type Way,
} from '@/core/simulate/index.ts';
import { storedCapture } from './storedCapture.ts';

/** A loop long enough to judge by, short enough to be heard at once. */
const LOOP_S = 10;

/** Whose voice, and through what it was recorded. */
export interface ModelVoice {
  readonly captureId: number;
  readonly bytes: number;
  readonly detail: Pick<VoiceDetail, 'stripActive' | 'stripSeconds'>;
  readonly rig: RigProfile;
  readonly heardWith: Card;
  readonly microphone: Microphone;
  readonly use: MicrophoneUse;
  /** ALC reading on that over as a share of the scale; null: in the middle of the zone. */
  readonly alcReading: number | null;
}

/** Another radio or microphone, or another use of it, than the voice was recorded with. */
export interface Elsewhere {
  readonly rig: RigProfile;
  readonly microphone: Microphone;
  readonly use: MicrophoneUse;
  /** The card with which its ALC is taken to stand in the middle of its zone. */
  readonly driven: Card;
}

/** Where a card is tried, if that is not where the voice was recorded. */
export interface Where {
  readonly elsewhere?: Elsewhere;
  /** The microphone moved or switched otherwise, with the radio left as it stands. */
  readonly usedAs?: MicrophoneUse;
}

export interface CardToJudge extends Where {
  readonly key: string;
  readonly name: string;
  readonly card: Card;
}

export interface CardToHear extends Where {
  readonly card: Card;
  readonly at: ListenAt;
}

export interface NamedJudgement {
  readonly key: string;
  readonly name: string;
  /** A sentence where the card can't be judged. */
  readonly judged: JudgedCard | string;
}

export interface PassbandAnswer {
  readonly name: string;
  /** Edges that this rig gives. */
  readonly edges: string;
  readonly values: DialValues;
  readonly judged: JudgedCard;
}

interface Prepared {
  readonly voice: Voice;
  readonly station: StationSetting;
  readonly judge: CardJudge;
  /** Cards judged already: several places of a page ask for the same one. */
  readonly known: Map<string, JudgedCard | string>;
}

/** The voice last worked with: rendering it again costs nothing then. */
let kept: { readonly key: string; readonly prepared: Promise<Prepared> } | null = null;

function prepare(source: ModelVoice): Promise<Prepared> {
  const key = JSON.stringify([source.captureId, source.rig, source.heardWith, source.microphone, source.use, source.alcReading]);
  if (kept?.key !== key) kept = { key, prepared: prepareAnew(source) };
  return kept.prepared;
}

async function prepareAnew({ captureId, bytes, detail, rig, heardWith, microphone, use, alcReading }: ModelVoice): Promise<Prepared> {
  const wav = await openWav(storedCapture(captureId, bytes));
  const rateHz = wav.sampleRateHz;
  const from = Math.round(busiestPart(detail.stripActive, Math.ceil(LOOP_S / detail.stripSeconds)) * detail.stripSeconds * rateHz);
  const heard = await readPart(wav, from, from + LOOP_S * rateHz);
  const voice = atModelRate({ samples: ownVoice(heard, rateHz, { rig, card: heardWith, microphone, use }), rateHz });
  // The room is in the recording already.
  const room = { ...QUIET_ROOM, noiseDb: null };
  const assumed: StationSetting = { rig, radio: USUAL_RADIO, microphone: { microphone, use, room, seed: 1 } };
  const [low, high] = rig.alc.zone;
  const radio = calibrateDrive(voice, assumed, heardWith, alcReading ?? (low + high) / 2);
  const station = { ...assumed, radio };
  return { voice, station, judge: new CardJudge(voice, station), known: new Map() };
}

type Place = Pick<Prepared, 'station' | 'judge' | 'known'>;

/** Places away from where the voice was recorded, by what they are; the last few. */
const places = new Map<string, Place>();
const MOST_PLACES = 12;

function stationOf({ voice, station }: Prepared, { rig, microphone, use, driven }: Elsewhere): StationSetting {
  const assumed: StationSetting = { rig, radio: USUAL_RADIO, microphone: { ...station.microphone, microphone, use } };
  const [low, high] = rig.alc.zone;
  return { ...assumed, radio: calibrateDrive(voice, assumed, driven, (low + high) / 2) };
}

/** The station that a card belongs to. */
async function placeOf(source: ModelVoice, { elsewhere, usedAs }: Where): Promise<Place> {
  const own = await prepare(source);
  if (!elsewhere && !usedAs) return own;
  const key = JSON.stringify([source.captureId, source.heardWith, elsewhere, usedAs]);
  const known = places.get(key);
  if (known) return known;
  const there = elsewhere ? stationOf(own, elsewhere) : own.station;
  const station = usedAs ? { ...there, microphone: { ...there.microphone, use: usedAs } } : there;
  const place = { station, judge: new CardJudge(own.voice, station), known: new Map() };
  if (places.size >= MOST_PLACES) places.clear();
  places.set(key, place);
  return place;
}

const MOST_KNOWN = 100;

function judgeOr({ judge, known }: Pick<Prepared, 'judge' | 'known'>, card: Card): JudgedCard | string {
  const key = JSON.stringify(card);
  const before = known.get(key);
  if (before !== undefined) return before;
  if (known.size >= MOST_KNOWN) known.clear();
  const judged = judgeAnew(judge, card);
  known.set(key, judged);
  return judged;
}

function judgeAnew(judge: CardJudge, card: Card): JudgedCard | string {
  if (!canJudge(card)) return 'Reach is worked out for single sideband only.';
  try {
    return judge.judge(card);
  } catch (error) {
    if (error instanceof RangeError) return error.message;
    throw error;
  }
}

const work = {
  /** Judges cards one after the other. @param onProgress told each as it is ready */
  async judge(
    source: ModelVoice,
    cards: readonly CardToJudge[],
    onProgress?: (done: NamedJudgement, share: number) => void,
  ): Promise<NamedJudgement[]> {
    const all: NamedJudgement[] = [];
    for (const { key, name, card, ...where } of cards) {
      const done = { key, name, judged: judgeOr(await placeOf(source, where), card) };
      all.push(done);
      onProgress?.(done, all.length / cards.length);
    }
    return all;
  },

  /** The cards that schools of operators would begin with, on this rig. */
  schools: (rig: RigProfile, mode: Card['mode'], purpose: Purpose): { key: string; name: string; card: Card }[] =>
    schoolsFor(purpose).map((school) => ({
      key: school,
      name: SCHOOL_RULES[school].text,
      card: { mode, values: startingCard(rig, mode, school).values },
    })),

  /** Narrow, default and wide with the card's other dials, on this rig's own choices. */
  async passbands(source: ModelVoice, card: Card, elsewhere?: Elsewhere): Promise<{ answers: PassbandAnswer[]; words: string } | string> {
    if (!canJudge(card)) return 'Reach is worked out for single sideband only.';
    const place = await placeOf(source, { elsewhere });
    const { rig } = place.station;
    const tried = new Map<string, PassbandAnswer>();
    for (const { name, edgesHz } of PASSBAND_QUESTION) {
      const values = nearestPassband(rig, card.mode, card.values, edgesHz, []);
      const key = JSON.stringify(values);
      if (tried.has(key)) continue;
      const judged = judgeOr(place, { mode: card.mode, values: { ...card.values, ...values } });
      if (typeof judged === 'string') return judged;
      const edges = passbandOf(rig, card.mode, { ...card.values, ...values }).join('–');
      tried.set(key, { name, edges, values, judged });
    }
    const answers = [...tried.values()];
    if (answers.length < 2) return 'This radio has one passband only.';
    const edges = answers.map(({ values }) => passbandOf(rig, card.mode, { ...card.values, ...values }));
    const widest = [Math.min(...edges.map(([low]) => low)), Math.max(...edges.map(([, high]) => high))] as const;
    const note = narrowVoiceNote(effective(source.rig, source.heardWith).passbandHz, widest);
    return { answers, words: [passbandWords(answers), note].filter((each) => each !== null).join(' ') };
  },

  /** Mic, mixer or equalizer: what each way is worth for this voice. */
  async soundWays(
    source: ModelVoice,
    card: Card,
    target: readonly CurvePoint[],
    elsewhere: Elsewhere | undefined,
    onProgress: (share: number) => void,
  ): Promise<SoundAnswer[] | string> {
    if (!canJudge(card)) return 'Reach is worked out for single sideband only.';
    const { voice } = await prepare(source);
    const { station } = await placeOf(source, { elsewhere });
    const { microphone, use } = elsewhere ?? source;
    return answerSoundQuestion({ voice, station, microphone, use, card, target }, onProgress);
  },

  /** Cards heard at a stage or through a path, all at one level. */
  async hear(source: ModelVoice, cards: readonly CardToHear[], way?: Way): Promise<{ sounds: Float64Array[]; rateHz: number }> {
    const { voice } = await prepare(source);
    const there = await Promise.all(cards.map((each) => placeOf(source, each)));
    const heard = cards.map(({ card, at }, k) => hearCard(voice, there[k].station, card, at, way));
    const sounds = levelMatched(
      heard.map(({ samples }) => samples),
      heard[0].rateHz,
    );
    return { sounds, rateHz: heard[0].rateHz };
  },
};

export type ModelWork = typeof work;
expose(work);
