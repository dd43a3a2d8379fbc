/** Mains hum: narrow lines at multiples of 50 or 60 Hz in the quietest moments. */
import { powerToDb } from '../signal/conversions.ts';
import { bandPower, highestHz, type Spectrum } from '../signal/spectrum.ts';
import { median } from '../signal/statistics.ts';
import type { Decibels, Hertz, Power } from '../signal/units.ts';

const HARMONICS = 10;
/** A line holds this much more than its surroundings of the same width. */
const LEAST_PROMINENCE_DB: Decibels = 9;

export interface Hum {
  readonly mainsHz: 50 | 60;
  /** Power of all its lines together. */
  readonly power: Power;
  readonly lines: readonly Hertz[];
}

/** The stronger of the two hums, null when neither has a prominent line. @param pauses spectrum of the quietest moments */
export function findHum(pauses: Spectrum): Hum | null {
  const hums = ([50, 60] as const).map((mainsHz) => humAt(pauses, mainsHz)).filter((hum) => hum !== null);
  // 300 Hz and 600 Hz belong to both; a tie goes to the one with more lines.
  return hums.sort((a, b) => b.lines.length - a.lines.length || b.power - a.power)[0] ?? null;
}

function humAt(pauses: Spectrum, mainsHz: 50 | 60): Hum | null {
  const half = Math.min(2 * pauses.binHz, mainsHz / 4);
  const lines: Hertz[] = [];
  let power = 0;
  for (let n = 1; n <= HARMONICS && n * mainsHz + mainsHz / 2 < highestHz(pauses); n++) {
    const hz = n * mainsHz;
    const line = bandPower(pauses, hz - half, hz + half);
    const aside = median(
      [-0.5, -0.38, 0.38, 0.5].map((part) => {
        const centre = hz + part * mainsHz;
        return bandPower(pauses, centre - half / 2, centre + half / 2) * 2;
      }),
    );
    if (powerToDb(line / Math.max(aside, Number.MIN_VALUE)) < LEAST_PROMINENCE_DB) continue;
    lines.push(hz);
    power += line;
  }
  return lines.length === 0 ? null : { mainsHz, power, lines };
}
