'use server';
/** What pages do with practice radios. */
import { change } from '../requests/change.ts';
import type { RequestOf } from '../requests/requests.ts';
import { practiceCard, practiceOver } from './practiceCards.ts';

export const practise = async (input: RequestOf<'practise'>) =>
  change('practise', input, ({ cardId, radio, values }) => practiceCard(cardId, radio, values));
export const talkInPractice = async (input: RequestOf<'practiceOver'>) => change('practiceOver', input, practiceOver);
