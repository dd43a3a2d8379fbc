/** Live audio: level, spectrum with peak hold, third octaves of the last seconds. */
import {
  bandPower,
  bandPowers,
  createSpectrumEngine,
  fftSizeFor,
  hannPower,
  type SpectrumEngine,
  VOICE_THIRD_OCTAVES,
} from '../dsp/index.ts';
import { amplitudeToDb, type Decibels, type Hertz, powerToDb, type Seconds } from '../units/index.ts';

/** What the live page shows, made anew with every block. */
export interface LiveReading {
  /** RMS of the newest block; null for digital silence. */
  readonly levelDb: Decibels | null;
  /** Largest magnitude since the hold began. */
  readonly heldPeakDb: Decibels | null;
  readonly isClipping: boolean;
  /** Levels at LIVE_HZ of the newest window, and the highest since the hold began; dB re full scale in 1 Hz. */
  readonly now: readonly (Decibels | null)[];
  readonly held: readonly (Decibels | null)[];
  /** Third octaves averaged over the last seconds of talk, dB re the strongest; null before any. */
  readonly thirdOctaves: readonly (Decibels | null)[] | null;
}

/** 24 points an octave, 80 Hz to 5 kHz. */
export const LIVE_HZ: readonly Hertz[] = Array.from({ length: 144 }, (_, k) => 80 * 2 ** (k / 24));
const HALF_STEP = 2 ** (1 / 48);
const WIDEST_BIN_HZ = 12;
/** The third octaves forget with this time constant. */
const MEMORY_S: Seconds = 4;
/** Blocks this far under the loudest of late are pauses, which do not count for the tone. */
const PAUSE_DB: Decibels = 25;
const FULL_SCALE = 0.999;

/** Level, spectrum with peak hold and tone of sound as it comes. */
export class LiveMeter {
  readonly #engine: SpectrumEngine;
  readonly #size: number;
  readonly #room: Float32Array;
  readonly #mean: Float64Array;
  readonly #scale: number;
  #highest = new Float64Array(0);
  #heldPeak = 0;
  #loudest = 0;
  #weight = 0;

  constructor(readonly sampleRateHz: Hertz) {
    this.#size = fftSizeFor(sampleRateHz, WIDEST_BIN_HZ);
    this.#engine = createSpectrumEngine({ size: this.#size, isComplex: false, averages: 0 });
    this.#room = new Float32Array(this.#size);
    this.#mean = new Float64Array(this.#engine.bins);
    this.#scale = 2 / (sampleRateHz * hannPower(this.#size));
    this.release();
  }

  /** Begins peak hold anew. */
  release(): void {
    this.#highest = new Float64Array(this.#engine.bins);
    this.#heldPeak = 0;
  }

  push(block: Float32Array): LiveReading {
    const size = this.#size;
    if (block.length >= size) this.#room.set(block.subarray(block.length - size));
    else {
      this.#room.copyWithin(0, block.length);
      this.#room.set(block, size - block.length);
    }
    let power = 0;
    let peak = 0;
    for (const x of block) {
      power += x * x;
      peak = Math.max(peak, Math.abs(x));
    }
    power /= Math.max(1, block.length);
    this.#heldPeak = Math.max(this.#heldPeak, peak);
    this.#engine.input().set(this.#room);
    this.#engine.transform(0);
    const density = Float64Array.from(this.#engine.powers(), (value) => value * this.#scale);
    density.forEach((value, k) => {
      if (value > this.#highest[k]) this.#highest[k] = value;
    });
    this.#remember(density, power, block.length / this.sampleRateHz);
    return {
      levelDb: power > 0 ? powerToDb(power) : null,
      heldPeakDb: this.#heldPeak > 0 ? amplitudeToDb(this.#heldPeak) : null,
      isClipping: peak >= FULL_SCALE,
      now: this.#points(density),
      held: this.#points(this.#highest),
      thirdOctaves: this.#tone(),
    };
  }

  #remember(density: Float64Array, power: number, seconds: Seconds): void {
    this.#loudest = Math.max(power, this.#loudest * Math.exp(-seconds / (4 * MEMORY_S)));
    if (power <= 0 || powerToDb(power / this.#loudest) < -PAUSE_DB) return;
    const keep = Math.exp(-seconds / MEMORY_S);
    this.#weight = keep * this.#weight + (1 - keep);
    density.forEach((value, k) => {
      this.#mean[k] = keep * this.#mean[k] + (1 - keep) * value;
    });
  }

  #points(density: Float64Array): (Decibels | null)[] {
    const spectrum = { binHz: this.sampleRateHz / this.#size, firstHz: 0, density };
    return LIVE_HZ.map((hz) => {
      if (hz * HALF_STEP > this.sampleRateHz / 2) return null;
      const width = hz * (HALF_STEP - 1 / HALF_STEP);
      const value = bandPower(spectrum, hz / HALF_STEP, hz * HALF_STEP) / width;
      return value > 0 ? powerToDb(value) : null;
    });
  }

  #tone(): (Decibels | null)[] | null {
    if (this.#weight === 0) return null;
    const powers = bandPowers({ binHz: this.sampleRateHz / this.#size, firstHz: 0, density: this.#mean }, VOICE_THIRD_OCTAVES);
    const top = Math.max(...powers.map((value) => value ?? 0));
    return top > 0 ? powers.map((value) => (value ? powerToDb(value / top) : null)) : null;
  }
}
