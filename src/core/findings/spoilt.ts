/** Findings that come before all others: recordings that say little of the dials, transmitters that are driven too hard. */
import type { Finding, FindingCode } from './finding.ts';

const SPOILT: readonly FindingCode[] = ['clipping', 'flat-tops', 'low-level', 'room-noise'];

/** The fault that spoils a recording; undefined where none does. */
export const spoiltBy = (findings: readonly Finding[]): Finding | undefined =>
  findings.find(({ code, severity }) => severity === 'fault' && SPOILT.includes(code));

const OVERDRIVEN: readonly FindingCode[] = ['overdrive', 'splatter', 'over-modulated'];

/** The fault of too much drive; undefined where there is none. */
export const overdrivenBy = (findings: readonly Finding[]): Finding | undefined =>
  findings.find(({ code, severity }) => severity === 'fault' && OVERDRIVEN.includes(code));
