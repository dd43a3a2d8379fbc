/** What operators type and say. What the other folders may use. */

export { LONGEST_LINE, readDialLine } from './dialLine.ts';
export type { DialLine, LineContext, LineMove } from './line.ts';
export type { MeterReading } from './readings.ts';
export {
  REMARK_ABOUTS,
  REMARK_CODES,
  REMARK_DEGREES,
  REMARK_LABELS,
  REMARK_SENSES,
  type RemarkAbout,
  type RemarkCode,
  type RemarkDegree,
  type RemarkSense,
} from './remarkWords.ts';
export { LONGEST_REPORT, type ReadReport, type Remark, readReport } from './report.ts';
export type { SignalReport } from './signalReport.ts';
export { suggestionsFor } from './suggestions.ts';
