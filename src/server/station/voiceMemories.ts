/** The voice memories of a rig: what was recorded with which card, and whether the card still sounds so. */
import type { Purpose } from '../../core/station/card.ts';
import type { MicrophoneUse } from '../../core/station/microphone.ts';
import type { Mode } from '../../core/station/rig.ts';
import { type SoundChange, soundChange } from '../../core/station/sound.ts';
import { type CardView, loadCard, type RevisionView } from '../cards/cards.ts';
import { database } from '../database.ts';
import { Refused } from '../refused.ts';

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
export async function listVoiceMemories(rigId: number): Promise<VoiceMemoryView[]> {
  const { models } = database();
  const rows = await models.voiceMemories.findAll({ where: { rigId }, order: [['slot', 'ASC']] });
  return Promise.all(
    rows.map(async (row) => {
      const { card, revision } = await recordedWith(row.cardRevisionId);
      const [newest] = card.revisions;
      const as = ({ values, use }: RevisionView) => ({ mode: card.mode, values, use });
      return {
        slot: row.slot,
        words: row.words,
        recordedAt: row.createdAt.toISOString(),
        card: { id: card.id, name: card.name, mode: card.mode, purpose: card.purpose, operator: card.operator.name },
        revision: revision.number,
        newestRevision: newest.number,
        change: soundChange(card.rig.profile, as(revision), as(newest)),
        use: newest.use,
      };
    }),
  );
}

async function recordedWith(revisionId: number): Promise<{ card: CardView; revision: RevisionView }> {
  const row = await database().models.cardRevisions.findByPk(revisionId, { rejectOnEmpty: true });
  const card = await loadCard(row.cardId);
  const revision = card?.revisions.find(({ id }) => id === revisionId);
  if (!card || !revision) throw new Error(`Revision ${revisionId} has no card.`);
  return { card, revision };
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
  const wanted = revision === undefined ? card.revisions[0] : card.revisions.find(({ number }) => number === revision);
  if (!wanted) throw new Refused('The card has no such revision.', 404);
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
  const rows = await database().models.voiceMemories.findAll({ attributes: ['rigId'], group: ['rigId'] });
  const found = await Promise.all(
    rows.map(async ({ rigId }) => {
      const stale = (await listVoiceMemories(rigId)).filter(({ change }) => change !== null);
      return [rigId, stale.map(({ slot }) => slot)] as const;
    }),
  );
  return Object.fromEntries(found.filter(([, slots]) => slots.length > 0));
}
