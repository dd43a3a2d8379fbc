'use server';
/** What pages can ask the server to change. Everything that comes in passes its schema first. */
import { revalidatePath } from 'next/cache';
import { InvalidInput, parseRig } from '@/core/station/validate.ts';
import { type Answer, answer } from '@/server/answer.ts';
import { addRevision, createCard, restoreRevision, setPurpose } from '@/server/cards.ts';
import { measureAgain } from '@/server/measuringPool.ts';
import { deleteOver, noteOver } from '@/server/overs.ts';
import { type RequestName, type RequestOf, readRequest } from '@/server/requests.ts';
import { addMicrophone, addOperator, addReceiver, addRig } from '@/server/station.ts';
import { setAim } from '@/server/targets.ts';

async function change<N extends RequestName, T>(kind: N, input: unknown, work: (request: RequestOf<N>) => Promise<T>): Promise<Answer<T>> {
  const result = await answer(async () => work(readRequest(kind, input)));
  if (result.ok) revalidatePath('/', 'layout');
  return result;
}

export const saveRevision = async (input: RequestOf<'revision'>) => change('revision', input, addRevision);
export const goBackToRevision = async (input: RequestOf<'restore'>) =>
  change('restore', input, ({ cardId, revisionId }) => restoreRevision(cardId, revisionId));
export const makeCard = async (input: RequestOf<'card'>) =>
  change('card', input, (card) => createCard({ ...card, name: card.name.trim() }));
export const changePurpose = async (input: RequestOf<'purpose'>) =>
  change('purpose', input, ({ cardId, purpose }) => setPurpose(cardId, purpose));
export const saveAim = async (input: RequestOf<'aim'>) =>
  change('aim', input, ({ purpose, points }) => setAim(purpose, points as [number, number][] | null));
export const saveOverNote = async (input: RequestOf<'over'>) => change('over', input, ({ overId, ...rest }) => noteOver(overId, rest));
export const measureOverAgain = async (input: RequestOf<'overId'>) => change('overId', input, ({ overId }) => measureAgain(overId));
export const removeOver = async (input: RequestOf<'overId'>) => change('overId', input, ({ overId }) => deleteOver(overId));
export const makeOperator = async (input: RequestOf<'operator'>) =>
  change('operator', input, ({ name, callsign }) => addOperator(name.trim(), callsign.toUpperCase()));
export const makeMicrophone = async (input: RequestOf<'microphone'>) => change('microphone', input, addMicrophone);
export const makeReceiver = async (input: RequestOf<'receiver'>) => change('receiver', input, addReceiver);

/** Adds a rig from the text of a profile file. */
export async function makeRig(text: string): Promise<Answer<number>> {
  const result = await answer(async () => addRig(parseRig(readJson(text))));
  if (result.ok) revalidatePath('/', 'layout');
  return result;
}

function readJson(text: unknown): unknown {
  if (typeof text !== 'string' || text.length > 1_000_000) throw new InvalidInput(['The file is too large for a rig profile.']);
  try {
    return JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    throw new InvalidInput([`This is not valid JSON (${(error as Error).message}).`]);
  }
}
