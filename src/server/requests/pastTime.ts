/** Times that people or archives give: real ones, of an age that a station can have. */
import { Refused } from './refused.ts';

const EARLIEST = Date.UTC(1970, 0, 1);
/** Clocks differ, and so do time zones that somebody mistook. */
const AHEAD_MS = 48 * 3600_000;

/** @param text ISO 8601 in UTC with milliseconds, as the pages and archives write it */
export function isPastTime(text: string): boolean {
  const time = Date.parse(text);
  // A day that no calendar has would come back as another one.
  return time >= EARLIEST && time <= Date.now() + AHEAD_MS && new Date(time).toISOString() === text;
}

/** @throws Refused for days that no calendar has, the far past and the future */
export function refuseFarTime(text: string): void {
  if (!isPastTime(text)) throw new Refused(`${text.slice(0, 40)} is no time at which anything was recorded; nothing was saved.`, 422);
}
