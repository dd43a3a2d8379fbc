/**
 * Starting cards: what a school of operators would set before anything is measured, put on this rig's scales. All
 * figures are common practice, without a source; they are where to begin, not where to end.
 */
import { type CurvePoint, curveAt } from '../curve/index.ts';
import { TWELFTH_CENTRES } from '../dsp/index.ts';
import { type DialValues, dialInRole, factoryCard, type Mode, type Purpose, type RigProfile } from '../rig/index.ts';
import { FitImpossible } from './fitEqualizer.ts';
import { compressionDials, matchCurve, nearestPassband } from './nearestDials.ts';

/** The usual ways to begin, from flat to narrow DX. Common practice. */
export const SCHOOLS = ['flat', 'full', 'scoop', 'push', 'dx', 'narrow-dx', 'weak-mic'] as const;
/** One of the schools. */
export type School = (typeof SCHOOLS)[number];

interface SchoolRule {
  readonly text: string;
  readonly note: string;
  readonly passbandHz: readonly [number, number];
  /** Share of the compression scale. */
  readonly compression: number;
  readonly curve: readonly CurvePoint[];
  readonly purposes: readonly Purpose[];
}

const FLAT: readonly CurvePoint[] = [
  [100, 0],
  [4000, 0],
];
const DX: readonly CurvePoint[] = [
  [100, -8],
  [250, -6],
  [400, -3],
  [800, 0],
  [1600, 2],
  [2200, 7],
  [3000, 8],
];

/** The schools, as operators tell them. */
export const SCHOOL_RULES: Record<School, SchoolRule> = {
  flat: {
    text: 'Flat, no compression',
    note: 'the baseline for a first recording; best for local chats with strong signals',
    passbandHz: [200, 2900],
    compression: 0,
    curve: FLAT,
    purposes: ['natural'],
  },
  full: {
    text: 'Full but readable',
    note: '400 to 1500 Hz flat, highs up from 2.4 kHz, lows up at 100 to 200 Hz; token compression',
    passbandHz: [100, 2900],
    compression: 0.25,
    curve: [
      [100, 6],
      [200, 5],
      [400, 0],
      [1550, 0],
      [2400, 4.5],
      [3000, 5],
    ],
    purposes: ['balanced', 'natural'],
  },
  scoop: {
    text: 'Mid scoop',
    note: 'lows and highs up, 1.3 kHz down by 5 dB',
    passbandHz: [100, 2900],
    compression: 0.25,
    curve: [
      [100, 3],
      [250, 2],
      [700, -1],
      [1300, -5],
      [2000, 0],
      [2600, 3],
    ],
    purposes: ['balanced'],
  },
  push: {
    text: 'Mid push',
    note: '1.3 kHz up by 5 dB',
    passbandHz: [200, 2800],
    compression: 0.25,
    curve: [
      [250, -1],
      [700, 1],
      [1300, 5],
      [2000, 2],
      [2800, 0],
    ],
    purposes: ['balanced'],
  },
  dx: {
    text: 'DX and pile-ups',
    note: 'lows down, 2 to 3 kHz up by 7 to 8 dB; a fair amount of compression',
    passbandHz: [300, 2700],
    compression: 0.5,
    curve: DX,
    purposes: ['pile-up', 'contest'],
  },
  'narrow-dx': {
    text: 'Narrow DX',
    note: 'the same in a narrow passband: the power in less spectrum, less pleasant',
    passbandHz: [400, 2600],
    compression: 0.5,
    curve: DX,
    purposes: ['contest', 'pile-up'],
  },
  'weak-mic': {
    text: 'Low-output mic',
    note: 'for a mic that does not drive the radio: flat with 60 to 65 % compression',
    passbandHz: [200, 2800],
    compression: 0.63,
    curve: FLAT,
    purposes: ['balanced'],
  },
};

/** Schools that fit a purpose, the most usual first. */
export const schoolsFor = (purpose: Purpose): School[] => [...SCHOOLS].sort((a, b) => rank(a, purpose) - rank(b, purpose));

const rank = (school: School, purpose: Purpose): number => {
  const at = SCHOOL_RULES[school].purposes.indexOf(purpose);
  return at === -1 ? 10 : at;
};

/** A school's values on a rig, and what could not be set as it has them. */
export interface StartingCard {
  readonly values: DialValues;
  /** What could not be done on this rig. */
  readonly notes: readonly string[];
}

/** A school's numbers on a rig's own scales; dials it says nothing of stay at their factory values. */
export function startingCard(rig: RigProfile, mode: Mode, school: School): StartingCard {
  const rule = SCHOOL_RULES[school];
  const notes: string[] = [];
  let values: DialValues = factoryCard(rig, mode).values;
  values = { ...values, ...nearestPassband(rig, mode, values, rule.passbandHz, notes) };
  if (dialInRole(rig, 'compression', mode)) values = { ...values, ...compressionDials(rig, mode, rule.compression) };
  else if (rule.compression > 0) notes.push(`${rig.name} has no processor in this mode.`);
  if (rule.curve === FLAT) return { values, notes };
  try {
    values = matchCurve(
      rig,
      { mode, values },
      TWELFTH_CENTRES.map((hz) => curveAt(rule.curve, hz)),
      true,
    ).values;
  } catch (error) {
    if (!(error instanceof FitImpossible)) throw error;
    notes.push(error.message);
  }
  return { values, notes };
}
