/** Whose voice the model works with: a recording of an over, and what it went through. */
import { spoiltBy } from '@/core/findings/index.ts';
import { type Microphone, type MicrophoneUse, usualUse } from '@/core/rig/index.ts';
import { database } from '../db/database.ts';
import { listOvers } from './overs.ts';
import { loadOvers, type OverView } from './overView.ts';

export interface VoiceSource {
  readonly over: OverView;
  readonly microphone: Microphone;
  readonly use: MicrophoneUse;
}

/** Overs of the operator's other cards that are looked through. */
const LOOKED_AT = 10;

const isHeard = (over: OverView | null): over is OverView => over !== null && over.measured !== null && over.capture !== null;

/**
 * The over the card is judged by, where it has a measured recording; else the operator's newest one with any card, so
 * that a new card can be heard before its first over. Null when the operator has none.
 */
export async function voiceFor(operatorId: number, own: OverView | null): Promise<VoiceSource | null> {
  const over = isHeard(own) ? own : await realVoice(operatorId);
  if (!over) return null;
  const { microphones, cards } = database().models;
  const { microphoneId } = await cards.findByPk(over.card.id, { attributes: ['microphoneId'], rejectOnEmpty: true });
  const { profile } = await microphones.findByPk(microphoneId, { rejectOnEmpty: true });
  return { over, microphone: profile, use: over.revision.use ?? usualUse(profile) };
}

/** The operator's newest with talk and pauses that nothing spoils; failing that the newest. Practice radios say nothing of a voice. */
async function realVoice(operatorId: number): Promise<OverView | null> {
  const overs = await listOvers({ operatorId, kind: 'voice', isReal: true, limit: LOOKED_AT });
  const done = overs.filter(({ status }) => status === 'done');
  const heard = (await loadOvers(done.map(({ id }) => id))).filter(isHeard);
  const isClean = ({ measured }: OverView) => measured?.result.snrDb !== null && !spoiltBy(measured?.result.findings ?? []);
  return heard.find(isClean) ?? heard[0] ?? null;
}
