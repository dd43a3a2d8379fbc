/** Reading a radio spectrum: noise between signals, occupied bandwidth, bands counted from a carrier. */
import { bandPower, highestHz, median, type Spectrum } from '../../dsp/index.ts';
import type { Sideband } from '../../modem/index.ts';
import { type Decibels, dbToPower, type Hertz, type Power, powerToDb } from '../../units/index.ts';

/** Occupied bandwidth is looked for within this distance of the signal's centre (contract). */
const OCCUPIED_REACH_HZ = 15_000;
/** Noise is read further than this from the signal (contract). */
const NOISE_DISTANCE_HZ = 10_000;
/** Receivers fall off towards the ends of what they record. */
const USABLE_SHARE = 0.45;
const LEAST_NOISE_WIDTH_HZ = 500;

/**
 * Noise power per hertz: the median outside +-10 kHz of the signal; in files too narrow for that, outside the
 * signal. Null where the file holds nothing but signal.
 * @param signal [low, high] of the signal re the file's centre, for narrow files
 */
export function noiseDensity(spectrum: Spectrum, centreHz: Hertz, signal: readonly [Hertz, Hertz]): number | null {
  const far = beyond(spectrum, centreHz - NOISE_DISTANCE_HZ, centreHz + NOISE_DISTANCE_HZ);
  return medianOf(spectrum, far) ?? medianOf(spectrum, beyond(spectrum, ...signal));
}

/** Densities of the usable part of a file under `lowHz` and over `highHz`. */
function beyond({ firstHz, binHz, density }: Spectrum, lowHz: Hertz, highHz: Hertz): Float64Array {
  const edge = -firstHz * 2 * USABLE_SHARE;
  const found = new Float64Array(density.length);
  let count = 0;
  for (let k = 0; k < density.length; k++) {
    const hz = firstHz + k * binHz;
    if (Math.abs(hz) < edge && (hz < lowHz || hz > highHz)) found[count++] = density[k];
  }
  return found.subarray(0, count);
}

/** Null where they are too few to tell. */
const medianOf = ({ binHz }: Spectrum, densities: Float64Array): number | null =>
  densities.length * binHz >= LEAST_NOISE_WIDTH_HZ ? median(densities) : null;

/** An amplifier's products fall away with distance; an overloaded receiver lifts everything. */
const FAR_SHARE = 0.6;

/** Median density in the farthest part of a file from a signal, and never nearer than 10 kHz; null where it does not reach so far. */
export function farDensity(spectrum: Spectrum, centreHz: Hertz): number | null {
  const edge = -spectrum.firstHz * 2 * USABLE_SHARE;
  const farthest = edge + Math.abs(centreHz);
  const least = Math.max(NOISE_DISTANCE_HZ, FAR_SHARE * farthest);
  return medianOf(spectrum, beyond(spectrum, centreHz - least, centreHz + least));
}

/** Bins on either side of 0 Hz that a window spreads a line over, and those beside them by which it is told. */
const LINE_BINS = 3;
const BESIDE_BINS = 10;
/** A line stands at least this much over what is beside it. */
const LINE: Power = 10;
/** A carrier so near to the centre may be the line itself. */
const CARRIER_REACH_HZ = 100;

/**
 * Without the line that receivers put at the very centre of what they record: beside a weak signal it would pass for a part of it.
 * @param carrierHz where the signal's carrier is; a line that may be it stays
 */
export function withoutCentreLine(spectrum: Spectrum, carrierHz: Hertz): Spectrum {
  const { firstHz, binHz, density } = spectrum;
  const centre = Math.round(-firstHz / binHz);
  if (Math.abs(carrierHz) < CARRIER_REACH_HZ || centre < BESIDE_BINS || centre + BESIDE_BINS >= density.length) return spectrum;
  const near = [...density.subarray(centre - LINE_BINS, centre + LINE_BINS + 1)];
  const beside = [
    ...density.subarray(centre - BESIDE_BINS, centre - LINE_BINS),
    ...density.subarray(centre + LINE_BINS + 1, centre + BESIDE_BINS + 1),
  ];
  const usual = median(beside);
  // As strong as what is beside it at its strongest, it is no line.
  if (Math.max(...near) < LINE * Math.max(...beside)) return spectrum;
  const without = density.slice();
  near.forEach((power, k) => {
    without[centre - LINE_BINS + k] = Math.min(power, usual);
  });
  return { firstHz, binHz, density: without };
}

/**
 * 99 % bandwidth, 0.5 % left on each side, within +-15 kHz of `centreHz`, after the noise is taken off.
 * Source: ITU-R SM.328. @returns [low, high] re the file's centre; null when noise is all there is
 */
export function occupiedEdges(spectrum: Spectrum, centreHz: Hertz, noise: number): [Hertz, Hertz] | null {
  const low = Math.max(spectrum.firstHz, centreHz - OCCUPIED_REACH_HZ);
  const high = Math.min(highestHz(spectrum), centreHz + OCCUPIED_REACH_HZ);
  const { firstHz, binHz, density } = spectrum;
  // Cells are bins, and parts of one at either end.
  const first = Math.floor((low - firstHz) / binHz + 0.5 + 1e-9);
  const edge = (cell: number): Hertz => (cell === 0 ? low : Math.min(high, firstHz + (first + cell - 0.5) * binHz));
  const cells = Math.max(0, Math.ceil((high - firstHz) / binHz + 0.5 - 1e-9) - first);
  // sums[k]: the power below cell k.
  const sums = new Float64Array(cells + 1);
  for (let k = 0; k < cells; k++) sums[k + 1] = sums[k] + (density[first + k] - noise) * (edge(k + 1) - edge(k));
  const total = sums[cells];
  if (!(total > 0)) return null;
  // Walking outward from the middle of the power: what noise leaves at the far ends does not count as a crossing.
  const middle = sums.findIndex((sum, k) => k > 0 && sum >= total / 2) - 1;
  let left = middle;
  while (left > 0 && sums[left] > 0.005 * total) left--;
  let right = middle;
  while (right < cells - 1 && sums[right + 1] < 0.995 * total) right++;
  const crossing = (cell: number, wanted: Power): Hertz => {
    const power = sums[cell + 1] - sums[cell];
    return power > 0 ? edge(cell) + Math.min(1, Math.max(0, (wanted - sums[cell]) / power)) * (edge(cell + 1) - edge(cell)) : edge(cell);
  };
  return [crossing(left, 0.005 * total), crossing(right, 0.995 * total)];
}

/** Bands of a spectrum counted from a carrier, positive on the wanted side. */
export class CarrierBands {
  readonly #sign: 1 | -1;

  constructor(
    readonly spectrum: Spectrum,
    readonly carrierHz: Hertz,
    readonly sideband: Sideband,
  ) {
    this.#sign = sideband === 'usb' ? 1 : -1;
  }

  #ends(lowHz: Hertz, highHz: Hertz): [Hertz, Hertz] {
    const ends = [lowHz, highHz].map((hz) => this.carrierHz + this.#sign * hz);
    return [Math.min(...ends), Math.max(...ends)];
  }

  /** True when the file reaches all of the band. */
  reaches(lowHz: Hertz, highHz: Hertz): boolean {
    const [low, high] = this.#ends(lowHz, highHz);
    return low >= this.spectrum.firstHz && high <= highestHz(this.spectrum);
  }

  power(lowHz: Hertz, highHz: Hertz): Power {
    return bandPower(this.spectrum, ...this.#ends(lowHz, highHz));
  }

  /** The wanted sideband as a spectrum of audio, from 0 Hz to what the file reaches. */
  audio(mostHz: Hertz): Spectrum {
    const { binHz, firstHz } = this.spectrum;
    const reach = this.#sign > 0 ? highestHz(this.spectrum) - this.carrierHz : this.carrierHz - firstHz;
    const bins = Math.max(1, Math.floor(Math.min(mostHz, reach) / binHz));
    const density = Float64Array.from({ length: bins }, (_, k) => {
      const [low, high] = [Math.max(0, (k - 0.5) * binHz), (k + 0.5) * binHz];
      return this.power(low, high) / (high - low);
    });
    return { binHz, firstHz: 0, density };
  }
}

/** Lowest and highest offset from `aboutHz`, within +-15 kHz, where a spectrum is within `rangeDb` of its peak there. */
export function extent(spectrum: Spectrum, aboutHz: Hertz, rangeDb: Decibels): { edges: [Hertz, Hertz]; peak: number } | null {
  const { firstHz, binHz, density } = spectrum;
  const offset = (k: number) => firstHz + k * binHz - aboutHz;
  const first = Math.max(0, Math.ceil((aboutHz - OCCUPIED_REACH_HZ - firstHz) / binHz));
  const end = Math.min(density.length, Math.floor((aboutHz + OCCUPIED_REACH_HZ - firstHz) / binHz) + 1);
  const near = density.subarray(first, Math.max(first, end));
  const peak = near.reduce((most, power) => Math.max(most, power), 0);
  if (peak === 0) return null;
  const least = peak * dbToPower(-rangeDb);
  const isLoud = (power: Power) => power >= least;
  return { edges: [offset(first + near.findIndex(isLoud)), offset(first + near.findLastIndex(isLoud))], peak };
}

/** Levels in equal steps for drawing: mean density of each step in dB, null where there is none. */
export interface DrawnSpectrum {
  readonly firstHz: Hertz;
  readonly stepHz: Hertz;
  readonly db: readonly (Decibels | null)[];
}

/** @param from @param to range in hertz re the file's centre */
export function drawn(spectrum: Spectrum, from: Hertz, to: Hertz, mostPoints = 800): DrawnSpectrum {
  const low = Math.max(from, spectrum.firstHz);
  const high = Math.min(to, highestHz(spectrum));
  const points = Math.max(1, Math.min(mostPoints, Math.round((high - low) / spectrum.binHz)));
  const stepHz = (high - low) / points;
  const db = Array.from({ length: points }, (_, k) => {
    const density = bandPower(spectrum, low + k * stepHz, low + (k + 1) * stepHz) / stepHz;
    return density > 0 ? Number(powerToDb(density).toFixed(2)) : null;
  });
  return { firstHz: low + stepHz / 2, stepHz, db };
}
