/**
 * Windowed power spectra of one stretch after another, with sums and highest values kept. Two engines of one
 * behaviour: the kernel (single precision, sums in double) and, where that can't run, fft.js (double precision),
 * which the tests use as the oracle.
 */
import FFT from 'fft.js';
import { createKernel, type Kernel, type KernelArray } from '../kernel/kernel.ts';
import { hann } from './window.ts';

/** Size, kind and window of the transforms, and how many sums are kept. */
export interface EngineShape {
  /** Samples of a window: a power of two, at least 32. */
  readonly size: number;
  /** Interleaved I and Q pairs, or real samples. */
  readonly isComplex: boolean;
  /** How many sums are kept. */
  readonly averages: number;
  /** Window values, `size` of them; a Hann window when left out. */
  readonly window?: Float64Array;
  /** Samples of room for the stream; about a block of a file when left out. */
  readonly room?: number;
}

/** Windowed power spectra, one after another; the kernel's and a plain one behave alike. */
export interface SpectrumEngine {
  /** Bins of a result: `size` from 0 upward, the negative frequencies last (complex), or size / 2 + 1 (real). */
  readonly bins: number;
  /** Room for a stretch of the stream, more than a window long; pairs take two values each. */
  input(): Float32Array;
  /** Takes a Hann window of so many samples, and silence behind it. */
  setHann(length: number): void;
  /** Works out the squared magnitudes of the window over the input from sample `at` on. */
  transform(at: number): void;
  /** Adds the last result to a sum. */
  add(average: number, weight: number): void;
  /** Keeps the highest of each bin so far. */
  hold(): void;
  sum(average: number): Float64Array;
  highest(): Float32Array;
  /** The last result. */
  powers(): Float32Array;
}

/** The kernel's engine, whose last result can be worked on where it lies. */
export interface SpectrumEngineInKernel extends SpectrumEngine {
  /** As `transform`, of a window that lies at an address of the kernel. @param out where the result goes; its usual place when left out */
  transformAt(address: number, out?: number): void;
  resultAddress(): number;
}

/** The same where there is a kernel for sure. @throws as `createSpectrumEngine` */
export const spectrumEngineIn = (kernel: Kernel, shape: EngineShape): SpectrumEngineInKernel =>
  createSpectrumEngine(shape, kernel) as SpectrumEngineInKernel;

/** @throws RangeError for a size that is no power of two or under 32 */
export function createSpectrumEngine(shape: EngineShape, kernel = createKernel()): SpectrumEngine {
  if (shape.size < 32 || (shape.size & (shape.size - 1)) !== 0)
    throw new RangeError(`FFT size ${shape.size} is not a power of two from 32`);
  return kernel ? new KernelEngine(shape, kernel) : new PlainEngine(shape);
}

/** Samples of room beside the window itself: about a block of a file. */
const LEAST_ROOM = 65536;
const roomFor = ({ size, isComplex, room = size + Math.max(size, LEAST_ROOM) }: EngineShape): number => room * (isComplex ? 2 : 1);

/** The kernel's steps of a transform: of four first, of eight last. */
function radices(size: number): readonly number[] {
  const halvings = Math.log2(size / 4);
  const most = Math.floor(halvings / 3);
  const eights = (halvings - most) % 2 === 0 ? most : most - 1;
  const fours = (halvings - 3 * eights) / 2;
  return [4, ...Array<number>(fours).fill(4), ...Array<number>(eights).fill(8)];
}

/** Values of room that a transform in the kernel works in, and a convolution. */
export const workSize = (size: number): number => 4 * size + 320;
export const convolutionSize = (size: number): number => workSize(size) + 2 * size;

/** Twiddle tables of the kernel's steps but the last: for each w, w^2 ... as cosines and sines. @param size from 16 */
export function twiddles(kernel: Kernel, size: number): KernelArray {
  const steps = radices(size).slice(0, -1);
  const table = kernel.take(2 * size);
  let at = table.address;
  let left = size;
  for (const radix of steps) {
    const row = left / radix;
    for (let k = 1; k < radix; k++, at += 8 * row) kernel.run.turns(at, at + 4 * row, row, left - k, left);
    left = row;
  }
  return table;
}

class KernelEngine implements SpectrumEngineInKernel {
  readonly bins: number;
  readonly #input;
  readonly #window;
  readonly #twiddles;
  readonly #post;
  readonly #work;
  readonly #powers;
  readonly #highest;
  readonly #sums;
  /** Complex samples of a transform; a real window is transformed as half as many. */
  readonly #points: number;

  constructor(
    readonly shape: EngineShape,
    readonly kernel: Kernel,
  ) {
    const { size, isComplex } = shape;
    this.bins = isComplex ? size : size / 2 + 1;
    this.#points = isComplex ? size : size / 2;
    this.#input = kernel.take(roomFor(shape));
    this.#window = kernel.take(2 * this.#points);
    this.#twiddles = twiddles(kernel, this.#points);
    this.#post = kernel.take(isComplex ? 0 : this.#points + 8);
    this.#work = kernel.take(workSize(this.#points));
    this.#powers = kernel.take(this.bins);
    this.#highest = kernel.take(this.bins);
    this.#sums = Array.from({ length: shape.averages }, () => kernel.take(this.bins, 8));
    const post = this.#post.address;
    if (!isComplex) kernel.run.turns(post, post + 4 * (this.#points / 2 + 4), this.#points / 2 + 4, 1, 2 * this.#points);
    if (shape.window) this.#setWindow(shape.window);
    else this.setHann(size);
  }

  input(): Float32Array {
    return this.kernel.floats(this.#input);
  }

  setHann(length: number): void {
    const { size, isComplex } = this.shape;
    this.kernel.run.hannWindow(this.#window.address, length, size, isComplex ? 2 : 1);
  }

  #setWindow(window: Float64Array): void {
    const values = this.kernel.floats(this.#window);
    if (!this.shape.isComplex) values.set(window);
    else for (let n = 0; n < window.length; n++) values[2 * n] = values[2 * n + 1] = window[n];
  }

  transform(at: number): void {
    this.transformAt(this.#input.address + 4 * at * (this.shape.isComplex ? 2 : 1));
  }

  transformAt(x: number, out = this.#powers.address): void {
    const { run } = this.kernel;
    const w = this.#window.address;
    const tw = this.#twiddles.address;
    const work = this.#work.address;
    if (this.shape.isComplex) run.complexPowers(this.#points, x, w, tw, work, out);
    else run.realPowers(this.#points, x, w, tw, this.#post.address, work, out);
  }

  add(average: number, weight: number): void {
    this.kernel.run.accumulate(this.#sums[average].address, this.#powers.address, this.bins, weight);
  }

  hold(): void {
    this.kernel.run.hold(this.#highest.address, this.#powers.address, this.bins);
  }

  sum(average: number): Float64Array {
    return this.kernel.doubles(this.#sums[average]);
  }
  highest(): Float32Array {
    return this.kernel.floats(this.#highest);
  }
  powers(): Float32Array {
    return this.kernel.floats(this.#powers);
  }
  resultAddress(): number {
    return this.#powers.address;
  }
}

class PlainEngine implements SpectrumEngine {
  readonly bins: number;
  readonly #fft: FFT;
  readonly #input: Float32Array;
  readonly #windowed: Float64Array;
  readonly #spectrum: Float64Array;
  readonly #powers: Float32Array;
  readonly #highest: Float32Array;
  readonly #sums: Float64Array[];
  #window: Float64Array;

  constructor(readonly shape: EngineShape) {
    const { size, isComplex, averages, window = hann(size) } = shape;
    this.bins = isComplex ? size : size / 2 + 1;
    this.#fft = new FFT(size);
    this.#input = new Float32Array(roomFor(shape));
    this.#windowed = new Float64Array(isComplex ? 2 * size : size);
    this.#spectrum = new Float64Array(2 * size);
    this.#powers = new Float32Array(this.bins);
    this.#highest = new Float32Array(this.bins);
    this.#sums = Array.from({ length: averages }, () => new Float64Array(this.bins));
    this.#window = window;
  }

  input(): Float32Array {
    return this.#input;
  }
  setHann(length: number): void {
    this.#window = hann(length);
  }

  transform(at: number): void {
    const { isComplex } = this.shape;
    const from = isComplex ? 2 * at : at;
    for (let n = 0; n < this.#windowed.length; n++) this.#windowed[n] = this.#input[from + n] * (this.#window[isComplex ? n >> 1 : n] ?? 0);
    if (isComplex) this.#fft.transform(this.#spectrum, this.#windowed);
    else this.#fft.realTransform(this.#spectrum, this.#windowed);
    for (let k = 0; k < this.bins; k++) this.#powers[k] = this.#spectrum[2 * k] ** 2 + this.#spectrum[2 * k + 1] ** 2;
  }

  add(average: number, weight: number): void {
    const sum = this.#sums[average];
    for (let k = 0; k < this.bins; k++) sum[k] += weight * this.#powers[k];
  }
  hold(): void {
    for (let k = 0; k < this.bins; k++) this.#highest[k] = Math.max(this.#highest[k], this.#powers[k]);
  }

  sum(average: number): Float64Array {
    return this.#sums[average];
  }
  highest(): Float32Array {
    return this.#highest;
  }
  powers(): Float32Array {
    return this.#powers;
  }
}
