/** Judgements on a response. The limits stand in limits.ts. */
import { curveAt } from '../../curve/index.ts';
import { type Finding, judge, type OwnLimits, worstFirst } from '../../findings/index.ts';
import { decibels, hertz, roughPercent } from '../../units/index.ts';
import type { ResponseMeasurement } from '../measurement.ts';

/** Where words still have their consonants; common practice. */
const ROLL_OFF_HZ = 2700;

/** Judgements on edges, ripple, distortion and drift; worst first. */
export function responseFindings(numbers: Omit<ResponseMeasurement, 'findings'>, own?: OwnLimits): Finding[] {
  const { curve, passbandHz, rippleDb, distortionDb, levelDriftDb, clippedShare, notes } = numbers;
  const top = curve[curve.length - 1][0] > ROLL_OFF_HZ ? curveAt(curve, ROLL_OFF_HZ) : null;
  const [low, high] = passbandHz ?? [null, null];
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
    judge('rollOff', top, own, {
      code: 'roll-off',
      text: 'The radio is dull: it falls off before the consonants end. No equalizer dial may reach that far; compare with a known good radio.',
      evidence: `${decibels(top ?? 0)} at ${hertz(ROLL_OFF_HZ)} re 1 kHz`,
    }),
    judge('rippleWidth', rippleDb, own, {
      code: 'ripple',
      text: 'The response is uneven in the middle of the voice.',
      evidence: `${decibels(rippleDb ?? 0)} from top to bottom between 500 and 2000 Hz`,
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
