/** What the pages may ask of the server: one JSON Schema a request, compiled once. */
import Ajv from 'ajv';
import type { FromSchema, JSONSchema } from 'json-schema-to-ts';
import { targetSchema } from '../core/advice/targets.ts';
import { PURPOSES, valuesSchema } from '../core/station/card.ts';
import { MODES } from '../core/station/rig.ts';
import { Refused } from './refused.ts';

const id = { type: 'integer', minimum: 1, maximum: 4294967295 } as const;
const name = { type: 'string', minLength: 1, maxLength: 80, pattern: '\\S' } as const;
const note = { type: 'string', maxLength: 1000 } as const;
const hertz = { type: 'number', minimum: 10, maximum: 20000 } as const;
const share = { type: ['number', 'null'], minimum: 0, maximum: 1 } as const;

const object = <const P extends Readonly<Record<string, JSONSchema>>, const R extends readonly (keyof P & string)[]>(
  properties: P,
  required: R,
) => ({ type: 'object', properties, required, additionalProperties: false }) as const;

export const REQUESTS = {
  capture: object(
    {
      cardRevisionId: id,
      receiverId: id,
      load: { enum: ['dummy load', 'antenna'] },
      powerW: { type: ['number', 'null'], exclusiveMinimum: 0, maximum: 5000 },
      alcReading: share,
      fileName: { type: 'string', minLength: 1, maxLength: 255 },
      sha256: { type: 'string', pattern: '^[0-9a-f]{64}$' },
    },
    ['cardRevisionId', 'receiverId', 'load', 'fileName', 'sha256'],
  ),
  revision: object(
    {
      cardId: id,
      baseRevisionId: id,
      values: valuesSchema,
      reason: { type: 'string', maxLength: 300 },
      overId: id,
      why: { type: 'object', maxProperties: 200, additionalProperties: { type: 'string', maxLength: 300 } },
    },
    ['cardId', 'baseRevisionId', 'values', 'reason'],
  ),
  restore: object({ cardId: id, revisionId: id }, ['cardId', 'revisionId']),
  card: object({ name, operatorId: id, rigId: id, microphoneId: id, mode: { enum: MODES }, purpose: { enum: PURPOSES } }, [
    'name',
    'operatorId',
    'rigId',
    'microphoneId',
    'mode',
    'purpose',
  ]),
  purpose: object({ cardId: id, purpose: { enum: PURPOSES } }, ['cardId', 'purpose']),
  aim: object({ purpose: { enum: PURPOSES }, points: { anyOf: [targetSchema, { type: 'null' }] } }, ['purpose', 'points']),
  over: object({ overId: id, alcReading: share, note }, ['overId', 'alcReading', 'note']),
  overId: object({ overId: id }, ['overId']),
  operator: object({ name, callsign: { type: 'string', pattern: '^[A-Za-z0-9/]{3,20}$' } }, ['name', 'callsign']),
  microphone: object(
    {
      name,
      kind: { type: 'string', minLength: 1, maxLength: 60 },
      distanceCm: { type: ['number', 'null'], exclusiveMinimum: 0, maximum: 200 },
    },
    ['name', 'kind', 'distanceCm'],
  ),
  receiver: object({ name, kind: { enum: ['monitor', 'in-line', 'local', 'remote'] }, lowHz: hertz, highHz: hertz }, [
    'name',
    'kind',
    'lowHz',
    'highHz',
  ]),
} as const;

/** Listed one by one: a mapped type over all schemas is too deep for the compiler. */
interface Requests {
  capture: FromSchema<typeof REQUESTS.capture>;
  revision: FromSchema<typeof REQUESTS.revision>;
  restore: FromSchema<typeof REQUESTS.restore>;
  card: FromSchema<typeof REQUESTS.card>;
  purpose: FromSchema<typeof REQUESTS.purpose>;
  aim: FromSchema<typeof REQUESTS.aim>;
  over: FromSchema<typeof REQUESTS.over>;
  overId: FromSchema<typeof REQUESTS.overId>;
  operator: FromSchema<typeof REQUESTS.operator>;
  microphone: FromSchema<typeof REQUESTS.microphone>;
  receiver: FromSchema<typeof REQUESTS.receiver>;
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
  throw new Refused(`${place}: ${error?.message ?? 'not understood'}. Nothing was changed.`, 400);
}
