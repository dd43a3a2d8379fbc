/** Where names stand beside their points, so that none lies on another or on a point. */

export interface NamedSpot {
  readonly name: string;
  /** Pixels from the left and from the top. */
  readonly x: number;
  readonly y: number;
}

export type NameSide = 'right' | 'left' | 'top' | 'bottom';

const LETTER = 7;
const HEIGHT = 16;
const AWAY = 11;
/** Half of a point, with a little air. */
const POINT = 7;

interface Box {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

const boxAt = ({ name, x, y }: NamedSpot, side: NameSide): Box => {
  const width = LETTER * name.length;
  const left = side === 'right' ? x + AWAY : side === 'left' ? x - AWAY - width : x - width / 2;
  const top = side === 'top' ? y - AWAY - HEIGHT : side === 'bottom' ? y + AWAY : y - HEIGHT / 2;
  return { left, right: left + width, top, bottom: top + HEIGHT };
};
const meet = (a: Box, b: Box): boolean => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

/**
 * @param spots  the first ones choose first
 * @param others points without a name
 * @param width  of the plot
 * @returns the side of each name; null where there is no room
 */
export function placeNames(spots: readonly NamedSpot[], others: readonly Omit<NamedSpot, 'name'>[], width: number): (NameSide | null)[] {
  const taken: Box[] = [...spots, ...others].map(({ x, y }) => ({ left: x - POINT, right: x + POINT, top: y - POINT, bottom: y + POINT }));
  return spots.map((spot, k) => {
    const own = taken[k];
    const free = (['right', 'left', 'top', 'bottom'] as const).find((side) => {
      const box = boxAt(spot, side);
      return box.left >= 0 && box.right <= width && !taken.some((other) => other !== own && meet(box, other));
    });
    if (free) taken.push(boxAt(spot, free));
    return free ?? null;
  });
}
