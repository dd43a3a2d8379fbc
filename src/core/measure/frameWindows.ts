/**
 * Windows over a stream, each looked at once the levels of the 50 ms frames that it touches are known; and the steps by
 * which levels are sorted until the loudest is known (contract: talk is within 25 dB of it).
 */
import {
  ACTIVE_RANGE_DB,
  hannPower,
  type Kernel,
  Room,
  type SamplesAt,
  type SpectrumEngineInKernel,
  spectrumEngineIn,
} from '../dsp/index.ts';
import { dbToPower, type Power, powerToDb } from '../units/index.ts';

/** Levels are kept apart by steps of this: a frame that is less than half of it from the edge of talk may fall on either side. */
const STEP_DB = 0.5;
/** Digital silence. */
export const SILENT_STEP = -2000;

/** The step that a power lies in. */
export const stepOf = (power: Power): number =>
  power > 0 ? Math.max(SILENT_STEP + 1, Math.floor(powerToDb(power) / STEP_DB)) : SILENT_STEP;
/** Steps from this one on hold what is at least so strong, but for half a step. */
export const firstStepOf = (power: Power): number => (power > 0 ? Math.round(powerToDb(power) / STEP_DB) : SILENT_STEP + 1);

/** The 50 ms frames of a recording, as far as they are known. */
export interface Frames {
  readonly powers: readonly Power[];
  readonly frameSamples: number;
  /** No more frames come. */
  readonly isWhole: boolean;
}

/** Frames sorted by level as they become known. */
export interface KnownFrames extends Frames {
  /** The steps that they lie in. */
  readonly steps: readonly number[];
  /** Steps under this one are no talk, whatever comes. */
  readonly leastStep: number;
}

/** Frames as they become known. */
export class FrameLedger {
  readonly powers: Power[] = [];
  readonly #steps: number[] = [];
  #loudest: Power = 0;

  constructor(readonly frameSamples: number) {}

  add(power: Power): void {
    this.powers.push(power);
    this.#steps.push(stepOf(power));
    this.#loudest = Math.max(this.#loudest, power);
  }

  /** Drops all behind the first `count`: they say nothing. */
  keep(count: number): void {
    this.powers.length = Math.min(count, this.powers.length);
    this.#steps.length = this.powers.length;
    this.#loudest = this.powers.reduce((most, power) => Math.max(most, power), 0);
  }

  /** Power of the weakest frame that is talk, as far as is known. */
  get least(): Power {
    return this.#loudest * dbToPower(-ACTIVE_RANGE_DB);
  }

  /** @param isWhole no more frames come */
  known(isWhole: boolean): KnownFrames {
    const { powers, frameSamples } = this;
    return { powers, steps: this.#steps, frameSamples, isWhole, leastStep: stepOf(this.least) - 1 };
  }
}

/** How a stream is cut into windows. */
export interface WindowsShape {
  /** Values of a sample: one, or I and Q. */
  readonly width: 1 | 2;
  /** Samples of the recording to one of the stream, and to a frame. */
  readonly factor: number;
  readonly frameSamples: number;
  /** Samples of a window. */
  readonly size: number;
  /** From a window that begins at a sample to the next. */
  readonly hop: number | ((start: number) => number);
}

/** Windows wait for their frames: room for what comes meanwhile. */
const ROOM = 16384;

/** A window in the kernel's memory, and the frames [from, to) that it touches; good until the next. */
export interface FrameWindow {
  readonly address: number;
  readonly length: number;
  /** The sample of the stream that it begins with. */
  readonly start: number;
  readonly from: number;
  readonly to: number;
}

/** Calls for each window over a stream once its frames are known. */
export class FrameWindows {
  readonly #buffer: Room;
  readonly #room: number;
  /** Samples in the buffer, where the next window begins among them, and where that is in the stream. */
  #filled = 0;
  #next = 0;
  #start = 0;
  /** Samples between windows that are further apart than they are long: of them, and to come before the next that counts. */
  readonly #gap: number;
  #toGap: number;
  readonly #window = { address: 0, length: 0, start: 0, from: 0, to: 0 };

  /** @param look told each window that touches a frame */
  constructor(
    readonly kernel: Kernel,
    readonly shape: WindowsShape,
    readonly look: (window: FrameWindow) => void,
  ) {
    const { size, hop, frameSamples, factor, width } = shape;
    this.#gap = typeof hop === 'number' ? Math.max(0, hop - size) : 0;
    this.#toGap = this.#gap > 0 ? size : Infinity;
    this.#room = 2 * size + Math.ceil((2 * frameSamples) / factor) + ROOM;
    this.#buffer = new Room(kernel);
    this.#buffer.forValues(width * this.#room);
  }

  #address(sample = 0): number {
    return this.#buffer.forValues(0) + 4 * this.shape.width * sample;
  }

  /** 16-bit codes may come as well. */
  push({ address, count, isCodes }: SamplesAt, frames: Frames): void {
    const { width } = this.shape;
    const { fromInt16, move } = this.kernel.run;
    let read = 0;
    while (read < count) {
      if (this.#toGap <= 0) {
        const skipped = Math.min(this.#gap + this.#toGap, count - read);
        this.#toGap -= skipped;
        read += skipped;
        if (this.#toGap === -this.#gap) this.#toGap = this.shape.size;
        continue;
      }
      const take = Math.min(count - read, this.#room - this.#filled, this.#toGap);
      const to = this.#address(this.#filled);
      if (isCodes) fromInt16(address + 2 * width * read, to, width * take);
      else move(to, address + 4 * width * read, 4 * width * take);
      this.#filled += take;
      this.#toGap -= take;
      read += take;
      this.#lookAtKnown(frames);
      if (this.#filled === this.#room) this.#compact();
    }
  }

  /** What is left, once no more come; a stream shorter than one window is one of its own length. */
  end(frames: Frames): void {
    const { size, width } = this.shape;
    if (this.#start > 0 || this.#filled === 0 || this.#filled >= size) {
      this.#lookAtKnown(frames);
      return;
    }
    const { memory } = this.kernel.run;
    new Float32Array(memory.buffer, this.#address(this.#filled), width * (size - this.#filled)).fill(0);
    const { factor, frameSamples } = this.shape;
    const end = Math.floor((this.#filled * factor - 1) / frameSamples) + 1;
    this.#lookAt(this.#address(), this.#filled, 0, Math.min(end, frames.powers.length));
  }

  #compact(): void {
    if (this.#next === 0) throw new Error('Frames came too late for their windows.');
    this.#filled -= this.#next;
    this.kernel.run.move(this.#address(), this.#address(this.#next), 4 * this.shape.width * this.#filled);
    this.#next = 0;
  }

  /** Stops where the frames that a window touches are not all known. */
  #lookAtKnown({ powers, isWhole }: Frames): void {
    const { size, hop, width, factor, frameSamples } = this.shape;
    const buffer = this.#address();
    while (this.#filled - this.#next >= size) {
      const start = this.#start;
      const end = Math.floor(((start + size) * factor - 1) / frameSamples) + 1;
      if (end > powers.length && !isWhole) return;
      const from = Math.floor((start * factor) / frameSamples);
      this.#lookAt(buffer + 4 * width * this.#next, size, from, Math.min(end, powers.length));
      const step = typeof hop === 'number' ? hop : hop(start);
      this.#next += step - this.#gap;
      this.#start = start + step;
    }
    if (this.#next < this.#filled) return;
    this.#next -= this.#filled;
    this.#filled = 0;
  }

  #lookAt(address: number, length: number, from: number, to: number): void {
    if (to <= from) return;
    const window = this.#window;
    window.address = address;
    window.length = length;
    window.start = this.#start;
    window.from = from;
    window.to = to;
    this.look(window);
  }
}

/** A Hann window with its spectrum engine; shorter ones are padded with silence. */
export class WindowSpectrum {
  readonly engine: SpectrumEngineInKernel;
  /** Sum of the window's squares. */
  windowPower: number;
  /** Samples of the window now. */
  #length: number;

  constructor(
    kernel: Kernel,
    readonly size: number,
    isComplex: boolean,
  ) {
    this.#length = size;
    this.windowPower = hannPower(size);
    this.engine = spectrumEngineIn(kernel, { size, isComplex, averages: 0, room: 0 });
  }

  /** Powers of the window at an address of the kernel; null where it is too short to have any. @returns `out`, the address of the powers */
  powersOf(address: number, length: number, out = this.engine.resultAddress()): number | null {
    if (length !== this.#length) {
      // A single sample has no spectrum.
      if (length < 2) return null;
      this.engine.setHann(length);
      this.windowPower = hannPower(length);
      this.#length = length;
    }
    this.engine.transformAt(address, out);
    return out;
  }
}
