/** The tables of a station archive, in the order in which they refer to each other, and what a row may look like. */
import Ajv, { type ValidateFunction } from 'ajv';
import { DataTypes, type Model, type ModelStatic, type Transaction } from 'sequelize';
import { targetSchema } from '../../core/advice/targets.ts';
import { LIMIT_NAMES } from '../../core/measure/limits.ts';
import { MEASUREMENT_KINDS } from '../../core/measure/measurement.ts';
import { valuesSchema } from '../../core/station/card.ts';
import { microphoneUseSchema } from '../../core/station/microphone.ts';
import { parseMicrophone, parseRig } from '../../core/station/validate.ts';
import { database } from '../database.ts';
import type { Models } from '../models.ts';
import { captureSettingsSchema } from '../requests.ts';
import { nullable, powerDetailSchema, radioDetailSchema, resultSchema, voiceDetailSchema } from './measurementSchemas.ts';

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
  'rigTicks',
  'voiceMemories',
  'targets',
  'limits',
] as const satisfies readonly (keyof Models)[];
export type TableName = (typeof TABLES)[number];

/** Tables and columns that version 1 archives need not have. */
export const LATER_TABLES: readonly TableName[] = ['limits'];
const LATER_COLUMNS: Partial<Record<TableName, readonly string[]>> = { captures: ['kind', 'settings'] };

export type RowData = Record<string, unknown>;

export const modelOf = (table: TableName): ModelStatic<Model> => database().models[table] as unknown as ModelStatic<Model>;

/** The finer shape of columns that hold JSON or a choice; screens rely on it. */
const COLUMNS: Partial<Record<TableName, Record<string, object>>> = {
  operators: { callsign: { type: 'string', pattern: '^[A-Za-z0-9/]{3,20}$' } },
  receivers: { kind: { enum: ['monitor', 'in-line', 'local', 'remote'] }, trust: { enum: ['low', 'medium', 'high'] } },
  cards: { mode: { enum: ['usb', 'lsb', 'am', 'fm'] }, purpose: { enum: ['natural', 'balanced', 'pile-up', 'contest'] } },
  cardRevisions: { values: valuesSchema, microphoneUse: nullable(microphoneUseSchema) },
  overs: { load: { enum: ['dummy load', 'antenna'] } },
  captures: {
    sha256: { type: 'string', pattern: '^[0-9a-f]{64}$' },
    bytes: { type: 'integer', minimum: 0, maximum: 2 ** 30 },
    kind: { enum: MEASUREMENT_KINDS },
    settings: captureSettingsSchema,
  },
  measurements: {
    status: { enum: ['queued', 'running', 'done', 'failed'] },
    result: nullable(resultSchema),
    detail: nullable({ anyOf: [voiceDetailSchema, radioDetailSchema, powerDetailSchema] }),
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
  rigTicks: { dialValue: { type: ['number', 'string'] } },
  limits: { name: { enum: LIMIT_NAMES } },
  targets: { purpose: { enum: ['natural', 'balanced', 'pile-up', 'contest'] }, points: targetSchema },
};

const ajv = new Ajv({ allowUnionTypes: true, strictTuples: false });
const checks = new Map<TableName, ValidateFunction>();

/** One schema a table, read off the model's columns and refined by COLUMNS. */
function checkOf(table: TableName): ValidateFunction {
  const known = checks.get(table);
  if (known) return known;
  const attributes = modelOf(table).getAttributes();
  const properties = Object.fromEntries(
    Object.entries(attributes).map(([name, attribute]) => [name, COLUMNS[table]?.[name] ?? schemaOf(attribute)]),
  );
  const required = Object.keys(properties).filter((name) => !LATER_COLUMNS[table]?.includes(name));
  const check = ajv.compile({ type: 'object', properties, required, additionalProperties: false });
  checks.set(table, check);
  return check;
}

function schemaOf({ type, allowNull }: { type: unknown; allowNull?: boolean }): object {
  const isNull = allowNull === false ? [] : ['null'];
  if (type instanceof DataTypes.STRING) return { type: ['string', ...isNull], maxLength: 1000 };
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
    return `${error?.instancePath.slice(1).replaceAll('/', '.') || 'row'} ${error?.message ?? 'is wrong'}`;
  }
  try {
    if (table === 'rigs') parseRig((row as RowData).profile);
    if (table === 'microphones') parseMicrophone((row as RowData).profile);
  } catch (error) {
    return (error as Error).message;
  }
  return null;
}

const PAGE = 500;

/** All rows of a table as plain data with ISO times, in the order of their key, a page at a time. */
export async function* rowsOf(table: TableName, transaction: Transaction): AsyncGenerator<RowData> {
  const model = modelOf(table);
  const [key] = model.primaryKeyAttributes;
  for (let offset = 0; ; offset += PAGE) {
    const rows = await model.findAll({ order: [[key, 'ASC']], limit: PAGE, offset, transaction });
    for (const row of rows) yield JSON.parse(JSON.stringify(row.get({ plain: true })));
    if (rows.length < PAGE) return;
  }
}

/** Clears the station: every row of every table. */
export async function emptyStation(transaction: Transaction): Promise<void> {
  await database().models.captureChunks.destroy({ where: {}, transaction });
  for (const table of [...TABLES].reverse()) await modelOf(table).destroy({ where: {}, transaction });
}
