/** The tables of a station archive, in the order in which they refer to each other, and what a row may look like. */
import Ajv, { type ValidateFunction } from 'ajv';
import { DataTypes, type Model, type ModelStatic, Op, type Transaction } from 'sequelize';
import { CHECK_SIDES, targetProblem, targetSchema } from '@/core/advice/index.ts';
import type { CurvePoint } from '@/core/curve/index.ts';
import { LIMIT_NAMES } from '@/core/findings/index.ts';
import { REMARK_ABOUTS, REMARK_CODES, REMARK_DEGREES, REMARK_SENSES } from '@/core/language/index.ts';
import type { Measurement } from '@/core/measure/index.ts';
import { microphoneUseSchema, parseMicrophone, parseRig, valuesSchema } from '@/core/rig/index.ts';
import { PLAIN_TEXT, plainPatternWords } from '@/core/schema/index.ts';
import { PRACTICE_RADIOS } from '@/core/simulate/index.ts';
import { tuneRunSchema } from '@/core/tune/index.ts';
import { database } from '../db/database.ts';
import { resultColumns } from '../db/listColumns.ts';
import type { Models } from '../db/models.ts';
import { isPastTime } from '../requests/pastTime.ts';
import { REQUESTS } from '../requests/requests.ts';
import { measurementProblem, nullable } from './measurementSchemas.ts';

/** Everything but the recordings' bytes, which are files of their own. */
export const TABLES = [
  'operators',
  'rigs',
  'microphones',
  'receivers',
  'cards',
  'cardRevisions',
  'overs',
  'captures',
  'measurements',
  'moves',
  'readings',
  'reports',
  'remarks',
  'airChecks',
  'airCheckLines',
  'tuneRuns',
  'rigTicks',
  'voiceMemories',
  'targets',
  'limits',
] as const satisfies readonly (keyof Models)[];
export type TableName = (typeof TABLES)[number];

/** Tables and columns that version 1 archives need not have. */
export const LATER_TABLES: readonly TableName[] = ['limits', 'readings', 'reports', 'remarks', 'airChecks', 'airCheckLines', 'tuneRuns'];
const LATER_COLUMNS: Partial<Record<TableName, readonly string[]>> = {
  overs: ['hasMonitor'],
  captures: ['kind', 'settings', 'receiverId'],
  airChecks: ['side'],
  cards: ['practiceRadio', 'practiceOf', 'setAside'],
};

/** Columns that are worked out from others: not in archives, made again by an import. */
const DERIVED: Partial<Record<TableName, readonly string[]>> = { measurements: ['headline', 'durationS', 'findings'] };

export type RowData = Record<string, unknown>;

export const modelOf = (table: TableName): ModelStatic<Model> => database().models[table] as unknown as ModelStatic<Model>;

const pick = <T extends object, K extends keyof T & string>(all: T, names: readonly K[]): Record<string, object> =>
  Object.fromEntries(names.map((each) => [each, all[each] as object]));

/** The finer shape of columns that hold JSON or a choice; screens rely on it. */
const COLUMNS: Partial<Record<TableName, Record<string, object>>> = {
  operators: pick(REQUESTS.operator.properties, ['name', 'callsign', 'note']),
  receivers: pick(REQUESTS.receiver.properties, ['name', 'kind', 'lowHz', 'highHz', 'agc', 'path', 'trust', 'note']),
  cards: {
    ...pick(REQUESTS.card.properties, ['name', 'mode', 'purpose']),
    practiceRadio: { type: ['integer', 'null'], minimum: 1, maximum: PRACTICE_RADIOS },
    setAside: nullable(REQUESTS.notThis.properties.setAside),
  },
  cardRevisions: { values: valuesSchema, microphoneUse: nullable(microphoneUseSchema) },
  overs: {
    ...pick(REQUESTS.capture.properties, ['load', 'powerW', 'alcReading']),
    note: REQUESTS.over.properties.note,
    hasMonitor: { type: ['boolean', 'null'] },
  },
  captures: {
    ...pick(REQUESTS.capture.properties, ['fileName', 'sha256', 'kind', 'settings']),
    bytes: { type: 'integer', minimum: 0, maximum: 2 ** 30 },
  },
  measurements: {
    status: { enum: ['queued', 'running', 'done', 'failed'] },
    // The numbers have a check of their own, by kind.
    result: { type: ['object', 'null'] },
    detail: { type: ['object', 'null'] },
  },
  moves: {
    fromValue: { type: ['number', 'string'] },
    toValue: { type: ['number', 'string'] },
    expected: nullable({
      type: 'object',
      required: ['hz', 'changeDb', 'alcChangeDb', 'errorBeforeDb', 'errorAfterDb'],
      additionalProperties: { type: 'number' },
    }),
    outcome: nullable({ type: 'object', required: ['overId', 'changeDb', 'expectedDb'], additionalProperties: { type: 'number' } }),
  },
  readings: pick(REQUESTS.reading.properties, ['said', 'alc', 'compressionDb', 'powerW', 'swr', 'adjacentDb']),
  reports: {
    ...pick(REQUESTS.report.properties, ['station', 'place', 'receiver', 'path', 'text']),
    readability: { type: ['integer', 'null'], minimum: 1, maximum: 5 },
    strength: { type: ['integer', 'null'], minimum: 1, maximum: 9 },
    overS9Db: { type: ['number', 'null'], minimum: 0, maximum: 80 },
  },
  remarks: {
    code: { enum: REMARK_CODES },
    sense: { enum: REMARK_SENSES },
    degree: { enum: REMARK_DEGREES },
    about: { enum: REMARK_ABOUTS },
  },
  airChecks: { ...pick(REQUESTS.airCheck.properties, ['station', 'path']), side: { enum: CHECK_SIDES } },
  airCheckLines: { ...pick(REQUESTS.checkLine.properties, ['text', 'clientKey']), isUndone: { type: 'boolean' } },
  tuneRuns: { state: tuneRunSchema },
  rigTicks: { dialValue: { type: ['number', 'string'] } },
  limits: { name: { enum: LIMIT_NAMES } },
  targets: { purpose: REQUESTS.target.properties.purpose, points: targetSchema },
};

const ajv = new Ajv({ allowUnionTypes: true, strictTuples: false });
const checks = new Map<TableName, ValidateFunction>();

/** One schema a table, read off the model's columns and refined by COLUMNS. */
function checkOf(table: TableName): ValidateFunction {
  const known = checks.get(table);
  if (known) return known;
  const attributes = modelOf(table).getAttributes();
  const properties = Object.fromEntries(
    Object.entries(attributes)
      .filter(([name]) => !DERIVED[table]?.includes(name))
      .map(([name, attribute]) => [name, COLUMNS[table]?.[name] ?? schemaOf(attribute)]),
  );
  const required = Object.keys(properties).filter((name) => !LATER_COLUMNS[table]?.includes(name));
  const check = ajv.compile({ type: 'object', properties, required, additionalProperties: false });
  checks.set(table, check);
  return check;
}

function schemaOf({ type, allowNull }: { type: unknown; allowNull?: boolean }): object {
  const isNull = allowNull === false ? [] : ['null'];
  if (type instanceof DataTypes.STRING) return { type: ['string', ...isNull], maxLength: 1000, pattern: PLAIN_TEXT };
  if (type instanceof DataTypes.DATE) return { type: ['string', ...isNull], pattern: String.raw`^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d\.\d{3}Z$` };
  if (type instanceof DataTypes.DOUBLE) return { type: ['number', ...isNull] };
  if (type instanceof DataTypes.TEXT) return {};
  return { type: ['integer', ...isNull], minimum: 0 };
}

/** Checks one row of an archive. @returns what is wrong with it, or null */
export function rowProblem(table: TableName, row: unknown): string | null {
  const check = checkOf(table);
  if (!check(row)) {
    const [error] = check.errors ?? [];
    const words = error?.keyword === 'pattern' ? plainPatternWords(error.params.pattern) : undefined;
    return `${error?.instancePath.slice(1).replaceAll('/', '.') || 'row'} ${words ?? error?.message ?? 'is wrong'}`;
  }
  try {
    return deeperProblem(table, row as RowData);
  } catch (error) {
    return (error as Error).message;
  }
}

/** What a schema can't say. @throws InvalidInput for profiles that are wrong */
function deeperProblem(table: TableName, row: RowData): string | null {
  const attributes = modelOf(table).getAttributes();
  const far = Object.keys(attributes).find(
    (name) => attributes[name].type instanceof DataTypes.DATE && typeof row[name] === 'string' && !isPastTime(row[name]),
  );
  if (far !== undefined) return `${far} is no time that can be`;
  if (table === 'rigs') parseRig(row.profile);
  if (table === 'microphones') parseMicrophone(row.profile);
  if (table === 'targets') return targetProblem(row.points as CurvePoint[]);
  if (table === 'receivers' && Number(row.lowHz) >= Number(row.highHz)) return 'the passband is upside down';
  if (table === 'measurements') return measurementProblem(row as never);
  return null;
}

const PAGE = 500;

/** All rows of a table as plain data with ISO times, in the order of their key, a page at a time. */
export async function* rowsOf(table: TableName, transaction: Transaction): AsyncGenerator<RowData> {
  const model = modelOf(table);
  const [key] = model.primaryKeyAttributes;
  for (let last: unknown = null; ; ) {
    const where = last === null ? {} : { [key]: { [Op.gt]: last } };
    const rows = await model.findAll({ where, order: [[key, 'ASC']], limit: PAGE, transaction });
    for (const row of rows) yield archived(table, row);
    if (rows.length < PAGE) return;
    last = rows[rows.length - 1].get(key);
  }
}

function archived(table: TableName, row: Model): RowData {
  const data: RowData = JSON.parse(JSON.stringify(row.get({ plain: true })));
  for (const column of DERIVED[table] ?? []) delete data[column];
  return data;
}

/** A checked row of an archive as the database keeps it. */
export const stored = (table: TableName, row: RowData): RowData =>
  table === 'measurements' && row.result ? { ...row, ...resultColumns(row.result as Measurement) } : row;

/** Clears the station: every row of every table. */
export async function emptyStation(transaction: Transaction): Promise<void> {
  await database().models.captureChunks.destroy({ where: {}, transaction });
  for (const table of [...TABLES].reverse()) await modelOf(table).destroy({ where: {}, transaction });
}
