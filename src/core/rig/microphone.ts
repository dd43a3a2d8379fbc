/** A microphone: kind, pattern, switch positions and accessories with their response curves, talking distance. */
import type { FromSchema } from 'json-schema-to-ts';
import { PLAIN_LINE, PLAIN_NAME, PLAIN_TEXT } from '../schema/index.ts';
import { type DistanceUnit, distanceText } from '../units/index.ts';

/** Directional patterns, with the share of the pressure (all-round) part in each; the rest is pressure gradient. */
export const PATTERNS = { omni: 1, cardioid: 0.5, supercardioid: 0.37, hypercardioid: 0.25, 'figure-8': 0 } as const;
/** One of the patterns. */
export type Pattern = keyof typeof PATTERNS;
/** Patterns in words. */
export const PATTERN_LABELS: Record<Pattern, string> = {
  omni: 'all round',
  cardioid: 'cardioid',
  supercardioid: 'supercardioid',
  hypercardioid: 'hypercardioid',
  'figure-8': 'figure of eight (noise cancelling)',
};
/** Classes of output level, each some 15 dB above the other. */
export const OUTPUT_LEVELS = ['low', 'medium', 'high'] as const;

/** JSON Schema of points [Hz, dB]. */
export const curveSchema = {
  type: 'array',
  minItems: 2,
  maxItems: 2000,
  items: {
    type: 'array',
    items: [
      { type: 'number', exclusiveMinimum: 0, maximum: 100_000 },
      { type: 'number', minimum: -120, maximum: 120 },
    ],
    minItems: 2,
    maxItems: 2,
    additionalItems: false,
  },
} as const;

const response = {
  type: 'object',
  properties: { name: { type: 'string', minLength: 1, maxLength: 60, pattern: PLAIN_NAME }, curve: curveSchema },
  required: ['name', 'curve'],
  additionalProperties: false,
} as const;

const centimetres = { type: 'number', minimum: 0.5, maximum: 200 } as const;

/** JSON Schema of a microphone file, version 1. */
export const microphoneSchema = {
  $schema: 'http://json-schema.org/draft-07/schema#',
  title: 'Dial Tune microphone',
  type: 'object',
  properties: {
    format: { const: 'dialtune-microphone' },
    version: { const: 1 },
    name: { type: 'string', minLength: 1, maxLength: 60, pattern: PLAIN_NAME },
    kind: { type: 'string', minLength: 1, maxLength: 60, pattern: PLAIN_NAME, description: 'As people say it: dynamic boom mic.' },
    pattern: { enum: ['omni', 'cardioid', 'supercardioid', 'hypercardioid', 'figure-8'] },
    level: { enum: OUTPUT_LEVELS, description: 'Output level class.' },
    distanceCm: { ...centimetres, description: 'Talking distance that is kept.' },
    curveDistanceCm: { ...centimetres, description: 'Distance at which the curves were taken; far away when left out.' },
    positions: {
      type: 'array',
      maxItems: 12,
      items: response,
      description: 'Switch positions, each with its whole response. The first one is the usual one.',
    },
    accessories: {
      type: 'array',
      maxItems: 12,
      items: response,
      description: 'Caps, screens, transformers: what each adds when it is fitted.',
    },
    note: { type: 'string', maxLength: 1000, pattern: PLAIN_TEXT },
  },
  required: ['format', 'version', 'name', 'kind', 'pattern', 'level', 'distanceCm', 'positions', 'accessories'],
  additionalProperties: false,
} as const;

/** A microphone as its file holds it. */
export type Microphone = FromSchema<typeof microphoneSchema>;

/** JSON Schema of how a microphone is used on a card. */
export const microphoneUseSchema = {
  type: 'object',
  properties: {
    position: { type: ['string', 'null'], maxLength: 60 },
    accessories: { type: 'array', maxItems: 12, items: { type: 'string', maxLength: 60, pattern: PLAIN_LINE }, uniqueItems: true },
    distanceCm: centimetres,
  },
  required: ['position', 'accessories', 'distanceCm'],
  additionalProperties: false,
} as const;

/** Switch position (null: the mic has none), what is fitted, and how far away it is talked into. */
export type MicrophoneUse = FromSchema<typeof microphoneUseSchema>;

/** How it is used when nothing else is said: first position, nothing fitted, the usual distance. */
export const usualUse = ({ positions, distanceCm }: Microphone): MicrophoneUse => ({
  position: positions[0]?.name ?? null,
  accessories: [],
  distanceCm,
});

/** A use with what the microphone no longer has taken out of it. */
export function fittingUse(microphone: Microphone, use: MicrophoneUse): MicrophoneUse {
  const { positions, accessories } = microphone;
  const isKnown = use.position === null ? positions.length === 0 : positions.some(({ name }) => name === use.position);
  return {
    ...use,
    position: isKnown ? use.position : usualUse(microphone).position,
    accessories: use.accessories.filter((each) => accessories.some(({ name }) => name === each)),
  };
}

/** A use in a few words: "low cut, windscreen, 6 cm". */
export const microphoneUseText = ({ position, accessories, distanceCm }: MicrophoneUse, unit?: DistanceUnit): string =>
  [position, ...accessories, distanceText(distanceCm, unit)].filter((part) => part !== null).join(', ');

/** Whether two uses sound alike: switch, accessories and distance. */
export const isSameUse = (a: MicrophoneUse, b: MicrophoneUse): boolean =>
  a.position === b.position &&
  a.distanceCm === b.distanceCm &&
  [...a.accessories].sort().join('\n') === [...b.accessories].sort().join('\n');
