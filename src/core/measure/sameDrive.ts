/** Comparisons are fair only at the same peak: were these overs driven equally? */
import { type Decibels, fixed } from '../units/index.ts';
import type { Measurement } from './measurement.ts';

/** Less is within what a voice does from one over to the next. Common practice. */
const ALIKE_DB: Decibels = 1;

/** Peak level of what was recorded; null where the kind has none. */
export function peakLevelDb(m: Measurement): Decibels | null {
  if (m.kind === 'voice')
    return m.activeSpeechLevelDb === null || m.peakToAverageDb === null ? null : m.activeSpeechLevelDb + m.peakToAverageDb;
  if (m.kind === 'ssb') return m.peakDb;
  return m.kind === 'power' ? m.pepDbm : null;
}

/** A recording by its letter, with what its drive is told from. */
export interface Named {
  readonly name: string;
  readonly measurement: Measurement;
}

/** One sentence; null when fewer than two of them have a peak. */
export function sameDrive(overs: readonly Named[]): { readonly isFair: boolean; readonly text: string } | null {
  const known = overs.flatMap(({ name, measurement }) => {
    const peak = peakLevelDb(measurement);
    return peak === null ? [] : [{ name, peak }];
  });
  if (known.length < 2) return null;
  const [first, ...rest] = known;
  const off = rest.filter(({ peak }) => Math.abs(peak - first.peak) >= ALIKE_DB);
  if (off.length === 0) return { isFair: true, text: `Driven alike: the peaks are within ${ALIKE_DB} dB.` };
  const told = off.map(({ name, peak }) => `${name} ${peak > first.peak ? '+' : ''}${fixed(peak - first.peak)} dB`).join(', ');
  return {
    isFair: false,
    text: `These were not driven equally: ${told} against ${first.name}. Compare what they say of level with care; make them at the same peak.`,
  };
}
