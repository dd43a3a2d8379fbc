/** What the pages may ask of the server: one JSON Schema a request, compiled once. */
import Ajv from 'ajv';
import type { FromSchema, JSONSchema } from 'json-schema-to-ts';
import { REPORT_PATHS, SAID, targetSchema } from '@/core/advice/index.ts';
import { LIMIT_NAMES } from '@/core/findings/index.ts';
import { LONGEST_LINE, LONGEST_REPORT } from '@/core/language/index.ts';
import { MEASUREMENT_KINDS } from '@/core/measure/index.ts';
import { GUEST_SHAPES, MODES, MOST_BANDS, microphoneUseSchema, PURPOSES, valuesSchema } from '@/core/rig/index.ts';
import { PLAIN_LINE, PLAIN_NAME, PLAIN_TEXT, plainPatternWords } from '@/core/schema/index.ts';
import { PRACTICE_RADIOS, PRACTICE_RECEIVERS } from '@/core/simulate/index.ts';
import { TUNE_ACTS, tuneRunSchema } from '@/core/tune/index.ts';
import { DISTANCE_UNITS } from '@/core/units/index.ts';
import { Refused } from './refused.ts';

/** Parts of a station that can be retired. */
export const PART_KINDS = ['operator', 'rig', 'microphone', 'receiver'] as const;
export type PartKind = (typeof PART_KINDS)[number];

const id = { type: 'integer', minimum: 1, maximum: 4294967295 } as const;
const name = { type: 'string', minLength: 1, maxLength: 80, pattern: PLAIN_NAME } as const;
const note = { type: 'string', maxLength: 1000, pattern: PLAIN_TEXT } as const;
const line = <const Most extends number>(most: Most) => ({ type: 'string', maxLength: most, pattern: PLAIN_LINE }) as const;
const hertz = { type: 'number', minimum: 10, maximum: 20000 } as const;
const time = { type: 'string', pattern: '^\\d{4}-\\d\\d-\\d\\dT\\d\\d:\\d\\d:\\d\\d\\.\\d{3}Z$' } as const;
const share = { type: ['number', 'null'], minimum: 0, maximum: 1 } as const;

const object = <const P extends Readonly<Record<string, JSONSchema>>, const R extends readonly (keyof P & string)[]>(
  properties: P,
  required: R,
) => ({ type: 'object', properties, required, additionalProperties: false }) as const;

const baseOf = <const P extends Readonly<Record<string, JSONSchema>>>(properties: P) =>
  ({ type: 'object', properties, additionalProperties: false }) as const;

const limit = {
  anyOf: [object({ watch: { type: ['number', 'null'] }, fault: { type: ['number', 'null'] } }, ['watch', 'fault']), { type: 'null' }],
} as const;

const operator = { name, callsign: { type: 'string', pattern: '^[A-Za-z0-9/]{3,20}$' }, note } as const;
const receiver = {
  name,
  kind: { enum: ['monitor', 'in-line', 'local', 'remote'] },
  lowHz: hertz,
  highHz: hertz,
  agc: line(60),
  path: line(200),
  trust: { enum: ['low', 'medium', 'high'] },
  note,
} as const;

const settings = {
  type: 'object',
  properties: {
    carrierHz: { type: 'number', minimum: -1e7, maximum: 1e7 },
    sideband: { enum: ['usb', 'lsb'] },
    isSwapped: { type: 'boolean' },
    channel: { type: 'integer', minimum: 1, maximum: 2 },
    loadOhms: { type: 'number', minimum: 0.1, maximum: 10000 },
    referenceCaptureId: id,
    subtractsMicrophone: { type: 'boolean' },
    subtractCaptureId: id,
    tunedHz: { type: 'number', minimum: -1e12, maximum: 1e12 },
    remark: note,
    isChosen: { type: 'boolean' },
  },
  additionalProperties: false,
} as const;

const setAsideList = { type: 'array', maxItems: 60, uniqueItems: true, items: { type: 'string', pattern: '^[a-z0-9-]{1,40}$' } } as const;
const practiceRadio = { type: 'integer', minimum: 1, maximum: PRACTICE_RADIOS } as const;
const hasMonitor = { type: ['boolean', 'null'] } as const;

export const REQUESTS = {
  capture: object(
    {
      /** The over that this is another capture of. */
      overId: id,
      cardRevisionId: id,
      receiverId: id,
      load: { enum: ['dummy load', 'antenna'] },
      powerW: { type: ['number', 'null'], exclusiveMinimum: 0, maximum: 5000 },
      alcReading: share,
      fileName: { type: 'string', minLength: 1, maxLength: 255, pattern: PLAIN_LINE },
      sha256: { type: 'string', pattern: '^[0-9a-f]{64}$' },
      kind: { enum: MEASUREMENT_KINDS },
      settings,
    },
    ['cardRevisionId', 'receiverId', 'load', 'fileName', 'sha256'],
  ),
  practice: object(
    {
      cardId: id,
      values: valuesSchema,
      radio: practiceRadio,
      receiver: { type: 'integer', minimum: 0, maximum: PRACTICE_RECEIVERS.length - 1 },
      isIq: { type: 'boolean' },
      load: { enum: ['dummy load', 'antenna'] },
    },
    ['cardId', 'values', 'radio', 'receiver', 'isIq', 'load'],
  ),
  practise: object({ cardId: id, radio: practiceRadio, values: valuesSchema }, ['cardId', 'radio']),
  practiceOver: object(
    {
      cardId: id,
      receiver: { type: 'integer', minimum: 0, maximum: PRACTICE_RECEIVERS.length - 1 },
      isIq: { type: 'boolean' },
      load: { enum: ['dummy load', 'antenna'] },
    },
    ['cardId', 'receiver', 'isIq', 'load'],
  ),
  tuneStart: object(
    {
      cardId: id,
      alc: tuneRunSchema.properties.alc,
      compression: tuneRunSchema.properties.compression,
      order: tuneRunSchema.properties.order,
      ears: tuneRunSchema.properties.ears,
      radio: { anyOf: [practiceRadio, { type: 'null' }] },
    },
    ['cardId', 'alc', 'compression', 'order', 'ears', 'radio'],
  ),
  tuneAct: object(
    {
      tuneRunId: id,
      kind: { enum: TUNE_ACTS },
      step: tuneRunSchema.properties.at,
      task: tuneRunSchema.properties.ticks.items,
    },
    ['tuneRunId', 'kind'],
  ),
  revision: object(
    {
      cardId: id,
      baseRevisionId: id,
      values: valuesSchema,
      use: microphoneUseSchema,
      reason: line(300),
      overId: id,
      why: { type: 'object', maxProperties: 200, additionalProperties: line(300) },
    },
    ['cardId', 'baseRevisionId', 'values', 'reason'],
  ),
  restore: object({ cardId: id, revisionId: id }, ['cardId', 'revisionId']),
  undo: object({ cardId: id, baseRevisionId: id }, ['cardId', 'baseRevisionId']),
  card: object(
    {
      name,
      operatorId: id,
      rigId: id,
      microphoneId: id,
      mode: { enum: MODES },
      purpose: { enum: PURPOSES },
      values: valuesSchema,
      use: microphoneUseSchema,
      reason: line(300),
    },
    ['name', 'operatorId', 'rigId', 'microphoneId', 'mode', 'purpose'],
  ),
  cardChange: object(
    {
      cardId: id,
      name,
      purpose: { enum: PURPOSES },
      isRetired: { type: 'boolean' },
      base: object({ name: { type: 'string' }, purpose: { enum: PURPOSES } }, []),
    },
    ['cardId'],
  ),
  notThis: object({ cardId: id, setAside: setAsideList }, ['cardId', 'setAside']),
  olderRevisions: object({ cardId: id, before: id }, ['cardId', 'before']),
  cardId: object({ cardId: id }, []),
  search: object({ search: line(100) }, ['search']),
  target: object({ purpose: { enum: PURPOSES }, points: { anyOf: [targetSchema, { type: 'null' }] }, base: targetSchema }, [
    'purpose',
    'points',
  ]),
  over: object(
    {
      overId: id,
      alcReading: share,
      note,
      hasMonitor,
      base: object({ alcReading: share, note: { type: 'string' }, hasMonitor }, []),
    },
    ['overId', 'alcReading', 'note'],
  ),
  overId: object({ overId: id }, ['overId']),
  captureId: object({ captureId: id }, ['captureId']),
  reading: object(
    {
      cardRevisionId: id,
      overId: { ...id, type: ['integer', 'null'] },
      said: { enum: SAID },
      alc: share,
      compressionDb: { type: ['number', 'null'], minimum: 0, maximum: 60 },
      powerW: { type: ['number', 'null'], minimum: 0, maximum: 5000 },
      swr: { type: ['number', 'null'], minimum: 1, maximum: 100 },
      adjacentDb: { type: ['number', 'null'], minimum: -120, maximum: 0 },
    },
    ['cardRevisionId', 'said', 'alc', 'compressionDb', 'powerW', 'swr'],
  ),
  report: object(
    {
      cardRevisionId: id,
      overId: { ...id, type: ['integer', 'null'] },
      station: { type: 'string', minLength: 1, maxLength: 60, pattern: PLAIN_LINE },
      place: line(120),
      receiver: line(200),
      path: { enum: REPORT_PATHS },
      text: { type: 'string', minLength: 1, maxLength: LONGEST_REPORT, pattern: PLAIN_TEXT },
      madeAt: time,
    },
    ['cardRevisionId', 'station', 'place', 'receiver', 'path', 'text'],
  ),
  reportId: object({ reportId: id }, ['reportId']),
  airCheck: object(
    { cardId: id, station: { type: 'string', minLength: 1, maxLength: 60, pattern: PLAIN_LINE }, path: { enum: REPORT_PATHS } },
    ['cardId', 'station', 'path'],
  ),
  guestCheck: object(
    {
      callsign: operator.callsign,
      name: { type: 'string', maxLength: 60, pattern: PLAIN_LINE },
      path: { enum: REPORT_PATHS },
      mode: { enum: MODES },
      shape: { enum: GUEST_SHAPES },
      frequencies: { type: 'string', maxLength: 300, pattern: PLAIN_LINE },
      bands: { type: 'integer', minimum: 1, maximum: MOST_BANDS.parametric },
      reach: { type: 'integer', minimum: 1, maximum: 30 },
    },
    ['callsign', 'name', 'path', 'mode', 'shape', 'frequencies', 'bands', 'reach'],
  ),
  checkLine: object(
    {
      airCheckId: id,
      text: { type: 'string', minLength: 1, maxLength: LONGEST_LINE, pattern: PLAIN_TEXT },
      clientKey: { type: 'string', maxLength: 40, pattern: '^[a-z0-9-]*$' },
    },
    ['airCheckId', 'text', 'clientKey'],
  ),
  checkUndo: object({ airCheckId: id, lineId: id, isUndone: { type: 'boolean' } }, ['airCheckId', 'lineId', 'isUndone']),
  airCheckId: object({ airCheckId: id }, ['airCheckId']),
  adif: object({ cardRevisionId: id, text: { type: 'string', maxLength: 1_000_000 } }, ['cardRevisionId', 'text']),
  measureAs: object({ captureId: id, kind: { enum: MEASUREMENT_KINDS }, settings }, ['captureId', 'kind', 'settings']),
  limit: object(
    {
      name: { enum: LIMIT_NAMES },
      limit,
      base: limit,
    },
    ['name', 'limit'],
  ),
  nothing: object({}, []),
  // What a form was opened with is a row of ours: only its shape is looked at.
  operator: object({ id, ...operator, base: baseOf(operator) }, ['name', 'callsign', 'note']),
  receiver: object({ id, ...receiver, base: baseOf(receiver) }, ['name', 'kind', 'lowHz', 'highHz', 'agc', 'path', 'trust', 'note']),
  /** A rig or microphone as the text of its file; `base` is the text that the change was made from. */
  file: object({ id, text: { type: 'string', maxLength: 1_000_000 }, base: { type: 'string', maxLength: 1_000_000 } }, ['text']),
  retire: object({ kind: { enum: PART_KINDS }, id, isRetired: { type: 'boolean' } }, ['kind', 'id', 'isRetired']),
  ticks: object(
    {
      ticks: {
        type: 'array',
        minItems: 1,
        maxItems: 200,
        items: object({ rigId: id, dialId: { type: 'string', maxLength: 40 }, value: { type: ['number', 'string'] }, cardRevisionId: id }, [
          'rigId',
          'dialId',
          'value',
        ]),
      },
    },
    ['ticks'],
  ),
  memory: object(
    {
      rigId: id,
      slot: { type: 'integer', minimum: 1, maximum: 50 },
      words: line(300),
      cardId: id,
      revision: id,
      recordedAt: time,
    },
    ['rigId', 'slot', 'words', 'cardId'],
  ),
  clearMemory: object({ rigId: id, slot: { type: 'integer', minimum: 1, maximum: 50 } }, ['rigId', 'slot']),
  by: object({ by: line(80) }, ['by']),
  distance: object({ unit: { enum: DISTANCE_UNITS } }, ['unit']),
} as const;

/** Listed one by one: a mapped type over all schemas is too deep for the compiler. */
interface Requests {
  capture: FromSchema<typeof REQUESTS.capture>;
  practice: FromSchema<typeof REQUESTS.practice>;
  practise: FromSchema<typeof REQUESTS.practise>;
  practiceOver: FromSchema<typeof REQUESTS.practiceOver>;
  tuneStart: FromSchema<typeof REQUESTS.tuneStart>;
  tuneAct: FromSchema<typeof REQUESTS.tuneAct>;
  revision: FromSchema<typeof REQUESTS.revision>;
  restore: FromSchema<typeof REQUESTS.restore>;
  undo: FromSchema<typeof REQUESTS.undo>;
  card: FromSchema<typeof REQUESTS.card>;
  cardChange: FromSchema<typeof REQUESTS.cardChange>;
  notThis: FromSchema<typeof REQUESTS.notThis>;
  olderRevisions: FromSchema<typeof REQUESTS.olderRevisions>;
  cardId: FromSchema<typeof REQUESTS.cardId>;
  search: FromSchema<typeof REQUESTS.search>;
  target: FromSchema<typeof REQUESTS.target>;
  over: FromSchema<typeof REQUESTS.over>;
  overId: FromSchema<typeof REQUESTS.overId>;
  captureId: FromSchema<typeof REQUESTS.captureId>;
  reading: FromSchema<typeof REQUESTS.reading>;
  report: FromSchema<typeof REQUESTS.report>;
  reportId: FromSchema<typeof REQUESTS.reportId>;
  airCheck: FromSchema<typeof REQUESTS.airCheck>;
  guestCheck: FromSchema<typeof REQUESTS.guestCheck>;
  checkLine: FromSchema<typeof REQUESTS.checkLine>;
  checkUndo: FromSchema<typeof REQUESTS.checkUndo>;
  airCheckId: FromSchema<typeof REQUESTS.airCheckId>;
  adif: FromSchema<typeof REQUESTS.adif>;
  measureAs: FromSchema<typeof REQUESTS.measureAs>;
  limit: FromSchema<typeof REQUESTS.limit>;
  nothing: FromSchema<typeof REQUESTS.nothing>;
  operator: FromSchema<typeof REQUESTS.operator>;
  receiver: FromSchema<typeof REQUESTS.receiver>;
  file: FromSchema<typeof REQUESTS.file>;
  retire: FromSchema<typeof REQUESTS.retire>;
  ticks: FromSchema<typeof REQUESTS.ticks>;
  memory: FromSchema<typeof REQUESTS.memory>;
  clearMemory: FromSchema<typeof REQUESTS.clearMemory>;
  by: FromSchema<typeof REQUESTS.by>;
  distance: FromSchema<typeof REQUESTS.distance>;
}
export type RequestName = keyof Requests;
export type RequestOf<N extends RequestName> = Requests[N];

const ajv = new Ajv({ allowUnionTypes: true, strictTuples: false });
const checks = Object.fromEntries(Object.entries(REQUESTS).map(([key, schema]) => [key, ajv.compile(schema)]));

/** What came in, as what it claims to be. @throws Refused naming the field that is wrong */
export function readRequest<N extends RequestName>(kind: N, input: unknown): RequestOf<N> {
  const check = checks[kind];
  if (check(input)) return input as RequestOf<N>;
  const [error] = check.errors ?? [];
  const place = error?.instancePath.slice(1).replaceAll('/', '.') || (error?.params.missingProperty ?? 'the request');
  const words = error?.keyword === 'pattern' ? plainPatternWords(error.params.pattern) : undefined;
  throw new Refused(`${place}: ${words ?? error?.message ?? 'not understood'}. Nothing was changed.`, 400);
}
