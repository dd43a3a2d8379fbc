/** Where names stand beside their points, so that none lies on another, on a point or on a line. */

interface Spot {
  /** Pixels from the left and from the top. */
  readonly x: number;
  readonly y: number;
}

export interface NamedSpot extends Spot {
  readonly name: string;
  /** Named even where there is no free room. */
  readonly isNeeded?: boolean;
}

/** Sides of a point, nearest first; up and down lift the name half a line. */
const SIDES = ['right', 'left', 'top', 'bottom', 'right up', 'right down', 'left up', 'left down'] as const;
export type NameSide = (typeof SIDES)[number];

const LETTER = 7;
const HEIGHT = 16;
const AWAY = 11;
/** How far a name is lifted. */
export const LIFT = 13;
/** Half of a point, with a little air. */
const POINT = 7;
/** Half of a line, with a little air, and how closely it is looked at. */
const LINE = 3;
const EVERY = 6;

interface Box {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

const around = ({ x, y }: Spot, half: number): Box => ({ left: x - half, right: x + half, top: y - half, bottom: y + half });

function boxAt({ name, x, y }: NamedSpot, side: NameSide): Box {
  const width = LETTER * name.length;
  const left = side.startsWith('right') ? x + AWAY : side.startsWith('left') ? x - AWAY - width : x - width / 2;
  const lift = side.endsWith('up') ? -LIFT : side.endsWith('down') ? LIFT : 0;
  const top = side === 'top' ? y - AWAY - HEIGHT : side === 'bottom' ? y + AWAY : y + lift - HEIGHT / 2;
  return { left, right: left + width, top, bottom: top + HEIGHT };
}
const meet = (a: Box, b: Box): boolean => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

/** Small boxes along a line. */
const along = (line: readonly Spot[]): Box[] =>
  line.slice(1).flatMap((to, k) => {
    const from = line[k];
    const steps = Math.max(1, Math.ceil(Math.hypot(to.x - from.x, to.y - from.y) / EVERY));
    return Array.from({ length: steps + 1 }, (_, i) =>
      around({ x: from.x + ((to.x - from.x) * i) / steps, y: from.y + ((to.y - from.y) * i) / steps }, LINE),
    );
  });

/**
 * @param spots the first ones choose first
 * @param line  corners of a line that no name may lie on
 * @param width of the plot
 * @returns the side of each name; null where there is no room
 */
export function placeNames(spots: readonly NamedSpot[], line: readonly Spot[], width: number): (NameSide | null)[] {
  const points = spots.map((spot) => around(spot, POINT));
  const taken = [...points, ...along(line)];
  return spots.map((spot, k) => {
    const free = SIDES.find((side) => {
      const box = boxAt(spot, side);
      return box.left >= 0 && box.right <= width && !taken.some((other) => other !== points[k] && meet(box, other));
    });
    const side = free ?? (spot.isNeeded ? 'right' : null);
    if (side) taken.push(boxAt(spot, side));
    return side;
  });
}
