/** Complex signals. */

/** I and Q of a complex signal, one array each, of one length. */
export interface Complex {
  readonly i: Float64Array;
  readonly q: Float64Array;
}

/** A complex signal turned by `hz`: moved up in frequency. */
export function shifted({ i, q }: Complex, rateHz: number, hz: number): Complex {
  const turn = (2 * Math.PI * hz) / rateHz;
  const moved = { i: new Float64Array(i.length), q: new Float64Array(i.length) };
  for (let n = 0; n < i.length; n++) {
    const c = Math.cos(turn * n);
    const s = Math.sin(turn * n);
    moved.i[n] = i[n] * c - q[n] * s;
    moved.q[n] = i[n] * s + q[n] * c;
  }
  return moved;
}
