/** What hearing oneself on headphones is worth: how steadily somebody talks with the monitor and without. */
import { median } from '../dsp/index.ts';
import { type Decibels, decibels } from '../units/index.ts';

/** A measured over of one operator. */
export interface SpreadOver {
  readonly hasMonitor: boolean | null;
  readonly levelSpreadDb: Decibels | null;
}

/** Medians of both ways. */
export interface MonitorWorth {
  readonly withDb: Decibels | null;
  readonly withoutDb: Decibels | null;
  readonly text: string;
}

/** A difference smaller than overs of one kind differ among themselves says nothing. */
const LEAST_DB: Decibels = 1;
const overs = (count: number): string => `${count} ${count === 1 ? 'over' : 'overs'}`;

/** @param all measured overs of one operator with one microphone; null where none says how it was made */
export function monitorWorth(all: readonly SpreadOver[]): MonitorWorth | null {
  const spreads = (hasMonitor: boolean) =>
    all.flatMap((over) => (over.hasMonitor === hasMonitor && over.levelSpreadDb !== null ? [over.levelSpreadDb] : []));
  const [on, off] = [spreads(true), spreads(false)];
  if (on.length + off.length === 0) return null;
  const [withDb, withoutDb] = [on.length > 0 ? median(on) : null, off.length > 0 ? median(off) : null];
  if (withDb === null || withoutDb === null) {
    const [has, lacks] = withDb === null ? ['without', 'with'] : ['with', 'without'];
    return {
      withDb,
      withoutDb,
      text: `Level spread ${decibels(withDb ?? withoutDb ?? 0, 1)} ${has} the monitor on headphones (${overs(on.length + off.length)}). Record one ${lacks} it to see what hearing yourself is worth.`,
    };
  }
  const worth = withoutDb - withDb;
  const facts = `Level spread ${decibels(withDb, 1)} with the monitor on headphones (${overs(on.length)}), ${decibels(withoutDb, 1)} without (${overs(off.length)}).`;
  if (Math.abs(worth) < LEAST_DB)
    return { withDb, withoutDb, text: `${facts} Hearing yourself makes no difference to how steadily you talk.` };
  return {
    withDb,
    withoutDb,
    text:
      worth > 0
        ? `${facts} Hearing yourself is worth ${decibels(worth, 1)}: that much more average level at the same peaks, before any compression.`
        : `${facts} You talk ${decibels(-worth, 1)} less steadily when you hear yourself: turn the monitor down, or leave it off.`,
  };
}
