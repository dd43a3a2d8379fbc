/** What the JSON of a measurement may look like in an archive; screens rely on it. */
import { MEASUREMENT_KINDS } from '../../core/measure/measurement.ts';

export const nullable = (schema: object) => ({ anyOf: [schema, { type: 'null' }] });
const numberOrNull = { type: ['number', 'null'] };
const numbers = (most: number) => ({ type: 'array', maxItems: most, items: numberOrNull });
const pairs = (most: number) => ({ type: 'array', maxItems: most, items: { ...numbers(2), minItems: 2 } });

const findings = {
  type: 'array',
  maxItems: 100,
  items: {
    type: 'object',
    required: ['code', 'severity', 'text', 'evidence'],
    properties: {
      code: { type: 'string' },
      severity: { enum: ['ok', 'watch', 'fault'] },
      text: { type: 'string' },
      evidence: { type: 'string' },
    },
  },
};

/** Keys that each kind must have; numbers may be null, with their reason in the notes. */
const KEYS: Record<(typeof MEASUREMENT_KINDS)[number], Record<string, object>> = {
  voice: { thirdOctaveDb: pairs(100) },
  ssb: {
    carrierHz: { type: 'number' },
    sideband: { enum: ['usb', 'lsb'] },
    adjacentDb: {
      type: 'object',
      required: ['wantedSide', 'otherSide'],
      properties: { wantedSide: numberOrNull, otherSide: numberOrNull },
    },
  },
  am: {
    modulationDepth: { type: 'object', required: ['positive', 'negative'], properties: { positive: numberOrNull, negative: numberOrNull } },
  },
  fm: { peakDeviationHz: numberOrNull, offsetHz: numberOrNull },
  'two-tone': { imd3Db: numberOrNull, tonesHz: nullable(numbers(2)) },
  response: { curve: { ...pairs(100_000), minItems: 2 }, passbandHz: nullable(numbers(2)) },
  power: { pepW: numberOrNull, meanW: numberOrNull, loadOhms: { type: 'number', exclusiveMinimum: 0 } },
};

export const resultSchema = {
  type: 'object',
  required: ['kind', 'durationS', 'findings', 'notes'],
  properties: {
    kind: { enum: MEASUREMENT_KINDS },
    durationS: { type: 'number' },
    notes: { type: 'object', additionalProperties: { type: 'string' } },
    findings,
  },
  anyOf: MEASUREMENT_KINDS.map((kind) => ({
    properties: { kind: { const: kind }, ...KEYS[kind] },
    required: ['kind', ...Object.keys(KEYS[kind])],
  })),
};

export const voiceDetailSchema = {
  type: 'object',
  required: ['speechPowers', 'pausePowers', 'stripDb', 'stripSeconds', 'stripActive'],
  properties: {
    speechPowers: numbers(200),
    pausePowers: nullable(numbers(200)),
    stripDb: { type: 'array', items: numberOrNull },
    stripSeconds: { type: 'number', exclusiveMinimum: 0 },
    stripActive: { type: 'array', items: { type: 'boolean' } },
  },
};

const drawn = {
  type: 'object',
  required: ['firstHz', 'stepHz', 'db'],
  properties: { firstHz: { type: 'number' }, stepHz: { type: 'number' }, db: numbers(10_000) },
};

export const radioDetailSchema = {
  type: 'object',
  required: ['mean', 'highest', 'noiseDb'],
  properties: { mean: nullable(drawn), highest: nullable(drawn), noiseDb: numberOrNull, audio: nullable(drawn) },
};

export const powerDetailSchema = { type: 'object', required: ['envelope'], properties: { envelope: pairs(10_000) } };
