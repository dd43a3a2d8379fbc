/** A card: the numbers of every dial of one rig, for one operator, mic, mode and purpose. */
import type { FromSchema } from 'json-schema-to-ts';
import { PLAIN_LINE } from '../schema/index.ts';
import { microphoneUseSchema } from './microphone.ts';
import { type Dial, type DialValue, MODES, type RigProfile } from './rig.ts';

/** What a card can be for. */
export const PURPOSES = ['natural', 'balanced', 'pile-up', 'contest'] as const;
/** One of them. */
export type Purpose = (typeof PURPOSES)[number];

/** JSON Schema of dial values, by dial id. */
export const valuesSchema = {
  type: 'object',
  maxProperties: 200,
  propertyNames: { pattern: '^[a-z0-9][a-z0-9-]{0,39}$' },
  additionalProperties: { type: ['number', 'string'] },
} as const;

/** JSON Schema of a card file, version 1. Dials left out stand at their factory value. */
export const cardSchema = {
  $schema: 'http://json-schema.org/draft-07/schema#',
  title: 'Dial Tune card',
  type: 'object',
  properties: {
    format: { const: 'dialtune-card' },
    version: { const: 1 },
    rig: { type: 'string', maxLength: 60, pattern: PLAIN_LINE, description: 'Name of the rig the numbers belong to.' },
    name: { type: 'string', maxLength: 80, pattern: PLAIN_LINE },
    mode: { enum: MODES },
    purpose: { enum: PURPOSES },
    values: valuesSchema,
    operator: { type: 'string', maxLength: 20, pattern: PLAIN_LINE, description: 'Callsign of whose card it is.' },
    microphone: { type: 'string', maxLength: 60, pattern: PLAIN_LINE, description: 'Name of the microphone it is talked into.' },
    use: { ...microphoneUseSchema, description: 'How the microphone is used.' },
  },
  required: ['format', 'version', 'mode', 'values'],
  additionalProperties: false,
} as const;

/** A card as its file holds it. */
export type CardFile = FromSchema<typeof cardSchema>;
/** Values by dial id; a dial left out stands at its factory value. */
export type DialValues = Readonly<Record<string, DialValue>>;

/** What computations need of a card. */
export interface Card {
  readonly mode: CardFile['mode'];
  readonly values: DialValues;
}

/** Value of a dial on a card: what is written, else the factory value. */
export const valueOn = (card: Card, dial: Dial): DialValue => card.values[dial.id] ?? dial.rest;

/** A card with every dial at its factory value. */
export const factoryCard = (rig: RigProfile, mode: Card['mode'] = rig.modes[0]): Card => ({
  mode,
  values: Object.fromEntries(rig.dials.map((dial) => [dial.id, dial.rest])),
});

/** Purposes in words. */
export const PURPOSE_LABELS: Record<Purpose, string> = {
  natural: 'rag chew',
  balanced: 'general',
  'pile-up': 'DX and pile-ups',
  contest: 'contest',
};
/** Modes in words. */
export const MODE_LABELS: Record<Card['mode'], string> = {
  usb: 'upper sideband',
  lsb: 'lower sideband',
  am: 'AM',
  fm: 'FM',
};
