/** Small symmetric systems of equations. */

/** Lower triangle L of a symmetric positive definite matrix, with A = L L'. @throws RangeError for one that is not */
function cholesky(a: readonly (readonly number[])[]): number[][] {
  const lower = a.map((row) => row.map(() => 0));
  for (let i = 0; i < a.length; i++) {
    for (let j = 0; j <= i; j++) {
      let left = a[i][j];
      for (let k = 0; k < j; k++) left -= lower[i][k] * lower[j][k];
      if (i === j && !(left > 0)) throw new RangeError('The matrix is not positive definite.');
      lower[i][j] = i === j ? Math.sqrt(left) : left / lower[j][j];
    }
  }
  return lower;
}

/** Solves A x = b for each column of right-hand sides; A symmetric and positive definite. Source: Cholesky's method. */
export function solveSymmetric(a: readonly (readonly number[])[], sides: readonly (readonly number[])[]): number[][] {
  const lower = cholesky(a);
  const n = a.length;
  return sides.map((b) => {
    const y: number[] = [];
    for (let i = 0; i < n; i++) y[i] = lower[i].slice(0, i).reduce((left, value, k) => left - value * y[k], b[i]) / lower[i][i];
    const x: number[] = new Array(n).fill(0);
    for (let i = n - 1; i >= 0; i--) {
      let left = y[i];
      for (let k = i + 1; k < n; k++) left -= lower[k][i] * x[k];
      x[i] = left / lower[i][i];
    }
    return x;
  });
}
