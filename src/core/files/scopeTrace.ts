/** Oscilloscope traces as text: time in seconds and volts, one pair a line. */
import { FormatError } from '../schema/index.ts';
import { parseNumberRows } from './numberRows.ts';

/** Seconds and volts, one each a point. */
export interface ScopeTrace {
  readonly seconds: Float64Array;
  readonly volts: Float64Array;
}

const MOST_POINTS = 5_000_000;

/** @throws FormatError naming the line that is wrong */
export function parseScopeTrace(text: string): ScopeTrace {
  const rows = parseNumberRows(text, 2, 'time, volts', MOST_POINTS);
  if (rows.length < 16) throw new FormatError(`A trace needs at least 16 points; this one has ${rows.length}.`);
  for (let n = 1; n < rows.length; n++) {
    if (rows[n].values[0] <= rows[n - 1].values[0])
      throw new FormatError(`Line ${rows[n].line} of the trace: its time does not come after the one before.`);
  }
  return { seconds: Float64Array.from(rows, (row) => row.values[0]), volts: Float64Array.from(rows, (row) => row.values[1]) };
}
