/**
 * What is heard of a voice, kept apart by how loud it was: which moments are talk is known at the end only, when the
 * loudest is known (contract: within 25 dB of it). One pass over a recording is enough then, in constant memory.
 */
import { atPercent, type Kernel, type KernelArray, Room, type SamplesAt, type Spectrum } from '../../dsp/index.ts';
import type { Hertz, Power } from '../../units/index.ts';
import {
  type FrameWindow,
  FrameWindows,
  firstStepOf,
  type KnownFrames,
  SILENT_STEP,
  WindowSpectrum,
  type WindowsShape,
} from '../frameWindows.ts';
import { FrameShares } from './frameShares.ts';

interface Group {
  /** Windows whose loudest frame is of this step, and which hold nothing of digital silence; and how many. */
  readonly whole: KernelArray | null;
  windows: number;
  /** Highest of every bin over them and those with silence in them. */
  readonly highest: KernelArray | null;
}

/** Where the pairs stand, and what is kept of them. */
export interface LevelSpectraShape extends Omit<WindowsShape, 'width' | 'hop'> {
  readonly hop: number;
  readonly sampleRateHz: Hertz;
  /** What stands at 0 Hz of the pairs. */
  readonly centreHz: Hertz;
  /** Bins further from 0 Hz than this are of no use; all are kept when left out, or when the file is as narrow. */
  readonly keptHz?: Hertz;
  /** What is kept beside the talk's mean. */
  readonly keeps: 'highest' | 'pauses';
}

/** Spectra of half-overlapped Hann windows, sorted by the levels of the frames they touch. */
export class LevelSpectra {
  readonly #windows: FrameWindows;
  readonly #spectra: WindowSpectrum;
  readonly #byLoudest = new Map<number, Group>();
  readonly #byFrame: FrameShares;
  /** What is known now; set before any window is looked at. */
  #frames: KnownFrames | null = null;
  /** So many bins from 0 Hz up are kept, and so many below it, which stand last. */
  readonly #kept: number;

  constructor(
    readonly kernel: Kernel,
    readonly shape: LevelSpectraShape,
  ) {
    const { size, hop, keptHz, factor, sampleRateHz, frameSamples } = shape;
    this.#kept = keptHz === undefined || factor === 1 ? size / 2 : Math.min(size / 2, 4 * Math.ceil((keptHz * size) / sampleRateHz / 4));
    this.#spectra = new WindowSpectrum(kernel, size, true);
    this.#windows = new FrameWindows(kernel, { ...shape, width: 2 }, (window) => this.#add(window));
    this.#byFrame = new FrameShares(kernel, size, this.#kept, Math.ceil((frameSamples / factor + size) / hop) + 1);
  }

  push(pairs: SamplesAt, frames: KnownFrames): void {
    this.#frames = frames;
    this.#windows.push(pairs, frames);
  }

  /** What is left, once no more come. */
  end(frames: KnownFrames): void {
    this.#frames = frames;
    this.#windows.end(frames);
    this.#byFrame.end(frames);
  }

  #add({ address, length, from, to }: FrameWindow): void {
    const { kernel } = this;
    const frames = this.#frames;
    if (frames === null) return;
    const { size, keeps } = this.shape;
    let loudest = SILENT_STEP;
    let softest = Infinity;
    for (let frame = from; frame < to; frame++) {
      loudest = Math.max(loudest, frames.steps[frame]);
      softest = Math.min(softest, frames.steps[frame]);
    }
    if (keeps === 'highest' && loudest < frames.leastStep) return;
    const powers = this.#spectra.powersOf(address, length, this.#byFrame.room);
    if (powers === null) return;
    this.#byFrame.add(from, to, frames);
    let group = this.#byLoudest.get(loudest);
    if (!group) {
      const room = kernel.take(size);
      group = { whole: keeps === 'pauses' ? room : null, windows: 0, highest: keeps === 'highest' ? room : null };
      this.#byLoudest.set(loudest, group);
    }
    const kept = this.#kept;
    const below = 4 * (size - kept);
    if (group.highest) {
      const { address: to } = group.highest;
      kernel.run.hold(to, powers, kept);
      kernel.run.hold(to + below, powers + below, kept);
    }
    if (group.whole && softest !== SILENT_STEP) {
      kernel.run.addScaled(group.whole.address, powers, size, 1);
      group.windows++;
    }
  }

  /** Mean over the talk, each window by its share of it; and the mean over the pauses, or the highest in the talk. @param least power of the weakest frame that is talk */
  result(least: Power): { active: Spectrum | null; pauses: Spectrum | null; highest: Spectrum | null } {
    const { kernel } = this;
    const first = firstStepOf(least);
    const { size } = this.shape;
    const active = [...this.#byFrame.byStep].filter(([step]) => step >= first).map(([, level]) => level);
    const quiet = [...this.#byLoudest].filter(([step]) => step < first && step !== SILENT_STEP);
    const loud = [...this.#byLoudest].flatMap(([step, { highest }]) => (step >= first && highest ? [highest] : []));
    const held = kernel.take(size);
    for (const highest of loud) kernel.run.hold(held.address, highest.address, size);
    const most = loud.length === 0 ? [] : [{ sum: held, weight: 1 }];
    return {
      active: this.#mean(active),
      pauses: this.#mean(quiet.flatMap(([, { whole, windows }]) => (whole ? [{ sum: whole, weight: windows }] : []))),
      highest: this.#mean(most),
    };
  }

  /** Mean over all windows that hold nothing of digital silence; where pauses are kept. */
  whole(): Spectrum | null {
    const groups = [...this.#byLoudest.values()];
    return this.#mean(groups.flatMap(({ whole, windows }) => (whole && windows > 0 ? [{ sum: whole, weight: windows }] : [])));
  }

  #mean(parts: readonly { readonly sum: KernelArray; readonly weight: number }[]): Spectrum | null {
    const weight = parts.reduce((sum, part) => sum + part.weight, 0);
    if (weight === 0) return null;
    const { size, sampleRateHz } = this.shape;
    const sums = this.kernel.take(size, 8);
    const scale = 1 / (weight * sampleRateHz * this.#spectra.windowPower);
    for (const part of parts) this.kernel.run.accumulate(sums.address, part.sum.address, size, scale);
    return this.#spectrum(this.kernel.doubles(sums));
  }

  /** Bins in the order of frequency, as far as the file reaches. */
  #spectrum(densities: Float64Array): Spectrum {
    const { size, sampleRateHz, centreHz, factor: each } = this.shape;
    const binHz = sampleRateHz / size;
    const centre = Math.round(centreHz / binHz);
    const half = (each * size) / 2;
    // At the file's own rate the band goes round its ends; at a lower one it stops there.
    const kept = this.#kept;
    const low = each === 1 ? -half : Math.max(-half, centre - kept);
    const high = each === 1 ? half : Math.min(half, centre + kept);
    const first = (((low - centre) % size) + size) % size;
    const density = new Float64Array(high - low);
    const upper = densities.subarray(first, Math.min(size, first + density.length));
    density.set(upper);
    density.set(densities.subarray(0, density.length - upper.length), upper.length);
    return { binHz, firstHz: low * binHz, density };
  }
}

/** Pairs wait for their frames: they are moved together when so many do. */
const ROOM = 16384;

/** Powers are counted in steps of about 0.05 dB: 64 to each exponent of single precision. */
const BINS = 256 * 64;

const powerOfBin = (bin: number): Power => new Float32Array(Uint32Array.of(bin << 17).buffer)[0];

interface Tally {
  readonly bins: KernelArray;
  sum: number;
  count: number;
}

/** Powers of pairs, frame by frame, sorted by the level of their frame. */
export class LevelTally {
  readonly #tallies = new Map<number, Tally>();
  /** Pairs that wait for their frame to be known. */
  readonly #waiting: Room;
  #filled = 0;
  /** The first that waits, among them and in the stream. */
  #next = 0;
  #at = 0;

  /** @param factor samples of the recording to one pair */
  constructor(
    readonly kernel: Kernel,
    readonly factor: number,
  ) {
    this.#waiting = new Room(kernel);
  }

  push({ address, count }: SamplesAt, { steps, frameSamples, leastStep }: KnownFrames): void {
    const { run } = this.kernel;
    if (this.#filled + count > ROOM && this.#next > 0) {
      this.#filled -= this.#next;
      const waiting = this.#waiting.forPairs(0);
      run.move(waiting, waiting + 8 * this.#next, 8 * this.#filled);
      this.#next = 0;
    }
    const waiting = this.#waiting.forPairs(Math.max(ROOM, this.#filled + count), this.#filled);
    run.move(waiting + 8 * this.#filled, address, 8 * count);
    this.#filled += count;
    for (;;) {
      const frame = Math.floor((this.#at * this.factor) / frameSamples);
      if (frame >= steps.length) break;
      // The first pair of the next frame.
      const end = Math.ceil(((frame + 1) * frameSamples) / this.factor);
      const known = Math.min(end - this.#at, this.#filled - this.#next);
      if (known === 0) break;
      const step = steps[frame];
      if (step >= leastStep && step !== SILENT_STEP) this.#tally(step, waiting + 8 * this.#next, known);
      this.#next += known;
      this.#at += known;
    }
  }

  #tally(step: number, pairs: number, count: number): void {
    let tally = this.#tallies.get(step);
    if (!tally) {
      tally = { bins: this.kernel.take(BINS), sum: 0, count: 0 };
      this.#tallies.set(step, tally);
    }
    tally.sum += this.kernel.run.tallyPowers(pairs, count, tally.bins.address);
    tally.count += count;
  }

  /** Mean and a percentile over the talk. @param least power of the weakest frame that is talk */
  result(least: Power, percent: number): { readonly top: Power | null; readonly mean: Power } {
    const first = firstStepOf(least);
    const active = [...this.#tallies].filter(([step]) => step >= first).map(([, tally]) => tally);
    const count = active.reduce((sum, tally) => sum + tally.count, 0);
    if (count === 0) return { top: null, mean: 0 };
    const counts = this.kernel.take(BINS);
    for (const { bins } of active) this.kernel.run.addCounts(counts.address, bins.address, BINS);
    return {
      top: atPercent(this.kernel.counts(counts), count, percent, powerOfBin),
      mean: active.reduce((sum, tally) => sum + tally.sum, 0) / count,
    };
  }
}
