'use server';
/** What pages do with air checks. */
import { change } from '../requests/change.ts';
import { whoIsThere } from '../requests/preferences.ts';
import type { RequestOf } from '../requests/requests.ts';
import { addCheckLine, endAirCheck, startAirCheck, undoCheckLine } from './airChecks.ts';
import { checkGuest } from './guests.ts';

const PAGE = '/aircheck/[id]';

export const beginAirCheck = async (input: RequestOf<'airCheck'>) => change('airCheck', input, startAirCheck);
export const beginGuestCheck = async (input: RequestOf<'guestCheck'>) => change('guestCheck', input, checkGuest);
export const sayInCheck = async (input: RequestOf<'checkLine'>) => change('checkLine', input, addCheckLine, PAGE);
export const takeBackInCheck = async (input: RequestOf<'checkUndo'>) => change('checkUndo', input, undoCheckLine, PAGE);
export const finishAirCheck = async (input: RequestOf<'airCheckId'>) =>
  change('airCheckId', input, async ({ airCheckId }) => endAirCheck(airCheckId, await whoIsThere()));
