/**
 * What a transmitter's or receiver's filter lets through, told from a voice alone: where the long-term spectrum, re
 * ordinary speech, breaks off within a third of an octave and stays down. A dull or thin voice, a shelf or a bell bend
 * far less steeply than a filter (common practice: its skirts fall by 20 dB and more within 300 Hz).
 */
import { type CurvePoint, curveAt, LONG_TERM_SPEECH } from '../../curve/index.ts';
import { sum, TWELFTH_CENTRES, VOICE_THIRD_OCTAVES, VOICE_TWELFTH_OCTAVES } from '../../dsp/index.ts';
import { type Decibels, dbToPower, type Hertz, type Power, powerToDb } from '../../units/index.ts';

/** Power re ordinary speech falls by at least this from one third of an octave to the next where a filter ends. */
const LEAST_BREAK_DB: Decibels = 10;
const PARTS = 4;
const LOWEST_START_HZ = 700;
const HIGHEST_START_HZ = 1100;
/** Of its four parts a third octave must have this many inside to be told of. */
const LEAST_PARTS = 2;

/** Edges of what is let through; null where none is seen. */
export type PassedBand = readonly [Hertz | null, Hertz | null];

/** @param powers of speech at VOICE_TWELFTH_OCTAVES, null past the file's end */
export function passedBand(powers: readonly (Power | null)[]): PassedBand {
  const relative = powers.map((power, i) => (power === null ? null : power / ordinary(i)));
  return [edge(relative, -1), edge(relative, 1)];
}

/** Power of ordinary speech in a twelfth octave, to a common factor. Source of the curve: see LONG_TERM_SPEECH. */
const ordinary = (i: number): Power => dbToPower(curveAt(LONG_TERM_SPEECH as CurvePoint[], TWELFTH_CENTRES[i]));

function edge(relative: readonly (Power | null)[], step: 1 | -1): Hertz | null {
  // Mean of the third octave that ends (or begins) at a twelfth, counted outward.
  const third = (i: number): Power | null => {
    const parts = Array.from({ length: PARTS }, (_, k) => relative[i - step * k]);
    return parts.every((part) => typeof part === 'number') ? sum(parts as number[]) / PARTS : null;
  };
  const start = TWELFTH_CENTRES.findIndex((hz) => hz >= (step > 0 ? HIGHEST_START_HZ : LOWEST_START_HZ));
  for (let i = start; i >= 0 && i < relative.length; i += step) {
    const inside = third(i);
    const beyond = third(i + step * PARTS);
    if (inside === null) return null;
    if (beyond === null || inside === 0) continue;
    const fall = powerToDb(inside / Math.max(beyond, Number.MIN_VALUE));
    if (fall < LEAST_BREAK_DB || !staysDown(relative, i + step * PARTS, step, inside)) continue;
    return half(relative, i, step, inside);
  }
  return null;
}

function staysDown(relative: readonly (Power | null)[], from: number, step: number, inside: Power): boolean {
  for (let i = from; i >= 0 && i < relative.length; i += step) {
    if ((relative[i] ?? 0) > inside * dbToPower(-LEAST_BREAK_DB / 2)) return false;
  }
  return true;
}

/** The outer end of the last twelfth that is within 6 dB of the inside. */
function half(relative: readonly (Power | null)[], from: number, step: 1 | -1, inside: Power): Hertz {
  let last = from - step * (PARTS - 1);
  for (let k = 0; k < 2 * PARTS; k++) {
    const i = from + step * (k - PARTS + 1);
    if ((relative[i] ?? 0) >= inside / 4) last = i;
  }
  const band = VOICE_TWELFTH_OCTAVES[Math.min(VOICE_TWELFTH_OCTAVES.length - 1, Math.max(0, last))];
  return step > 0 ? band.highHz : band.lowHz;
}

/** Levels of VOICE_THIRD_OCTAVES re ordinary speech through the same band, to a common constant; null for bands outside it. */
export function overOrdinarySpeech(powers: readonly (Power | null)[], [low, high]: PassedBand): (Decibels | null)[] {
  return VOICE_THIRD_OCTAVES.map((_, b) => {
    let heard = 0;
    let usual = 0;
    let parts = 0;
    for (let i = b * PARTS; i < (b + 1) * PARTS; i++) {
      const { lowHz, highHz } = VOICE_TWELFTH_OCTAVES[i];
      const power = powers[i];
      if (power === null || lowHz < (low ?? 0) * 0.999 || highHz > (high ?? Infinity) * 1.001) continue;
      heard += power;
      usual += ordinary(i);
      parts++;
    }
    return parts >= LEAST_PARTS && heard > 0 ? powerToDb(heard / usual) : null;
  });
}
