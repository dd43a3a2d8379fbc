/**
 * Least squares over a grid: one option from each slot, so that base + the options' vectors come nearest to
 * zero, plus a cost per option. Starts from many places and improves one slot, then two at a time.
 */
import type { Random } from '../signal/random.ts';

/** One slot: what a band can be set to. Vectors lie one after another, `width` numbers each. */
export interface Slot {
  readonly vectors: Float64Array;
  /** Added to the squared distance, one per option, not negative. */
  readonly costs: Float64Array;
  /** Option that stands now. */
  readonly present: number;
  /** Option that adds nothing. */
  readonly flat: number;
}

export interface Solution {
  /** Chosen option of each slot. */
  readonly choice: readonly number[];
  /** Squared distance plus costs. */
  readonly score: number;
}

const RANDOM_STARTS = 16;
const BEAM = 16;
/** Candidates of a slot that the two-at-a-time step looks at. */
const PAIR_CANDIDATES = 150;

class Search {
  readonly width: number;
  /** |v|^2 + cost of every option. */
  readonly own: Float64Array[];

  constructor(
    readonly base: Float64Array,
    readonly slots: readonly Slot[],
  ) {
    this.width = base.length;
    this.own = slots.map(({ vectors, costs }) =>
      costs.map((cost, option) => {
        let sum = cost;
        for (let i = option * this.width; i < (option + 1) * this.width; i++) sum += vectors[i] ** 2;
        return sum;
      }),
    );
  }

  /** base + the vectors of all slots but those left out. */
  residual(choice: readonly number[], ...without: number[]): Float64Array {
    const rest = this.base.slice();
    choice.forEach((option, s) => {
      if (without.includes(s)) return;
      const { vectors } = this.slots[s];
      const at = option * this.width;
      for (let i = 0; i < this.width; i++) rest[i] += vectors[at + i];
    });
    return rest;
  }

  score(choice: readonly number[]): number {
    let score = 0;
    for (const value of this.residual(choice)) score += value * value;
    choice.forEach((option, s) => {
      score += this.slots[s].costs[option];
    });
    return score;
  }

  /** |rest + v|^2 + cost - |rest|^2 for an option. */
  gain(s: number, option: number, rest: Float64Array): number {
    const { vectors } = this.slots[s];
    let dot = 0;
    for (let i = 0, at = option * this.width; i < rest.length; i++, at++) dot += rest[i] * vectors[at];
    return 2 * dot + this.own[s][option];
  }

  bestOption(s: number, rest: Float64Array): number {
    let best = 0;
    let least = Infinity;
    for (let option = 0; option < this.own[s].length; option++) {
      const gain = this.gain(s, option, rest);
      if (gain < least - 1e-12) {
        least = gain;
        best = option;
      }
    }
    return best;
  }

  /** Improves one slot after another until nothing moves. */
  descend(start: readonly number[]): number[] {
    const choice = [...start];
    for (let round = 0, moved = true; moved && round < 50; round++) {
      moved = false;
      for (let s = 0; s < choice.length; s++) {
        const rest = this.residual(choice, s);
        const best = this.bestOption(s, rest);
        if (best !== choice[s] && this.gain(s, best, rest) < this.gain(s, choice[s], rest) - 1e-9) {
          choice[s] = best;
          moved = true;
        }
      }
    }
    return choice;
  }

  /** The most promising options of a slot, each judged with what the other slot makes of it left out. */
  candidates(s: number, rest: Float64Array, most: number): number[] {
    const gains = Array.from(this.own[s], (_, option) => this.gain(s, option, rest));
    return gains
      .map((_, option) => option)
      .sort((a, b) => gains[a] - gains[b])
      .slice(0, most);
  }

  /** Moves two slots together where that helps; returns null when it does not. */
  improvePairs(choice: readonly number[]): number[] | null {
    for (let a = 0; a < choice.length; a++) {
      for (let b = a + 1; b < choice.length; b++) {
        const rest = this.residual(choice, a, b);
        const restA = this.residual(choice, a);
        const fromA = [...new Set([...this.candidates(a, rest, PAIR_CANDIDATES), ...this.candidates(a, restA, PAIR_CANDIDATES)])];
        const restB = this.residual(choice, b);
        const fromB = [...new Set([...this.candidates(b, rest, PAIR_CANDIDATES), ...this.candidates(b, restB, PAIR_CANDIDATES)])];
        const better = this.#bestPair(choice, a, b, rest, fromA, fromB);
        if (better) return better;
      }
    }
    return null;
  }

  #bestPair(choice: readonly number[], a: number, b: number, rest: Float64Array, fromA: number[], fromB: number[]): number[] | null {
    const alone = fromB.map((option) => this.gain(b, option, rest));
    const va = this.slots[a].vectors;
    const vb = this.slots[b].vectors;
    const present = this.gain(a, choice[a], rest) + this.gain(b, choice[b], this.residual(choice, b));
    let least = present - 1e-9;
    let best: number[] | null = null;
    for (const optionA of fromA) {
      const gainA = this.gain(a, optionA, rest);
      for (let j = 0; j < fromB.length; j++) {
        let cross = 0;
        for (let i = 0, at = optionA * this.width, bt = fromB[j] * this.width; i < this.width; i++) cross += va[at + i] * vb[bt + i];
        const gain = gainA + alone[j] + 2 * cross;
        if (gain < least) {
          least = gain;
          best = choice.with(a, optionA).with(b, fromB[j]);
        }
      }
    }
    return best;
  }
}

/**
 * Searches the grid.
 * @param base  what is wrong now, one number per point, already weighted
 * @param random seeded, for the random starts
 * @returns different local optima, best first; at least one, never worse than every slot at `present`
 */
export function searchGrid(base: Float64Array, slots: readonly Slot[], random: Random): Solution[] {
  const search = new Search(base, slots);
  const found = new Map<string, Solution>();
  const keep = (choice: readonly number[]) => found.set(choice.join(), { choice, score: search.score(choice) });
  keep(slots.map((slot) => slot.present));
  for (const start of starts(search, slots, random)) keep(search.descend(start));
  for (const solution of ranked(found).slice(0, 3)) {
    let choice: readonly number[] = solution.choice;
    for (let round = 0; round < 10; round++) {
      const better = search.improvePairs(choice);
      if (!better) break;
      choice = search.descend(better);
    }
    keep(choice);
  }
  return ranked(found);
}

const ranked = (found: Map<string, Solution>): Solution[] => [...found.values()].sort((a, b) => a.score - b.score);

function* starts(search: Search, slots: readonly Slot[], random: Random): Generator<number[]> {
  const present = slots.map((slot) => slot.present);
  const flat = slots.map((slot) => slot.flat);
  yield present;
  yield flat;
  // Each slot first in turn, from a spread of its own best options; the others follow by descent.
  for (let s = 0; s < slots.length; s++) {
    const options = search.candidates(s, search.residual(flat, s), search.own[s].length);
    const stride = Math.max(1, Math.floor(options.length / 4 / BEAM));
    for (let i = 0; i < BEAM && i * stride < options.length; i++) {
      const start = flat.with(s, options[i * stride]);
      for (let next = 1; next < slots.length; next++) {
        const t = (s + next) % slots.length;
        start[t] = search.bestOption(t, search.residual(start, t));
      }
      yield start;
    }
  }
  for (let i = 0; i < RANDOM_STARTS; i++) {
    yield slots.map((slot) => Math.floor(random() * slot.costs.length));
  }
}
