/** GET ?as=csv|adi: the log of one air check. */
import { loadAirCheck } from '@/server/aircheck/airChecks.ts';
import { checkAdif, checkCsv } from '@/server/aircheck/checkLog.ts';
import { handle } from '@/server/requests/answer.ts';
import { Refused } from '@/server/requests/refused.ts';
import { textResponse } from '@/server/requests/textResponse.ts';
import { idOf } from '../../../paging.ts';

export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(async () => {
    const id = idOf((await params).id);
    const check = id === undefined ? null : await loadAirCheck(id);
    if (!check) throw new Refused('This air check does not exist.', 404);
    const as = new URL(request.url).searchParams.get('as');
    if (as === 'csv') return textResponse(checkCsv(check), 'text/csv; charset=utf-8', `air-check-${check.id}.csv`);
    if (as === 'adi') return textResponse(checkAdif(check), 'text/plain; charset=utf-8', `air-check-${check.id}.adi`);
    throw new Refused('An air check can be saved as csv or adi.', 404);
  });
