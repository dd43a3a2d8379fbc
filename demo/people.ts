/** Who talks, into what, and where it is heard: an invented club. All names are made up, all voices synthetic. */
import type { Microphone } from '../src/core/rig/microphone.ts';
import type { Scenario } from '../src/server/demo/demo.ts';

/** Voice of espeak-ng and what is done to its spectrum: [Hz, dB, octaves]. */
export const OPERATORS: readonly {
  name: string;
  callsign: string;
  note: string;
  espeak: readonly string[];
  colour: readonly (readonly [number, number, number])[];
}[] = [
  {
    name: 'Runa',
    callsign: 'Q0RUN',
    note: 'High, soft voice. Synthetic.',
    espeak: ['-v', 'en+f3', '-p', '62', '-s', '150', '-a', '80'],
    colour: [
      [350, 5, 2],
      [2500, 2, 1.5],
    ],
  },
  {
    name: 'Bram',
    callsign: 'Q0BRA',
    note: 'Low, boomy voice. Synthetic.',
    espeak: ['-v', 'en+m7', '-p', '28', '-s', '140'],
    colour: [
      [160, 5, 1.5],
      [2200, -5, 1.5],
    ],
  },
  {
    name: 'Tilo',
    callsign: 'Q0TIL',
    note: 'Fast, loud voice. Synthetic.',
    espeak: ['-v', 'en+m3', '-p', '48', '-s', '195', '-a', '160'],
    colour: [[900, 3, 1]],
  },
];

/** Microphones; their sound is made by these filters, and their curves are read off them. */
export const MICROPHONES: readonly {
  name: string;
  kind: string;
  pattern: Microphone['pattern'];
  level: Microphone['level'];
  distanceCm: number;
  note: string;
  bassDb: number;
  trebleDb: number;
  riseHz: number;
  riseDb: number;
  position: string;
  /** Another switch position: what it does to the first, as a shelf. */
  other?: { name: string; shelf: 'low' | 'high'; hz: number; db: number };
  accessory?: { name: string; hz: number; db: number };
}[] = [
  {
    name: 'Reed boom',
    kind: 'dynamic boom mic',
    pattern: 'cardioid',
    level: 'medium',
    distanceCm: 6,
    note: '',
    bassDb: 1,
    trebleDb: -2,
    riseHz: 2500,
    riseDb: 1,
    position: 'flat',
    accessory: { name: 'foam windscreen', hz: 2500, db: -1.5 },
  },
  {
    name: 'Slate desk',
    kind: 'flat desk mic',
    pattern: 'omni',
    level: 'high',
    distanceCm: 8,
    note: '',
    bassDb: 4,
    trebleDb: -5,
    riseHz: 3000,
    riseDb: 0,
    position: 'low cut off',
    other: { name: 'low cut on', shelf: 'low', hz: 250, db: -9 },
  },
  {
    name: 'Pebble hand',
    kind: 'hand mic',
    pattern: 'omni',
    level: 'low',
    distanceCm: 5,
    note: '',
    bassDb: 0,
    trebleDb: -1,
    riseHz: 2000,
    riseDb: 4,
    position: 'as it is',
  },
];

export const RECEIVERS: Scenario['receivers'] = [
  {
    name: 'Shack second receiver',
    kind: 'local',
    lowHz: 60,
    highHz: 4000,
    agc: 'off, gain by hand',
    path: 'across the bench',
    trust: 'high',
    note: 'short whip on the bench, gain down',
  },
  {
    name: 'Mainland remote',
    kind: 'remote',
    lowHz: 150,
    highHz: 3200,
    agc: 'slow',
    path: '140 km over water',
    trust: 'medium',
    note: '',
  },
  { name: 'Hill remote', kind: 'remote', lowHz: 100, highHz: 3500, agc: 'fast', path: '35 km, some static', trust: 'low', note: '' },
  {
    name: 'Monitor of the radio',
    kind: 'monitor',
    lowHz: 60,
    highHz: 4000,
    agc: '',
    path: 'inside the radio',
    trust: 'low',
    note: 'taps the audio early: not what is transmitted',
  },
];
