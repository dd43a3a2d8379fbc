/**
 * Long filters over a stream, by blocks in the frequency domain (overlap-save; Oppenheim and Schafer, Discrete-Time
 * Signal Processing, "block convolution"). The taps are centred: output sample n belongs to input sample n. Blocks
 * begin at fixed places of the stream, so that the result is the same for any cut of the input.
 */
import type { Complex } from './analytic.ts';
import { createKernel, type Kernel, type Stretch } from './kernel/kernel.ts';
import { nextPowerOfTwo } from './spectrum.ts';
import { twiddles } from './spectrumEngine.ts';
import { forward, inverse, type WholeSpectrum } from './transform.ts';

/** Convolves blocks of `size` samples with one filter, circularly. */
interface Convolver {
  /** The block: interleaved pairs, read and overwritten by `run`. Fetch it anew after other work on the kernel. */
  pairs(): Float32Array;
  run(): void;
}

function kernelConvolver(kernel: Kernel, { re, im }: WholeSpectrum): Convolver {
  const size = re.length;
  const table = twiddles(size);
  const [block, ones, turns, filter, work] = [2 * size, 2 * size, table.length, 2 * size, 4 * size].map((n) => kernel.take(n)) as [
    Stretch,
    Stretch,
    Stretch,
    Stretch,
    Stretch,
  ];
  kernel.floats(ones).fill(1);
  kernel.floats(turns).set(table);
  kernel.floats(filter).set(re);
  kernel.floats(filter).set(im, size);
  return {
    pairs: () => kernel.floats(block),
    run: () => kernel.run.convolve(size, block.address, ones.address, turns.address, filter.address, work.address),
  };
}

/** The same in double precision by fft.js: the oracle, and where the kernel can't run. */
function plainConvolver({ re, im }: WholeSpectrum): Convolver {
  const size = re.length;
  const block = new Float32Array(2 * size);
  return {
    pairs: () => block,
    run() {
      const part = (from: number) => Float64Array.from({ length: size }, (_, n) => block[2 * n + from]);
      const x = forward(size, part(0), part(1));
      const product = {
        re: x.re.map((value, k) => value * re[k] - x.im[k] * im[k]),
        im: x.re.map((value, k) => value * im[k] + x.im[k] * re[k]),
      };
      const { i, q } = inverse(product);
      for (let n = 0; n < size; n++) {
        block[2 * n] = i[n];
        block[2 * n + 1] = q[n];
      }
    },
  };
}

export class FftFilter {
  readonly #convolver: Convolver;
  readonly #size: number;
  /** Taps on each side of the middle one. */
  readonly #reach: number;
  /** Pairs that wait, those still needed for the next block's begin among them. */
  #held: Float32Array;
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
    this.#reach = (length - 1) / 2;
    this.#size = Math.max(256, nextPowerOfTwo(4 * length));
    const spectrum = forward(this.#size, taps.i, taps.q ?? null);
    this.#convolver = kernel ? kernelConvolver(kernel, spectrum) : plainConvolver(spectrum);
    this.#held = new Float32Array(2 * this.#size);
    this.#filled = this.#reach;
  }

  /** Takes samples (`q` null for real ones) and gives those that are ready. */
  push(i: Float64Array, q: Float64Array | null = null): Complex {
    const ready: Complex = { i: new Float64Array(i.length + this.#size), q: new Float64Array(i.length + this.#size) };
    let count = 0;
    for (let from = 0; from < i.length; ) {
      const take = Math.min(i.length - from, this.#size - this.#filled);
      for (let n = 0; n < take; n++) {
        const at = 2 * (this.#filled + n);
        this.#held[at] = i[from + n];
        this.#held[at + 1] = q ? q[from + n] : 0;
      }
      this.#filled += take;
      from += take;
      if (this.#filled === this.#size) count = this.#block(ready, count);
    }
    this.#in += i.length;
    this.#out += count;
    return { i: ready.i.subarray(0, count), q: ready.q.subarray(0, count) };
  }

  /** What is left, once no more samples come. */
  end(): Complex {
    const missing = this.#in - this.#out;
    const pads = new Float64Array(this.#size + this.#reach);
    const { i, q } = this.push(pads);
    return { i: i.subarray(0, missing), q: q.subarray(0, missing) };
  }

  #block(ready: Complex, from: number): number {
    const overlap = 2 * this.#reach;
    const hop = this.#size - overlap;
    this.#convolver.pairs().set(this.#held);
    this.#convolver.run();
    const pairs = this.#convolver.pairs();
    for (let n = 0; n < hop; n++) {
      ready.i[from + n] = pairs[2 * (overlap + n)];
      ready.q[from + n] = pairs[2 * (overlap + n) + 1];
    }
    this.#held.copyWithin(0, 2 * hop);
    this.#filled = overlap;
    return from + hop;
  }
}
