/** A history as a file: overs of one radio with their cards, meters, captures and reports, oldest first. */
import type { FromSchema } from 'json-schema-to-ts';
import { MODES, microphoneUseSchema, PURPOSES, parseCard, parseRig, type RigProfile, valuesSchema } from '../../rig/index.ts';
import * as quick from '../../schema/checksQuick.js';
import * as thorough from '../../schema/checksThorough.js';
import { checker, InvalidInput, PLAIN_LINE } from '../../schema/index.ts';
import { REPORT_PATHS } from '../reportPaths.ts';
import { ALC_SCHOOL_KEYS, ALC_SCHOOLS, type AlcSchoolKey, COMPRESSIONS } from './schools.ts';
import type { SchoolWish } from './seen.ts';

const share = { type: 'number', minimum: 0, maximum: 1 } as const;
const pair = (item: object) => ({ type: 'array', items: [item, item], minItems: 2, maxItems: 2, additionalItems: false }) as const;

const capture = {
  type: 'object',
  properties: {
    file: { type: 'string', minLength: 1, maxLength: 1000 },
    as: { enum: ['voice', 'ssb', 'response', 'two-tone'] },
    carrier: { type: 'number', minimum: -1e6, maximum: 1e6 },
    sideband: { enum: ['usb', 'lsb'] },
    receiver: {
      type: 'object',
      properties: {
        kind: { enum: ['monitor', 'tap', 'second', 'remote'] },
        passbandHz: {
          type: 'array',
          items: [
            { type: 'number', minimum: 20, maximum: 20_000 },
            { type: 'number', minimum: 20, maximum: 20_000 },
          ],
          minItems: 2,
          maxItems: 2,
          additionalItems: false,
        },
      },
      required: ['kind'],
    },
  },
  required: ['file', 'as', 'receiver'],
} as const;

const over = {
  type: 'object',
  properties: {
    card: valuesSchema,
    use: microphoneUseSchema,
    load: { enum: ['dummy', 'antenna'] },
    meters: {
      type: 'object',
      properties: {
        alc: share,
        compressionDb: { type: 'number', minimum: 0, maximum: 60 },
        powerW: { type: 'number', minimum: 0, maximum: 5000 },
        swr: { type: 'number', minimum: 1, maximum: 100 },
        adjacentDb: { type: 'number', minimum: -120, maximum: 0 },
      },
    },
    captures: { type: 'array', maxItems: 40, items: capture },
    reports: {
      type: 'array',
      maxItems: 40,
      items: {
        type: 'object',
        properties: {
          text: { type: 'string', maxLength: 5000 },
          path: { enum: REPORT_PATHS },
          receiver: { type: 'string', maxLength: 200 },
        },
        required: ['text', 'path'],
      },
    },
  },
  required: ['card'],
} as const;

/** JSON Schema of a history, version 1. The rig is checked by its own schema behind it. */
export const historySchema = {
  $schema: 'http://json-schema.org/draft-07/schema#',
  title: 'Dial Tune history',
  type: 'object',
  properties: {
    format: { const: 'dialtune-history' },
    version: { const: 1 },
    rig: { type: 'object' },
    microphone: { type: 'object' },
    mode: { enum: MODES },
    purpose: { enum: PURPOSES },
    school: {
      type: 'object',
      properties: {
        name: { type: 'string', maxLength: 40, pattern: PLAIN_LINE },
        alcZone: pair(share),
        compression: { enum: COMPRESSIONS },
        order: { enum: ['compressor-first', 'alc-first'] },
      },
    },
    overs: { type: 'array', maxItems: 200, items: over },
  },
  required: ['format', 'version', 'rig', 'mode', 'purpose', 'overs'],
} as const;

type OverFile = FromSchema<typeof over>;
/** One over of a history, its values checked. */
export type HistoryOver = OverFile;

/** A history, read. */
export interface History {
  readonly rig: RigProfile;
  readonly mode: (typeof MODES)[number];
  readonly purpose: (typeof PURPOSES)[number];
  readonly school: SchoolWish;
  readonly overs: readonly HistoryOver[];
}

interface HistoryFile extends Omit<History, 'rig' | 'school'> {
  readonly rig: unknown;
  readonly school?: {
    readonly name?: string;
    readonly alcZone?: readonly [number, number];
    readonly compression?: SchoolWish['compression'];
  };
}

/** Made when it is asked for: pages have no use for it. */
const problemsOf = (input: unknown) => checker('history', quick.history, thorough.history)(input);

/** @throws InvalidInput listing everything that is wrong */
export function parseHistory(input: unknown): History {
  const problems = problemsOf(input);
  if (problems.length > 0) throw new InvalidInput(problems);
  const file = input as HistoryFile;
  const rig = parseRig(file.rig);
  if (!rig.modes.includes(file.mode)) throw new InvalidInput([{ place: 'mode', text: `${rig.name} has no ${file.mode}.` }]);
  for (const { card } of file.overs) parseCard({ format: 'dialtune-card', version: 1, mode: file.mode, values: card }, rig);
  return { rig, mode: file.mode, purpose: file.purpose, school: schoolOf(file.school, rig), overs: file.overs };
}

/** By name or by its numbers; the rig's own zone where none is told. */
export function schoolOf(told: HistoryFile['school'], rig: RigProfile): SchoolWish {
  const named = ALC_SCHOOL_KEYS.includes(told?.name as AlcSchoolKey) ? ALC_SCHOOLS[told?.name as AlcSchoolKey] : undefined;
  if (told?.name !== undefined && !named && !told.alcZone)
    throw new InvalidInput([
      {
        place: 'school.name',
        text: `There is no school "${told.name}"; there are ${ALC_SCHOOL_KEYS.join(', ')}, or give alcZone.`,
      },
    ]);
  const [low, high] = told?.alcZone ?? named?.zone ?? rig.alc.zone;
  if (low >= high) throw new InvalidInput([{ place: 'school.alcZone', text: 'The ALC zone is upside down.' }]);
  return { alcZone: [low, high], compression: told?.compression ?? 'token' };
}
