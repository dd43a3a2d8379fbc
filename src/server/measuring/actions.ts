'use server';
/** What pages ask of the measuring. */
import { CARDS_FOUND, type CardSummary, listCards } from '../cards/cardList.ts';
import { type Answer, answer } from '../requests/answer.ts';
import { change } from '../requests/change.ts';
import { type RequestOf, readRequest } from '../requests/requests.ts';
import { loadStation, type ReceiverView } from '../station/station.ts';
import { setLimit } from './limits.ts';
import { measureAgain, measureAllAgain } from './measuringPool.ts';

export const measureCaptureAgain = async (input: RequestOf<'captureId'>) =>
  change('captureId', input, ({ captureId }) => measureAgain(captureId));
export const measureCaptureAs = async (input: RequestOf<'measureAs'>) =>
  change('measureAs', input, ({ captureId, kind, settings }) => measureAgain(captureId, { kind, settings }));
export const saveLimit = async (input: RequestOf<'limit'>) =>
  change('limit', input, ({ name, limit, base }) => setLimit(name, limit, base), '/station/limits');
export const judgeAllAgain = async (input: RequestOf<'nothing'>) => change('nothing', input, () => measureAllAgain());

export interface UploadChoices {
  readonly cards: readonly CardSummary[];
  /** The one that is meant, as far as the page tells. */
  readonly card: CardSummary | null;
  readonly receivers: readonly ReceiverView[];
}

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
