/** Half the rate, again and again: the costly part of every channel that is cut out of a recording. */
import type { Hertz } from '../../units/index.ts';
import type { Kernel, KernelArray } from '../kernel/kernel.ts';
import { lowPassTaps } from './kaiser.ts';
import { Evener, Room, type SamplesAt, type Width } from './samplesAt.ts';

/** The kernel reads and writes a vector at a time, and up to two of them beyond the end. */
const SLACK = 8;

/** A half-band filter: the middle tap, and one side of those beside it that are not 0. -80 dB beyond half the rate less `keptHz`. */
function halfBandTaps(rateHz: Hertz, keptHz: Hertz): Float64Array {
  const taps = lowPassTaps(rateHz, rateHz / 4, rateHz / 2 - 2 * keptHz);
  const middle = (taps.length - 1) / 2;
  const reach = Math.floor((middle + 1) / 2);
  return Float64Array.from({ length: reach + 1 }, (_, j) => taps[j === 0 ? middle : middle + 2 * j - 1]);
}

/** What a half-band filter works on: every second sample in either of two rows, with what is held from one block for the next. */
class Rows {
  readonly #even: Room;
  readonly #odd: Room;
  readonly #out: Room;
  /** Samples held in either row; at first silence ahead of the stream. */
  #held: number;

  /** @param values four bytes each, to a sample in the rows  @param outValues to one that comes out */
  constructor(
    readonly kernel: Kernel,
    readonly reach: number,
    readonly values: number,
    readonly outValues: number,
  ) {
    this.#even = new Room(kernel);
    this.#odd = new Room(kernel);
    this.#out = new Room(kernel);
    this.#held = reach;
  }

  /** @param count new samples, even  @param filter puts them into the rows, behind what is held, and filters */
  push(count: number, filter: (even: number, odd: number, held: number, out: number, made: number) => void): SamplesAt {
    const { move } = this.kernel.run;
    const rows = this.#held + count / 2;
    const [needed, kept] = [this.values * rows + SLACK, this.values * this.#held];
    const [even, odd] = [this.#even.forValues(needed, kept), this.#odd.forValues(needed, kept)];
    const made = Math.max(0, rows - 2 * this.reach + 1);
    const out = this.#out.forValues(this.outValues * (made + SLACK));
    filter(even, odd, this.#held, out, made);
    const bytes = 4 * this.values;
    this.#held = rows - made;
    move(even, even + bytes * made, bytes * this.#held);
    move(odd, odd + bytes * made, bytes * this.#held);
    return { address: out, count: made };
  }
}

/** Half the rate through a half-band filter, in step: sample n belongs to sample 2 n of the input. I and Q, or real samples. */
export class Halver {
  readonly #taps: KernelArray;
  readonly #reach: number;
  readonly #rows: Rows;
  readonly #evener: Evener;

  /** @param keptHz -80 dB beyond half the rate less this, flat below it */
  constructor(
    readonly kernel: Kernel,
    rateHz: Hertz,
    keptHz: Hertz,
    readonly width: Width = 2,
  ) {
    const taps = halfBandTaps(rateHz, keptHz);
    this.#reach = taps.length - 1;
    this.#taps = kernel.take(4 * taps.length);
    const values = kernel.floats(this.#taps);
    for (const [j, tap] of taps.entries()) values.fill(tap, 4 * j, 4 * (j + 1));
    this.#rows = new Rows(kernel, this.#reach, width, width);
    this.#evener = new Evener(kernel, width);
  }

  /** Silence that brings out what is still held. */
  get tail(): number {
    return 2 * (this.#reach - 1);
  }

  /** @param samples pairs of floats; of real samples codes may come as well, always an even number of them */
  push(samples: SamplesAt): SamplesAt {
    const isCodes = samples.isCodes === true;
    const { address, count } = isCodes ? samples : this.#evener.push(samples);
    const { halve: ofPairs, halveReal, halveCodes } = this.kernel.run;
    const halve = this.width === 2 ? ofPairs : isCodes ? halveCodes : halveReal;
    return this.#rows.push(count, (even, odd, held, out) => halve(address, count, even, odd, held, this.#taps.address, this.#reach, out));
  }
}

/** Most that a sum of products may come to in 32 bits, and the largest of 16. */
const MOST_SUM = 2 ** 31 - 2 ** 16;
const MOST_TAP = 2 ** 15 - 1;
const FULL_SCALE = 2 ** 15;

/**
 * The same for pairs of 16-bit codes, and a band moved to 0 Hz with it: the taps are turned to where the band stands and work on
 * the codes as they are, in whole numbers; what comes out, half as much, is turned back. The taps are whole numbers as well,
 * which leaves the stop band at -74 dB or less.
 */
export class CodeHalver {
  readonly #taps: KernelArray;
  readonly #reach: number;
  readonly #cosines: KernelArray;
  readonly #sines: KernelArray;
  readonly #rows: Rows;
  readonly #evener: Evener;
  #phase = 0;

  /** @param keptHz as for a `Halver`  @param place the band stands at place / places of the rate; `places` is a power of two */
  constructor(
    readonly kernel: Kernel,
    rateHz: Hertz,
    keptHz: Hertz,
    { place, places }: { readonly place: number; readonly places: number },
  ) {
    const taps = halfBandTaps(rateHz, keptHz);
    this.#reach = taps.length - 1;
    const sum = taps.reduce((all, tap, j) => all + (j === 0 ? 1 : 2) * Math.abs(tap), 0);
    const scale = Math.min(MOST_TAP / Math.max(...taps.map(Math.abs)), MOST_SUM / (Math.SQRT2 * FULL_SCALE * sum));
    // For each tap what gives the real part, then what gives the imaginary one: factors of I and of Q.
    const turned = (tap: number, pairs: number): number[] => {
      const angle = turnOf(place * pairs, places);
      const [re, im] = [Math.round(scale * tap * Math.cos(angle)), Math.round(scale * tap * Math.sin(angle))];
      return [re, -im, im, re];
    };
    const values = [...turned(taps[0], 0)];
    for (let j = 0; j < this.#reach; j++) values.push(...turned(taps[j + 1], 2 * j + 1), ...turned(taps[j + 1], -2 * j - 1));
    this.#taps = kernel.take(values.length, 2);
    kernel.codes(this.#taps).set(values);
    const period = places / 2;
    this.#cosines = kernel.take(period + SLACK);
    this.#sines = kernel.take(period + SLACK);
    const [cosines, sines] = [this.#cosines, this.#sines].map((table) => kernel.floats(table));
    for (let n = 0; n < period + SLACK; n++) {
      const angle = turnOf(2 * place * n, places);
      cosines[n] = Math.cos(angle) / scale / FULL_SCALE;
      sines[n] = Math.sin(angle) / scale / FULL_SCALE;
    }
    // One pair of codes has the bytes of one float; what comes out is two.
    this.#rows = new Rows(kernel, this.#reach, 1, 2);
    this.#evener = new Evener(kernel, 1);
  }

  push(pairs: SamplesAt): SamplesAt {
    const { address, count } = this.#evener.push(pairs);
    const period = this.#cosines.length - SLACK;
    const [taps, cosines, sines] = [this.#taps.address, this.#cosines.address, this.#sines.address];
    return this.#rows.push(count, (even, odd, held, out, made) => {
      this.kernel.run.halveCodePairs(address, count, even, odd, held, taps, this.#reach, cosines, sines, period, this.#phase, out);
      this.#phase = (this.#phase + made) % period;
    });
  }
}

/** Angle that takes `steps` of so many to a turn back; through whole turns first, exact however many there are. */
export const turnOf = (steps: number, places: number): number => (-2 * Math.PI * (((steps % places) + places) % places)) / places;
