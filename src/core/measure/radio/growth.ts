/**
 * How the power in a band beside the voice grows with the voice, from moment to moment. A constant carrier does not grow
 * (0 dB for 1), leakage through a filter or a balance keeps its distance (1 for 1), an amplifier's products grow faster
 * (2 and more for 1). Tried on recorded voices; see docs/measurements.md.
 */
import {
  bandPower,
  type Complex,
  createSpectrumEngine,
  fftSizeFor,
  hann,
  type Kernel,
  type Spectrum,
  type SpectrumEngine,
} from '../../dsp/index.ts';
import { type Decibels, type Fraction, type Hertz, type Power, powerToDb } from '../../units/index.ts';

/** Windows are about 40 ms long. */
const WIDEST_BIN_HZ: Hertz = 25;
/** The voice's own level is read here. */
const VOICE_HZ: readonly [Hertz, Hertz] = [250, 2800];
const LOWEST_DB = -160;
/** Moments are told apart by steps of this. */
const STEP_DB = 0.5;
/**
 * Pairs of moments that are compared, as shares of their order by loudness. A transmitter that is driven far into
 * saturation levels its loudest moments, and only the quieter ones tell.
 */
const LEVERS: readonly { readonly loud: readonly [Fraction, Fraction]; readonly quieter: readonly [Fraction, Fraction] }[] = [
  { loud: [0.85, 1], quieter: [0.4, 0.6] },
  { loud: [0.85, 1], quieter: [0.1, 0.3] },
  { loud: [0.6, 1], quieter: [0.02, 0.15] },
];
/** A band must stand this much over the noise in loud moments before anything is said of it. */
const LEAST_OVER_NOISE: Power = 2;
/** With less between loud and ordinary moments growth can't be told. */
const LEAST_LEVER_DB: Decibels = 1.5;
const LEAST_MOMENTS = 40;

/** How a band's power grows with the voice. */
export interface Growth {
  /** Level in the loudest moments, re the voice then. */
  readonly levelDb: Decibels;
  /** dB for each dB of the voice, over each of the pairs of moments where it can be told. Where noise hides the quieter moments it is at least so much. */
  readonly slopes: readonly number[];
}

interface Group {
  count: number;
  readonly sum: Float64Array;
}

/** Moments of the voice, loud and soft, with the spectrum of each. */
export class VoiceMoments {
  readonly #engine: SpectrumEngine;
  readonly #size: number;
  readonly #scale: number;
  readonly #groups = new Map<number, Group>();
  #filled = 0;
  #start = 0;
  #total = 0;

  /**
   * @param sampleRateHz of the pairs  @param carrierHz the carrier in them
   * @param sign  +1 for the upper sideband, -1 for the lower
   * @param isActive whether the window over pairs [start, start + length) is speech
   */
  constructor(
    kernel: Kernel,
    readonly sampleRateHz: Hertz,
    readonly carrierHz: Hertz,
    readonly sign: 1 | -1,
    readonly isActive: (start: number, length: number) => boolean,
  ) {
    this.#size = fftSizeFor(sampleRateHz, WIDEST_BIN_HZ);
    const taper = hann(this.#size);
    this.#scale = 1 / (sampleRateHz * taper.reduce((sum, w) => sum + w * w, 0));
    this.#engine = createSpectrumEngine({ size: this.#size, isComplex: true, averages: 1, window: taper }, kernel);
  }

  push({ i, q }: Complex): void {
    const size = this.#size;
    for (let read = 0; read < i.length; ) {
      const input = this.#engine.input();
      const take = Math.min(i.length - read, size - this.#filled);
      for (let n = 0; n < take; n++) {
        input[2 * (this.#filled + n)] = i[read + n];
        input[2 * (this.#filled + n) + 1] = q[read + n];
      }
      this.#filled += take;
      read += take;
      if (this.#filled < size) continue;
      if (this.isActive(this.#start, size)) this.#take();
      input.copyWithin(0, size, 2 * size);
      this.#filled = size / 2;
      this.#start += size / 2;
    }
  }

  #take(): void {
    this.#engine.transform(0);
    const powers = this.#engine.powers();
    const level = powerToDb(Math.max(this.#sum(powers, ...VOICE_HZ), Number.MIN_VALUE));
    const key = Math.max(0, Math.round((level - LOWEST_DB) / STEP_DB));
    let group = this.#groups.get(key);
    if (!group) {
      group = { count: 0, sum: new Float64Array(this.#size) };
      this.#groups.set(key, group);
    }
    group.count++;
    this.#total++;
    for (let k = 0; k < this.#size; k++) group.sum[k] += powers[k];
  }

  /** Power of whole bins of a raw result, in the audio's frequencies. */
  #sum(powers: ArrayLike<number>, low: Hertz, high: Hertz): Power {
    const binHz = this.sampleRateHz / this.#size;
    const ends = [this.carrierHz + this.sign * low, this.carrierHz + this.sign * high].map((hz) => Math.round(hz / binHz));
    let sum = 0;
    for (let k = Math.min(...ends); k <= Math.max(...ends); k++) sum += powers[(k + this.#size) % this.#size];
    return sum * this.#scale * binHz;
  }

  /** Mean spectrum of the moments between two shares of the order by loudness; null of too few. */
  spectrumBetween(from: number, to: number): Spectrum | null {
    if (this.#total < LEAST_MOMENTS) return null;
    const density = new Float64Array(this.#size);
    let seen = 0;
    let weight = 0;
    for (const key of [...this.#groups.keys()].sort((a, b) => a - b)) {
      const { count, sum } = this.#groups.get(key) as Group;
      const [a, b] = [Math.max(seen, from * this.#total), Math.min(seen + count, to * this.#total)];
      seen += count;
      if (b <= a) continue;
      const share = (b - a) / count;
      weight += b - a;
      for (let k = 0; k < this.#size; k++) density[(k + this.#size / 2) % this.#size] += share * sum[k];
    }
    const scale = this.#scale / weight;
    return { binHz: this.sampleRateHz / this.#size, firstHz: -this.sampleRateHz / 2, density: density.map((x) => x * scale) };
  }

  /** Tells the growth of bands, in the audio's frequencies (negative: the other sideband); null when there is too little speech. */
  growth(noiseDensity: number): ((low: Hertz, high: Hertz) => Growth | null) | null {
    const clean = (spectrum: Spectrum, low: Hertz, high: Hertz): Power => {
      const ends = [this.carrierHz + this.sign * low, this.carrierHz + this.sign * high];
      return bandPower(spectrum, Math.min(...ends), Math.max(...ends)) - noiseDensity * (high - low);
    };
    const levers = LEVERS.flatMap(({ loud, quieter }) => {
      const [louder, other] = [this.spectrumBetween(...loud), this.spectrumBetween(...quieter)];
      if (!louder || !other) return [];
      const voice = [clean(louder, ...VOICE_HZ), clean(other, ...VOICE_HZ)];
      return voice[0] > 0 && voice[1] > 0 ? [{ louder, other, voice: voice[0], leverDb: powerToDb(voice[0] / voice[1]) }] : [];
    });
    if (levers.length === 0) return null;
    return (low, high) => {
      const noise = noiseDensity * (high - low);
      const [{ louder, voice }] = levers;
      const inLoud = clean(louder, low, high);
      if (!(inLoud > 0) || inLoud < (LEAST_OVER_NOISE - 1) * noise) return null;
      const slopes = levers.flatMap((lever) => {
        const power = clean(lever.louder, low, high);
        if (lever.leverDb < LEAST_LEVER_DB || !(power > 0)) return [];
        // What noise hides in quieter moments is at most as strong as it.
        const quieter = Math.max(clean(lever.other, low, high), noise * (LEAST_OVER_NOISE - 1), Number.MIN_VALUE);
        return [powerToDb(power / quieter) / lever.leverDb];
      });
      return { levelDb: powerToDb(inLoud / voice), slopes };
    };
  }
}
