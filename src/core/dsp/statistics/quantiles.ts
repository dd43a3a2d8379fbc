/** Percentiles of long streams in constant memory, by counting. */

/** Value below which `percent` of the counted ones lie, straight inside a bin. @param edge lower edge of a bin */
export function atPercent(counts: ArrayLike<number>, total: number, percent: number, edge: (bin: number) => number): number {
  let left = (total * percent) / 100;
  for (let bin = 0; bin < counts.length; bin++) {
    if (counts[bin] >= left && counts[bin] > 0) return edge(bin) + (left / counts[bin]) * (edge(bin + 1) - edge(bin));
    left -= counts[bin];
  }
  return edge(counts.length);
}

/** Counts values of [-reach, reach] in `bins` equal bins; values beyond fall into the outermost. */
export class LinearCounter {
  readonly counts: Uint32Array;
  total = 0;

  constructor(
    readonly reach: number,
    bins: number,
  ) {
    this.counts = new Uint32Array(bins);
  }

  push(values: Float64Array): void {
    const { counts, reach } = this;
    const scale = counts.length / (2 * reach);
    const last = counts.length - 1;
    for (let n = 0; n < values.length; n++) {
      const bin = Math.floor((values[n] + reach) * scale);
      counts[bin < 0 ? 0 : bin > last ? last : bin]++;
    }
    this.total += values.length;
  }

  readonly #edge = (bin: number) => (2 * this.reach * bin) / this.counts.length - this.reach;

  /** Null of nothing. */
  percentile(percent: number): number | null {
    return this.total === 0 ? null : atPercent(this.counts, this.total, percent, this.#edge);
  }

  /** Share of the values below one; whole bins only. */
  shareBelow(value: number): number {
    const last = Math.floor(((value + this.reach) * this.counts.length) / (2 * this.reach));
    return this.total === 0 ? 0 : this.counts.subarray(0, Math.max(0, last)).reduce((a, b) => a + b, 0) / this.total;
  }

  /** Percentile of |value - middle|; null of nothing. */
  percentileAround(middle: number, percent: number): number | null {
    if (this.total === 0) return null;
    const width = (2 * this.reach) / this.counts.length;
    const distances = new Float64Array(2 * this.counts.length);
    this.counts.forEach((count, bin) => {
      const distance = Math.abs(this.#edge(bin) + width / 2 - middle) / width;
      distances[Math.min(Math.floor(distance), distances.length - 1)] += count;
    });
    return atPercent(distances, this.total, percent, (bin) => bin * width);
  }
}
