/** Paths by which another station hears, and how far its verdict reaches. */

export const REPORT_PATHS = ['local', 'one-hop', 'weak', 'fading', 'unknown'] as const;
export type ReportPath = (typeof REPORT_PATHS)[number];
export const PATH_LABELS: Readonly<Record<ReportPath, string>> = {
  local: 'local',
  'one-hop': 'one hop',
  weak: 'weak',
  fading: 'fading',
  unknown: 'path not said',
};
/** How much a verdict on the sound counts; a weak or fading path makes everything sound worse (common practice). */
export const PATH_WEIGHT: Readonly<Record<ReportPath, number>> = { local: 1, 'one-hop': 0.7, weak: 0.3, fading: 0.25, unknown: 0.5 };
