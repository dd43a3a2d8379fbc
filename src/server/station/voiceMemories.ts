/** The voice memories of a rig: what was recorded with which card, and whether the card still sounds so. */
import { type MicrophoneUse, type Mode, type Purpose, type SoundChange, soundChange, usualUse } from '@/core/rig/index.ts';
import { loadCard, loadCards, revisionOfCard } from '../cards/cards.ts';
import { database } from '../db/database.ts';
import { refuseFarTime } from '../requests/pastTime.ts';
import { Refused } from '../requests/refused.ts';

export interface VoiceMemoryView {
  readonly slot: number;
  readonly words: string;
  readonly recordedAt: string;
  readonly card: { readonly id: number; readonly name: string; readonly mode: Mode; readonly purpose: Purpose; readonly operator: string };
  /** Revision it was recorded with, and the newest. */
  readonly revision: number;
  readonly newestRevision: number;
  /** What of the sound is different by now; null when it still matches. */
  readonly change: SoundChange | null;
  /** How the microphone is used on the newest revision. */
  readonly use: MicrophoneUse;
}

/** The recordings of a rig's memories, by slot. */
export const listVoiceMemories = async (rigId: number): Promise<VoiceMemoryView[]> => (await memoriesOf([rigId])).get(rigId) ?? [];

/** The memories of rigs, or of all: rig id to its memories by slot. */
async function memoriesOf(rigIds?: readonly number[]): Promise<Map<number, VoiceMemoryView[]>> {
  const { models } = database();
  const rows = await models.voiceMemories.findAll({ where: rigIds ? { rigId: [...rigIds] } : {}, order: [['slot', 'ASC']] });
  const revisions = await models.cardRevisions.findAll({ where: { id: rows.map(({ cardRevisionId }) => cardRevisionId) } });
  const cards = await loadCards([...new Set(revisions.map(({ cardId }) => cardId))]);
  const views = new Map<number, VoiceMemoryView[]>();
  for (const { rigId, slot, words, createdAt, cardRevisionId } of rows) {
    const revision = revisions.find(({ id }) => id === cardRevisionId);
    const card = cards.find(({ id }) => id === revision?.cardId);
    if (!revision || !card) throw new Error(`Revision ${cardRevisionId} has no card.`);
    const [newest] = card.revisions;
    const was = { mode: card.mode, values: revision.values, use: revision.microphoneUse ?? usualUse(card.microphone.profile) };
    const memory = {
      slot,
      words,
      recordedAt: createdAt.toISOString(),
      card: { id: card.id, name: card.name, mode: card.mode, purpose: card.purpose, operator: card.operator.name },
      revision: revision.number,
      newestRevision: newest.number,
      change: soundChange(card.rig.profile, was, { mode: card.mode, values: newest.values, use: newest.use }),
      use: newest.use,
    };
    views.set(rigId, [...(views.get(rigId) ?? []), memory]);
  }
  return views;
}

export interface NewMemory {
  readonly rigId: number;
  readonly slot: number;
  readonly words: string;
  readonly cardId: number;
  /** Number of the revision it was recorded with; the newest when left out. */
  readonly revision?: number;
  /** When it was recorded, ISO 8601; now when left out. */
  readonly recordedAt?: string;
}

/** Notes a recording in a slot; what was there before is forgotten. @throws Refused when slot or card don't fit the rig */
export async function recordVoiceMemory({ rigId, slot, words, cardId, revision, recordedAt }: NewMemory): Promise<void> {
  const { models } = database();
  const [rig, card] = await Promise.all([models.rigs.findByPk(rigId), loadCard(cardId)]);
  if (!rig) throw new Refused('This rig does not exist.', 404);
  if (!card || card.rig.id !== rigId) throw new Refused(`This card is not for ${rig.name}.`, 422);
  const slots = rig.profile.voiceMemories ?? 0;
  if (slot > slots) throw new Refused(slots === 0 ? `${rig.name} has no voice memories.` : `${rig.name} has memories 1 to ${slots}.`, 422);
  const wanted = revision === undefined ? card.revisions[0] : await revisionOfCard(card, revision);
  if (!wanted) throw new Refused('The card has no such revision.', 404);
  if (recordedAt !== undefined) refuseFarTime(recordedAt);
  await database().sequelize.transaction(async (transaction) => {
    await models.voiceMemories.destroy({ where: { rigId, slot }, transaction });
    await models.voiceMemories.create(
      {
        rigId,
        slot,
        words: words.trim(),
        cardRevisionId: wanted.id,
        ...(recordedAt ? { createdAt: new Date(recordedAt) } : {}),
      },
      { transaction },
    );
  });
}

export async function clearVoiceMemory(rigId: number, slot: number): Promise<void> {
  await database().models.voiceMemories.destroy({ where: { rigId, slot } });
}

/** Rigs whose memories hold a voice that the cards no longer have: rig id to slots. */
export async function staleMemories(): Promise<Record<number, number[]>> {
  const stale = [...(await memoriesOf())].map(
    ([rigId, memories]) => [rigId, memories.filter(({ change }) => change !== null).map(({ slot }) => slot)] as const,
  );
  return Object.fromEntries(stale.filter(([, slots]) => slots.length > 0));
}
