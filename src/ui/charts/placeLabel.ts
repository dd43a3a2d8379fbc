/** Where along a curve its name is read best: farthest from the other curves, with room to the edges. */

export type Points = readonly (readonly [hz: number, db: number | null])[];

export interface LabelPlace {
  /** Index of the point that carries the name. */
  readonly at: number;
  readonly side: 'top' | 'bottom';
}

/** Names are about this wide on a chart from 80 Hz to 5 kHz; half of it lies on each side of the point. */
const HALF_WIDTH_OCTAVES = 0.45;
const LOWEST_HZ = 115;
const HIGHEST_HZ = 3300;
/** More room than this is no better. */
const ENOUGH_DB = 7;

const near = (points: Points, hz: number): number[] =>
  points.flatMap(([at, db]) => (db !== null && Math.abs(Math.log2(at / hz)) <= HALF_WIDTH_OCTAVES ? [db] : []));

/**
 * @param own    the curve to be named
 * @param others curves it shares the chart with
 * @param range  lowest and highest level drawn
 */
export function placeLabel(own: Points, others: readonly Points[], [low, high]: readonly [number, number]): LabelPlace {
  let best: LabelPlace = { at: Math.floor(own.length / 2), side: 'top' };
  let most = -Infinity;
  own.forEach(([hz, db], at) => {
    if (db === null || hz < LOWEST_HZ || hz > HIGHEST_HZ || db <= low || db >= high) return;
    const ownNear = near(own, hz);
    const otherNear = others.flatMap((points) => near(points, hz));
    // The name sits just above (below) the curve; what counts is the room from there to the next line.
    const above = Math.min(high, ...otherNear.filter((other) => other > db)) - Math.max(db, ...ownNear);
    const below = Math.min(db, ...ownNear) - Math.max(low, ...otherNear.filter((other) => other < db));
    const steepness = Math.max(...ownNear) - Math.min(...ownNear);
    for (const [side, room] of [
      ['top', above],
      ['bottom', below],
    ] as const) {
      const score = Math.min(room, ENOUGH_DB) - 1.2 * steepness;
      if (score > most) {
        most = score;
        best = { at, side };
      }
    }
  });
  return best;
}
