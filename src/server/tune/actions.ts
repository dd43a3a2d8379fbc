'use server';
/** What pages do with Tune runs. */
import { change } from '../requests/change.ts';
import type { RequestOf } from '../requests/requests.ts';
import { actInTuneRun, startTuneRun } from './tuneRuns.ts';

export const beginTune = async (input: RequestOf<'tuneStart'>) => change('tuneStart', input, startTuneRun);
export const actInTune = async (input: RequestOf<'tuneAct'>) => change('tuneAct', input, actInTuneRun, '/tune/[id]');
