/** Spectra of the talk and of its pauses, once the levels of all frames are known. */
import {
  type FrameLevels,
  fftSizeFor,
  type Kernel,
  type KernelArray,
  percentileOf,
  type SamplesAt,
  type Spectrum,
} from '../../dsp/index.ts';
import type { Hertz } from '../../units/index.ts';
import { type Frames, type FrameWindow, FrameWindows, WindowSpectrum } from '../frameWindows.ts';

/** Bins of the averaged spectrum are at most this wide (contract). */
const WIDEST_BIN_HZ: Hertz = 8;
/** What is told of a voice ends below this (sibilance, up to 8 kHz). */
const HIGHEST_TOLD_HZ: Hertz = 8100;
/** Halves of the talk: seconds in turn, so that both have something of all that is said. */
const HALF_S = 1;
/** Moments that can't be talk tell the room: after so many of them one in a few is enough. */
const CLOSE_PAUSES = 200;
const LATER_EVERY = 4;
/** Windows touch about as quiet frames as a quarter of all are: so much above them still counts. */
const QUIET_SLACK = 1.012;

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
  readonly #frames: Frames;
  readonly #halves: readonly [SpectrumSum, SpectrumSum];
  readonly #even: SpectrumSum;
  readonly #pauses: SpectrumSum;
  readonly #quiet: SpectrumSum;
  /** Power up to which a frame is one of the quietest. */
  readonly #quietest: number;
  readonly #size: number;
  #pausesSeen = 0;

  constructor(
    readonly kernel: Kernel,
    readonly shape: { readonly sampleRateHz: Hertz; readonly factor: number },
    readonly levels: FrameLevels,
  ) {
    const { sampleRateHz } = shape;
    const { powers, frameSamples, heard } = levels;
    this.#frames = { powers, frameSamples, isWhole: true };
    const size = fftSizeFor(sampleRateHz, WIDEST_BIN_HZ);
    this.#size = size;
    const bins = Math.min(size / 2 + 1, Math.ceil((HIGHEST_TOLD_HZ * size) / sampleRateHz) + 2);
    const sum = () => new SpectrumSum(kernel, bins);
    this.#halves = [sum(), sum()];
    [this.#even, this.#pauses, this.#quiet] = [sum(), sum(), sum()];
    this.#quietest = heard.length === 0 ? 0 : QUIET_SLACK * percentileOf(heard, 25);
    this.#spectra = new WindowSpectrum(kernel, size, false);
    this.#windows = new FrameWindows(kernel, { ...shape, frameSamples, width: 1, size, hop: size / 2 }, (window) => this.#add(window));
  }

  push(samples: SamplesAt): void {
    this.#windows.push(samples, this.#frames);
  }

  end(): void {
    this.#windows.end(this.#frames);
  }

  #add({ address, length, start, from, to }: FrameWindow): void {
    const { powers, active } = this.levels;
    let loudest = 0;
    let softest = Infinity;
    let total = 0;
    let talk = 0;
    for (let frame = from; frame < to; frame++) {
      const power = powers[frame];
      if (power > loudest) loudest = power;
      if (power < softest) softest = power;
      total += power;
      if (active[frame]) talk++;
    }
    if (talk === 0 && ++this.#pausesSeen > CLOSE_PAUSES && this.#pausesSeen % LATER_EVERY !== 0) return;
    const at = this.#spectra.powersOf(address, length);
    if (at === null) return;
    // Digital silence is neither pause nor quiet moment.
    if (softest > 0 && talk === 0) this.#pauses.add(at, 1);
    if (softest > 0 && loudest <= this.#quietest) this.#quiet.add(at, 1);
    if (talk === 0) return;
    const half = this.#halves[Math.floor((start + length / 2) / (HALF_S * this.shape.sampleRateHz)) % 2];
    const share = talk / (to - from);
    half.addWith(this.#even, at, share, (share * (to - from)) / total);
  }

  result(): TalkSpectraResult {
    const [one, other] = this.#halves;
    return {
      speech: this.#mean(one, other),
      pauses: this.#mean(this.#pauses),
      quiet: this.#mean(this.#quiet),
      even: this.#mean(this.#even),
      halves: [this.#mean(one), this.#mean(other)],
    };
  }

  #mean(...sums: readonly SpectrumSum[]): Spectrum | null {
    const weight = sums.reduce((all, sum) => all + sum.weight, 0);
    if (weight === 0) return null;
    const { sampleRateHz } = this.shape;
    const scale = 1 / (weight * sampleRateHz * this.#spectra.windowPower);
    const last = this.#size / 2;
    const parts = sums.map((sum) => sum.total());
    const density = parts[0].map((_, k) => parts.reduce((all, part) => all + part[k], 0) * scale * (k === 0 || k === last ? 1 : 2));
    return { binHz: sampleRateHz / this.#size, firstHz: 0, density };
  }
}

/** Single precision holds the sum of so many spectra well. */
const SUMMED_AT_ONCE = 256;

/** Spectra added up by weights. */
class SpectrumSum {
  weight = 0;
  readonly #part: KernelArray;
  readonly #whole: KernelArray;
  #inPart = 0;

  constructor(
    readonly kernel: Kernel,
    readonly bins: number,
  ) {
    this.#part = kernel.take(bins);
    this.#whole = kernel.take(bins, 8);
  }

  /** @param powers where they lie in the kernel's memory */
  add(powers: number, weight: number): void {
    this.kernel.run.addScaled(this.#part.address, powers, this.bins, weight);
    this.#count(weight);
  }

  /** The same spectrum to another sum as well, by a weight of its own. */
  addWith(other: SpectrumSum, powers: number, weight: number, others: number): void {
    this.kernel.run.addToTwo(this.#part.address, other.#part.address, powers, this.bins, weight, others);
    this.#count(weight);
    other.#count(others);
  }

  #count(weight: number): void {
    this.weight += weight;
    if (++this.#inPart === SUMMED_AT_ONCE) this.#empty();
  }

  #empty(): void {
    this.kernel.run.accumulate(this.#whole.address, this.#part.address, this.bins, 1);
    this.kernel.floats(this.#part).fill(0);
    this.#inPart = 0;
  }

  /** Good until the kernel's memory grows. */
  total(): Float64Array {
    this.#empty();
    return this.kernel.doubles(this.#whole);
  }
}
