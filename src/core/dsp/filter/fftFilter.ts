/**
 * Long filters over a stream, by blocks in the frequency domain (overlap-save; Oppenheim and Schafer, Discrete-Time
 * Signal Processing, "block convolution"). The taps are centred: output sample n belongs to input sample n. Blocks
 * begin at fixed places of the stream, so that the result is the same for any cut of the input.
 */
import { createKernel, type Kernel } from '../kernel/kernel.ts';
import { nextPowerOfTwo } from '../spectrum/spectrum.ts';
import { convolutionSize, twiddles } from '../spectrum/spectrumEngine.ts';
import { forwardTransform, inverseTransform, type WholeSpectrum } from '../spectrum/transform.ts';
import type { Complex } from '../stream/complex.ts';

/** Convolves blocks of `size` samples with one filter, circularly. What it gives is good until it runs again. */
type Convolver = (i: Float64Array, q: Float64Array | null) => Complex;

function kernelConvolver(kernel: Kernel, { re, im }: WholeSpectrum): Convolver {
  const size = re.length;
  const { run } = kernel;
  const turns = twiddles(kernel, size);
  const [block, filter, work] = [2 * size, 2 * size, convolutionSize(size)].map((n) => kernel.take(n));
  const [real, imaginary] = [size, size].map((n) => kernel.take(n, 8));
  kernel.floats(filter).set(re);
  kernel.floats(filter).set(im, size);
  return (i, q) => {
    kernel.doubles(real).set(i);
    if (q) kernel.doubles(imaginary).set(q);
    run.pairsFromDoubles(real.address, q ? imaginary.address : 0, block.address, size);
    run.convolve(size, block.address, 0, turns.address, filter.address, work.address, 0, block.address);
    run.doublesFromPairs(block.address, real.address, imaginary.address, size);
    return { i: kernel.doubles(real), q: kernel.doubles(imaginary) };
  };
}

/** The same in double precision by fft.js: the oracle, and where the kernel can't run. */
const plainConvolver =
  ({ re, im }: WholeSpectrum): Convolver =>
  (i, q) => {
    const x = forwardTransform(re.length, i, q);
    return inverseTransform({
      re: x.re.map((value, k) => value * re[k] - x.im[k] * im[k]),
      im: x.re.map((value, k) => value * im[k] + x.im[k] * re[k]),
    });
  };

/** Shorter transforms cost more in their setting up than in their work. */
const LEAST_SIZE = 2048;

/** A FIR filter over a stream by overlap-save; keeps time, the same samples for any cut. */
export class FftFilter {
  readonly #convolver: Convolver;
  readonly #size: number;
  /** Taps on each side of the middle one: so far the filter looks ahead and back. */
  readonly reach: number;
  /** Samples that wait, those still needed for the next block's begin among them; no q while none came. */
  readonly #held: { readonly i: Float64Array; q: Float64Array | null };
  #filled: number;
  #in = 0;
  #out = 0;

  /**
   * @param taps complex taps of odd number, the middle one at time 0; `q` left out for real ones
   * @param kernel null for double precision
   */
  constructor(taps: { readonly i: Float64Array; readonly q?: Float64Array }, kernel: Kernel | null = createKernel()) {
    const length = taps.i.length;
    if (length % 2 !== 1) throw new RangeError(`A centred filter needs an odd number of taps, not ${length}`);
    this.reach = (length - 1) / 2;
    this.#size = Math.max(LEAST_SIZE, nextPowerOfTwo(4 * length));
    const spectrum = forwardTransform(this.#size, taps.i, taps.q ?? null);
    this.#convolver = kernel ? kernelConvolver(kernel, spectrum) : plainConvolver(spectrum);
    this.#held = { i: new Float64Array(this.#size), q: null };
    this.#filled = this.reach;
  }

  /** Takes samples (`q` null for real ones) and gives those that are ready. */
  push(i: Float64Array, q: Float64Array | null = null): Complex {
    const overlap = 2 * this.reach;
    const hop = this.#size - overlap;
    const room = Math.max(0, Math.floor((this.#filled + i.length - overlap) / hop)) * hop;
    const ready: Complex = { i: new Float64Array(room), q: new Float64Array(room) };
    let made = 0;
    for (let from = 0; from < i.length; ) {
      const count = Math.min(i.length - from, this.#size - this.#filled);
      this.#held.i.set(i.subarray(from, from + count), this.#filled);
      if (q) {
        this.#held.q ??= new Float64Array(this.#size);
        this.#held.q.set(q.subarray(from, from + count), this.#filled);
      }
      this.#filled += count;
      from += count;
      if (this.#filled === this.#size) made = this.#block(ready, made);
    }
    this.#in += i.length;
    this.#out += made;
    return ready;
  }

  /** What is left, once no more samples come. */
  end(): Complex {
    const missing = this.#in - this.#out;
    const pads = new Float64Array(this.#size + this.reach);
    const { i, q } = this.push(pads, this.#held.q && pads);
    return { i: i.subarray(0, missing), q: q.subarray(0, missing) };
  }

  #block(ready: Complex, from: number): number {
    const overlap = 2 * this.reach;
    const hop = this.#size - overlap;
    const { i, q } = this.#convolver(this.#held.i, this.#held.q);
    ready.i.set(i.subarray(overlap), from);
    ready.q.set(q.subarray(overlap), from);
    this.#held.i.copyWithin(0, hop);
    this.#held.q?.copyWithin(0, hop);
    this.#filled = overlap;
    return from + hop;
  }
}
