/** Judgements on a response. The limits stand in limits.ts. */
import { type CurvePoint, curveAt } from '../../curve/index.ts';
import { type Finding, judge, type OwnLimits, worstFirst } from '../../findings/index.ts';
import { type Decibels, decibels, type Hertz, hertz, roughPercent } from '../../units/index.ts';
import type { ResponseMeasurement } from '../measurement.ts';

/** Where words still have their consonants; common practice. */
const ROLL_OFF_HZ = 2700;

/** The middle of the voice, where a response is wanted even. */
export const MIDDLE_HZ: readonly [Hertz, Hertz] = [500, 2000];

/** Top to bottom of what lies in a band; null where nothing does. */
export function rippleIn(curve: readonly CurvePoint[], [low, high]: readonly [Hertz, Hertz]): Decibels | null {
  const levels = curve.filter(([hz]) => hz >= low && hz <= high).map(([, db]) => db);
  return levels.length === 0 ? null : Math.max(...levels) - Math.min(...levels);
}

/** What a sweep's own noise makes of a flat stretch. */
const FLAT_DB: Decibels = 0.05;

/** The middle up to where the curve has only fallen ever since. */
function untilItFalls(curve: readonly CurvePoint[]): readonly [Hertz, Hertz] {
  const inside = curve.filter(([hz]) => hz >= MIDDLE_HZ[0] && hz <= MIDDLE_HZ[1]);
  let k = inside.length - 1;
  while (k > 0 && inside[k - 1][1] >= inside[k][1] - FLAT_DB) k--;
  return [MIDDLE_HZ[0], inside[k]?.[0] ?? MIDDLE_HZ[1]];
}

/** Judgements on edges, ripple, distortion and drift; worst first. */
export function responseFindings(numbers: Omit<ResponseMeasurement, 'findings'>, own?: OwnLimits): Finding[] {
  const { curve, passbandHz, rippleDb, distortionDb, levelDriftDb, clippedShare, notes } = numbers;
  const top = curve[curve.length - 1][0] > ROLL_OFF_HZ ? curveAt(curve, ROLL_OFF_HZ) : null;
  const [low, high] = passbandHz ?? [null, null];
  const rollOff = judge('rollOff', top, own, {
    code: 'roll-off',
    text: 'The radio is dull: it falls off before the consonants end. No equalizer dial may reach that far; compare with a known good radio.',
    evidence: `${decibels(top ?? 0)} at ${hertz(ROLL_OFF_HZ)} re 1 kHz`,
  });
  // Where it only falls from somewhere on, that is the roll-off, and not told twice.
  const middle = rollOff ? untilItFalls(curve) : MIDDLE_HZ;
  const uneven = rollOff ? rippleIn(curve, middle) : rippleDb;
  return worstFirst([
    judge('clipping', 100 * clippedShare, own, {
      code: 'clipping',
      text: 'The recording is clipped: turn the recorder or the receiver down and record again.',
      evidence: `${roughPercent(clippedShare)} of the samples sit at full scale in runs`,
    }),
    judge('levelDrift', levelDriftDb === null ? null : Math.abs(levelDriftDb), own, {
      code: 'level-drift',
      text: 'The level moved during the test signal: the receiver’s AGC or the transmitter’s ALC was at work. Use less level, and the AGC off.',
      evidence: `the second sweep came ${decibels(levelDriftDb ?? 0)} louder than the first`,
    }),
    rollOff,
    judge('rippleWidth', uneven, own, {
      code: 'ripple',
      text: 'The response is uneven in the middle of the voice.',
      evidence: `${decibels(uneven ?? 0)} from top to bottom between ${Math.round(middle[0])} and ${hertz(Math.round(middle[1]))}`,
    }),
    judge('distortion', notes.distortionDb ? null : distortionDb, own, {
      code: 'distortion',
      text: 'The path distorts: too much level into the mic socket, or a stage that clips. Halve the level and measure again.',
      evidence: `harmonics at ${decibels(distortionDb ?? 0)} re the fundamental`,
    }),
    judge('narrow', low === null || high === null ? null : high - low, own, {
      code: 'narrow',
      text: 'The response is very narrow.',
      evidence: `${hertz(low ?? 0)} to ${hertz(high ?? 0)} at −6 dB`,
    }),
  ]);
}
