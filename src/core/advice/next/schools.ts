/** The usual ways to set the level, as data. All common practice: where operators disagree, each school is one of several. */
import type { RigProfile } from '../../rig/index.ts';
import type { Fraction } from '../../units/index.ts';
import type { Said } from '../alcStanding.ts';

/** A rig whose ALC is to stand where a school has it, not where the scale is marked. */
export const withZone = (rig: RigProfile, [low, high]: readonly [Fraction, Fraction]): RigProfile => ({
  ...rig,
  alc: { ...rig.alc, zone: [low, high] },
});

/** One school of setting the ALC. */
export interface AlcSchool {
  readonly name: string;
  readonly zone: readonly [Fraction, Fraction];
  /** What is said into the microphone while the meter is read. */
  readonly said: Said;
  readonly note: string;
}

/** The keys are those of files. */
export const ALC_SCHOOLS = {
  cautious: {
    name: 'Cautious',
    zone: [0.25, 0.5],
    said: 'counting',
    note: 'above a quarter and below half of the scale: clean first, with a little less punch',
  },
  '30-50': { name: '30 to 50 %', zone: [0.3, 0.5], said: 'talk', note: 'the middle way, on peaks of ordinary talk' },
  full: {
    name: 'Full',
    zone: [0.5, 0.67],
    said: 'sustained',
    note: 'half to two thirds of the scale on one sustained word, which repeats better than talk',
  },
  ceiling: { name: 'Ceiling', zone: [0.85, 1], said: 'talk', note: 'just touching the end of the marked zone on the loudest peaks' },
} as const satisfies Readonly<Record<string, AlcSchool>>;
/** One of them. */
export type AlcSchoolKey = keyof typeof ALC_SCHOOLS;
/** All keys. */
export const ALC_SCHOOL_KEYS = Object.keys(ALC_SCHOOLS) as AlcSchoolKey[];

/** How much compression a school wants. */
export const COMPRESSIONS = ['none', 'token', 'handbook', 'weak-mic'] as const;
/** One of them. */
export type CompressionWish = (typeof COMPRESSIONS)[number];

/** The same in words. */
export const COMPRESSION_SCHOOLS: Readonly<Record<CompressionWish, { readonly name: string; readonly note: string }>> = {
  none: { name: 'None', note: 'off; sounds best on strong signals and in local chats' },
  token: { name: 'Token', note: '20 to 40 % of its scale: more average power, hardly heard' },
  handbook: { name: 'Handbook', note: '10 to 20 dB on the compression meter; many find that too much by ear' },
  'weak-mic': { name: 'Weak mic', note: '60 to 65 % of its scale, for a microphone of low output' },
};

/** Which comes first. */
export const LEVEL_ORDERS = {
  'compressor-first': { name: 'Compressor first', note: 'compression first, then the ALC with it on' },
  'alc-first': { name: 'ALC first', note: 'the ALC with the compressor off, compression after it' },
} as const;
/** One of them. */
export type LevelOrder = keyof typeof LEVEL_ORDERS;
