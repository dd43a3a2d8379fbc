/** Samples at full scale, and tops that were cut off before the file was turned down. */
import type { Fraction } from '../../units/index.ts';

/** From where on a sample counts as full scale. */
export interface FullScale {
  /** Samples at or above this are at the positive end. */
  readonly positive: number;
  /** Samples at or below this are at the negative end. */
  readonly negative: number;
}

/** Counts samples of one channel that sit at full scale in runs of two or more of one polarity. */
export class ClippingMeter {
  clipped = 0;
  total = 0;
  #polarity = 0;
  #run = 0;

  constructor(readonly fullScale: FullScale) {}

  push(block: Float64Array | Float32Array): void {
    this.total += block.length;
    for (let n = 0; n < block.length; n++) {
      const x = block[n];
      const polarity = x >= this.fullScale.positive ? 1 : x <= this.fullScale.negative ? -1 : 0;
      if (polarity !== this.#polarity) {
        this.#polarity = polarity;
        this.#run = 0;
      }
      if (polarity === 0) continue;
      this.#run++;
      this.clipped += this.#run === 2 ? 2 : this.#run > 2 ? 1 : 0;
    }
  }

  /** Counts samples that are known to stay under full scale. */
  pass(count: number): void {
    this.total += count;
    if (count === 0) return;
    this.#polarity = 0;
    this.#run = 0;
  }
}

/** Share of clipped samples over all channels. */
export function clippedShare(channels: readonly ClippingMeter[]): Fraction {
  const total = channels.reduce((sum, channel) => sum + channel.total, 0);
  return total === 0 ? 0 : channels.reduce((sum, channel) => sum + channel.clipped, 0) / total;
}

/** How near to the top a sample must be to belong to a flat top. */
const FLAT_TOLERANCE = 3e-4;
const FLAT_RUN = 3;
/** A code larger than this share of the extreme hides how a top is shaped. */
const COARSE = 0.02;

/** Runs near one extreme of a recording, by what the least of their samples reaches. */
class TopsOfOneSide {
  /** The extreme so far; at least 0. */
  #extreme = 0;
  #run: number[] = [];
  #groups: { least: number; tops: number; samples: number }[] = [];

  constructor(readonly step: number) {}

  /** Samples at least this high belong to a flat top. */
  get threshold(): number {
    return this.#extreme - Math.max(this.#extreme * FLAT_TOLERANCE, 1.01 * this.step);
  }

  /** @param sign 1 for the tops, -1 for the bottoms */
  push(block: Float32Array, sign: 1 | -1): void {
    let threshold = this.threshold;
    let isRun = this.#run.length > 0;
    for (let n = 0; n < block.length; n++) {
      const x = sign * block[n];
      if (!(x >= threshold && x > 0)) {
        if (isRun) this.#end(false);
        isRun = false;
        continue;
      }
      if (x > this.#extreme) {
        this.#extreme = x;
        threshold = this.threshold;
        // What is no longer near the extreme was no flat top.
        this.#groups = this.#groups.filter(({ least }) => least >= threshold);
        while (this.#run.length > 0 && this.#run[this.#run.length - 1] < threshold) this.#run.pop();
      }
      this.#run.push(x);
      if (this.#run.length > LONGEST_RUN) this.#end(true);
      isRun = this.#run.length > 0;
    }
  }

  /** Samples that are known to stay far under the extreme. */
  pass(): void {
    if (this.#run.length > 0) this.#end(false);
  }

  #end(goesOn: boolean): void {
    const { threshold } = this;
    const run = this.#run.filter((x) => x >= threshold);
    this.#run = [];
    if (run.length < FLAT_RUN) return;
    const least = Math.min(...run);
    const tops = goesOn ? 0 : 1;
    const grain = Math.max(this.step, this.#extreme * FLAT_TOLERANCE) / 16;
    const near = this.#groups.find((group) => Math.abs(group.least - least) <= grain);
    if (near) {
      near.tops += tops;
      near.samples += run.length;
    } else this.#groups.push({ least, tops, samples: run.length });
  }

  result(): { readonly tops: number; readonly samples: number } {
    this.pass();
    // In so few codes every rounded top is flat.
    if (this.step > COARSE * this.#extreme) return { tops: 0, samples: 0 };
    return this.#groups.reduce((sum, { tops, samples }) => ({ tops: sum.tops + tops, samples: sum.samples + samples }), {
      tops: 0,
      samples: 0,
    });
  }
}

/** A run is put away in parts, so that none fills the memory. */
const LONGEST_RUN = 4096;

/**
 * Finds flat tops below full scale: runs of three or more samples that stay at one magnitude, the
 * file's largest of that polarity. A voice touches its largest value once; a clipped one again and again.
 */
export class FlatTopMeter {
  readonly #above: TopsOfOneSide;
  readonly #below: TopsOfOneSide;

  /** @param step size of one code (0 for floats) */
  constructor(step: number) {
    this.#above = new TopsOfOneSide(step);
    this.#below = new TopsOfOneSide(step);
  }

  /** Samples below the first and above the second can't belong to a flat top, and may be passed. */
  get limits(): readonly [number, number] {
    return [this.#above.threshold, -this.#below.threshold];
  }

  /** @param isHigh, isLow whether any of them reaches the upper, the lower limit */
  push(block: Float32Array, isHigh: boolean, isLow: boolean): void {
    if (isHigh) this.#above.push(block, 1);
    else this.#above.pass();
    if (isLow) this.#below.push(block, -1);
    else this.#below.pass();
  }

  pass(): void {
    this.#above.pass();
    this.#below.pass();
  }

  /** How many separate flat tops there were, and the samples in them. */
  result(): { readonly tops: number; readonly samples: number } {
    const [above, below] = [this.#above.result(), this.#below.result()];
    return { tops: above.tops + below.tops, samples: above.samples + below.samples };
  }
}
