'use server';
import { viewOf } from '@/core/playback/index.ts';
/** What pages change about overs. */
import { answer } from '../requests/answer.ts';
import { change } from '../requests/change.ts';
import { Refused } from '../requests/refused.ts';
import { type RequestOf, readRequest } from '../requests/requests.ts';
import { deleteOver, noteOver } from './overs.ts';
import { loadCaptures } from './overView.ts';

export const saveOverNote = async (input: RequestOf<'over'>) => change('over', input, ({ overId, ...rest }) => noteOver(overId, rest));
export const removeOver = async (input: RequestOf<'overId'>) => change('overId', input, ({ overId }) => deleteOver(overId));

/** What is needed to play a recording. */
export const playableCapture = async (input: RequestOf<'captureId'>) =>
  answer(async () => {
    const { captureId } = readRequest('captureId', input);
    const [over] = await loadCaptures([captureId]);
    if (!over?.capture) throw new Refused('There is no such recording.', 404);
    const view = over.evidence && viewOf(over.evidence.result);
    if (!view) throw new Refused(over.evidence ? 'This recording is silent: a curve or a trace.' : 'It is not measured yet.', 422);
    return { bytes: over.capture.bytes, view };
  });
