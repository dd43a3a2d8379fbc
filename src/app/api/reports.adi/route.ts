/** GET: all reports as an ADIF log, as they are read. */
import { reportsAdif } from '@/server/reports/reportLog.ts';
import { handle } from '@/server/requests/answer.ts';
import { textResponse } from '@/server/requests/textResponse.ts';

export const GET = (): Promise<Response> => handle(() => textResponse(reportsAdif(), 'text/plain; charset=utf-8', 'reports.adi'));
