/** What the JSON of a measurement may look like in an archive; screens rely on it. */
import Ajv, { type ValidateFunction } from 'ajv';
import { CORE_VERSION, MEASUREMENT_KINDS, type MeasurementKind } from '@/core/measure/index.ts';

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

const depth = { type: 'object', required: ['positive', 'negative'], properties: { positive: numberOrNull, negative: numberOrNull } };
const passband = nullable({ ...numbers(2), minItems: 2 });
const recording = { sampleRateHz: { type: 'number', exclusiveMinimum: 0 }, clippedShare: numberOrNull };
/** A curve that was measured elsewhere has no rate of its own. */
const recordingOrCurve = { ...recording, sampleRateHz: { type: 'number', minimum: 0 } };

/** Keys that each kind must have; numbers may be null, with their reason in the notes. */
const KEYS: Record<MeasurementKind, Record<string, object>> = {
  voice: {
    ...recording,
    activeSpeechLevelDb: numberOrNull,
    activityFactor: numberOrNull,
    loudnessLufs: numberOrNull,
    peakToAverageDb: numberOrNull,
    thirdOctaveDb: pairs(100),
    tiltDbPerOctave: numberOrNull,
    passbandHz: passband,
    noiseFloorDb: numberOrNull,
    snrDb: numberOrNull,
    pitchHz: numberOrNull,
    levelSpreadDb: numberOrNull,
  },
  ssb: {
    ...recording,
    carrierHz: { type: 'number' },
    sideband: { enum: ['usb', 'lsb'] },
    peakToAverageDb: numberOrNull,
    peakDb: numberOrNull,
    passbandHz: passband,
    occupiedBandwidthHz: numberOrNull,
    oppositeSidebandDb: numberOrNull,
    carrierDb: numberOrNull,
    carrierPepDb: numberOrNull,
    adjacentDb: {
      type: 'object',
      required: ['wantedSide', 'otherSide'],
      properties: { wantedSide: numberOrNull, otherSide: numberOrNull },
    },
    extentHz: nullable({ ...numbers(2), minItems: 2 }),
  },
  am: {
    ...recording,
    carrierOffsetHz: numberOrNull,
    occupiedBandwidthHz: numberOrNull,
    modulationDepth: depth,
    modulationDepthUsual: depth,
    audioBandwidthHz: numberOrNull,
  },
  fm: {
    ...recording,
    offsetHz: numberOrNull,
    occupiedBandwidthHz: numberOrNull,
    peakDeviationHz: numberOrNull,
    peakDeviationUsualHz: numberOrNull,
    voicePeakDeviationHz: numberOrNull,
    rmsDeviationHz: numberOrNull,
    audioBandwidthHz: numberOrNull,
    carsonBandwidthHz: numberOrNull,
    ctcssHz: numberOrNull,
  },
  'two-tone': {
    ...recording,
    tonesHz: nullable({ ...numbers(2), minItems: 2 }),
    imd3Db: numberOrNull,
    imd5Db: numberOrNull,
    imd3PepDb: numberOrNull,
    imd5PepDb: numberOrNull,
  },
  response: {
    ...recordingOrCurve,
    curve: { ...pairs(100_000), minItems: 2 },
    passbandHz: passband,
    rippleDb: numberOrNull,
    distortionDb: numberOrNull,
    harmonicsDb: nullable(pairs(100)),
    mistuneHz: numberOrNull,
    clockPpm: numberOrNull,
    levelDriftDb: numberOrNull,
  },
  power: {
    clippedShare: numberOrNull,
    loadOhms: { type: 'number', exclusiveMinimum: 0 },
    pepW: numberOrNull,
    pepDbm: numberOrNull,
    meanW: numberOrNull,
    pepToMeanDb: numberOrNull,
    crestV: numberOrNull,
    traceKind: { enum: ['rf', 'envelope'] },
  },
};

/** What an older core did not know: null, or a depth of nulls. */
const UNKNOWN = new Map<object, unknown>([
  [numberOrNull, null],
  [passband, null],
  [depth, { positive: null, negative: null }],
]);

/** Numbers that a later core than the one of this result measures, as not measured. Changes the result. */
function fillOlder(result: Record<string, unknown>): void {
  const keys = Object.hasOwn(KEYS, String(result.kind)) ? KEYS[result.kind as MeasurementKind] : {};
  for (const [key, schema] of Object.entries(keys)) {
    if (!(key in result) && UNKNOWN.has(schema)) result[key] = UNKNOWN.get(schema);
  }
}

const resultSchema = (kind: MeasurementKind) => ({
  type: 'object',
  required: ['kind', 'durationS', 'findings', 'notes', ...Object.keys(KEYS[kind])],
  properties: {
    kind: { const: kind },
    durationS: { type: 'number', minimum: 0 },
    notes: { type: 'object', additionalProperties: { type: 'string' } },
    findings,
    ...KEYS[kind],
  },
});

const voiceDetailSchema = {
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

const radioDetailSchema = {
  type: 'object',
  required: ['mean', 'highest', 'noiseDb'],
  properties: { mean: nullable(drawn), highest: nullable(drawn), noiseDb: numberOrNull, audio: nullable(drawn) },
};

const powerDetailSchema = { type: 'object', required: ['envelope'], properties: { envelope: pairs(10_000) } };

const DETAILS: Record<MeasurementKind, object> = {
  voice: voiceDetailSchema,
  ssb: radioDetailSchema,
  am: radioDetailSchema,
  fm: radioDetailSchema,
  'two-tone': radioDetailSchema,
  response: { type: 'null' },
  power: powerDetailSchema,
};

const ajv = new Ajv({ allowUnionTypes: true, strictTuples: false });
const checks = new Map<MeasurementKind, ValidateFunction>();

function checkOf(kind: MeasurementKind): ValidateFunction {
  const known = checks.get(kind);
  if (known) return known;
  const check = ajv.compile({ type: 'object', properties: { result: resultSchema(kind), detail: DETAILS[kind] } });
  checks.set(kind, check);
  return check;
}

/** A measurement as an archive has it, its columns checked but for these. */
interface ArchivedMeasurement {
  readonly status: string;
  readonly coreVersion: string;
  readonly result: Record<string, unknown> | null;
  readonly detail: unknown;
}

/** What is wrong with the numbers of a measurement; null when nothing is. Fills in what its older core did not know. */
export function measurementProblem({ status, coreVersion, result, detail }: ArchivedMeasurement): string | null {
  if (result === null) return status === 'done' ? 'it is done, but has no result' : null;
  const kind = MEASUREMENT_KINDS.find((each) => each === result.kind);
  if (!kind) return 'result.kind is not known';
  if (coreVersion !== CORE_VERSION) fillOlder(result);
  const check = checkOf(kind);
  if (check({ result, detail })) return null;
  const [error] = check.errors ?? [];
  return `${error?.instancePath.slice(1).replaceAll('/', '.') || 'result'} ${error?.message ?? 'is wrong'}`;
}
