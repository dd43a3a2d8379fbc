/** A rig: a transceiver described by its dials. Data, never code. Schema and type are one thing here. */
import type { FromSchema } from 'json-schema-to-ts';
import { PLAIN_LINE, PLAIN_NAME, PLAIN_TEXT } from '../schema/index.ts';

/** Modes of a card. */
export const MODES = ['usb', 'lsb', 'am', 'fm'] as const;
/** One of them. */
export type Mode = (typeof MODES)[number];

/** Stages of the transmit path that a dial can belong to, in signal order. */
export const DIAL_STAGES = ['mic', 'gain', 'equalizer', 'compressor', 'passband', 'alc', 'on-air'] as const;

/** What a dial is to the rest of the program, where its place in the path alone does not tell. */
export const DIAL_ROLES = ['mic-gain', 'processor', 'compression', 'carrier-offset', 'fm-width', 'power'] as const;
/** What a dial is, where the program must know. */
export type DialRole = (typeof DIAL_ROLES)[number];

const dialId = { type: 'string', pattern: '^[a-z0-9][a-z0-9-]{0,39}$' } as const;
const label = { type: 'string', minLength: 1, maxLength: 60, pattern: PLAIN_NAME } as const;
const hertz = { type: 'number', exclusiveMinimum: 0, maximum: 20000 } as const;
const edges = { type: 'array', items: [hertz, hertz], minItems: 2, maxItems: 2, additionalItems: false } as const;
const modes = { type: 'array', items: { enum: MODES }, minItems: 1, maxItems: 4, uniqueItems: true } as const;
const value = { type: ['number', 'string'] } as const;
/** A dial's id, or a number where the radio has it fixed. */
const dialOrFixed = { anyOf: [dialId, { type: 'number', exclusiveMinimum: 0, maximum: 20000 }] } as const;

const scale = {
  type: 'object',
  discriminator: { propertyName: 'kind' },
  required: ['kind'],
  oneOf: [
    {
      type: 'object',
      description: 'Numbers from min to max in equal steps.',
      properties: {
        kind: { const: 'steps' },
        min: { type: 'number' },
        max: { type: 'number' },
        step: { type: 'number', exclusiveMinimum: 0 },
      },
      required: ['kind', 'min', 'max', 'step'],
      additionalProperties: false,
    },
    {
      type: 'object',
      description: 'The numbers listed, ascending.',
      properties: {
        kind: { const: 'values' },
        values: { type: 'array', items: { type: 'number' }, minItems: 1, maxItems: 1000, uniqueItems: true },
      },
      required: ['kind', 'values'],
      additionalProperties: false,
    },
    {
      type: 'object',
      description: 'Named positions, as the radio shows them.',
      properties: {
        kind: { const: 'options' },
        options: {
          type: 'array',
          items: { type: 'string', minLength: 1, maxLength: 24, pattern: PLAIN_LINE },
          minItems: 1,
          maxItems: 200,
          uniqueItems: true,
        },
      },
      required: ['kind', 'options'],
      additionalProperties: false,
    },
  ],
} as const;

const dial = {
  type: 'object',
  properties: {
    id: dialId,
    label,
    menu: {
      type: 'string',
      maxLength: 20,
      pattern: PLAIN_LINE,
      description: 'Menu address as the radio shows it; empty for a knob on the front.',
    },
    stage: { enum: DIAL_STAGES },
    role: {
      enum: DIAL_ROLES,
      description:
        'mic-gain; processor: its switch; compression: its amount; carrier-offset: off its rest it slides the passband, up where positive; fm-width; power. Left out for other dials.',
    },
    unit: { type: 'string', maxLength: 8, pattern: PLAIN_LINE },
    scale,
    rest: { ...value, description: 'Factory value; also what a switch counts as where the mode has none.' },
    modes: { ...modes, description: 'Modes in which the dial works; all of them when left out.' },
    needs: {
      type: 'array',
      maxItems: 8,
      description: 'The dial works only while each of these other dials is at one of the values.',
      items: {
        type: 'object',
        properties: { dial: dialId, is: { type: 'array', items: value, minItems: 1, maxItems: 50 } },
        required: ['dial', 'is'],
        additionalProperties: false,
      },
    },
  },
  required: ['id', 'label', 'menu', 'stage', 'unit', 'scale', 'rest'],
  additionalProperties: false,
} as const;

/** What a decibel on an equalizer dial really is, where it was measured. */
const clickDb = {
  type: 'number',
  minimum: 0.1,
  maximum: 5,
  description: 'What one decibel on an equalizer dial really is; 1 when left out.',
} as const;

const equalizer = {
  type: 'object',
  discriminator: { propertyName: 'kind' },
  required: ['kind'],
  oneOf: [
    {
      type: 'object',
      properties: { kind: { const: 'none' } },
      required: ['kind'],
      additionalProperties: false,
    },
    {
      type: 'object',
      properties: {
        kind: { const: 'parametric' },
        clickDb,
        bells: {
          enum: ['mirrored', 'resonance'],
          description:
            'What the width number tells of a band. mirrored: the width at half of its decibels, so that a cut is the mirror image of a lift; resonance: the width of a resonance that is added or taken away, so that lifts are wider and cuts narrower than the number says. "mirrored" when left out.',
        },
        width: {
          type: 'object',
          properties: {
            meaning: { enum: ['octaves', 'q', 'table', 'unknown'] },
            table: {
              type: 'array',
              description: 'For meaning "table": pairs of width number and octaves.',
              items: {
                type: 'array',
                items: [{ type: 'number' }, { type: 'number', exclusiveMinimum: 0 }],
                minItems: 2,
                maxItems: 2,
                additionalItems: false,
              },
              minItems: 1,
              maxItems: 200,
            },
          },
          required: ['meaning'],
          additionalProperties: false,
        },
        banks: {
          type: 'array',
          minItems: 1,
          maxItems: 2,
          items: {
            type: 'object',
            properties: {
              name: { type: 'string', minLength: 1, maxLength: 24, pattern: PLAIN_LINE },
              bands: {
                type: 'array',
                minItems: 1,
                maxItems: 10,
                items: {
                  type: 'object',
                  properties: { centre: dialOrFixed, level: dialId, width: dialOrFixed },
                  required: ['centre', 'level', 'width'],
                  additionalProperties: false,
                },
              },
            },
            required: ['name', 'bands'],
            additionalProperties: false,
          },
        },
      },
      required: ['kind', 'width', 'banks'],
      additionalProperties: false,
    },
    {
      type: 'object',
      properties: {
        kind: { const: 'graphic' },
        clickDb,
        octaves: { type: 'number', exclusiveMinimum: 0, maximum: 4 },
        bands: {
          type: 'array',
          minItems: 1,
          maxItems: 31,
          items: {
            type: 'object',
            properties: { hz: hertz, level: dialId },
            required: ['hz', 'level'],
            additionalProperties: false,
          },
        },
      },
      required: ['kind', 'octaves', 'bands'],
      additionalProperties: false,
    },
    {
      type: 'object',
      properties: {
        kind: { const: 'tone' },
        clickDb,
        bass: { type: 'object', properties: { hz: hertz, level: dialId }, required: ['hz', 'level'], additionalProperties: false },
        treble: { type: 'object', properties: { hz: hertz, level: dialId }, required: ['hz', 'level'], additionalProperties: false },
      },
      required: ['kind', 'bass', 'treble'],
      additionalProperties: false,
    },
  ],
} as const;

const passband = {
  type: 'object',
  discriminator: { propertyName: 'kind' },
  required: ['kind'],
  oneOf: [
    {
      type: 'object',
      properties: { kind: { const: 'fixed' }, modes, edges },
      required: ['kind', 'modes', 'edges'],
      additionalProperties: false,
    },
    {
      type: 'object',
      properties: {
        kind: { const: 'choice' },
        modes,
        dial: dialId,
        edges: {
          type: 'array',
          minItems: 1,
          maxItems: 50,
          items: { type: 'array', items: [{ type: 'string' }, hertz, hertz], minItems: 3, maxItems: 3, additionalItems: false },
        },
      },
      required: ['kind', 'modes', 'dial', 'edges'],
      additionalProperties: false,
    },
    {
      type: 'object',
      properties: { kind: { const: 'edges' }, modes, low: dialId, high: dialId },
      required: ['kind', 'modes', 'low', 'high'],
      additionalProperties: false,
    },
  ],
} as const;

/** JSON Schema of a rig profile, version 1. */
export const rigSchema = {
  $schema: 'http://json-schema.org/draft-07/schema#',
  title: 'Dial Tune rig profile',
  type: 'object',
  properties: {
    format: { const: 'dialtune-rig' },
    version: { const: 1 },
    name: label,
    note: { type: 'string', maxLength: 2000, pattern: PLAIN_TEXT },
    modes,
    dials: { type: 'array', items: dial, minItems: 1, maxItems: 200 },
    equalizer,
    passbands: { type: 'array', items: passband, minItems: 1, maxItems: 8 },
    alc: {
      type: 'object',
      description: 'The ALC meter.',
      properties: {
        full: { type: 'number', exclusiveMinimum: 0, maximum: 10000, description: 'What the end of its scale is marked; 1 when left out.' },
        zone: {
          type: 'array',
          description: 'Fractions of the scale, 0 to 1, between which speech peaks belong.',
          items: [
            { type: 'number', minimum: 0, maximum: 1 },
            { type: 'number', minimum: 0, maximum: 1 },
          ],
          minItems: 2,
          maxItems: 2,
          additionalItems: false,
        },
      },
      required: ['zone'],
      additionalProperties: false,
    },
    voiceMemories: { type: 'integer', minimum: 0, maximum: 50, description: 'How many recordings of the voice the radio holds.' },
  },
  required: ['format', 'version', 'name', 'modes', 'dials', 'equalizer', 'passbands', 'alc'],
  additionalProperties: false,
} as const;

/** A radio as its file holds it. */
export type RigProfile = FromSchema<typeof rigSchema>;
/** One dial of it. */
export type Dial = FromSchema<typeof dial>;
/** Its positions. */
export type DialScale = Dial['scale'];
/** A number, or the name of a position. */
export type DialValue = FromSchema<typeof value>;
/** Which dials make up its equalizer. */
export type Equalizer = RigProfile['equalizer'];

/** The dial of that role that works in a mode, if the rig has one. */
export const dialInRole = (rig: RigProfile, role: DialRole, mode: Mode): Dial | undefined =>
  rig.dials.find((dial) => dial.role === role && (dial.modes?.includes(mode) ?? true));

/** The dial of that id. @throws Error when the rig has none (profiles are checked before use) */
export function dialOf(rig: RigProfile, id: string): Dial {
  const found = rig.dials.find((each) => each.id === id);
  if (!found) throw new Error(`Rig ${rig.name} has no dial "${id}".`);
  return found;
}

/** Whether a rig has a mode for a card: its own, or the other sideband. */
export const canCarry = ({ modes }: Pick<RigProfile, 'modes'>, mode: Mode): boolean =>
  modes.includes(mode) || (['usb', 'lsb'].includes(mode) && (modes.includes('usb') || modes.includes('lsb')));
