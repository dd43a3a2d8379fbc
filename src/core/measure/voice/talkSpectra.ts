/** Spectra of the talk and of its pauses, sorted by the levels of the frames until the end tells which is which. */
import { fftSizeFor, type Kernel, type KernelArray, type SamplesAt, type Spectrum } from '../../dsp/index.ts';
import type { Hertz, Power } from '../../units/index.ts';
import {
  FrameWindows,
  firstStepOf,
  type KnownFrames,
  SILENT_STEP,
  sharesOf,
  stepOf,
  type Touched,
  WindowSpectrum,
} from '../frameWindows.ts';

/** Bins of the averaged spectrum are at most this wide (contract). */
const WIDEST_BIN_HZ: Hertz = 8;
/** What is told of a voice ends below this (sibilance, up to 8 kHz). */
const HIGHEST_TOLD_HZ: Hertz = 8100;
/** Halves of the talk: seconds in turn, so that both have something of all that is said. */
const HALF_S = 1;
/** Moments that can't be talk tell the room: after so many of them one in a few is enough. */
const CLOSE_PAUSES = 200;
const LATER_EVERY = 4;

interface Sum {
  readonly at: KernelArray;
  weight: number;
}

/** What is kept of windows by the step of each frame that they touch: the talk of both halves, and all brought to one level. */
interface Shares {
  readonly halves: readonly [Sum, Sum];
  readonly even: Sum;
}

/** Spectra of a voice. */
export interface TalkSpectraResult {
  readonly speech: Spectrum | null;
  /** Windows without any talk in them. */
  readonly pauses: Spectrum | null;
  /** The quietest moments, which are there even when noise fills the pauses. */
  readonly quiet: Spectrum | null;
  /** The talk with every moment brought to one level. */
  readonly even: Spectrum | null;
  readonly halves: readonly [Spectrum | null, Spectrum | null];
}

/** Feeds on a recording at its own rate or a lower one. */
export class TalkSpectra {
  readonly #windows: FrameWindows;
  readonly #spectra: WindowSpectrum;
  readonly #shares = new Map<number, Shares>();
  /** Whole windows by their loudest frame. */
  readonly #whole = new Map<number, Sum>();
  readonly #size: number;
  readonly #bins: number;
  #leastStep = SILENT_STEP;
  #pauses = 0;

  constructor(
    readonly kernel: Kernel,
    readonly shape: { readonly sampleRateHz: Hertz; readonly factor: number; readonly frameSamples: number },
  ) {
    const { sampleRateHz } = shape;
    const size = fftSizeFor(sampleRateHz, WIDEST_BIN_HZ);
    this.#size = size;
    this.#bins = Math.min(size / 2 + 1, Math.ceil((HIGHEST_TOLD_HZ * size) / sampleRateHz) + 2);
    this.#spectra = new WindowSpectrum(kernel, size, false);
    this.#windows = new FrameWindows(kernel, { ...shape, width: 1, size, hop: size / 2 }, (...window) => this.#add(...window));
  }

  push(samples: SamplesAt, frames: KnownFrames): void {
    this.#leastStep = frames.leastStep;
    this.#windows.push(samples, frames);
  }

  end(frames: KnownFrames): void {
    this.#leastStep = frames.leastStep;
    this.#windows.end(frames);
  }

  #add({ powers: levels, steps }: Touched, address: number, length: number, start: number): void {
    const loudest = Math.max(...steps);
    if (loudest < this.#leastStep && ++this.#pauses > CLOSE_PAUSES && this.#pauses % LATER_EVERY !== 0) return;
    const powers = this.#spectra.powersOf(address, length);
    if (powers === null) return;
    if (!steps.includes(SILENT_STEP)) this.#addTo(this.#wholeAt(loudest), powers, 1);
    const mean = levels.reduce((sum, power) => sum + power, 0) / levels.length;
    const half = Math.floor((start + length / 2) / (HALF_S * this.shape.sampleRateHz)) % 2;
    for (const [step, share] of sharesOf(steps, this.#leastStep)) {
      const { halves, even } = this.#sharesAt(step);
      this.#addTo(halves[half], powers, share);
      this.#addTo(even, powers, share / mean);
    }
  }

  #addTo(sum: Sum, powers: number, weight: number): void {
    this.kernel.run.addScaled(sum.at.address, powers, this.#bins, weight);
    sum.weight += weight;
  }

  #sum = (): Sum => ({ at: this.kernel.take(this.#bins), weight: 0 });

  #wholeAt(step: number): Sum {
    const found = this.#whole.get(step) ?? this.#sum();
    this.#whole.set(step, found);
    return found;
  }

  #sharesAt(step: number): Shares {
    const found = this.#shares.get(step) ?? { halves: [this.#sum(), this.#sum()] as const, even: this.#sum() };
    this.#shares.set(step, found);
    return found;
  }

  /** @param least power of the weakest frame that is talk  @param quietest power that a quarter of the frames do not pass */
  result(least: Power, quietest: Power): TalkSpectraResult {
    const first = firstStepOf(least);
    const talk = [...this.#shares].filter(([step]) => step >= first).map(([, shares]) => shares);
    const upTo = (end: number) => [...this.#whole].filter(([step]) => step < end).map(([, sum]) => sum);
    const [one, other] = [talk.map(({ halves }) => halves[0]), talk.map(({ halves }) => halves[1])];
    return {
      speech: this.#mean([...one, ...other]),
      pauses: this.#mean(upTo(first)),
      quiet: this.#mean(upTo(stepOf(quietest) + 1)),
      even: this.#mean(talk.map(({ even }) => even)),
      halves: [this.#mean(one), this.#mean(other)],
    };
  }

  #mean(parts: readonly Sum[]): Spectrum | null {
    const weight = parts.reduce((sum, part) => sum + part.weight, 0);
    if (weight === 0) return null;
    const sums = this.kernel.take(this.#bins, 8);
    for (const { at } of parts) this.kernel.run.accumulate(sums.address, at.address, this.#bins, 1);
    const { sampleRateHz } = this.shape;
    const scale = 1 / (weight * sampleRateHz * this.#spectra.windowPower);
    const last = this.#size / 2;
    const density = this.kernel.doubles(sums).map((value, k) => value * scale * (k === 0 || k === last ? 1 : 2));
    return { binHz: sampleRateHz / this.#size, firstHz: 0, density };
  }
}
