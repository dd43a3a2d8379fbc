/** A week of overs and moves, as the club prepares an island lighthouse weekend. */
import type { DialValues } from '../src/core/rig/card.ts';
import type { Load } from '../src/server/db/models.ts';

export const TEXTS = [
  'Good evening from the island. The old lamp is turning again, and the kettle is on. How do you copy my audio tonight?',
  'I am talking about nothing at all, so that you can listen. The antenna is a long wire from the gallery down to the boat house.',
  'Testing the new numbers on the card. Seven ships passed the point this morning, and the wind has gone round to the west.',
  'This is the lighthouse station. Please tell me what changed since the last over, and be as unkind as you like.',
];

type At = [daysBefore: number, time: string];

interface Occurrence {
  readonly at: At;
  readonly card: string;
}

export interface EventOver extends Occurrence {
  readonly kind: 'over';
  readonly key: string;
  readonly receiver: string;
  readonly load: Load;
  readonly powerW: number;
  readonly alcReading: number | null;
  readonly note: string;
  readonly text: number;
  /** Noise at the mic and on the path, dB re full scale at the mic. */
  readonly roomDb: number;
  readonly pathDb: number;
  readonly humDb?: number;
  readonly fault?: 'clipped' | 'dull' | 'thin';
  /** The same over on further receivers, each with the noise of its path. */
  readonly also?: readonly { readonly receiver: string; readonly pathDb: number }[];
}

export type PlannedOver = EventOver & { readonly operator: string; readonly microphone: string };

export interface EventRevision extends Occurrence {
  readonly kind: 'revision';
  readonly over: string | null;
  /** How many of the fit's moves are made, strongest first. */
  readonly moves: number | 'all';
  readonly set: DialValues;
  readonly reason: string;
  readonly why: Readonly<Record<string, string>>;
}

const QUIET = { roomDb: -62, pathDb: -60 };

export const EVENTS: readonly (EventOver | EventRevision)[] = [
  {
    kind: 'over',
    key: 'bram-first',
    at: [7, '19:05'],
    card: 'bram-net',
    receiver: 'Shack second receiver',
    load: 'dummy load',
    powerW: 10,
    alcReading: 0.42,
    note: 'Equalizer still off, as the radio came.',
    text: 0,
    ...QUIET,
  },
  {
    kind: 'revision',
    at: [7, '19:20'],
    card: 'bram-net',
    over: 'bram-first',
    moves: 'all',
    set: {},
    reason: 'all moves of the fit',
    why: {},
  },
  {
    kind: 'over',
    key: 'bram-after',
    at: [7, '19:28'],
    card: 'bram-net',
    receiver: 'Shack second receiver',
    load: 'dummy load',
    powerW: 10,
    alcReading: 0.38,
    note: '',
    text: 1,
    ...QUIET,
  },
  {
    kind: 'over',
    key: 'tilo-first',
    at: [5, '16:40'],
    card: 'tilo-hill',
    receiver: 'Hill remote',
    load: 'antenna',
    powerW: 5,
    alcReading: 0.6,
    note: 'Treble had been turned down by somebody.',
    text: 2,
    roomDb: -58,
    pathDb: -46,
  },
  { kind: 'revision', at: [5, '16:52'], card: 'tilo-hill', over: 'tilo-first', moves: 1, set: {}, reason: 'next move', why: {} },
  {
    kind: 'over',
    key: 'tilo-after',
    at: [5, '17:01'],
    card: 'tilo-hill',
    receiver: 'Hill remote',
    load: 'antenna',
    powerW: 5,
    alcReading: 0.62,
    note: '',
    text: 3,
    roomDb: -58,
    pathDb: -46,
  },
  {
    kind: 'over',
    key: 'tilo-noisy',
    at: [4, '20:15'],
    card: 'tilo-hill',
    receiver: 'Hill remote',
    load: 'antenna',
    powerW: 5,
    alcReading: null,
    note: 'Fan heater in the tent, static on the path.',
    text: 0,
    roomDb: -34,
    pathDb: -33,
  },
  {
    kind: 'over',
    key: 'bram-muffled',
    at: [3, '18:30'],
    card: 'bram-dx',
    receiver: 'Mainland remote',
    load: 'antenna',
    powerW: 80,
    alcReading: 0.44,
    note: 'Two stations said muffled.',
    text: 1,
    ...QUIET,
    fault: 'dull',
  },
  {
    kind: 'revision',
    at: [3, '18:41'],
    card: 'bram-dx',
    over: 'bram-muffled',
    moves: 'all',
    set: {},
    reason: 'fit for pile-ups',
    why: {},
  },
  {
    kind: 'over',
    key: 'bram-clear',
    at: [3, '18:50'],
    card: 'bram-dx',
    receiver: 'Mainland remote',
    load: 'antenna',
    powerW: 80,
    alcReading: 0.47,
    note: 'The same two stations: much clearer.',
    text: 3,
    ...QUIET,
    fault: 'dull',
  },
  {
    kind: 'over',
    key: 'runa-clipped',
    at: [2, '13:58'],
    card: 'runa-dx',
    receiver: 'Shack second receiver',
    load: 'dummy load',
    powerW: 20,
    alcReading: 0.6,
    note: 'Recorder was set too hot.',
    text: 0,
    ...QUIET,
    fault: 'clipped',
  },
  {
    kind: 'over',
    key: 'runa-thin',
    at: [2, '14:10'],
    card: 'runa-dx',
    receiver: 'Mainland remote',
    load: 'antenna',
    powerW: 90,
    alcReading: 0.58,
    note: 'Leaned back in the chair, far from the mic.',
    text: 0,
    ...QUIET,
    humDb: -40,
    fault: 'thin',
  },
  {
    kind: 'revision',
    at: [2, '14:21'],
    card: 'runa-dx',
    over: null,
    moves: 0,
    set: { 'mic-gain': 34 },
    reason: 'ALC was above the zone',
    why: { 'mic-gain': 'ALC read 0.58, the zone ends at 0.50' },
  },
  {
    kind: 'over',
    key: 'runa-gain',
    at: [2, '14:26'],
    card: 'runa-dx',
    receiver: 'Mainland remote',
    load: 'antenna',
    powerW: 90,
    alcReading: 0.46,
    note: '',
    text: 1,
    ...QUIET,
  },
  { kind: 'revision', at: [2, '14:31'], card: 'runa-dx', over: 'runa-gain', moves: 1, set: {}, reason: 'next move', why: {} },
  {
    kind: 'over',
    key: 'runa-dx',
    at: [1, '14:36'],
    card: 'runa-dx',
    receiver: 'Mainland remote',
    load: 'antenna',
    powerW: 90,
    alcReading: 0.47,
    note: '',
    text: 2,
    ...QUIET,
  },
  {
    kind: 'over',
    key: 'runa-repeater',
    at: [1, '15:20'],
    card: 'runa-fm',
    receiver: 'Shack second receiver',
    load: 'antenna',
    powerW: 2,
    alcReading: null,
    note: 'Liaison check before the boat leaves.',
    text: 3,
    ...QUIET,
  },
  {
    kind: 'over',
    key: 'tilo-four',
    at: [1, '18:05'],
    card: 'tilo-natural',
    receiver: 'Shack second receiver',
    load: 'antenna',
    powerW: 5,
    alcReading: null,
    note: 'One over on four receivers, before the air check.',
    text: 2,
    roomDb: -58,
    pathDb: -60,
    fault: 'thin',
    also: [
      { receiver: 'Hill remote', pathDb: -44 },
      { receiver: 'Mainland remote', pathDb: -22 },
      { receiver: 'Monitor of the radio', pathDb: -70 },
    ],
  },
];
