'use server';
/** What pages can ask the server to change. Everything that comes in passes its schema first. */
import { revalidatePath } from 'next/cache';
import type { CurvePoint } from '@/core/curve/index.ts';
import { parseMicrophone, parseRig } from '@/core/rig/index.ts';
import { readJson } from '@/core/schema/index.ts';
import { type CardSummary, listCards } from './cards/cardList.ts';
import { changeCard, createCard, loadCard, olderRevisions, REVISIONS_SHOWN, type RevisionView } from './cards/cards.ts';
import { addRevision, restoreRevision, undoRevision } from './cards/revisions.ts';
import { setTarget } from './cards/targets.ts';
import { setLimit } from './measuring/limits.ts';
import { measureAgain, measureAllAgain } from './measuring/measuringPool.ts';
import { deleteOver, noteOver } from './overs/overs.ts';
import { type Answer, answer } from './requests/answer.ts';
import { type RequestName, type RequestOf, readRequest } from './requests/requests.ts';
import { tickDials } from './station/radioState.ts';
import { type KeptRig, keepRig, takeMeasuredEdges } from './station/rigs.ts';
import { keepMicrophone, keepOperator, keepReceiver, loadStation, type ReceiverView, retirePart } from './station/station.ts';
import { clearVoiceMemory, recordVoiceMemory } from './station/voiceMemories.ts';
import { keepWho, whoIsThere } from './station/who.ts';

async function change<N extends RequestName, T>(kind: N, input: unknown, work: (request: RequestOf<N>) => Promise<T>): Promise<Answer<T>> {
  const result = await answer(async () => work(readRequest(kind, input)));
  if (result.ok) revalidatePath('/', 'layout');
  return result;
}

export const chooseWho = async (input: RequestOf<'by'>) => change('by', input, ({ by }) => keepWho(by));

export const saveRevision = async (input: RequestOf<'revision'>) =>
  change('revision', input, async (revision) => addRevision({ ...revision, by: await whoIsThere() }));
export const goBackToRevision = async (input: RequestOf<'restore'>) =>
  change('restore', input, async ({ cardId, revisionId }) => restoreRevision(cardId, revisionId, await whoIsThere()));
export const undoLastChange = async (input: RequestOf<'undo'>) =>
  change('undo', input, async ({ cardId, baseRevisionId }) => undoRevision(cardId, baseRevisionId, await whoIsThere()));
export const makeCard = async (input: RequestOf<'card'>) =>
  change('card', input, async (card) => createCard({ ...card, by: await whoIsThere() }));
export const saveCard = async (input: RequestOf<'cardChange'>) =>
  change('cardChange', input, ({ cardId, ...rest }) => changeCard(cardId, rest));
export const findOlderRevisions = async (input: RequestOf<'olderRevisions'>): Promise<Answer<RevisionView[]>> =>
  answer(async () => {
    const { cardId, before } = readRequest('olderRevisions', input);
    const card = await loadCard(cardId);
    return card ? olderRevisions(card, before, REVISIONS_SHOWN) : [];
  });
export const saveTarget = async (input: RequestOf<'target'>) =>
  change('target', input, ({ purpose, points, base }) =>
    setTarget(purpose, points as CurvePoint[] | null, base as CurvePoint[] | undefined),
  );
export const saveOverNote = async (input: RequestOf<'over'>) => change('over', input, ({ overId, ...rest }) => noteOver(overId, rest));
export const measureOverAgain = async (input: RequestOf<'overId'>) => change('overId', input, ({ overId }) => measureAgain(overId));
export const measureOverAs = async (input: RequestOf<'measureAs'>) =>
  change('measureAs', input, ({ overId, kind, settings }) => measureAgain(overId, { kind, settings }));
export const saveLimit = async (input: RequestOf<'limit'>) =>
  change('limit', input, ({ name, limit, base }) => setLimit(name, limit, base));
export const judgeAllAgain = async (input: RequestOf<'nothing'>) => change('nothing', input, () => measureAllAgain());
export const removeOver = async (input: RequestOf<'overId'>) => change('overId', input, ({ overId }) => deleteOver(overId));

export const saveOperator = async (input: RequestOf<'operator'>) => change('operator', input, keepOperator);
export const saveReceiver = async (input: RequestOf<'receiver'>) => change('receiver', input, keepReceiver);
export const saveMicrophone = async (input: RequestOf<'file'>) =>
  change('file', input, ({ id, text, base }) => keepMicrophone({ id, profile: parseMicrophone(readJson(text)), base }));
export const saveRig = async (input: RequestOf<'file'>): Promise<Answer<KeptRig>> =>
  change('file', input, async ({ id, text, base }) => keepRig({ id, profile: parseRig(readJson(text)), base, by: await whoIsThere() }));
export const takeEdges = async (input: RequestOf<'overId'>): Promise<Answer<KeptRig>> =>
  change('overId', input, async ({ overId }) => takeMeasuredEdges(overId, await whoIsThere()));
export const retire = async (input: RequestOf<'retire'>) =>
  change('retire', input, ({ kind, id, isRetired }) => retirePart(kind, id, isRetired));

export const tick = async (input: RequestOf<'ticks'>) => change('ticks', input, ({ ticks }) => tickDials(ticks));
export const recordMemory = async (input: RequestOf<'memory'>) => change('memory', input, recordVoiceMemory);
export const clearMemory = async (input: RequestOf<'clearMemory'>) =>
  change('clearMemory', input, ({ rigId, slot }) => clearVoiceMemory(rigId, slot));

const CARDS_FOUND = 12;

export interface UploadChoices {
  readonly cards: readonly CardSummary[];
  /** The one that is meant, as far as the page tells. */
  readonly card: CardSummary | null;
  readonly receivers: readonly ReceiverView[];
}

/** Cards for a picker: those whose names hold the words, the ones changed last first. */
export const findCards = async (input: RequestOf<'search'>): Promise<Answer<CardSummary[]>> =>
  answer(async () => listCards({ search: readRequest('search', input).search, limit: CARDS_FOUND }));

/** What the sheet for new recordings offers. */
export const uploadChoices = async (input: RequestOf<'cardId'>): Promise<Answer<UploadChoices>> =>
  answer(async () => {
    const { cardId } = readRequest('cardId', input);
    const [cards, [card], { receivers }] = await Promise.all([
      listCards({ limit: CARDS_FOUND }),
      cardId === undefined ? [] : listCards({ id: cardId, withRetired: true, limit: 1 }),
      loadStation(),
    ]);
    return { cards, card: card ?? cards[0] ?? null, receivers };
  });
