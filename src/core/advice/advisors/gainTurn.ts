/** A mic gain turned by decibels, where nothing else is known of its dial. */
import { type Dial, type DialValue, positionsOf } from '../../rig/index.ts';
import type { Decibels } from '../../units/index.ts';
import { gainSpanDb } from '../alcGain.ts';

/** What one position of a mic gain is likely worth. */
export function stepDb(dial: Dial): Decibels {
  const { length } = positionsOf(dial.scale);
  return gainSpanDb(length) / Math.max(1, length - 1);
}

/** The position that is likely `db` away, one at least; the end of the dial where there is none. */
export function turnedBy(dial: Dial, from: DialValue, db: Decibels): DialValue {
  const positions = positionsOf(dial.scale);
  const steps = Math.sign(db) * Math.max(1, Math.round(Math.abs(db) / stepDb(dial)));
  return positions[Math.min(positions.length - 1, Math.max(0, positions.indexOf(from) + steps))];
}
