/** Response curves as text: one `Hz dB` pair a line, separated by comma, semicolon, tab or spaces. */
import type { Decibels, Hertz } from '../signal/units.ts';
import { FormatError } from './formatError.ts';

/** Points of a curve, frequency ascending. */
export type CurvePoint = readonly [Hertz, Decibels];

const MOST_POINTS = 100_000;

/**
 * Reads a curve. Blank lines, lines starting with # and one heading line are passed over.
 * @throws FormatError naming the line that is wrong
 */
export function parseCurve(text: string): CurvePoint[] {
  const points: CurvePoint[] = [];
  const lines = text.replace(/^\uFEFF/, '').split(/\r\n|\r|\n/);
  if (lines.length > MOST_POINTS) throw new FormatError(`The curve has more than ${MOST_POINTS} lines.`);
  for (const [i, raw] of lines.entries()) {
    const line = raw.trim();
    if (line === '' || line.startsWith('#')) continue;
    const cells = line.split(/\s*[,;\t]\s*|\s+/);
    const [hz, db] = cells.map(Number);
    if (points.length === 0 && !Number.isFinite(hz)) continue;
    if (cells.length !== 2 || !Number.isFinite(hz) || !Number.isFinite(db)) {
      throw new FormatError(`Line ${i + 1} of the curve is not "Hz dB": ${line.slice(0, 60)}`);
    }
    if (hz <= 0) throw new FormatError(`Line ${i + 1} of the curve has a frequency of ${hz} Hz.`);
    const before = points.at(-1);
    if (before && hz <= before[0]) {
      throw new FormatError(`Line ${i + 1} of the curve: ${hz} Hz does not come after ${before[0]} Hz.`);
    }
    points.push([hz, db]);
  }
  if (points.length < 2) throw new FormatError('A curve needs at least two points.');
  return points;
}

/** Level of a curve at a frequency: straight lines over log frequency, held level beyond its ends. */
export function curveAt(points: readonly CurvePoint[], hz: Hertz): Decibels {
  const next = points.findIndex(([at]) => at >= hz);
  if (next === 0) return points[0][1];
  if (next === -1) return points[points.length - 1][1];
  const [f0, d0] = points[next - 1];
  const [f1, d1] = points[next];
  return d0 + ((d1 - d0) * Math.log(hz / f0)) / Math.log(f1 / f0);
}
