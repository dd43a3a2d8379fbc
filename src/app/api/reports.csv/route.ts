/** GET: all reports as CSV for a spreadsheet, as they are read. */
import { reportsCsv } from '@/server/reports/reportLog.ts';
import { handle } from '@/server/requests/answer.ts';
import { textResponse } from '@/server/requests/textResponse.ts';

export const GET = (): Promise<Response> => handle(() => textResponse(reportsCsv(), 'text/csv; charset=utf-8', 'reports.csv'));
