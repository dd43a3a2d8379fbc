/** Recordings that say little of the dials, whatever else is measured of them. */
import type { Finding, FindingCode } from './finding.ts';

const SPOILT: readonly FindingCode[] = ['clipping', 'flat-tops', 'low-level', 'room-noise'];

/** The fault that spoils a recording; undefined where none does. */
export const spoiltBy = (findings: readonly Finding[]): Finding | undefined =>
  findings.find(({ code, severity }) => severity === 'fault' && SPOILT.includes(code));
