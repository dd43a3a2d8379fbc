/**
 * A recording's values brought into the kernel's memory, handed on in pieces of one length however it is read. A file's
 * bytes may be read straight to where they are used.
 */
import type { Kernel } from './kernel.ts';

/** Values in the kernel's memory: floats, or 16-bit codes (full scale 32768). */
export interface PieceAt {
  readonly address: number;
  readonly count: number;
  readonly isCodes: boolean;
}

/** Bytes that one block of a file may have and still be read straight to its place. */
const BLOCK_BYTES = 1 << 18;

/** Feed it with blocks of one recording. */
export class Pieces {
  /** Where blocks are put; what is left of the one before stands in front of it. */
  readonly #block: number;
  #left = 0;
  #isCodes = false;

  /** @param length values of a piece; the last may be shorter  @param use told each; it is good until the next */
  constructor(
    readonly kernel: Kernel,
    readonly length: number,
    readonly use: (piece: PieceAt) => void,
  ) {
    this.#block = kernel.take(length + BLOCK_BYTES / 4).address + 4 * length;
  }

  /** Where the next block may be read to. The memory may have moved since the one before. */
  room = (bytes: number): Uint8Array | undefined =>
    bytes <= BLOCK_BYTES ? new Uint8Array(this.kernel.run.memory.buffer, this.#block, bytes) : undefined;

  push(block: Int16Array | Float32Array | Float64Array): void {
    this.#isCodes = block instanceof Int16Array;
    const most = BLOCK_BYTES / this.#width;
    for (let at = 0; at < block.length; at += most) this.#take(block.subarray(at, at + most));
  }

  /** Hands on what is left, once no more come. */
  end(): void {
    if (this.#left > 0) this.#handOn(this.#block - this.#width * this.#left, this.#left);
    this.#left = 0;
  }

  get #width(): number {
    return this.#isCodes ? 2 : 4;
  }

  #take(part: Int16Array | Float32Array | Float64Array): void {
    const { kernel } = this;
    const { memory, move } = kernel.run;
    const width = this.#width;
    const isThere = part.buffer === memory.buffer && part.byteOffset === this.#block;
    if (!isThere) {
      const room = { address: this.#block, length: part.length };
      if (part instanceof Int16Array) kernel.codes(room).set(part);
      else kernel.floats(room).set(part);
    }
    let at = this.#block - width * this.#left;
    let left = this.#left + part.length;
    for (; left >= this.length; left -= this.length, at += width * this.length) this.#handOn(at, this.length);
    move(this.#block - width * left, at, width * left);
    this.#left = left;
  }

  #handOn(address: number, count: number): void {
    this.use({ address, count, isCodes: this.#isCodes });
  }
}
