/**
 * One operator's voice and station as the model has them: cards are judged and heard on it, also on other radios and
 * microphones than the voice was recorded with. Rendering is expensive, so judgements are cached.
 */
import type { CurvePoint } from '../curve/index.ts';
import { readPart, type SampleSource } from '../files/index.ts';
import { CardJudge, canJudge, type JudgedCard } from '../intelligibility/index.ts';
import type { VoiceDetail } from '../measure/index.ts';
import { levelMatched } from '../playback/index.ts';
import type { Card, Microphone, MicrophoneUse, RigProfile } from '../rig/index.ts';
import {
  atModelRate,
  busiestPart,
  calibrateDrive,
  dryVoice,
  hearCard,
  type ListenAt,
  QUIET_ROOM,
  type StationSetting,
  USUAL_RADIO,
  type Voice,
  type Way,
} from '../simulate/index.ts';
import type { Fraction, Hertz, Seconds } from '../units/index.ts';
import { answerSoundQuestion, type SoundAnswer } from './soundQuestion.ts';

/** A loop long enough to judge by, short enough to be heard at once. */
const LOOP_S: Seconds = 10;

/** Through what a voice was recorded. */
export interface RecordedWith {
  readonly detail: Pick<VoiceDetail, 'stripActive' | 'stripSeconds'>;
  readonly rig: RigProfile;
  readonly heardWith: Card;
  readonly microphone: Microphone;
  readonly use: MicrophoneUse;
  readonly driven: Driven;
}

/** How hard the radio is driven: what the ALC read with a card. */
export interface Driven {
  readonly card: Card;
  /** As a share of the scale; null where nobody read it: then it is taken to stand in the middle of its zone. */
  readonly alc: Fraction | null;
}

/** Another radio or microphone, or another use of it, than the voice was recorded with. */
export interface Elsewhere {
  readonly rig: RigProfile;
  readonly microphone: Microphone;
  readonly use: MicrophoneUse;
  readonly driven: Driven;
}

/** Where a card is tried, if that is not where the voice was recorded. */
export interface Where {
  readonly elsewhere?: Elsewhere;
  /** The microphone moved or switched otherwise, with the radio left as it stands. */
  readonly usedAs?: MicrophoneUse;
}

/** A card, where it is tried, and at which stage it is listened to. */
export interface CardToHear extends Where {
  readonly card: Card;
  readonly at: ListenAt;
}

/** A station with what was judged on it. */
interface Place {
  readonly station: StationSetting;
  readonly judge: CardJudge;
  readonly known: Map<string, JudgedCard | string>;
}

const SSB_ONLY = 'Reach is calculated for single sideband only.';
/** Stations away from the voice's own, and judgements on each, that are kept. */
const MOST_PLACES = 12;
const MOST_KNOWN = 100;

const middleOfZone = ({ alc }: RigProfile): Fraction => (alc.zone[0] + alc.zone[1]) / 2;

/** The station with its gain moved to where the ALC reads as it was read. */
const drivenAs = (voice: Voice, station: StationSetting, { card, alc }: Driven): StationSetting => ({
  ...station,
  radio: calibrateDrive(voice, station, card, alc ?? middleOfZone(station.rig)),
});

/** The model of one operator's station; answers are kept for as long as it lives. */
export class StationModel {
  readonly #own: Place;
  readonly #places = new Map<string, Place>();

  private constructor(
    readonly voice: Voice,
    readonly recorded: RecordedWith,
    station: StationSetting,
  ) {
    this.#own = { station, judge: new CardJudge(voice, station), known: new Map() };
  }

  /** Takes the busiest part of a recording as the voice. @throws RangeError when there is no speech in it */
  static async of(recording: SampleSource, recorded: RecordedWith): Promise<StationModel> {
    const { detail, rig, heardWith, microphone, use, driven } = recorded;
    const rateHz = recording.sampleRateHz;
    const from = Math.round(busiestPart(detail.stripActive, Math.ceil(LOOP_S / detail.stripSeconds)) * detail.stripSeconds * rateHz);
    const heard = await readPart(recording, from, from + LOOP_S * rateHz);
    const voice = atModelRate({ samples: dryVoice(heard, rateHz, { rig, card: heardWith, microphone, use }), rateHz });
    // The room is in the recording already.
    const room = { ...QUIET_ROOM, noiseDb: null };
    const assumed: StationSetting = { rig, radio: USUAL_RADIO, microphone: { microphone, use, room, seed: 1 } };
    return new StationModel(voice, recorded, drivenAs(voice, assumed, driven));
  }

  /** What a card is worth there; a sentence where that can't be told. */
  judge(card: Card, where: Where = {}): JudgedCard | string {
    const { judge, known } = this.#place(where);
    const key = JSON.stringify(card);
    const before = known.get(key);
    if (before !== undefined) return before;
    if (known.size >= MOST_KNOWN) known.clear();
    const judged = judgeOrSay(judge, card);
    known.set(key, judged);
    return judged;
  }

  /** Mic, mixer or equalizer: what each way is worth for this voice. @param onProgress told the share done */
  async soundWays(
    card: Card,
    target: readonly CurvePoint[],
    elsewhere: Elsewhere | undefined,
    onProgress: (share: Fraction) => void,
  ): Promise<SoundAnswer[] | string> {
    if (!canJudge(card)) return SSB_ONLY;
    const { station } = this.#place({ elsewhere });
    const { microphone, use } = elsewhere ?? this.recorded;
    return answerSoundQuestion({ voice: this.voice, station, microphone, use, card, target }, onProgress);
  }

  /** Cards heard at a stage or through a path, all at one level. @param isLossLeftIn or as much softer than the loudest as they are */
  hear(cards: readonly CardToHear[], way?: Way, isLossLeftIn = false): { sounds: Float64Array[]; rateHz: Hertz } {
    const heard = cards.map(({ card, at, ...where }) => hearCard(this.voice, this.#place(where).station, card, at, way));
    const [{ rateHz }] = heard;
    return {
      sounds: levelMatched(
        heard.map(({ samples }) => samples),
        rateHz,
        isLossLeftIn,
      ),
      rateHz,
    };
  }

  #place({ elsewhere, usedAs }: Where): Place {
    if (!elsewhere && !usedAs) return this.#own;
    const key = JSON.stringify([elsewhere, usedAs]);
    const known = this.#places.get(key);
    if (known) return known;
    const there = elsewhere ? this.#stationAt(elsewhere) : this.#own.station;
    const station = usedAs ? { ...there, microphone: { ...there.microphone, use: usedAs } } : there;
    const place = { station, judge: new CardJudge(this.voice, station), known: new Map<string, JudgedCard | string>() };
    if (this.#places.size >= MOST_PLACES) this.#places.clear();
    this.#places.set(key, place);
    return place;
  }

  #stationAt({ rig, microphone, use, driven }: Elsewhere): StationSetting {
    const assumed: StationSetting = { rig, radio: USUAL_RADIO, microphone: { ...this.#own.station.microphone, microphone, use } };
    return drivenAs(this.voice, assumed, driven);
  }
}

function judgeOrSay(judge: CardJudge, card: Card): JudgedCard | string {
  if (!canJudge(card)) return SSB_ONLY;
  try {
    return judge.judge(card);
  } catch (error) {
    if (error instanceof RangeError) return error.message;
    throw error;
  }
}
