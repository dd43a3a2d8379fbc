/** Half the rate, again and again: the costly part of every channel that is cut out of a recording. */
import type { Hertz } from '../../units/index.ts';
import type { Kernel, KernelArray } from '../kernel/kernel.ts';
import { lowPassTaps } from './kaiser.ts';
import { Evener, Room, type SamplesAt, type Width } from './samplesAt.ts';

/** The kernel reads and writes a vector at a time, up to two of them beyond the end, and a sample that is not handed on yet. */
const SLACK = 9;

/** A half-band filter: the middle tap, and one side of those beside it that are not 0. -80 dB beyond half the rate less `keptHz`. */
function halfBandTaps(rateHz: Hertz, keptHz: Hertz): Float64Array {
  const taps = lowPassTaps(rateHz, rateHz / 4, rateHz / 2 - 2 * keptHz);
  const middle = (taps.length - 1) / 2;
  const reach = Math.floor((middle + 1) / 2);
  return Float64Array.from({ length: reach + 1 }, (_, j) => taps[j === 0 ? middle : middle + 2 * j - 1]);
}

/** Taps as the kernel wants them: each four times. */
export function fourTimesEach(kernel: Kernel, taps: Float64Array): KernelArray {
  const array = kernel.take(4 * taps.length);
  const values = kernel.floats(array);
  for (const [j, tap] of taps.entries()) values.fill(tap, 4 * j, 4 * (j + 1));
  return array;
}

/** What a half-band filter works on: every second sample in either of two rows, with what is held from one block for the next. */
class Rows {
  readonly #even: Room;
  readonly #odd: Room;
  readonly #out: Room;
  /** Samples held in either row; at first silence ahead of the stream. */
  #held: number;

  /** @param bytes of a sample in the rows  @param outValues four bytes each, to one that comes out */
  constructor(
    readonly kernel: Kernel,
    readonly reach: number,
    readonly bytes: number,
    readonly outValues: number,
  ) {
    this.#even = new Room(kernel);
    this.#odd = new Room(kernel);
    this.#out = new Room(kernel);
    this.#held = reach;
  }

  /** Where `rows` samples have room. */
  #roomIn(row: Room, rows: number): number {
    return row.forValues(Math.ceil((this.bytes * rows) / 4) + SLACK, Math.ceil((this.bytes * this.#held) / 4));
  }

  /** @param count new samples, even  @param filter puts them into the rows, behind what is held, and filters */
  push(count: number, filter: (even: number, odd: number, held: number, out: number, made: number) => void): SamplesAt {
    const { move } = this.kernel.run;
    const { bytes } = this;
    const rows = this.#held + count / 2;
    const even = this.#roomIn(this.#even, rows);
    const odd = this.#roomIn(this.#odd, rows);
    // Even in number, so that nothing waits for its fellow at the next halver.
    const made = 2 * Math.max(0, Math.floor((rows - 2 * this.reach + 1) / 2));
    const out = this.#out.forValues(this.outValues * (made + SLACK));
    filter(even, odd, this.#held, out, made);
    this.#held = rows - made;
    move(even, even + bytes * made, bytes * this.#held);
    move(odd, odd + bytes * made, bytes * this.#held);
    return { address: out, count: made };
  }

  /** Goes on where a filter over the same stream as codes has come to. */
  goOnFrom(codes: Rows): void {
    this.#held = codes.#held;
    const { fromInt16 } = this.kernel.run;
    fromInt16(codes.#roomIn(codes.#even, 0), this.#roomIn(this.#even, this.#held), this.#held);
    fromInt16(codes.#roomIn(codes.#odd, 0), this.#roomIn(this.#odd, this.#held), this.#held);
  }
}

/** Half the rate through a half-band filter, in step: sample n belongs to sample 2 n of the input. I and Q, or real samples. */
export class Halver {
  readonly #taps: KernelArray;
  readonly #reach: number;
  readonly #rows: Rows;
  readonly #evener: Evener;
  /** Real samples that come as codes. */
  readonly #ofCodes: RealCodes | null;
  /** Whether the stream was one of codes so far. */
  #isOfCodes: boolean;

  /** @param keptHz -80 dB beyond half the rate less this, flat below it */
  constructor(
    readonly kernel: Kernel,
    rateHz: Hertz,
    keptHz: Hertz,
    readonly width: Width = 2,
  ) {
    const taps = halfBandTaps(rateHz, keptHz);
    this.#reach = taps.length - 1;
    this.#taps = fourTimesEach(kernel, taps);
    this.#rows = new Rows(kernel, this.#reach, 4 * width, width);
    this.#evener = new Evener(kernel, width);
    this.#ofCodes = width === 1 ? new RealCodes(kernel, taps) : null;
    this.#isOfCodes = width === 1;
  }

  /** Silence that brings out what is still held. */
  get tail(): number {
    return 2 * this.#reach;
  }

  /** @param samples floats; real samples may begin as codes, an even number of them each time, and go over to floats once */
  push(samples: SamplesAt): SamplesAt {
    if (samples.isCodes) {
      if (!this.#isOfCodes || !this.#ofCodes) throw new Error('Codes come before floats, and as real samples.');
      return this.#ofCodes.push(samples);
    }
    if (this.#isOfCodes && this.#ofCodes) this.#rows.goOnFrom(this.#ofCodes.rows);
    this.#isOfCodes = false;
    const { address, count } = this.#evener.push(samples);
    const { halve: ofPairs, halveReal } = this.kernel.run;
    const halve = this.width === 2 ? ofPairs : halveReal;
    return this.#rows.push(count, (even, odd, held, out) => halve(address, count, even, odd, held, this.#taps.address, this.#reach, out));
  }
}

/** Real samples of 16-bit codes halved in whole numbers, with taps of 16 bits; the middle one is exact. */
class RealCodes {
  readonly rows: Rows;
  readonly #taps: KernelArray;
  readonly #reach: number;
  readonly #middle: number;
  readonly #size: number;

  /** @param taps the middle one, and one side of those beside it */
  constructor(
    readonly kernel: Kernel,
    [middle, ...side]: Float64Array,
  ) {
    this.#reach = side.length;
    const scale = scaleOf(side, 2 * side.reduce((sum, tap) => sum + Math.abs(tap), 0));
    this.#taps = kernel.take(2 * side.length, 2);
    kernel.codes(this.#taps).set([...side.toReversed(), ...side].map((tap) => Math.round(scale * tap)));
    this.#middle = middle / FULL_SCALE;
    this.#size = 1 / scale / FULL_SCALE;
    this.rows = new Rows(kernel, this.#reach, 2, 1);
  }

  push({ address, count }: SamplesAt): SamplesAt {
    const { halveCodes } = this.kernel.run;
    const [taps, reach, middle, size] = [this.#taps.address, this.#reach, this.#middle, this.#size];
    return this.rows.push(count, (even, odd, held, out) => halveCodes(address, count, even, odd, held, taps, reach, middle, size, out));
  }
}

/** Most that a sum of products may come to in 32 bits, and the largest of 16. */
const MOST_SUM = 2 ** 31 - 2 ** 16;
const MOST_TAP = 2 ** 15 - 1;
const FULL_SCALE = 2 ** 15;

/** What makes whole numbers of taps, so that no sum of products overflows. @param most what a sum may come to, re full scale */
const scaleOf = (taps: readonly number[] | Float64Array, most: number): number =>
  Math.min(MOST_TAP / Math.max(...taps.map(Math.abs)), MOST_SUM / (FULL_SCALE * most));

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
    const scale = scaleOf(taps, Math.SQRT2 * sum);
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
    this.#rows = new Rows(kernel, this.#reach, 4, 2);
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
