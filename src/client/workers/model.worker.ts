/** The model's web worker: cards heard and judged, apart from the page's other work, which goes on meanwhile. */
import { expose } from 'comlink';
import {
  type CardToHear,
  type Elsewhere,
  type RecordedWith,
  SCHOOL_RULES,
  StationModel,
  schoolsFor,
  startingCard,
  type Where,
} from '@/core/advice/index.ts';
import type { CurvePoint } from '@/core/curve/index.ts';
import { openWav } from '@/core/files/index.ts';
import type { JudgedCard } from '@/core/intelligibility/index.ts';
import type { Card, Purpose, RigProfile } from '@/core/rig/index.ts';
import type { Way } from '@/core/simulate/index.ts';
import { storedCapture } from './storedCapture.ts';

/** Whose voice, and through what it was recorded. */
export interface ModelVoice extends RecordedWith {
  readonly captureId: number;
  readonly bytes: number;
}

/** The voice last worked with: rendering it again costs nothing then. */
let kept: { readonly key: string; readonly model: Promise<StationModel> } | null = null;

function modelOf({ captureId, bytes, ...recorded }: ModelVoice): Promise<StationModel> {
  const { detail: _, ...told } = recorded;
  const key = JSON.stringify([captureId, told]);
  if (kept?.key !== key) kept = { key, model: openWav(storedCapture(captureId, bytes)).then((wav) => StationModel.of(wav, recorded)) };
  return kept.model;
}

const work = {
  /** What a card is worth there; a sentence where that can't be told. */
  judge: async (source: ModelVoice, card: Card, where: Where): Promise<JudgedCard | string> => (await modelOf(source)).judge(card, where),

  /** The cards that schools of operators would begin with, on this rig. */
  schools: (rig: RigProfile, mode: Card['mode'], purpose: Purpose): { key: string; name: string; card: Card }[] =>
    schoolsFor(purpose).map((school) => ({
      key: school,
      name: SCHOOL_RULES[school].text,
      card: { mode, values: startingCard(rig, mode, school).values },
    })),

  soundWays: async (
    source: ModelVoice,
    card: Card,
    target: readonly CurvePoint[],
    elsewhere: Elsewhere | undefined,
    onProgress: (share: number) => void,
  ) => (await modelOf(source)).soundWays(card, target, elsewhere, onProgress),

  hear: async (source: ModelVoice, cards: readonly CardToHear[], way?: Way, isLossLeftIn?: boolean) =>
    (await modelOf(source)).hear(cards, way, isLossLeftIn),
};

export type ModelWork = typeof work;
expose(work);
