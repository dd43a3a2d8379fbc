/**
 * What is heard of a voice, kept apart by how loud it was: which moments are talk is known at the end only, when the
 * loudest is known (contract: within 25 dB of it). One pass over a recording is enough then, in constant memory.
 */
import {
  atPercent,
  floatsAt,
  hann,
  type Kernel,
  type KernelArray,
  type PairsAt,
  type Spectrum,
  type SpectrumEngineInKernel,
  spectrumEngineIn,
} from '../../dsp/index.ts';
import { type Hertz, type Power, powerToDb } from '../../units/index.ts';

/** Moments are kept apart by steps of this. */
const STEP_DB = 0.2;
/** Digital silence. */
const LOWEST = -2000;

/** The step that a power lies in. */
export const stepOf = (power: Power): number => (power > 0 ? Math.max(LOWEST + 1, Math.floor(powerToDb(power) / STEP_DB)) : LOWEST);
/** Steps from this one on hold what is at least so strong, but for half a step. */
export const firstStepOf = (power: Power): number => (power > 0 ? Math.round(powerToDb(power) / STEP_DB) : LOWEST + 1);

/** Powers of the 50 ms frames of a recording, as far as they are known. */
export interface KnownFrames {
  readonly powers: readonly Power[];
  readonly frameSamples: number;
  /** No more frames come. */
  readonly isWhole: boolean;
  /** Steps under this one are no talk, whatever comes. */
  readonly leastStep: number;
}

/** Which pairs go in, and how they are cut into windows. */
export interface WindowsShape {
  readonly sampleRateHz: Hertz;
  /** Samples of the recording to one pair, and to a frame. */
  readonly factor: number;
  readonly frameSamples: number;
  /** Pairs of a window, a power of two. */
  readonly size: number;
  /** From one window to the next; half a window when left out. */
  readonly hop?: number;
}

/** Windows wait for their frames: room for what comes meanwhile. */
const ROOM = 16384;

/** Hann windows over a stream of pairs, each looked at once the frames that it touches are known. */
export class FrameWindows {
  readonly engine: SpectrumEngineInKernel;
  /** Sum of the window's squares. */
  windowPower: number;
  readonly #hop: number;
  readonly #room: number;
  /** Pairs in the engine's room, where the next window begins among them, and where that is in the stream. */
  #filled = 0;
  #next = 0;
  #start = 0;

  /** @param look told the powers of the frames that the window touches; `transform` gives its spectrum */
  constructor(
    readonly kernel: Kernel,
    readonly shape: WindowsShape,
    readonly look: (touched: readonly Power[]) => void,
  ) {
    const { size, frameSamples, factor } = shape;
    const taper = hann(size);
    this.#hop = shape.hop ?? size / 2;
    this.windowPower = taper.reduce((sum, w) => sum + w * w, 0);
    this.#room = 2 * size + Math.ceil((2 * frameSamples) / factor) + ROOM;
    this.engine = spectrumEngineIn(kernel, { size, isComplex: true, averages: 0, window: taper, room: this.#room });
  }

  /** Works out the window that is being looked at. */
  transform(): void {
    this.engine.transform(this.#next);
  }

  push({ address, count }: PairsAt, frames: KnownFrames): void {
    let read = 0;
    while (read < count) {
      if (this.#filled === 0) {
        // Between windows further apart than they are long.
        const skipped = Math.min(this.#next, count - read);
        this.#next -= skipped;
        read += skipped;
      }
      const take = Math.min(count - read, this.#room - this.#filled);
      this.engine.input().set(floatsAt(this.kernel, address + 8 * read, take), 2 * this.#filled);
      this.#filled += take;
      read += take;
      this.#lookAtKnown(frames);
      if (this.#filled === this.#room) this.#compact();
    }
  }

  /** @param pairs how many the stream had: what came behind them is silence */
  end(frames: KnownFrames, pairs: number): void {
    this.#filled = Math.max(0, Math.min(this.#filled, pairs - this.#start + this.#next));
    if (this.#start === 0 && this.#filled > 0 && this.#filled < this.shape.size) this.#lookAtShort(frames);
    else this.#lookAtKnown(frames);
  }

  #compact(): void {
    if (this.#next === 0) throw new Error('Frames came too late for their windows.');
    this.engine.input().copyWithin(0, 2 * this.#next, 2 * this.#filled);
    this.#filled -= this.#next;
    this.#next = 0;
  }

  #lookAtKnown(frames: KnownFrames): void {
    while (this.#filled - this.#next >= this.shape.size) {
      const touched = this.#touched(frames, this.shape.size);
      if (touched === null) return;
      if (touched.length > 0) this.look(touched);
      this.#next += this.#hop;
      this.#start += this.#hop;
    }
    if (this.#next < this.#filled) return;
    this.#next -= this.#filled;
    this.#filled = 0;
  }

  /** Frames that a window of so many pairs touches; null while they are not all known. */
  #touched({ powers, isWhole }: KnownFrames, length: number): readonly Power[] | null {
    const { factor, frameSamples } = this.shape;
    const first = Math.floor((this.#start * factor) / frameSamples);
    const last = Math.floor(((this.#start + length) * factor - 1) / frameSamples);
    return last >= powers.length && !isWhole ? null : powers.slice(first, last + 1);
  }

  /** A stream shorter than one window gets a window of its own length, padded with silence. */
  #lookAtShort(frames: KnownFrames): void {
    const { size } = this.shape;
    const taper = hann(this.#filled);
    const power = taper.reduce((sum, w) => sum + w * w, 0);
    // A single pair has no spectrum.
    if (power === 0) return;
    this.windowPower = power;
    this.engine.input().fill(0, 2 * this.#filled, 2 * size);
    const padded = new Float64Array(size);
    padded.set(taper);
    this.engine.setWindow(padded);
    const touched = this.#touched(frames, this.#filled) ?? [];
    if (touched.length > 0) this.look(touched);
  }
}

interface Group {
  /** Windows whose loudest frame is of this step, and which hold nothing of digital silence; and how many. */
  readonly whole: KernelArray;
  windows: number;
  /** Highest of every bin over them and those with silence in them. */
  readonly highest: KernelArray | null;
}

interface Share {
  /** Windows by the share of their frames that are of this step. */
  readonly sum: KernelArray;
  weight: number;
}

/** Where the pairs stand, and what is kept of them. */
export interface LevelSpectraShape extends WindowsShape {
  /** What stands at 0 Hz of the pairs. */
  readonly centreHz: Hertz;
  readonly holdsHighest?: boolean;
}

/** Spectra of half-overlapped Hann windows, sorted by the levels of the frames they touch. */
export class LevelSpectra {
  readonly #windows: FrameWindows;
  readonly #byLoudest = new Map<number, Group>();
  readonly #byFrame = new Map<number, Share>();
  #leastStep = LOWEST;

  constructor(
    readonly kernel: Kernel,
    readonly shape: LevelSpectraShape,
  ) {
    this.#windows = new FrameWindows(kernel, shape, (touched) => this.#add(touched));
  }

  push(pairs: PairsAt, frames: KnownFrames): void {
    this.#leastStep = frames.leastStep;
    this.#windows.push(pairs, frames);
  }

  /** @param pairs how many the stream had: what came behind them is silence */
  end(frames: KnownFrames, pairs: number): void {
    this.#windows.end(frames, pairs);
  }

  #add(touched: readonly Power[]): void {
    const { kernel } = this;
    const { size, holdsHighest } = this.shape;
    this.#windows.transform();
    const powers = this.#windows.engine.resultAddress();
    const steps = touched.map(stepOf);
    const loudest = Math.max(...steps);
    let group = this.#byLoudest.get(loudest);
    if (!group) {
      group = { whole: kernel.take(size), windows: 0, highest: holdsHighest ? kernel.take(size) : null };
      this.#byLoudest.set(loudest, group);
    }
    if (group.highest) kernel.run.hold(group.highest.address, powers, size);
    if (!steps.includes(LOWEST)) {
      kernel.run.addScaled(group.whole.address, powers, size, 1);
      group.windows++;
    }
    const weight = 1 / steps.length;
    for (const step of steps) {
      if (step === LOWEST || step < this.#leastStep) continue;
      let share = this.#byFrame.get(step);
      if (!share) {
        share = { sum: kernel.take(size), weight: 0 };
        this.#byFrame.set(step, share);
      }
      kernel.run.addScaled(share.sum.address, powers, size, weight);
      share.weight += weight;
    }
  }

  /** Mean over the talk, each window by its share of it; mean over the pauses; and the highest in the talk. @param least power of the weakest frame that is talk */
  result(least: Power): { active: Spectrum | null; pauses: Spectrum | null; highest: Spectrum | null } {
    const { kernel } = this;
    const first = firstStepOf(least);
    const { size } = this.shape;
    const total = (parts: readonly { readonly sum: KernelArray; readonly weight: number }[]): Spectrum | null => {
      const weight = parts.reduce((sum, part) => sum + part.weight, 0);
      if (weight === 0) return null;
      const sums = new Float64Array(size);
      for (const part of parts) addTo(sums, kernel.floats(part.sum));
      return this.#spectrum(sums, 1 / weight);
    };
    const active = [...this.#byFrame].filter(([step]) => step >= first).map(([, share]) => share);
    const quiet = [...this.#byLoudest].filter(([step]) => step < first && step !== LOWEST);
    const loud = [...this.#byLoudest].flatMap(([step, { highest }]) => (step >= first && highest ? [kernel.floats(highest)] : []));
    const held = new Float64Array(size);
    for (const highest of loud) for (let k = 0; k < size; k++) held[k] = Math.max(held[k], highest[k]);
    return {
      active: total(active),
      pauses: total(quiet.map(([, { whole, windows }]) => ({ sum: whole, weight: windows }))),
      highest: loud.length === 0 ? null : this.#spectrum(held, 1),
    };
  }

  /** Bins in the order of frequency, as far as the file reaches. */
  #spectrum(sums: Float64Array, factor: number): Spectrum {
    const { size, sampleRateHz, centreHz, factor: each } = this.shape;
    const scale = factor / (sampleRateHz * this.#windows.windowPower);
    const binHz = sampleRateHz / size;
    const centre = Math.round(centreHz / binHz);
    const half = (each * size) / 2;
    // At the file's own rate the band goes round its ends; at a lower one it stops there.
    const low = each === 1 ? -half : Math.max(-half, centre - size / 2);
    const high = each === 1 ? half : Math.min(half, centre + size / 2);
    const density = Float64Array.from({ length: high - low }, (_, k) => sums[(((low + k - centre) % size) + size) % size] * scale);
    return { binHz, firstHz: low * binHz, density };
  }
}

function addTo(sums: Float64Array, values: ArrayLike<number>): void {
  for (let k = 0; k < sums.length; k++) sums[k] += values[k];
}

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
  #waiting: Float32Array;
  #filled = 0;
  #at = 0;
  readonly #work: KernelArray;

  /** @param factor samples of the recording to one pair */
  constructor(
    readonly kernel: Kernel,
    readonly factor: number,
  ) {
    this.#waiting = new Float32Array(2 * ROOM);
    this.#work = kernel.take(2 * ROOM);
  }

  push({ address, count }: PairsAt, frames: KnownFrames): void {
    if (2 * (this.#filled + count) > this.#waiting.length) {
      const grown = new Float32Array(4 * (this.#filled + count));
      grown.set(this.#waiting.subarray(0, 2 * this.#filled));
      this.#waiting = grown;
    }
    this.#waiting.set(floatsAt(this.kernel, address, count), 2 * this.#filled);
    this.#filled += count;
    this.#tallyKnown(frames);
  }

  #tallyKnown({ powers, frameSamples, leastStep }: KnownFrames): void {
    let from = 0;
    for (;;) {
      const frame = Math.floor((this.#at * this.factor) / frameSamples);
      if (frame >= powers.length) break;
      // The first pair of the next frame.
      const end = Math.ceil(((frame + 1) * frameSamples) / this.factor);
      const count = Math.min(end - this.#at, this.#filled - from, ROOM);
      if (count === 0) break;
      const step = stepOf(powers[frame]);
      if (step >= leastStep) this.#tally(step, this.#waiting.subarray(2 * from, 2 * (from + count)));
      from += count;
      this.#at += count;
    }
    this.#waiting.copyWithin(0, 2 * from, 2 * this.#filled);
    this.#filled -= from;
  }

  #tally(step: number, pairs: Float32Array): void {
    const { kernel } = this;
    let tally = this.#tallies.get(step);
    if (!tally) {
      tally = { bins: kernel.take(BINS), sum: 0, count: 0 };
      this.#tallies.set(step, tally);
    }
    kernel.floats(this.#work).set(pairs);
    tally.sum += kernel.run.tallyPowers(this.#work.address, pairs.length / 2, tally.bins.address);
    tally.count += pairs.length / 2;
  }

  /** Mean and a percentile over the talk. @param least power of the weakest frame that is talk */
  result(least: Power, percent: number): { readonly top: Power | null; readonly mean: Power } {
    const first = firstStepOf(least);
    const active = [...this.#tallies].filter(([step]) => step >= first && step !== LOWEST).map(([, tally]) => tally);
    const count = active.reduce((sum, tally) => sum + tally.count, 0);
    if (count === 0) return { top: null, mean: 0 };
    const counts = new Float64Array(BINS);
    for (const { bins } of active) addTo(counts, this.kernel.counts(bins));
    return {
      top: atPercent(counts, count, percent, powerOfBin),
      mean: active.reduce((sum, tally) => sum + tally.sum, 0) / count,
    };
  }
}
