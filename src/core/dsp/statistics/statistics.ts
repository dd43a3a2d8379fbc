/** Order statistics and other small sums over plain number lists. */

/**
 * Percentile with linear interpolation between ranks, as numpy.percentile's default.
 * @param values any order, at least one; @param percent 0 to 100
 */
export function percentile(values: ArrayLike<number>, percent: number): number {
  const sorted = Float64Array.from(values).sort();
  const rank = ((sorted.length - 1) * percent) / 100;
  const below = Math.floor(rank);
  const above = Math.min(below + 1, sorted.length - 1);
  return sorted[below] + (rank - below) * (sorted[above] - sorted[below]);
}

/** The 50th percentile. */
export const median = (values: ArrayLike<number>): number => percentile(values, 50);

/** Sum; 0 of nothing. */
export const sum = (values: Iterable<number>): number => {
  let total = 0;
  for (const value of values) total += value;
  return total;
};

/** Arithmetic mean; NaN of nothing. */
export const mean = (values: ArrayLike<number>): number => sum(Array.from(values)) / values.length;

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
