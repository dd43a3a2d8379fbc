/** Where along each curve its name is read best: near it, on no curve, on no other name, inside the plot. In pixels. */

/** A curve as it is drawn, from left to right; a gap where y is not finite. */
export type Polyline = readonly (readonly [x: number, y: number])[];

export interface Named {
  readonly name: string;
  readonly line: Polyline;
}

export interface NamePlace {
  /** Index of the point the name is tied to. */
  readonly at: number;
  /** Middle of the name, from that point. */
  readonly dx: number;
  readonly dy: number;
}

interface Box {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

const LETTER = 7;
const HEIGHT = 16;
/** Air between a name and any line. */
const AIR = 3;
/** How far from its curve a name is tried, in steps. */
const FARTHEST = 96;
const STEP = 4;

/** Highest and lowest place of a line in each pixel column; columns without it are infinite. */
function columns(line: Polyline, width: number): { top: Float64Array; bottom: Float64Array } {
  const top = new Float64Array(width + 1).fill(Number.POSITIVE_INFINITY);
  const bottom = new Float64Array(width + 1).fill(Number.NEGATIVE_INFINITY);
  for (let k = 0; k < line.length; k++) {
    const [x0, y0] = line[k];
    const [x1, y1] = line[k + 1] ?? line[k];
    if (!Number.isFinite(y0)) continue;
    const isJoined = Number.isFinite(y1);
    for (let x = Math.max(0, Math.floor(x0)); x <= Math.min(width, isJoined ? Math.ceil(x1) : x0); x++) {
      const share = isJoined && x1 > x0 ? Math.min(1, Math.max(0, (x - x0) / (x1 - x0))) : 0;
      const y = isJoined ? y0 + share * (y1 - y0) : y0;
      top[x] = Math.min(top[x], y);
      bottom[x] = Math.max(bottom[x], y);
    }
  }
  return { top, bottom };
}

const meet = (a: Box, b: Box): boolean => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

/**
 * Places names one after another; what finds no free room near its curve gets none.
 * @param size of the plot, whose left top corner is 0, 0
 */
export function placeNames(curves: readonly Named[], size: { readonly width: number; readonly height: number }): (NamePlace | null)[] {
  const width = Math.max(0, Math.floor(size.width));
  const drawn = curves.map(({ line }) => columns(line, width));
  const taken: Box[] = [];
  const isFree = (box: Box): boolean => {
    if (box.left < 0 || box.right > size.width || box.top < 0 || box.bottom > size.height) return false;
    if (taken.some((other) => meet(box, other))) return false;
    return drawn.every(({ top, bottom }) => {
      for (let x = Math.floor(box.left); x <= Math.ceil(box.right); x++) {
        if (top[x] <= box.bottom + AIR && bottom[x] >= box.top - AIR) return false;
      }
      return true;
    });
  };
  return curves.map(({ name, line }) => {
    if (name === '') return null;
    const half = (LETTER * name.length) / 2;
    const boxAt = (x: number, y: number): Box => ({ left: x - half, right: x + half, top: y - HEIGHT / 2, bottom: y + HEIGHT / 2 });
    const every = Math.max(1, Math.floor(line.length / 160));
    for (let away = HEIGHT / 2 + AIR; away <= FARTHEST; away += STEP) {
      const found: { place: NamePlace; box: Box; middle: number }[] = [];
      for (let at = 0; at < line.length; at += every) {
        const [x, y] = line[at];
        if (!Number.isFinite(y) || y < 0 || y > size.height) continue;
        for (const dy of [-away, away]) {
          const box = boxAt(x, y + dy);
          if (isFree(box)) found.push({ place: { at, dx: 0, dy }, box, middle: Math.abs(x - size.width / 2) });
        }
      }
      if (found.length === 0) continue;
      const best = found.reduce((a, b) => (b.middle < a.middle ? b : a));
      taken.push(best.box);
      return best.place;
    }
    return null;
  });
}
