/** How wide a voice recording is: the band that holds 99 %, or the -6 dB edges against a reference. */
import { bandPower, highestHz, median, type Spectrum } from '../dsp/index.ts';
import { type Decibels, type Fraction, type Hertz, powerToDb } from '../units/index.ts';

const LOWEST_HZ = 50;
const HIGHEST_HZ = 6500;
const EDGE_DB: Decibels = -6;
const SMOOTHING_HZ = 40;
const STEP_HZ = 5;
const FARTHEST_EDGE_HZ = 6000;

/** The band between 50 and 6500 Hz that leaves half a percent of the power on each side. */
export function occupiedVoiceBand(spectrum: Spectrum): [Hertz, Hertz] | null {
  return occupiedBand(spectrum, LOWEST_HZ, Math.min(HIGHEST_HZ, highestHz(spectrum)), 0.99);
}

/** The band inside [lowHz, highHz] that holds `share` of the power there, with equal parts left on both sides. */
export function occupiedBand(spectrum: Spectrum, lowHz: Hertz, highHz: Hertz, share: Fraction): [Hertz, Hertz] | null {
  const total = bandPower(spectrum, lowHz, highHz);
  if (!(total > 0)) return null;
  const edges: Hertz[] = [];
  let below = 0;
  let from = lowHz;
  for (const part of [(1 - share) / 2, (1 + share) / 2]) {
    const wanted = part * total;
    while (from < highHz) {
      // To the end of the bin that `from` lies in.
      const to = Math.min(highHz, (Math.floor(from / spectrum.binHz + 0.5 + 1e-9) + 0.5) * spectrum.binHz);
      const power = bandPower(spectrum, from, to);
      if (below + power >= wanted) {
        from += power > 0 ? ((wanted - below) / power) * (to - from) : 0;
        below = wanted;
        break;
      }
      below += power;
      from = to;
    }
    edges.push(from);
  }
  return [edges[0], edges[1]];
}

/** Median level between 500 and 2000 Hz, as far as `endHz`; null when nothing is known there. */
export function middleLevel(levelDb: (hz: Hertz) => Decibels, endHz: Hertz): Decibels | null {
  const middle: Decibels[] = [];
  for (let hz = 500; hz <= Math.min(2000, endHz); hz += STEP_HZ) middle.push(levelDb(hz));
  const known = middle.filter(Number.isFinite);
  return known.length === 0 ? null : median(known);
}

/** Where a level falls 6 dB under `middle`, walking out from 1 kHz; null where it does not before the range ends. */
export function edgesOf(
  levelDb: (hz: Hertz) => Decibels,
  middle: Decibels,
  [low, high]: readonly [Hertz, Hertz],
): [Hertz | null, Hertz | null] {
  const edge = middle + EDGE_DB;
  const walk = (step: Hertz): Hertz | null => {
    let before = levelDb(1000);
    for (let hz = 1000 + step; hz >= low && hz <= high; hz += step) {
      const now = levelDb(hz);
      if (now < edge) return Number.isFinite(now) && before > now ? hz - (step * (edge - now)) / (before - now) : hz;
      if (!Number.isNaN(now)) before = now;
    }
    return null;
  };
  return [walk(-STEP_HZ), walk(STEP_HZ)];
}

/**
 * -6 dB edges of recording over reference, both smoothed over 40 Hz, re the ratio's median in 500-2000 Hz,
 * walking out from 1 kHz. An edge is null where the ratio never falls that far (up to 6 kHz or the file's end).
 */
export function passbandAgainst(recording: Spectrum, reference: Spectrum): [Hertz | null, Hertz | null] | null {
  const end = Math.min(FARTHEST_EDGE_HZ, highestHz(recording) - SMOOTHING_HZ, highestHz(reference) - SMOOTHING_HZ);
  const ratioDb = (hz: Hertz): Decibels => powerToDb(smoothed(recording, hz) / smoothed(reference, hz));
  const middle = middleLevel(ratioDb, end);
  return middle === null ? null : edgesOf(ratioDb, middle, [SMOOTHING_HZ / 2, end]);
}

const smoothed = (spectrum: Spectrum, hz: Hertz) => bandPower(spectrum, hz - SMOOTHING_HZ / 2, hz + SMOOTHING_HZ / 2);
