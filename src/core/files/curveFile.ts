/** Response curves as text: one `Hz dB` pair a line, separated by comma, semicolon, tab or spaces. */
import type { CurvePoint } from '../curve/index.ts';
import { FormatError } from '../schema/index.ts';
import { csv } from './csv.ts';
import { parseNumberRows } from './numberRows.ts';

const MOST_POINTS = 100_000;

/**
 * Reads a curve. Blank lines, lines starting with # and headings are passed over.
 * @throws FormatError naming the line that is wrong
 */
export function parseCurve(text: string): CurvePoint[] {
  const points: CurvePoint[] = [];
  for (const { line, values } of parseNumberRows(text, 2, 'Hz dB', MOST_POINTS)) {
    const [hz, db] = values;
    if (hz <= 0) throw new FormatError(`Line ${line} of the curve has a frequency of ${hz} Hz.`);
    const before = points.at(-1);
    if (before && hz <= before[0]) throw new FormatError(`Line ${line} of the curve: ${hz} Hz does not come after ${before[0]} Hz.`);
    points.push([hz, db]);
  }
  if (points.length < 2) throw new FormatError('A curve needs at least two points.');
  return points;
}

/** A curve as CSV with a heading. */
export const curveCsv = (points: readonly CurvePoint[]): string =>
  csv([['Hz', 'dB'], ...points.map(([hz, db]) => [Number(hz.toFixed(2)), Number(db.toFixed(2))])]);
