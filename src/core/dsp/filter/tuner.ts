/**
 * A band of a wide I/Q stream moved to 0 Hz and halved in rate again and again, in the kernel's memory: the first and
 * costly part of every channel that is cut out of a recording. Pair n that comes out belongs to pair n * factor that
 * went in, whatever the cut of the stream.
 */
import type { Hertz } from '../../units/index.ts';
import type { Kernel, KernelArray } from '../kernel/kernel.ts';
import { lowPassTaps } from './kaiser.ts';

/** Interleaved pairs, or real samples, in the kernel's memory. */
export interface SamplesAt {
  readonly address: number;
  readonly count: number;
  /** 16-bit codes (full scale 32768) in place of floats, where it is said that they may come. */
  readonly isCodes?: boolean;
}

/** Room in the kernel's memory that grows when it has to. */
export class Room {
  #array: KernelArray;

  constructor(readonly kernel: Kernel) {
    this.#array = kernel.take(0);
  }

  /** Room for values, with what was in the first `kept` of them. */
  forValues(values: number, kept = 0): number {
    if (this.#array.length < values) {
      const old = this.#array;
      this.#array = this.kernel.take(2 * values);
      this.kernel.run.move(this.#array.address, old.address, 4 * Math.min(kept, old.length));
    }
    return this.#array.address;
  }

  /** The same in pairs. */
  forPairs(pairs: number, kept = 0): number {
    return this.forValues(2 * pairs, 2 * kept);
  }
}

/** Samples from outside the kernel brought into it: floats of either precision, or 16-bit codes, full scale 32768. */
export class Intake {
  readonly #samples: Room;
  readonly #codes: Room;

  constructor(readonly kernel: Kernel) {
    this.#samples = new Room(kernel);
    this.#codes = new Room(kernel);
  }

  /** Good until the next call. */
  take(block: Float64Array | Float32Array | Int16Array): SamplesAt {
    const { kernel } = this;
    const count = block.length;
    const address = this.#samples.forValues(count);
    if (block instanceof Int16Array) {
      const codes = this.#codes.forValues(Math.ceil(count / 2));
      kernel.codes({ address: codes, length: count }).set(block);
      kernel.run.fromInt16(codes, address, count);
    } else kernel.floats({ address, length: count }).set(block);
    return { address, count };
  }
}

/** A view of pairs; good until the kernel's memory grows. */
export const floatsAt = (kernel: Kernel, address: number, pairs: number) => kernel.floats({ address, length: 2 * pairs });

/** Values of a sample: one, or I and Q. */
type Width = 1 | 2;

/** Hands samples on in even numbers: an odd one waits for its fellow. */
class Evener {
  readonly #joined: Room;
  /** Where a waiting sample is kept. */
  readonly #kept: KernelArray;
  #isWaiting = false;

  constructor(
    readonly kernel: Kernel,
    readonly width: Width,
  ) {
    this.#joined = new Room(kernel);
    this.#kept = kernel.take(width);
  }

  push({ address, count }: SamplesAt): SamplesAt {
    if (!this.#isWaiting && count % 2 === 0) return { address, count };
    const { run } = this.kernel;
    const bytes = 4 * this.width;
    const before = this.#isWaiting ? 1 : 0;
    const all = count + before;
    const joined = this.#joined.forValues(this.width * all);
    run.move(joined, this.#kept.address, bytes * before);
    run.move(joined + bytes * before, address, bytes * count);
    this.#isWaiting = all % 2 === 1;
    if (this.#isWaiting) run.move(this.#kept.address, joined + bytes * (all - 1), bytes);
    return { address: joined, count: all - (all % 2) };
  }
}

/** Places on which a stream can be centred: its rate over this. The table then repeats after so many pairs. */
const PLACES = 512;

/** Turns a stream so that `centreHz` comes to stand at 0 Hz. */
class Turner {
  /** The nearest place to what was asked for. */
  readonly centreHz: Hertz;
  readonly #cosines: KernelArray;
  readonly #sines: KernelArray;
  readonly #out: Room;
  #phase = 0;

  constructor(
    readonly kernel: Kernel,
    rateHz: Hertz,
    centreHz: Hertz,
  ) {
    const place = Math.round((centreHz / rateHz) * PLACES);
    this.centreHz = (place * rateHz) / PLACES;
    this.#cosines = kernel.take(2 * PLACES);
    this.#sines = kernel.take(2 * PLACES);
    this.#out = new Room(kernel);
    const [c, s] = [kernel.floats(this.#cosines), kernel.floats(this.#sines)];
    for (let n = 0; n < PLACES; n++) {
      // Through whole turns first: exact however far the place is.
      const angle = (-2 * Math.PI * ((((place * n) % PLACES) + PLACES) % PLACES)) / PLACES;
      c.fill(Math.cos(angle), 2 * n, 2 * n + 2);
      s[2 * n] = -Math.sin(angle);
      s[2 * n + 1] = Math.sin(angle);
    }
  }

  /** @param count even */
  push({ address, count }: SamplesAt): SamplesAt {
    if (this.centreHz === 0) return { address, count };
    const out = this.#out.forPairs(count);
    this.kernel.run.turn(address, count, ...this.take(count), out);
    return { address: out, count };
  }

  /** What turns the next so many pairs in the kernel: where cosines and sines lie, how many there are, and which is next. */
  take(count: number): readonly [number, number, number, number] {
    const phase = this.#phase;
    this.#phase = (phase + count) % PLACES;
    return [this.#cosines.address, this.#sines.address, PLACES, phase];
  }
}

/** Half the rate through a half-band filter, in step: sample n belongs to sample 2 n of the input. I and Q, or real samples. */
export class Halver {
  readonly #taps: KernelArray;
  readonly #reach: number;
  readonly #even: Room;
  readonly #odd: Room;
  readonly #out: Room;
  readonly #evener: Evener;
  /** Pairs held in either row; at first silence ahead of the stream. */
  #held: number;

  /** @param keptHz -80 dB beyond half the rate less this, flat below it */
  constructor(
    readonly kernel: Kernel,
    rateHz: Hertz,
    keptHz: Hertz,
    readonly width: Width = 2,
  ) {
    const taps = lowPassTaps(rateHz, rateHz / 4, rateHz / 2 - 2 * keptHz);
    const middle = (taps.length - 1) / 2;
    this.#reach = Math.floor((middle + 1) / 2);
    this.#taps = kernel.take(4 * (this.#reach + 1));
    const values = kernel.floats(this.#taps);
    values.fill(taps[middle], 0, 4);
    for (let j = 0; j < this.#reach; j++) values.fill(taps[middle + 2 * j + 1], 4 * (j + 1), 4 * (j + 2));
    this.#even = new Room(kernel);
    this.#odd = new Room(kernel);
    this.#out = new Room(kernel);
    this.#evener = new Evener(kernel, width);
    this.#held = this.#reach;
  }

  /** Silence that brings out what is still held. */
  get tail(): number {
    return 2 * (this.#reach - 1);
  }

  /**
   * @param samples pairs of floats; of real samples codes may come as well, always an even number of them
   * @param turner  turns them first: pairs of codes then, always a multiple of four
   */
  push(samples: SamplesAt, turner?: Turner): SamplesAt {
    const { kernel } = this;
    const isCodes = samples.isCodes === true;
    const { address, count } = isCodes ? samples : this.#evener.push(samples);
    const { width } = this;
    const rows = this.#held + count / 2;
    // The kernel reads and writes a vector at a time.
    const [even, odd] = [this.#even, this.#odd].map((room) => room.forValues(width * rows + SLACK, width * this.#held));
    const made = Math.max(0, rows - 2 * this.#reach + 1);
    const out = this.#out.forValues(width * made + SLACK);
    const { halve: ofPairs, halveReal, halveCodes, turnAndHalve } = kernel.run;
    const halve = width === 2 ? ofPairs : isCodes ? halveCodes : halveReal;
    if (turner) turnAndHalve(address, count, ...turner.take(count), even, odd, this.#held, this.#taps.address, this.#reach, out);
    else halve(address, count, even, odd, this.#held, this.#taps.address, this.#reach, out);
    const bytes = 4 * width;
    this.#held = rows - made;
    kernel.run.move(even, even + bytes * made, bytes * this.#held);
    kernel.run.move(odd, odd + bytes * made, bytes * this.#held);
    return { address: out, count: made };
  }
}

const SLACK = 8;

/** What a tuner is made for. */
export interface TunerShape {
  readonly sampleRateHz: Hertz;
  /** Middle of the band; the nearest 512th of the rate is taken. */
  readonly centreHz: Hertz;
  /** The band is whole as far as this from the middle. */
  readonly keptHz: Hertz;
  /** The rate is halved while it stays at least this. */
  readonly leastRateHz: Hertz;
}

/** A band of an I/Q stream at 0 Hz and a lower rate. */
export class Tuner {
  readonly sampleRateHz: Hertz;
  /** Pairs in over pairs out, a power of two. */
  readonly factor: number;
  /** What stands at 0 Hz now. */
  readonly centreHz: Hertz;
  readonly #evener: Evener;
  readonly #turner: Turner;
  readonly #halvers: readonly Halver[];
  readonly #floats: Room;

  constructor(
    readonly kernel: Kernel,
    { sampleRateHz, centreHz, keptHz, leastRateHz }: TunerShape,
  ) {
    this.#evener = new Evener(kernel, 2);
    this.#floats = new Room(kernel);
    this.#turner = new Turner(kernel, sampleRateHz, centreHz);
    this.centreHz = this.#turner.centreHz;
    const halvers: Halver[] = [];
    let rate = sampleRateHz;
    // The middle may lie half a place off what was asked for.
    const kept = keptHz + sampleRateHz / PLACES / 2;
    for (; rate / 2 >= leastRateHz && kept < LARGEST_SHARE * rate; rate /= 2) halvers.push(new Halver(kernel, rate, kept));
    this.#halvers = halvers;
    this.sampleRateHz = rate;
    this.factor = sampleRateHz / rate;
  }

  /** What comes out is good until the next call. 16-bit codes may come as well; an odd number of pairs only as the last. */
  push(pairs: SamplesAt): SamplesAt {
    const [first, ...others] = this.#halvers;
    const isWhole = pairs.isCodes && first && pairs.count % 4 === 0;
    const halved = isWhole ? first.push(pairs, this.#turner) : this.#turned(pairs.isCodes ? this.#asFloats(pairs) : pairs, first);
    return others.reduce((passed, halver) => halver.push(passed), halved);
  }

  #turned(pairs: SamplesAt, first: Halver | undefined): SamplesAt {
    const turned = this.#turner.push(this.#evener.push(pairs));
    return first ? first.push(turned) : turned;
  }

  #asFloats({ address, count }: SamplesAt): SamplesAt {
    const floats = this.#floats.forPairs(count);
    this.kernel.run.fromInt16(address, floats, 2 * count);
    return { address: floats, count };
  }

  /** What is still on its way, once no more come: as much as was put in, over the factor. */
  end(): SamplesAt {
    const tail = this.#halvers.reduce((sum, halver, k) => sum + halver.tail * 2 ** k, 2 * this.factor);
    return this.push({ address: this.kernel.take(2 * tail).address, count: tail });
  }
}

/** A half-band filter for more of the band than this would be long. */
const LARGEST_SHARE = 0.19;
