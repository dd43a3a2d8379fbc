'use server';
/** The two ways to begin over: with the demo club, and with nothing. */
import { emptyTheStation } from '../backup/emptyTheStation.ts';
import { change } from '../requests/change.ts';
import type { RequestOf } from '../requests/requests.ts';
import { loadDemoClub } from './loadIt.ts';

export const lookAtDemo = async (input: RequestOf<'nothing'>) => change('nothing', input, () => loadDemoClub());
export const emptyStation = async (input: RequestOf<'nothing'>) => change('nothing', input, () => emptyTheStation());
