/**
 * ADIF, the exchange format of amateur radio logs (ADIF 3.1.4, "ADI" form, from memory): `<NAME:LENGTH[:TYPE]>value`,
 * records ended by `<EOR>`, a header ended by `<EOH>`. Lengths count characters; a writer must not exceed ASCII, so
 * other letters are left to the fields' international twins (`COMMENT_INTL`).
 */
import { FormatError } from '../schema/index.ts';

/** One record: field names in upper case. */
export type AdifRecord = Readonly<Record<string, string>>;

const MOST_RECORDS = 100_000;
const MOST_FIELDS = 200;

const isAscii = (text: string): boolean => /^[\x20-\x7e]*$/.test(text);
const plainAscii = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[^\x20-\x7e]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

/** A record of the log; empty fields are left out. Text that is not ASCII goes into the field's `_INTL` twin as well. */
export function adifRecord(fields: AdifRecord): string {
  const parts = Object.entries(fields).flatMap(([name, value]) => {
    const line = value.replace(/\s*[\r\n]+\s*/g, ' ').trim();
    if (line === '') return [];
    if (isAscii(line)) return [`<${name}:${line.length}>${line}`];
    const ascii = plainAscii(line);
    const twin = name === 'COMMENT' || name === 'NOTES' || name === 'QTH' ? [`<${name}_INTL:${[...line].length}>${line}`] : [];
    return [...(ascii === '' ? [] : [`<${name}:${ascii.length}>${ascii}`]), ...twin];
  });
  return `${parts.join(' ')} <EOR>\r\n`;
}

/** The head of a log. */
export const adifHeader = (version: string, madeAt: Date): string => {
  const stamp = madeAt.toISOString().replace(/[-:T]/g, '');
  const fields = {
    ADIF_VER: '3.1.4',
    CREATED_TIMESTAMP: `${stamp.slice(0, 8)} ${stamp.slice(8, 14)}`,
    PROGRAMID: 'Dial Tune',
    PROGRAMVERSION: version,
  };
  const lines = Object.entries(fields).map(([name, value]) => `<${name}:${value.length}>${value}`);
  return `Reports from Dial Tune\r\n${lines.join('\r\n')}\r\n<EOH>\r\n`;
};

/** QSO_DATE and TIME_ON of a time in UTC. */
export const adifTime = (at: Date): { QSO_DATE: string; TIME_ON: string } => {
  const stamp = at.toISOString().replace(/[-:T]/g, '');
  return { QSO_DATE: stamp.slice(0, 8), TIME_ON: stamp.slice(8, 14) };
};

/** The time of a record; null where it has none that a calendar has. */
export function timeOfAdif({ QSO_DATE: day = '', TIME_ON: time = '' }: AdifRecord): Date | null {
  if (!/^\d{8}$/.test(day) || !/^(?:\d{4}|\d{6})?$/.test(time)) return null;
  const clock = time.padEnd(6, '0');
  const text = `${day.slice(0, 4)}-${day.slice(4, 6)}-${day.slice(6)}T${clock.slice(0, 2)}:${clock.slice(2, 4)}:${clock.slice(4)}.000Z`;
  const at = new Date(text);
  return !Number.isNaN(at.getTime()) && at.toISOString() === text ? at : null;
}

/**
 * Reads a log. Fields of any name are kept; a length that runs past the end, or no record at all, is an error.
 * @throws FormatError naming the record
 */
export function parseAdif(text: string): AdifRecord[] {
  const head = /<eoh>/i.exec(text);
  // Without a header the first character is a tag (ADIF 3.1.4, from memory).
  const body = head ? text.slice(head.index + head[0].length) : text.trimStart().startsWith('<') ? text : '';
  const records: AdifRecord[] = [];
  let record: Record<string, string> = {};
  const tag = /<([a-z][a-z0-9_]*)(?::(\d{1,6})(?::[a-z])?)?>/gi;
  for (let match = tag.exec(body); match; match = tag.exec(body)) {
    const name = match[1].toUpperCase();
    if (name === 'EOR') {
      if (Object.keys(record).length > 0) records.push(record);
      if (records.length > MOST_RECORDS) throw new FormatError(`More than ${MOST_RECORDS} records.`);
      record = {};
      continue;
    }
    if (match[2] === undefined) throw new FormatError(`Record ${records.length + 1}: the field ${name} has no length.`);
    const from = match.index + match[0].length;
    const length = Number(match[2]);
    if (from + length > body.length)
      throw new FormatError(`Record ${records.length + 1}: the field ${name} runs past the end of the file.`);
    if (Object.keys(record).length >= MOST_FIELDS)
      throw new FormatError(`Record ${records.length + 1} has more than ${MOST_FIELDS} fields.`);
    Object.defineProperty(record, name, { value: body.slice(from, from + length), enumerable: true, configurable: true, writable: true });
    tag.lastIndex = from + length;
  }
  if (records.length === 0) throw new FormatError('This is no ADIF log: it has no record.');
  return records;
}
