/** GET: the log of overs as CSV for a spreadsheet, as it is read. */
import { oversCsv } from '@/server/backup/writeArchive.ts';
import { handle } from '@/server/requests/answer.ts';
import { textResponse } from '@/server/requests/textResponse.ts';

export const GET = (): Promise<Response> => handle(() => textResponse(oversCsv(), 'text/csv; charset=utf-8', 'overs.csv'));
