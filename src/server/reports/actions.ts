'use server';
/** What pages do with reports. */
import { change } from '../requests/change.ts';
import { isPastTime } from '../requests/pastTime.ts';
import type { RequestOf } from '../requests/requests.ts';
import { importAdif } from './reportLog.ts';
import { addReport, deleteReport } from './reports.ts';

/** A report that is put back keeps its time. */
export const saveReport = async (input: RequestOf<'report'>) =>
  change('report', input, ({ madeAt, ...report }) =>
    addReport({ ...report, ...(madeAt && isPastTime(madeAt) && { at: new Date(madeAt) }) }),
  );
export const removeReport = async (input: RequestOf<'reportId'>) => change('reportId', input, ({ reportId }) => deleteReport(reportId));
export const importReports = async (input: RequestOf<'adif'>) =>
  change('adif', input, ({ cardRevisionId, text }) => importAdif(cardRevisionId, text));
