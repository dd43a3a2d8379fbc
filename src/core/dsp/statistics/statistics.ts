/** Order statistics and other small sums over plain number lists. */

/**
 * Percentile with linear interpolation between ranks, as numpy.percentile's default.
 * @param values any order, at least one; @param percent 0 to 100
 */
export function percentile(values: ArrayLike<number>, percent: number): number {
  if (values.length <= LONG) return percentileOf(rising(values), percent);
  const own = new Float64Array(values);
  const rank = ((own.length - 1) * percent) / 100;
  const below = Math.floor(rank);
  select(own, below);
  // Behind it lies nothing smaller, in whatever order.
  let above = own[Math.min(below + 1, own.length - 1)];
  for (let k = below + 2; k < own.length; k++) if (own[k] < above) above = own[k];
  return own[below] + (rank - below) * (above - own[below]);
}

/** A sorted copy, for more than one question to `percentileOf`. */
export const rising = (values: ArrayLike<number>): Float64Array => new Float64Array(values).sort();

/** As `percentile`, of values in rising order. @param told what the two neighbours count as: decibels of powers, say */
export function percentileOf(sorted: Float64Array, percent: number, told = (value: number): number => value): number {
  const rank = ((sorted.length - 1) * percent) / 100;
  const below = Math.floor(rank);
  const [from, to] = [told(sorted[below]), told(sorted[Math.min(below + 1, sorted.length - 1)])];
  return from + (rank - below) * (to - from);
}

/** From so many values on, one of them is found faster than all are sorted. */
const LONG = 65536;

/** Brings the value of one rank to its place: nothing larger before it, nothing smaller behind (C. A. R. Hoare 1961). */
function select(values: Float64Array, rank: number): void {
  let [from, to] = [0, values.length - 1];
  while (from < to) {
    const middle = values[(from + to) >> 1];
    let [low, high] = [from, to];
    while (low <= high) {
      while (values[low] < middle) low++;
      while (values[high] > middle) high--;
      if (low > high) break;
      const kept = values[low];
      values[low++] = values[high];
      values[high--] = kept;
    }
    if (rank <= high) to = high;
    else if (rank >= low) from = low;
    else return;
  }
}

/** The 50th percentile. */
export const median = (values: ArrayLike<number>): number => percentile(values, 50);

/** Sum; 0 of nothing. */
export const sum = (values: ArrayLike<number>): number => {
  let total = 0;
  for (let k = 0; k < values.length; k++) total += values[k];
  return total;
};

/** Arithmetic mean; NaN of nothing. */
export const mean = (values: ArrayLike<number>): number => sum(values) / values.length;

/** Weighted mean; NaN when the weights sum to 0. */
export const weightedMean = (values: readonly number[], weights: readonly number[]): number =>
  sum(values.map((value, i) => value * weights[i])) / sum(weights);

/** Slope of the least-squares straight line through (x, y). */
export function slope(xs: readonly number[], ys: readonly number[]): number {
  const mx = mean(xs);
  const my = mean(ys);
  return sum(xs.map((x, i) => (x - mx) * (ys[i] - my))) / sum(xs.map((x) => (x - mx) ** 2));
}

/** Probability of at least `hits` in `trials` independent trials of probability `p` (binomial distribution). */
export function binomialTail(trials: number, hits: number, p: number): number {
  let total = 0;
  // Terms from the last one down, each from the one before: no large factorials.
  let term = p ** trials;
  for (let k = trials; k >= hits; k--) {
    total += term;
    term *= (k / (trials - k + 1)) * ((1 - p) / p);
  }
  return Math.min(1, total);
}

/** Root mean square deviation from the mean (of a population); NaN of nothing. */
export function standardDeviation(values: ArrayLike<number>): number {
  const middle = mean(values);
  return Math.sqrt(mean(Array.from(values, (x) => (x - middle) ** 2)));
}
