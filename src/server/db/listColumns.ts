/** What a log line shows of a measurement, kept in columns beside the whole of it. */
import type { Finding } from '@/core/findings/index.ts';
import { headline, type Measurement } from '@/core/measure/index.ts';

export interface ListColumns {
  /** The number that says most of its kind, in words. */
  readonly headline: string;
  readonly durationS: number;
  /** Worst first. */
  readonly findings: readonly Finding[];
}

export const listColumns = (measured: Measurement): ListColumns => ({
  headline: headline(measured).slice(0, 200),
  durationS: measured.durationS,
  findings: measured.findings,
});

/** A result as a row keeps it. */
export const resultColumns = (result: Measurement): ListColumns & { readonly result: Measurement } => ({ result, ...listColumns(result) });
