/**
 * A band of a wide I/Q stream moved to 0 Hz and halved in rate again and again, in the kernel's memory. Pair n that comes out
 * belongs to pair n * factor that went in, whatever the cut of the stream.
 */
import type { Hertz } from '../../units/index.ts';
import type { Kernel, KernelArray } from '../kernel/kernel.ts';
import { CodeHalver, Halver, turnOf } from './halver.ts';
import { Evener, Room, type SamplesAt } from './samplesAt.ts';

/** Places on which a stream can be centred: its rate over this. The table then repeats after so many pairs. */
const PLACES = 512;

/** Turns a stream so that a place comes to stand at 0 Hz. */
class Turner {
  readonly #cosines: KernelArray;
  readonly #sines: KernelArray;
  readonly #out: Room;
  #phase = 0;

  constructor(
    readonly kernel: Kernel,
    readonly place: number,
  ) {
    this.#cosines = kernel.take(2 * PLACES);
    this.#sines = kernel.take(2 * PLACES);
    this.#out = new Room(kernel);
    const [c, s] = [kernel.floats(this.#cosines), kernel.floats(this.#sines)];
    for (let n = 0; n < PLACES; n++) {
      const angle = turnOf(place * n, PLACES);
      c.fill(Math.cos(angle), 2 * n, 2 * n + 2);
      s[2 * n] = -Math.sin(angle);
      s[2 * n + 1] = Math.sin(angle);
    }
  }

  /** @param count even */
  push({ address, count }: SamplesAt): SamplesAt {
    if (this.place === 0) return { address, count };
    const out = this.#out.forPairs(count);
    this.kernel.run.turn(address, count, this.#cosines.address, this.#sines.address, PLACES, this.#phase, out);
    this.#phase = (this.#phase + count) % PLACES;
    return { address: out, count };
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
  readonly #floats: Room;
  /** Turns and halves codes as they are, in the place of the turner and the first halver. */
  readonly #ofCodes: CodeHalver | null;
  /** Whether the stream is one of codes; null before it begins. */
  #isOfCodes: boolean | null = null;

  constructor(
    readonly kernel: Kernel,
    { sampleRateHz, centreHz, keptHz, leastRateHz }: TunerShape,
  ) {
    this.#evener = new Evener(kernel, 2);
    this.#floats = new Room(kernel);
    const place = Math.round((centreHz / sampleRateHz) * PLACES);
    this.centreHz = (place * sampleRateHz) / PLACES;
    this.#turner = new Turner(kernel, place);
    const halvers: Halver[] = [];
    let rate = sampleRateHz;
    // The middle may lie half a place off what was asked for.
    const kept = keptHz + sampleRateHz / PLACES / 2;
    for (; rate / 2 >= leastRateHz && kept < LARGEST_SHARE * rate; rate /= 2) halvers.push(new Halver(kernel, rate, kept));
    this.#halvers = halvers;
    this.#ofCodes = halvers.length > 0 ? new CodeHalver(kernel, sampleRateHz, kept, { place, places: PLACES }) : null;
    this.sampleRateHz = rate;
    this.factor = sampleRateHz / rate;
  }

  /** @param pairs floats, or 16-bit codes all along. What comes out is good until the next call. */
  push(pairs: SamplesAt): SamplesAt {
    const [first, ...others] = this.#halvers;
    const isCodes = pairs.isCodes === true;
    this.#isOfCodes ??= isCodes;
    if (isCodes !== this.#isOfCodes) throw new Error('A stream is one of codes or of floats, all along.');
    const halved = isCodes && this.#ofCodes ? this.#ofCodes.push(pairs) : this.#turned(isCodes ? this.#asFloats(pairs) : pairs, first);
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
    return this.silence(tail);
  }

  /** So many pairs of silence behind the stream: they bring out what is still on its way. */
  silence(count: number): SamplesAt {
    return this.push({ address: this.kernel.take(2 * count).address, count, isCodes: this.#isOfCodes === true });
  }
}

/** A half-band filter for more of the band than this would be long. */
const LARGEST_SHARE = 0.19;
