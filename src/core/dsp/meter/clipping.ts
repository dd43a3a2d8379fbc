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

  push(block: Float64Array): void {
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

/**
 * Finds flat tops below full scale: runs of three or more samples that stay at one magnitude, the
 * file's largest of that polarity. A voice touches its largest value once; a clipped one again and again.
 */
export class FlatTopMeter {
  /** How many separate flat tops there were. */
  tops = 0;
  /** Samples in them. */
  samples = 0;
  #polarity = 0;
  #run = 0;

  /** @param highest largest sample of the file; @param lowest smallest; @param step size of one code (0 for floats) */
  constructor(
    readonly highest: number,
    readonly lowest: number,
    readonly step: number,
  ) {}

  push(block: Float64Array): void {
    const slack = (extreme: number) => Math.max(Math.abs(extreme) * FLAT_TOLERANCE, 1.01 * this.step);
    const high = this.highest - slack(this.highest);
    const low = this.lowest + slack(this.lowest);
    for (let n = 0; n < block.length; n++) {
      const x = block[n];
      const polarity = x >= high && x > 0 ? 1 : x <= low && x < 0 ? -1 : 0;
      if (polarity !== this.#polarity) {
        this.#polarity = polarity;
        this.#run = 0;
      }
      if (polarity === 0) continue;
      this.#run++;
      if (this.#run === FLAT_RUN) {
        this.tops++;
        this.samples += FLAT_RUN;
      } else if (this.#run > FLAT_RUN) this.samples++;
    }
  }
}
