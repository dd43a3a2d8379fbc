/** Where along each curve its name is read best: far from the other curves and names, with room to the edges. */

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
/** The middle of a name lies about this far from its curve, as a share of the range drawn; it is as high as that. */
const NAME_HEIGHT = 0.075;

interface Box {
  readonly hz: number;
  readonly db: number;
}

const near = (points: Points, hz: number): number[] =>
  points.flatMap(([at, db]) => (db !== null && Math.abs(Math.log2(at / hz)) <= HALF_WIDTH_OCTAVES ? [db] : []));

/**
 * Places the names of all curves, one after another.
 * @param curves what shares the chart
 * @param range  lowest and highest level drawn
 */
export function placeLabels(curves: readonly Points[], range: readonly [number, number]): LabelPlace[] {
  const taken: Box[] = [];
  return curves.map((own) => {
    const others = curves.filter((other) => other !== own);
    const { place, box } = placeLabel(own, others, range, taken);
    if (box) taken.push(box);
    return place;
  });
}

function placeLabel(
  own: Points,
  others: readonly Points[],
  [low, high]: readonly [number, number],
  taken: readonly Box[],
): { place: LabelPlace; box: Box | null } {
  const height = NAME_HEIGHT * (high - low);
  let best: { place: LabelPlace; box: Box | null } = { place: { at: Math.floor(own.length / 2), side: 'top' }, box: null };
  let most = -Infinity;
  own.forEach(([hz, db], at) => {
    if (db === null || hz < LOWEST_HZ || hz > HIGHEST_HZ || db <= low || db >= high) return;
    const ownNear = near(own, hz);
    const otherNear = others.flatMap((points) => near(points, hz));
    // The name sits just above (below) the curve; what counts is the room from there to the next line.
    const above = Math.min(high, ...otherNear.filter((other) => other > db)) - Math.max(db, ...ownNear);
    const below = Math.min(db, ...ownNear) - Math.max(low, ...otherNear.filter((other) => other < db));
    const steepness = Math.max(...ownNear) - Math.min(...ownNear);
    for (const [side, room, box] of [
      ['top', above, { hz, db: db + height / 2 }],
      ['bottom', below, { hz, db: db - height / 2 }],
    ] as const) {
      const isTaken = taken.some(
        (each) => Math.abs(Math.log2(each.hz / hz)) < 2 * HALF_WIDTH_OCTAVES && Math.abs(each.db - box.db) < height,
      );
      const score = Math.min(room, ENOUGH_DB) - 1.2 * steepness - (isTaken ? 100 : 0);
      if (score > most) {
        most = score;
        best = { place: { at, side }, box };
      }
    }
  });
  return best;
}
