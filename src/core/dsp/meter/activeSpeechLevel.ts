/** Active speech level. Source: ITU-T P.56, method B (time constant 30 ms, hangover 200 ms, margin 15.9 dB). */
import { amplitudeToDb, type Decibels, dbToPower, type Fraction, type Hertz, powerToDb } from '../../units/index.ts';
import { Room, type SamplesAt } from '../filter/samplesAt.ts';
import { createKernel, type Kernel, type KernelArray } from '../kernel/kernel.ts';
import { type PieceAt, Pieces } from '../kernel/pieces.ts';
import { StepReader } from './steps.ts';

const HANGOVER_S = 0.2;
const MARGIN_DB = 15.9;
/** Thresholds are 2^-1, 2^-2 ... ; P.56 has 15 for 16-bit files, more only reach further down. */
const THRESHOLDS = 30;

/** Active speech level in dB re full scale (null in silence) and the share of time it is there. */
export interface ActiveSpeech {
  /** dB re full scale; null in silence. */
  readonly levelDb: Decibels | null;
  /** Share of the time with speech; null in silence. */
  readonly activity: Fraction | null;
}

/** Counts what the envelope of a stream reaches, step by step. The fields lie in the kernel's `speech` in this order. */
export class SpeechCounter {
  readonly #hangover: number;
  readonly #state: KernelArray;

  constructor(
    readonly kernel: Kernel,
    sampleRateHz: Hertz,
  ) {
    this.#hangover = Math.ceil(sampleRateHz * HANGOVER_S);
    this.#state = kernel.take(2 + 2 * (THRESHOLDS + 1) + THRESHOLDS + 1, 8);
  }

  /** @param steps as `StepReader` gives them  @param step samples of each */
  push({ address, count }: SamplesAt, step: number): void {
    this.kernel.run.countSpeech(address, count, step, this.#hangover, this.#state.address);
  }

  result(): ActiveSpeech {
    const [squares, samples] = this.kernel.doubles(this.#state);
    if (squares === 0) return { levelDb: null, activity: null };
    const longTermDb = powerToDb(squares / samples);
    const levelDb = this.#marginCrossing(squares, samples);
    return { levelDb, activity: Math.min(1, dbToPower(longTermDb - levelDb)) };
  }

  /** The level A at which A - threshold falls to the margin, interpolated between thresholds in dB. */
  #marginCrossing(squares: number, samples: number): Decibels {
    const state = this.kernel.doubles(this.#state);
    // Samples whose envelope reached exactly the k lowest thresholds; and those kept by the hangover, step by step.
    const [histogram, heldSteps] = [state.subarray(2), state.subarray(2 + THRESHOLDS + 1)];
    let below: { level: Decibels; excess: Decibels } | null = null;
    let reached = samples - histogram[0];
    let held = 0;
    for (let j = 0; j < THRESHOLDS; j++) {
      held += heldSteps[j];
      const active = reached + held;
      if (active === 0) break;
      const level = powerToDb(squares / active);
      const excess = level - amplitudeToDb(2 ** (j - THRESHOLDS)) - MARGIN_DB;
      if (excess <= 0) {
        if (!below) return level;
        const share = below.excess / (below.excess - excess);
        return below.level + share * (level - below.level);
      }
      below = { level, excess };
      reached -= histogram[j + 1];
    }
    return below?.level ?? powerToDb(squares / samples);
  }
}

/** Steps that are worked out at once. */
const STEPS_AT_ONCE = 256;

/** ITU-T P.56, method B, over a stream of mono samples. */
export class ActiveSpeechMeter {
  readonly #pieces: Pieces;
  readonly #reader: StepReader;
  readonly #counter: SpeechCounter;
  readonly #floats: Room;
  #isEnded = false;

  /** @throws RangeError where WebAssembly with vectors is not available */
  constructor(sampleRateHz: Hertz) {
    const kernel = createKernel();
    if (!kernel) throw new RangeError('This machine has no WebAssembly with vectors, which measuring needs.');
    const step = Math.max(1, Math.round(sampleRateHz / 1000));
    this.#reader = new StepReader(kernel, sampleRateHz, step);
    this.#counter = new SpeechCounter(kernel, sampleRateHz);
    this.#floats = new Room(kernel);
    this.#pieces = new Pieces(kernel, STEPS_AT_ONCE * step, (piece) => this.#take(piece));
  }

  #take(piece: PieceAt): void {
    const { kernel, step } = this.#reader;
    const { address, count, isCodes } = piece;
    let samples: SamplesAt = piece;
    if (isCodes && count % step !== 0) {
      // The last one: what is left of its steps waits as floats.
      samples = { address: this.#floats.forValues(count), count };
      kernel.run.fromInt16(address, samples.address, count);
    }
    this.#counter.push(this.#reader.push(samples), step);
  }

  push(block: Float64Array | Float32Array | Int16Array): void {
    this.#pieces.push(block);
  }

  /** Once no more come. */
  result(): ActiveSpeech {
    if (!this.#isEnded) {
      this.#pieces.end();
      const { samples, steps } = this.#reader.end();
      this.#counter.push(steps, samples);
      this.#isEnded = true;
    }
    return this.#counter.result();
  }
}
