/**
 * Response of a microphone as it is used: its curve in that switch position, what the fitted accessories add, and
 * the proximity effect at the talking distance.
 *
 * Model of the proximity effect: the mouth is a point source on the axis, so its wave is spherical; the capsule is
 * small and adds a pressure part a and a pressure-gradient part 1 - a. In a spherical wave the gradient is larger
 * than in a plane one by 1 + 1/(jkr), hence |a + (1 - a)(1 + 1/(jkr))|, k = 2 pi f / c. Source: the textbook result
 * for first-order gradient microphones (as in L. L. Beranek, Acoustics; from memory); checked in the tests against
 * the difference of two pressures.
 */
import { type CurvePoint, curveAt } from '../../curve/index.ts';
import { type Microphone, type MicrophoneUse, PATTERNS, type Pattern } from '../../rig/index.ts';
import { type Decibels, type Hertz, powerToDb } from '../../units/index.ts';

/** Metres per second at 20 degrees C. */
export const SPEED_OF_SOUND = 343;

/** Gain over the same microphone in a plane wave (a source far away), in dB, at least 0. */
export function proximityDb(pattern: Pattern, distanceCm: number, hz: Hertz): Decibels {
  const gradient = 1 - PATTERNS[pattern];
  const kr = (2 * Math.PI * hz * (distanceCm / 100)) / SPEED_OF_SOUND;
  return powerToDb(1 + (gradient / kr) ** 2);
}

/**
 * Response at each frequency in dB, re its value at 1 kHz far away. Names that the microphone does not have count as
 * nothing.
 */
export function microphoneResponseDb(microphone: Microphone, use: MicrophoneUse, frequencies: readonly Hertz[]): Decibels[] {
  const curves = [
    ...microphone.positions.filter(({ name }) => name === use.position),
    ...microphone.accessories.filter(({ name }) => use.accessories.includes(name)),
  ].map(({ curve }) => curve as unknown as readonly CurvePoint[]);
  const { pattern, curveDistanceCm } = microphone;
  return frequencies.map((hz) => {
    const fitted = curves.reduce((sum, curve) => sum + curveAt(curve, hz) - curveAt(curve, 1000), 0);
    const known = curveDistanceCm === undefined ? 0 : proximityDb(pattern, curveDistanceCm, hz);
    return fitted + proximityDb(pattern, use.distanceCm, hz) - known;
  });
}
