/** Seeded randomness, passed in wherever it is needed: the same seed gives the same numbers everywhere. */

/** Numbers evenly spread in [0, 1). */
export type Random = () => number;

/** Mulberry32 (public domain, 32-bit state). @param seed any integer */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Normally distributed numbers, mean 0 and variance 1 (Box and Muller 1958). */
export const gaussian = (random: Random): Random => {
  return () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
};
