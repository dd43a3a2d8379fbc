/** The best that can be had: points that no other beats in both reach and naturalness. */

/** A card's place on the plane. */
export interface PlanePoint {
  readonly reachDb: number;
  readonly score: number;
}

/** Those points in order of reach. Of equal ones the first stays. */
export function frontier<P extends PlanePoint>(points: readonly P[]): P[] {
  const best: P[] = [];
  for (const point of [...points].sort((a, b) => b.reachDb - a.reachDb || b.score - a.score)) {
    const last = best[best.length - 1];
    if (!last || point.score > last.score) best.push(point);
  }
  return best.reverse();
}
