/**
 * A band of a wide I/Q stream moved to 0 Hz and halved in rate again and again, in the kernel's memory: the first and
 * costly part of every channel that is cut out of a recording. Pair n that comes out belongs to pair n * factor that
 * went in, whatever the cut of the stream.
 */
import type { Hertz } from '../../units/index.ts';
import type { Kernel, KernelArray } from '../kernel/kernel.ts';
import { lowPassTaps } from './kaiser.ts';

/** Interleaved pairs in the kernel's memory. */
export interface PairsAt {
  readonly address: number;
  readonly count: number;
}

/** Room in the kernel's memory that grows when it has to. */
export class Room {
  #array: KernelArray;

  constructor(readonly kernel: Kernel) {
    this.#array = kernel.take(0);
  }

  /** Room for pairs, with what was in the first `kept` of them. */
  forPairs(pairs: number, kept = 0): number {
    if (this.#array.length < 2 * pairs) {
      const old = this.#array;
      this.#array = this.kernel.take(4 * pairs);
      this.kernel.run.move(this.#array.address, old.address, 4 * Math.min(2 * kept, old.length));
    }
    return this.#array.address;
  }
}

/** A view of pairs; good until the kernel's memory grows. */
export const floatsAt = (kernel: Kernel, address: number, pairs: number) => kernel.floats({ address, length: 2 * pairs });

/** Hands pairs on in even numbers: an odd one waits for its fellow. */
class Evener {
  readonly #joined: Room;
  /** Where a waiting pair is kept. */
  readonly #kept: KernelArray;
  #isWaiting = false;

  constructor(readonly kernel: Kernel) {
    this.#joined = new Room(kernel);
    this.#kept = kernel.take(2);
  }

  push({ address, count }: PairsAt): PairsAt {
    if (!this.#isWaiting && count % 2 === 0) return { address, count };
    const { run } = this.kernel;
    const before = this.#isWaiting ? 1 : 0;
    const all = count + before;
    const joined = this.#joined.forPairs(all);
    run.move(joined, this.#kept.address, 8 * before);
    run.move(joined + 8 * before, address, 8 * count);
    this.#isWaiting = all % 2 === 1;
    if (this.#isWaiting) run.move(this.#kept.address, joined + 8 * (all - 1), 8);
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
  push({ address, count }: PairsAt): PairsAt {
    if (this.centreHz === 0) return { address, count };
    const out = this.#out.forPairs(count);
    this.kernel.run.turn(address, count, this.#cosines.address, this.#sines.address, PLACES, this.#phase, out);
    this.#phase = (this.#phase + count) % PLACES;
    return { address: out, count };
  }
}

/** Half the rate through a half-band filter, in step: pair n belongs to pair 2 n of the input. */
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
    this.#evener = new Evener(kernel);
    this.#held = this.#reach;
  }

  /** Silence that brings out what is still held. */
  get tail(): number {
    return 2 * (this.#reach - 1);
  }

  push(pairs: PairsAt): PairsAt {
    const { kernel } = this;
    const { address, count } = this.#evener.push(pairs);
    const rows = this.#held + count / 2;
    const [even, odd] = [this.#even, this.#odd].map((room) => room.forPairs(rows + 2, this.#held));
    const made = Math.max(0, rows - 2 * this.#reach + 1);
    const out = this.#out.forPairs(made + 2);
    kernel.run.halve(address, count, even, odd, this.#held, this.#taps.address, this.#reach, out);
    kernel.run.move(even, even + 8 * made, 8 * (rows - made));
    kernel.run.move(odd, odd + 8 * made, 8 * (rows - made));
    this.#held = rows - made;
    return { address: out, count: made };
  }
}

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

  constructor(
    readonly kernel: Kernel,
    { sampleRateHz, centreHz, keptHz, leastRateHz }: TunerShape,
  ) {
    this.#evener = new Evener(kernel);
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

  /** What comes out is good until the next call. */
  push(pairs: PairsAt): PairsAt {
    return this.#halvers.reduce((passed, halver) => halver.push(passed), this.#turner.push(this.#evener.push(pairs)));
  }

  /** What is still on its way, once no more come: as much as was put in, over the factor. */
  end(): PairsAt {
    const tail = this.#halvers.reduce((sum, halver, k) => sum + halver.tail * 2 ** k, 2 * this.factor);
    return this.push({ address: this.kernel.take(2 * tail).address, count: tail });
  }
}

/** A half-band filter for more of the band than this would be long. */
const LARGEST_SHARE = 0.19;
