/** Overs of the practice radio: rendered on a worker thread, handed out as WAV files. Nothing is stored here. */
import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { LoopWish, NextAnswer } from '@/core/advice/index.ts';
import { type Card, type DialValue, type DialValues, parseCard, type RigProfile } from '@/core/rig/index.ts';
import { type HeardWith, hiddenRadio, type MeterReadings, type MicrophoneSetting, PRACTICE_RECEIVERS } from '@/core/simulate/index.ts';
import { loadCard, revisionOfCard } from '../cards/cards.ts';
import { databaseUrl } from '../db/database.ts';
import { judgedOver } from '../overs/overs.ts';
import { type VoiceSource, voiceFor } from '../overs/voice.ts';
import { Refused } from '../requests/refused.ts';
import type { RequestOf } from '../requests/requests.ts';
import { schoolOfCard } from '../tune/cardSchool.ts';

export interface PracticeJob {
  readonly databaseUrl: string;
  /** Null: the demo's voice talks. */
  readonly voice: ({ readonly captureId: number; readonly bytes: number } & Pick<HeardWith, 'rig' | 'card' | 'microphone' | 'use'>) | null;
  /** The radio that talks, and its microphone: not always those the voice was recorded with. */
  readonly rig: RigProfile;
  readonly microphone: Pick<MicrophoneSetting, 'microphone' | 'use'>;
  readonly card: Card;
  readonly radio: number;
  readonly receiver: number;
  readonly isIq: boolean;
  /** Overs of one card differ, as talk does; 0 is the recording as it is. */
  readonly take: number;
  /** The advice engine is to play the radio, from this card on. */
  readonly engine?: Pick<LoopWish, 'purpose' | 'school'>;
}

/** One over of the engine's. */
export interface EngineOver {
  readonly alc: number | null;
  readonly status: NextAnswer['status'];
  readonly why: string;
  readonly set: readonly { readonly dialId: string; readonly from: DialValue; readonly to: DialValue }[];
  readonly toneErrorDb: number | null;
}

export type PracticeNews =
  | { readonly kind: 'done'; readonly wav: Uint8Array<ArrayBuffer>; readonly meters: MeterReadings }
  | { readonly kind: 'played'; readonly overs: readonly EngineOver[] }
  | { readonly kind: 'failed'; readonly message: string };

export interface PracticeOver {
  readonly wav: Uint8Array<ArrayBuffer>;
  readonly fileName: string;
  readonly meters: MeterReadings & { readonly swr: number };
}

/** One at a time is enough for one operator; more would only make all of them late. */
const LONGEST_LINE = 8;

const voiceOf = ({ over, microphone, use }: VoiceSource, { id, bytes }: { id: number; bytes: number }): PracticeJob['voice'] => ({
  captureId: id,
  bytes,
  rig: over.rig.profile,
  card: { mode: over.card.mode, values: over.revision.values },
  microphone,
  use,
});

const shared = globalThis as { dialTunePractice?: Piscina<PracticeJob, PracticeNews> };

function practiceThread(): Piscina<PracticeJob, PracticeNews> {
  shared.dialTunePractice ??= new Piscina({
    filename: join(process.cwd(), 'dist', 'practiceWorker.mjs'),
    minThreads: 0,
    maxThreads: 1,
    maxQueue: LONGEST_LINE,
    idleTimeout: 30_000,
  });
  return shared.dialTunePractice;
}

/**
 * @param take which of several overs with the same dials
 * @throws Refused when there is no such card, InvalidInput for values off their dials
 */
export async function transmitPractice(request: RequestOf<'practice'>, take = 0): Promise<PracticeOver> {
  const { cardId, values, radio, receiver, isIq, load } = request;
  const job = await jobOf(cardId, values);
  const news = await run({ ...job, radio, receiver, isIq, take });
  if (news.kind !== 'done') throw new Error('The practice radio gave something else than an over.');
  const { name } = PRACTICE_RECEIVERS[receiver];
  const swr = load === 'antenna' ? hiddenRadio(job.rig, radio).swr : 1;
  return {
    wav: news.wav,
    fileName: `simulated radio ${radio}, ${name.replace(',', '')}${isIq ? ' IQ' : ''}.wav`,
    meters: { ...news.meters, swr },
  };
}

/**
 * The advice engine on a practice radio, from the card that practice began with.
 * @returns its overs, oldest first
 * @throws Refused when the card is of a real radio
 */
export async function enginePlays(cardId: number): Promise<readonly EngineOver[]> {
  const card = await loadCard(cardId);
  if (!card) throw new Refused('There is no such card.', 404);
  if (card.practiceRadio === null) throw new Refused('This card is of a real radio.', 409);
  const first = (await revisionOfCard(card, 1)) ?? card.revisions[0];
  const job = await jobOf(cardId, first.values);
  const { wish: school } = await schoolOfCard(card);
  const engine = { purpose: card.purpose, school };
  const news = await run({ ...job, radio: card.practiceRadio, receiver: 0, isIq: false, take: 0, engine });
  if (news.kind !== 'played') throw new Error('The practice radio gave something else than a run.');
  return news.overs;
}

type Job = Omit<PracticeJob, 'radio' | 'receiver' | 'isIq' | 'take'>;

/** What an over of a card needs, whichever radio it is. */
async function jobOf(cardId: number, values: DialValues): Promise<Job> {
  const card = await loadCard(cardId);
  if (!card) throw new Refused('There is no such card.', 404);
  // On a card of a practice radio the voice is the operator's real one all the same.
  const source = await voiceFor(card.operator.id, card.practiceRadio === null ? await judgedOver(cardId) : null);
  const rig = card.rig.profile;
  const { mode } = card;
  parseCard({ format: 'dialtune-card', version: 1, mode, values }, rig);
  return {
    databaseUrl: databaseUrl(),
    voice: source?.over.capture ? voiceOf(source, source.over.capture) : null,
    rig,
    microphone: { microphone: card.microphone.profile, use: card.revisions[0].use },
    card: { mode, values },
  };
}

async function run(job: PracticeJob): Promise<PracticeNews> {
  const thread = practiceThread();
  if (thread.queueSize >= LONGEST_LINE)
    throw new Refused('The practice radio is busy with other overs. Please try again in a minute.', 503);
  const news = await thread
    .run(job)
    .catch((error: Error): PracticeNews => ({ kind: 'failed', message: `The practice radio failed: ${error.message}.` }));
  if (news.kind === 'failed') throw new Refused(news.message, 422);
  return news;
}
