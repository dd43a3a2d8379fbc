/** Reports as logs: ADIF with its standard fields, and CSV. */
import { Op } from 'sequelize';
import { type AdifRecord, adifHeader, adifRecord, adifTime, csvLine, parseAdif, timeOfAdif } from '@/core/files/index.ts';
import { LONGEST_REPORT } from '@/core/language/index.ts';
import { CORE_VERSION } from '@/core/measure/index.ts';
import { database } from '../db/database.ts';
import { isPastTime } from '../requests/pastTime.ts';
import { Refused } from '../requests/refused.ts';
import { addReport, listReports, type ReportView } from './reports.ts';

const PAGE = 200;

async function* allReports(): AsyncGenerator<ReportView> {
  for (let offset = 0; ; offset += PAGE) {
    const page = await listReports({ isReal: true, limit: PAGE, offset });
    yield* page;
    if (page.length < PAGE) return;
  }
}

const isCallsign = (text: string): boolean => /^(?=.*\d)[A-Z0-9/]{3,20}$/i.test(text);

function recordOf({ madeAt, station, mode, signal, operator, place, text, receiver }: ReportView): AdifRecord {
  const { readability, strength } = signal;
  const sideband = mode === 'usb' || mode === 'lsb';
  return {
    ...adifTime(new Date(madeAt)),
    ...(isCallsign(station) ? { CALL: station.toUpperCase() } : { NAME: station }),
    MODE: sideband ? 'SSB' : mode.toUpperCase(),
    SUBMODE: sideband ? mode.toUpperCase() : '',
    RST_RCVD: readability !== null && strength !== null ? `${readability}${strength}` : '',
    STATION_CALLSIGN: operator.callsign,
    QTH: place,
    COMMENT: text,
    NOTES: receiver,
  };
}

export async function* reportsAdif(): AsyncGenerator<string> {
  yield adifHeader(CORE_VERSION, new Date());
  for await (const report of allReports()) yield adifRecord(recordOf(report));
}

const COLUMNS = [
  'report',
  'made at (UTC)',
  'station',
  'place',
  'receiver',
  'path',
  'readability',
  'strength',
  'dB over S9',
  'operator',
  'card',
  'revision',
  'over',
  'remarks',
  'text',
];

export async function* reportsCsv(): AsyncGenerator<string> {
  yield csvLine(COLUMNS);
  for await (const {
    id,
    madeAt,
    station,
    place,
    receiver,
    path,
    signal,
    operator,
    card,
    revision,
    overId,
    remarks,
    text,
  } of allReports()) {
    const read = remarks.map(({ code, sense, degree }) => `${code} ${sense} ${degree}`).join('; ');
    yield csvLine([
      id,
      madeAt,
      station,
      place,
      receiver,
      path,
      signal.readability,
      signal.strength,
      signal.overS9Db,
      operator.name,
      card.name,
      revision,
      overId,
      read,
      text,
    ]);
  }
}

/** A log has no parts of a second. */
const withinSecond = (at: Date) => ({ [Op.gte]: at, [Op.lt]: new Date(at.getTime() + 1000) });

/**
 * Takes the records of an ADIF log that say something as reports of a card; those that are here already are left out.
 * @returns what became of them, in a sentence
 * @throws FormatError when it is no log; Refused when nothing in it is a report
 */
export async function importAdif(cardRevisionId: number, text: string): Promise<string> {
  const records = parseAdif(text);
  const { sequelize, models } = database();
  const counts = { kept: 0, known: 0, empty: 0 };
  await sequelize.transaction(async (transaction) => {
    for (const record of records) {
      const station = (record.CALL ?? record.NAME ?? '').trim().slice(0, 60);
      const words = [record.RST_RCVD, record.COMMENT_INTL ?? record.COMMENT, record.NOTES_INTL ?? record.NOTES]
        .map((each) => each?.trim() ?? '')
        .filter((each) => each !== '');
      const said = words.join('. ').slice(0, LONGEST_REPORT);
      const at = timeOfAdif(record);
      const madeAt = at && isPastTime(at.toISOString()) ? at : undefined;
      if (station === '' || said === '') counts.empty++;
      else if (madeAt && (await models.reports.findOne({ where: { station, createdAt: withinSecond(madeAt) }, transaction })))
        counts.known++;
      else {
        const place = (record.QTH_INTL ?? record.QTH ?? '').trim().slice(0, 120);
        await addReport(
          { cardRevisionId, station, place, receiver: '', path: 'unknown', text: said, ...(madeAt && { at: madeAt }) },
          transaction,
        );
        counts.kept++;
      }
    }
  });
  if (counts.kept === 0 && counts.known === 0)
    throw new Refused('No record of this log has a station and words or a report. Nothing was saved.', 422);
  const rest = [counts.known > 0 && `${counts.known} were here already`, counts.empty > 0 && `${counts.empty} said nothing`]
    .filter(Boolean)
    .join(', ');
  return `${counts.kept} of ${records.length} records became reports${rest ? `; ${rest}` : ''}.`;
}
