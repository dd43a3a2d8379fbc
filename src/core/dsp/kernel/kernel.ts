/**
 * The signal kernel's door: WebAssembly with 128-bit vectors, made from kernel.c. One `Kernel` is one memory; whoever
 * needs one makes one, so that nothing is shared. Where a machine can't run it `createKernel` answers null.
 */
import { KERNEL_BASE64 } from './kernelBytes.ts';

interface Exports {
  readonly memory: WebAssembly.Memory;
  heapBase(): number;
  turns(cosines: number, sines: number, count: number, step: number, n: number): void;
  hannWindow(out: number, length: number, size: number, times: number): void;
  complexPowers(size: number, x: number, window: number, twiddles: number, work: number, out: number): void;
  complexSpectrum(size: number, x: number, window: number, twiddles: number, work: number, out: number): void;
  realPowers(size: number, x: number, window: number, twiddles: number, post: number, work: number, out: number): void;
  convolve(size: number, x: number, isReal: number, twiddles: number, filter: number, work: number, skip: number, out: number): void;
  codesOfDoubles(x: number, n: number, codes: number): void;
  pairsFromDoubles(i: number, q: number, pairs: number, n: number): void;
  doublesFromPairs(pairs: number, i: number, q: number, n: number): void;
  accumulate(sum: number, powers: number, n: number, weight: number): void;
  hold(highest: number, powers: number, n: number): void;
  fromInt16(codes: number, samples: number, n: number): void;
  energy(values: number, n: number): number;
  peakOf(values: number, n: number): number;
  momentsByParts(
    pairs: number,
    n: number,
    isCodes: number,
    part: number,
    filled: number,
    sums: number,
    open: number,
    powers: number,
  ): number;
  decimate(pairs: number, re: number, im: number, taps: number, step: number, count: number, out: number): void;
  turn(pairs: number, n: number, cosines: number, sines: number, period: number, phase: number, out: number): void;
  halve(pairs: number, n: number, even: number, odd: number, held: number, taps: number, reach: number, out: number): void;
  halveCodePairs(
    codes: number,
    n: number,
    even: number,
    odd: number,
    held: number,
    taps: number,
    reach: number,
    cosines: number,
    sines: number,
    period: number,
    phase: number,
    out: number,
  ): void;
  steps(x: number, count: number, step: number, envelope: number, out: number): void;
  stepsOfCodes(codes: number, count: number, step: number, envelope: number, out: number): void;
  nextBeyond(values: number, from: number, count: number, above: number, below: number): number;
  frameEnergies(values: number, count: number, part: number, filled: number, totals: number, energies: number): number;
  countSpeech(values: number, count: number, step: number, hangover: number, to: number): void;
  halveReal(x: number, n: number, even: number, odd: number, held: number, taps: number, reach: number, out: number): void;
  evenHanded(x: number, n: number, taps: number, reach: number, out: number): void;
  halveCodes(
    codes: number,
    n: number,
    even: number,
    odd: number,
    held: number,
    taps: number,
    reach: number,
    middle: number,
    size: number,
    out: number,
  ): void;
  weightedEnergies(
    x: number,
    stride: number,
    settle: number,
    step: number,
    count: number,
    sections: number,
    out: number,
    plain: number,
  ): void;
  threeSections(x: number, out: number, n: number, sections: number, state: number): void;
  pitchLag(
    x: number,
    size: number,
    window: number,
    shortest: number,
    longest: number,
    dip: number,
    voiced: number,
    codes: number,
    products: number,
    work: number,
  ): number;
  linePowers(powers: number, bins: number, count: number, out: number): void;
  scale(x: number, n: number, gain: number): void;
  affine(pairs: number, n: number, a: number, b: number, c: number): void;
  clipPairs(pairs: number, n: number, most: number, ceiling: number, gain: number): number;
  level(pairs: number, n: number, gains: number, state: number): void;
  saturate(pairs: number, n: number, gains: number, steps: number, top: number, saturation: number, p: number): void;
  highestPower(pairs: number, n: number): number;
  mixed(pairs: number, n: number, first: number, second: number, out: number): void;
  everySecond(x: number, n: number, out: number): void;
  move(to: number, from: number, bytes: number): void;
  turnsOf(pairs: number, n: number, out: number): void;
  sumOf(values: number, n: number): number;
  addScaled(sum: number, powers: number, n: number, weight: number): void;
  addRows(sum: number, ring: number, weights: number, rows: number, first: number, count: number, kept: number, size: number): void;
  addToTwo(sum: number, other: number, powers: number, n: number, weight: number, others: number): void;
  addCounts(sum: number, counts: number, n: number): void;
  tallyPowers(pairs: number, n: number, bins: number): number;
}

const PAGE_BYTES = 65536;
const LEAST_GROWTH = 1 << 20;
const ALIGNMENT = 16;
/**
 * Loads wait for stores at the same place of another page of 4 KiB, and lines of the cache are shared by such places: long arrays,
 * which are read and written side by side, begin at other places of a page than their neighbours.
 */
const PLACES = 4096;
const APART = 17 * 64;

/** A stretch of the kernel's memory. */
export interface KernelArray {
  readonly address: number;
  readonly length: number;
}

/** The compiled kernel with its memory, handed out in pieces that are never given back. */
export class Kernel {
  readonly run: Exports;
  #end: number;
  /** Where in a page the latest long array begins. */
  #place = 0;

  constructor(module: WebAssembly.Module) {
    this.run = new WebAssembly.Instance(module).exports as unknown as Exports;
    this.#end = this.run.heapBase();
  }

  /** Sets `length` values of `bytes` bytes each aside, filled with zeros. Nothing is given back. */
  take(length: number, bytes: 4 | 8 | 2 = 4): KernelArray {
    let address = Math.ceil(this.#end / ALIGNMENT) * ALIGNMENT;
    if (length * bytes >= PLACES) {
      this.#place = (this.#place + APART) % PLACES;
      address += (PLACES + this.#place - (address % PLACES)) % PLACES;
    }
    this.#end = address + length * bytes;
    const missing = this.#end - this.run.memory.buffer.byteLength;
    // Every growth moves the views and stirs the garbage collector: seldom, and by much.
    if (missing > 0) this.run.memory.grow(Math.ceil(Math.max(missing, LEAST_GROWTH, this.run.memory.buffer.byteLength / 2) / PAGE_BYTES));
    return { address, length };
  }

  /** Views; good until the next `take`, which may move the memory. */
  floats({ address, length }: KernelArray): Float32Array {
    return new Float32Array(this.run.memory.buffer, address, length);
  }
  doubles({ address, length }: KernelArray): Float64Array {
    return new Float64Array(this.run.memory.buffer, address, length);
  }
  counts({ address, length }: KernelArray): Uint32Array {
    return new Uint32Array(this.run.memory.buffer, address, length);
  }
  integers({ address, length }: KernelArray): Int32Array {
    return new Int32Array(this.run.memory.buffer, address, length);
  }
  codes({ address, length }: KernelArray): Int16Array {
    return new Int16Array(this.run.memory.buffer, address, length);
  }
}

function bytesOf(base64: string): Uint8Array<ArrayBuffer> {
  // Where the machine has it, in one call.
  const { Buffer } = globalThis as { Buffer?: { from(text: string, encoding: 'base64'): Uint8Array<ArrayBuffer> } };
  if (Buffer) return Buffer.from(base64, 'base64');
  const text = atob(base64);
  const bytes = new Uint8Array(text.length);
  for (let k = 0; k < bytes.length; k++) bytes[k] = text.charCodeAt(k);
  return bytes;
}

let compiled: WebAssembly.Module | null | undefined;

/** A kernel with a memory of its own; null where WebAssembly with vectors is not available. */
export function createKernel(): Kernel | null {
  // Compiling is pure and costs a few milliseconds: the module is kept.
  if (compiled === undefined) {
    try {
      compiled = new WebAssembly.Module(bytesOf(KERNEL_BASE64));
    } catch {
      compiled = null;
    }
  }
  return compiled && new Kernel(compiled);
}
