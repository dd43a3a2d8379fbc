/**
 * The transmit path of SSB in the kernel's memory: single precision, what each stage does the same as in its own file,
 * which stays the oracle in double precision.
 */
import {
  type AudioStage,
  type Biquad,
  type Complex,
  Halver,
  Intake,
  type Kernel,
  type KernelArray,
  oneSidedTaps,
  PairFilter,
  type RadioStage,
  Room,
  type SamplesAt,
  ThreeSections,
} from '../../dsp/index.ts';
import { type Decibels, dbToAmplitude, dbToPower, type Hertz, powerToDb } from '../../units/index.ts';
import { type AmplifierShape, rappGain } from './amplifier.ts';
import type { Compressing } from './clipper.ts';
import type { PassbandShape } from './passband.ts';

/** A step of the path. What it gives is good until it runs again. */
export interface KernelStage {
  push(samples: SamplesAt): SamplesAt;
  /** Silence that brings out what it holds; none when left out. */
  readonly tail?: number;
}

/** Share of half the new rate that stays untouched on the way down. */
const KEPT = 0.85;

/** Down to a rate by halves; null where that is not the way. */
export function halvers(kernel: Kernel, fromHz: Hertz, toHz: Hertz): Halver[] | null {
  const stages: Halver[] = [];
  let rate = fromHz;
  for (; rate > toHz; rate /= 2) stages.push(new Halver(kernel, rate, (KEPT * rate) / 4, 1));
  return rate === toHz ? stages : null;
}

export const gainIn = (kernel: Kernel, gain: number): KernelStage => ({
  push: (samples) => {
    if (gain !== 1) kernel.run.scale(samples.address, samples.count, gain);
    return samples;
  },
});

/** Blocks are the caller's until here: from now on stages may write into them. */
export function copyIn(kernel: Kernel): KernelStage {
  const room = new Room(kernel);
  return {
    push: ({ address, count }) => {
      const copy = room.forValues(count);
      kernel.run.move(copy, address, 4 * count);
      return { address: copy, count };
    },
  };
}

const PASSING: Biquad = { b0: 1, b1: 0, b2: 0, a1: 0, a2: 0 };

/** Any number of second-order sections, three at a time. */
export function sectionsIn(kernel: Kernel, filters: readonly Biquad[]): KernelStage[] {
  const rows = Array.from({ length: Math.ceil(filters.length / 3) }, (_, k) => filters.slice(3 * k, 3 * k + 3));
  return rows.map((row) => new ThreeSections(kernel, [...row, PASSING, PASSING].slice(0, 3)));
}

/** A stage that works on doubles. @param tail silence that brings out what it holds */
export function audioIn(kernel: Kernel, stage: AudioStage, tail = 0): KernelStage {
  const room = new Room(kernel);
  return {
    tail,
    push: ({ address, count }) => {
      const passed = stage.push(new Float64Array(kernel.floats({ address, length: count })));
      const out = room.forValues(passed.length);
      kernel.floats({ address: out, length: passed.length }).set(passed);
      return { address: out, count: passed.length };
    },
  };
}

/** A stage over I and Q that works on doubles, done with each block at once. */
export function radioIn(kernel: Kernel, stage: RadioStage): KernelStage {
  return {
    push: ({ address, count }) => {
      const pairs = kernel.floats({ address, length: 2 * count });
      const sent = { i: new Float64Array(count), q: new Float64Array(count) };
      for (let n = 0; n < count; n++) {
        sent.i[n] = pairs[2 * n];
        sent.q[n] = pairs[2 * n + 1];
      }
      const { i, q } = stage.push(sent);
      const back = kernel.floats({ address, length: 2 * count });
      for (let n = 0; n < count; n++) {
        back[2 * n] = i[n];
        back[2 * n + 1] = q[n];
      }
      return { address, count };
    },
  };
}

/** As `sidebandStage`. */
export const sidebandIn = (kernel: Kernel, shape: PassbandShape, rateHz: Hertz): KernelStage =>
  new PairFilter(kernel, oneSidedTaps(rateHz, ...shape.edgesHz, shape.transitionHz), 1);

/** As `passbandStage`. */
export function passbandIn(kernel: Kernel, shape: PassbandShape, rateHz: Hertz): KernelStage {
  const taps = oneSidedTaps(rateHz, ...shape.edgesHz, shape.transitionHz);
  return new PairFilter(kernel, { i: taps.i.map((x) => x / 2), q: taps.q.map((x) => x / 2) }, 2);
}

/** As `clipperStage`. */
export function clipperIn(kernel: Kernel, compressionDb: Decibels, ceilingDb: Decibels): KernelStage & Compressing {
  const most = dbToPower(ceilingDb - compressionDb);
  let highest = 0;
  return {
    push: (pairs) => {
      const power = kernel.run.clipPairs(pairs.address, pairs.count, most, dbToAmplitude(ceilingDb), dbToAmplitude(compressionDb));
      highest = Math.max(highest, power);
      return pairs;
    },
    highestDb: () => Math.max(0, powerToDb(highest / most)),
  };
}

/** I times a plus b, Q times c: balance, output and mirror. */
export const affineIn = (kernel: Kernel, a: number, b: number, c: number): KernelStage => ({
  push: (pairs) => {
    kernel.run.affine(pairs.address, pairs.count, a, b, c);
    return pairs;
  },
});

const GAIN_STEPS = 8192;

/** A law as a table in the kernel, with one value behind its end. */
export function tableIn(kernel: Kernel, law: (x: number) => number, top: number): { readonly at: KernelArray; readonly steps: number } {
  const at = kernel.take(GAIN_STEPS + 2);
  kernel.floats(at).set(Float32Array.from({ length: GAIN_STEPS + 2 }, (_, k) => law((k * top) / GAIN_STEPS)));
  return { at, steps: GAIN_STEPS };
}

/** As `amplifierStage` without a turn of the phase. */
export function amplifierIn(kernel: Kernel, shape: AmplifierShape): KernelStage {
  const saturation = dbToPower(shape.saturationDb);
  const top = 4 * saturation;
  const { at, steps } = tableIn(kernel, (power) => rappGain(shape, power), top);
  return {
    push: (pairs) => {
      kernel.run.saturate(pairs.address, pairs.count, at.address, steps, top, saturation, shape.smoothness);
      return pairs;
    },
  };
}

/** Stages in a row over a stream: as many samples come out as belong to those that went in. */
export class KernelChain {
  readonly #in: Intake;
  readonly #left: Room;
  /** Highest power of what came out, where pairs do. */
  peakPower = 0;
  #samples = 0;
  #made = 0;

  /** @param isRadio whether pairs come out  @param factor samples in to one that comes out */
  constructor(
    readonly kernel: Kernel,
    readonly stages: readonly KernelStage[],
    readonly isRadio: boolean,
    readonly factor: number,
  ) {
    this.#in = new Intake(kernel);
    this.#left = new Room(kernel);
  }

  push(block: Float64Array | Float32Array | Int16Array): Complex {
    this.#samples += block.length;
    return this.#through(block);
  }

  end(): Complex {
    const tail = this.stages.reduce((sum, stage) => sum + (stage.tail ?? 0), 0);
    return this.#through(new Float32Array(this.factor * (tail + 2)));
  }

  #through(block: Float64Array | Float32Array | Int16Array): Complex {
    const passed = this.stages.reduce((samples, stage) => stage.push(samples), this.#in.take(block));
    const count = Math.min(passed.count, Math.ceil(this.#samples / this.factor) - this.#made);
    this.#made += count;
    if (this.isRadio) this.peakPower = Math.max(this.peakPower, this.kernel.run.highestPower(passed.address, count));
    return this.#doubles({ address: passed.address, count });
  }

  #doubles({ address, count }: SamplesAt): Complex {
    const { kernel } = this;
    if (!this.isRadio) return { i: new Float64Array(kernel.floats({ address, length: count })), q: new Float64Array(count) };
    // The kernel writes two at a time.
    const room = count + (count % 2);
    const out = this.#left.forValues(4 * room);
    kernel.run.doublesFromPairs(address, out, out + 8 * room, count);
    const [i, q] = [out, out + 8 * room].map((at) => kernel.doubles({ address: at, length: count }).slice());
    return { i, q };
  }
}
