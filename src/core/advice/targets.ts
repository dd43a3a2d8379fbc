/** The tone balance aimed at for each purpose, as third-octave levels of speech. */
import { type CurvePoint, curveAt, LONG_TERM_SPEECH } from '../curve/index.ts';
import type { Purpose } from '../rig/index.ts';
import { type Decibels, type Hertz, octavesAbove } from '../units/index.ts';

/**
 * What each purpose adds to ordinary speech (Byrne et al. 1994). Common practice: for conversations a little
 * presence; for pile-ups lows down and 2 to 3 kHz up by 5 to 10 dB; contests the same and leaner.
 */
const OVER_SPEECH: Record<Purpose, readonly CurvePoint[]> = {
  natural: [
    [100, 0],
    [4000, 0],
  ],
  balanced: [
    [100, -2],
    [250, 0],
    [1000, 0],
    [2000, 3],
    [2800, 4.5],
    [4000, 4.5],
  ],
  'pile-up': [
    [100, -18],
    [200, -11],
    [315, -7],
    [500, -2],
    [800, 0],
    [1600, 5],
    [2200, 8],
    [3000, 8],
    [4000, 6],
  ],
  contest: [
    [100, -24],
    [200, -16],
    [315, -10],
    [500, -4],
    [800, 0],
    [1500, 6],
    [2200, 10],
    [3000, 10],
    [4000, 7],
  ],
};

/** The target's points: third-octave levels in dB, 0 at the strongest; only the shape counts. */
export function defaultTarget(purpose: Purpose): CurvePoint[] {
  const raw = LONG_TERM_SPEECH.map(([hz, db]) => [hz, db + curveAt(OVER_SPEECH[purpose], hz)] as const);
  const top = Math.max(...raw.map(([, db]) => db));
  return raw.map(([hz, db]) => [hz, Math.round(10 * (db - top)) / 10]);
}

/** JSON Schema of edited points. */
export const targetSchema = {
  type: 'array',
  minItems: 2,
  maxItems: 40,
  items: {
    type: 'array',
    items: [
      { type: 'number', minimum: 50, maximum: 8000 },
      { type: 'number', minimum: -60, maximum: 20 },
    ],
    minItems: 2,
    maxItems: 2,
    additionalItems: false,
  },
} as const;

/** What a schema can't say of edited points: each frequency once, in rising order. Null when nothing is wrong. */
export function targetProblem(points: readonly CurvePoint[]): string | null {
  const at = points.findIndex(([hz], i) => i > 0 && hz <= points[i - 1][0]);
  if (at < 0) return null;
  const [hz, before] = [points[at][0], points[at - 1][0]];
  return hz === before
    ? `The target has two points at ${hz} Hz.`
    : `The target's points are out of order: ${hz} Hz comes after ${before} Hz.`;
}

/** From here up a target is tilted. */
const TILT_HZ: Hertz = 1000;
/** A target that loses so much of its top, dB per octave. */
export const tiltedTarget = (target: readonly CurvePoint[], tiltDb: Decibels): readonly CurvePoint[] =>
  tiltDb === 0 ? target : target.map(([hz, db]): CurvePoint => [hz, db - tiltDb * Math.max(0, octavesAbove(hz, TILT_HZ))]);
