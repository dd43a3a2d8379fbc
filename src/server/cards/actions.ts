'use server';
/** What pages change about cards. */
import type { CurvePoint } from '@/core/curve/index.ts';
import { type Answer, answer } from '../requests/answer.ts';
import { change } from '../requests/change.ts';
import { whoIsThere } from '../requests/preferences.ts';
import { type RequestOf, readRequest } from '../requests/requests.ts';
import { CARDS_FOUND, type CardSummary, listCards } from './cardList.ts';
import { changeCard, createCard, loadCard, olderRevisions, REVISIONS_SHOWN, type RevisionView, setAsideOn } from './cards.ts';
import { addRevision, restoreRevision, undoRevision } from './revisions.ts';
import { setTarget } from './targets.ts';

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
export const notThis = async (input: RequestOf<'notThis'>) =>
  change('notThis', input, ({ cardId, setAside }) => setAsideOn(cardId, setAside));
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
/** Cards for a picker: those whose names hold the words, the ones changed last first. */
export const findCards = async (input: RequestOf<'search'>): Promise<Answer<CardSummary[]>> =>
  answer(async () => listCards({ search: readRequest('search', input).search, limit: CARDS_FOUND }));
