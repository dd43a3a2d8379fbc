/** How a number becomes a finding: against its limit, with the evidence told. */
import { withMinus } from '../units/index.ts';
import type { Finding, FindingCode, Severity } from './finding.ts';
import { type LimitName, limitOf, type OwnLimits } from './limits.ts';

/** What a judge says when a limit is passed. */
export interface Saying {
  readonly code: FindingCode;
  /** One sentence in the operator's words. */
  readonly text: string;
  /** The numbers behind it; limit and source are put behind them. */
  readonly evidence: string;
  /** Never worse than this. */
  readonly most?: Severity;
}

/** Severity of a value against a limit; null when it is in order. */
export function severityOf(name: LimitName, value: number, own?: OwnLimits): Severity | null {
  const { bad, watch, fault } = limitOf(name, own);
  const isPast = (limit: number | null) => limit !== null && (bad === 'above' ? value >= limit : value <= limit);
  return isPast(fault) ? 'fault' : isPast(watch) ? 'watch' : null;
}

/** The finding on a value that passes its limit; null when it doesn't, or when there is no value. */
export function judge(name: LimitName, value: number | null, own: OwnLimits | undefined, say: Saying): Finding | null {
  const found = value === null ? null : severityOf(name, value, own);
  if (!found) return null;
  const severity = say.most === 'watch' && found === 'fault' ? 'watch' : found;
  return { code: say.code, severity, text: say.text, evidence: `${say.evidence} (${limitText(name, own)})` };
}

/** "watch from −40, fault from −30 dB, common practice" */
export function limitText(name: LimitName, own?: OwnLimits): string {
  const { bad, watch, fault, unit, source } = limitOf(name, own);
  const at = (word: string, value: number | null): string[] => {
    if (value === null) return [];
    const text = withMinus(value);
    return [value > 0 && value < 1e-6 ? `${word} at any` : bad === 'above' ? `${word} from ${text}` : `${word} at ${text} or less`];
  };
  return [`${[...at('watch', watch), ...at('fault', fault)].join(', ')}${unit ? ` ${unit}` : ''}`, source].join(', ');
}

const ORDER: readonly Severity[] = ['fault', 'watch', 'ok'];

/** Without the empty ones, worst first. */
export const worstFirst = (findings: readonly (Finding | null)[]): Finding[] =>
  findings.filter((found) => found !== null).sort((a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity));

/** What an overloaded receiver can put into a recording by itself. */
const TRANSMITTER_FAULTS: readonly FindingCode[] = [
  'overdrive',
  'splatter',
  'opposite-sideband',
  'carrier-leak',
  'wide',
  'over-modulated',
  'under-modulated',
  'over-deviation',
  'narrow-deviation',
  'distortion',
];

/** Worst first; with the receiver under suspicion no fault of the transmitter is pronounced (contract). */
export function receiverFirst(findings: readonly (Finding | null)[]): Finding[] {
  const found = worstFirst(findings);
  const isSuspect = found.some(({ code, severity }) => code === 'receiver-overload' && severity !== 'ok');
  return isSuspect ? found.filter(({ code }) => !TRANSMITTER_FAULTS.includes(code)) : found;
}
