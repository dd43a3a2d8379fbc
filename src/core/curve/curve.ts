/** A response or a tone balance as points over frequency. */
import type { Decibels, Hertz } from '../units/index.ts';

/** Points of a curve, frequency ascending. */
export type CurvePoint = readonly [Hertz, Decibels];

/** Level of a curve at a frequency: straight lines over log frequency, held level beyond its ends. */
export function curveAt(points: readonly CurvePoint[], hz: Hertz): Decibels {
  const next = points.findIndex(([at]) => at >= hz);
  if (next === 0) return points[0][1];
  if (next === -1) return points[points.length - 1][1];
  const [f0, d0] = points[next - 1];
  const [f1, d1] = points[next];
  return d0 + ((d1 - d0) * Math.log(hz / f0)) / Math.log(f1 / f0);
}
