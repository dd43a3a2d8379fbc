'use server';
/** What pages change about overs. */
import { change } from '../requests/change.ts';
import type { RequestOf } from '../requests/requests.ts';
import { deleteOver, noteOver } from './overs.ts';

export const saveOverNote = async (input: RequestOf<'over'>) => change('over', input, ({ overId, ...rest }) => noteOver(overId, rest));
export const removeOver = async (input: RequestOf<'overId'>) => change('overId', input, ({ overId }) => deleteOver(overId));
