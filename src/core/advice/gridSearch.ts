/**
 * Least squares over a grid: one option from each slot, so that base + the options' vectors come nearest to
 * zero, plus a cost per option and one for every two options that get in each other's way. Small grids are tried out
 * whole; in large ones the search starts from many places and improves one slot at a time.
 */
import type { Random } from '../dsp/index.ts';

/** One slot: what a band can be set to. Vectors lie one after another, `width` numbers each. */
export interface Slot {
  readonly vectors: Float64Array;
  /** Added to the squared distance, one per option, not negative. */
  readonly costs: Float64Array;
  /** Option that stands now. */
  readonly present: number;
  /** Option that adds nothing. */
  readonly flat: number;
  /** Where each option acts, in octaves, and by how much in dB; slots that stand on one spot, or fight, cost extra. */
  readonly place?: { readonly octaves: Float64Array; readonly liftDb: Float64Array };
}

/** A position for each slot, and what it costs. */
export interface Solution {
  /** Chosen option of each slot. */
  readonly choice: readonly number[];
  /** Squared distance plus costs. */
  readonly score: number;
}

const RANDOM_STARTS = 16;
const BEAM = 16;
/** So many combinations are simply all tried. */
const SMALL_GRID = 100_000;
/** Two bands nearer than this do the work of one; each dB that the weaker one adds costs so much. */
const STACKED_OCTAVES = 0.7;
const STACKED_COST = 0.06;
/** One that lifts beside one that cuts, nearer than this: they fight over the ground between them. */
const FIGHTING_OCTAVES = 1.3;
const FIGHTING_COST = 0.06;

/** What two options cost together beyond what each costs alone. */
export function pairCost(octaves: number, liftA: number, liftB: number): number {
  if (liftA === 0 || liftB === 0) return 0;
  const isStacked = liftA > 0 === liftB > 0;
  const near = 1 - Math.abs(octaves) / (isStacked ? STACKED_OCTAVES : FIGHTING_OCTAVES);
  return near > 0 ? (isStacked ? STACKED_COST : FIGHTING_COST) * near * Math.min(Math.abs(liftA), Math.abs(liftB)) : 0;
}

function squaresOf(values: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i] * values[i];
  return sum;
}

class Search {
  readonly width: number;
  /** |v|^2 + cost of every option, and |v|. */
  readonly own: Float64Array[];
  readonly norm: Float64Array[];
  /** Where `gains` writes, and `residual`. */
  readonly #room: Float64Array;
  readonly #rest: Float64Array;

  constructor(
    readonly base: Float64Array,
    readonly slots: readonly Slot[],
  ) {
    this.width = base.length;
    this.#rest = new Float64Array(base.length);
    this.#room = new Float64Array(Math.max(1, ...slots.map((slot) => slot.costs.length)));
    this.norm = slots.map(({ vectors, costs }) =>
      costs.map((_, option) => {
        let sum = 0;
        for (let i = option * this.width; i < (option + 1) * this.width; i++) sum += vectors[i] ** 2;
        return Math.sqrt(sum);
      }),
    );
    this.own = slots.map(({ costs }, s) => costs.map((cost, option) => cost + this.norm[s][option] ** 2));
  }

  /** base + the vectors of all slots but one that is left out; good until the next call. */
  residual(choice: readonly number[], without = -1): Float64Array {
    const { width } = this;
    const rest = this.#rest;
    rest.set(this.base);
    for (let s = 0; s < choice.length; s++) {
      if (s === without) continue;
      const { vectors } = this.slots[s];
      const at = choice[s] * width;
      for (let i = 0; i < width; i++) rest[i] += vectors[at + i];
    }
    return rest;
  }

  score(choice: readonly number[]): number {
    let score = squaresOf(this.residual(choice));
    for (let s = 0; s < choice.length; s++) {
      score += this.slots[s].costs[choice[s]];
      for (let t = 0; t < s; t++) score += this.pair(s, choice[s], t, choice[t]);
    }
    return score;
  }

  /** What two slots' options cost together. */
  pair(s: number, option: number, t: number, other: number): number {
    const a = this.slots[s].place;
    const b = this.slots[t].place;
    return a && b ? pairCost(a.octaves[option] - b.octaves[other], a.liftDb[option], b.liftDb[other]) : 0;
  }

  /** The option of slot `s` that leaves least; the other slots stand at `choice`. */
  bestOption(s: number, choice: readonly number[]): number {
    const { width } = this;
    const own = this.own[s];
    const norm = this.norm[s];
    const { vectors } = this.slots[s];
    const rest = this.residual(choice, s);
    const length = 2 * Math.sqrt(squaresOf(rest));
    let best = 0;
    let least = Infinity;
    for (let option = 0; option < own.length; option++) {
      // No dot product is below minus both lengths, and no pair cost is negative: the innermost loop of the search.
      if (own[option] - length * norm[option] >= least) continue;
      const at = option * width;
      let dot = 0;
      for (let i = 0; i < width; i++) dot += rest[i] * vectors[at + i];
      let gain = 2 * dot + own[option];
      if (gain >= least - 1e-12) continue;
      gain += this.#pairs(s, option, choice);
      if (gain >= least - 1e-12) continue;
      best = option;
      least = gain;
    }
    return best;
  }

  /** What each option of a slot changes of the score, with the other slots at `choice`. */
  gains(s: number, choice: readonly number[]): Float64Array {
    const { width } = this;
    const own = this.own[s];
    const { vectors } = this.slots[s];
    const rest = this.residual(choice, s);
    const gains = this.#room.subarray(0, own.length);
    for (let option = 0; option < own.length; option++) {
      const at = option * width;
      let dot = 0;
      for (let i = 0; i < width; i++) dot += rest[i] * vectors[at + i];
      gains[option] = 2 * dot + own[option] + this.#pairs(s, option, choice);
    }
    return gains;
  }

  /** What an option of a slot costs beside all others. */
  #pairs(s: number, option: number, choice: readonly number[]): number {
    let cost = 0;
    for (let t = 0; t < choice.length; t++) if (t !== s) cost += this.pair(s, option, t, choice[t]);
    return cost;
  }

  /** Improves one slot after another until nothing moves. */
  descend(start: readonly number[]): number[] {
    const choice = [...start];
    for (let round = 0, moved = true; moved && round < 50; round++) {
      moved = false;
      for (let s = 0; s < choice.length; s++) {
        const before = this.score(choice);
        const kept = choice[s];
        choice[s] = this.bestOption(s, choice);
        if (choice[s] === kept) continue;
        if (this.score(choice) < before - 1e-9) moved = true;
        else choice[s] = kept;
      }
    }
    return choice;
  }

  /** The most promising options of a slot, best first, with the other slots at `choice`. */
  candidates(s: number, choice: readonly number[], most: number): number[] {
    const gains = this.gains(s, choice).slice();
    const limit = smallest(gains.slice(), Math.min(most, gains.length) - 1);
    const good: number[] = [];
    for (let option = 0; option < gains.length; option++) if (gains[option] <= limit) good.push(option);
    return good.sort((a, b) => gains[a] - gains[b]).slice(0, most);
  }

  /** The best of every combination: for small grids only. */
  bestOfAll(): number[] {
    const best = { score: Infinity, choice: this.slots.map((slot) => slot.present) };
    const choice = this.slots.map((slot) => slot.flat);
    const last = this.slots.length - 1;
    const visit = (s: number): void => {
      if (s === last) {
        choice[s] = this.bestOption(s, choice);
        const score = this.score(choice);
        if (score < best.score) {
          best.score = score;
          best.choice = [...choice];
        }
        return;
      }
      for (let option = 0; option < this.slots[s].costs.length; option++) {
        choice[s] = option;
        visit(s + 1);
      }
    };
    visit(0);
    return best.choice;
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
  if (slots.reduce((product, { costs }) => product * costs.length, 1) <= SMALL_GRID) keep(search.bestOfAll());
  for (const start of starts(search, slots, random)) keep(search.descend(start));
  return ranked(found);
}

/** What is come to from some choices by improving one slot after another, the best first. @param from at least one */
export function improved(base: Float64Array, slots: readonly Slot[], from: readonly (readonly number[])[]): Solution[] {
  const search = new Search(base, slots);
  const ends = from.map((choice) => search.descend(choice)).map((choice) => ({ choice, score: search.score(choice) }));
  return ends.sort((a, b) => a.score - b.score);
}

const ranked = (found: Map<string, Solution>): Solution[] => [...found.values()].sort((a, b) => a.score - b.score);

function* starts(search: Search, slots: readonly Slot[], random: Random): Generator<number[]> {
  const present = slots.map((slot) => slot.present);
  const flat = slots.map((slot) => slot.flat);
  yield present;
  yield flat;
  // Each slot first in turn, from a spread of its own best options; the others follow by descent.
  for (let s = 0; s < slots.length; s++) {
    const options = search.candidates(s, flat, Math.ceil(search.own[s].length / 4));
    const stride = Math.max(1, Math.floor(options.length / BEAM));
    for (let i = 0; i < BEAM && i * stride < options.length; i++) {
      const start = flat.with(s, options[i * stride]);
      for (let next = 1; next < slots.length; next++) {
        const t = (s + next) % slots.length;
        start[t] = search.bestOption(t, start);
      }
      yield start;
    }
  }
  for (let i = 0; i < RANDOM_STARTS; i++) {
    yield slots.map((slot) => Math.floor(random() * slot.costs.length));
  }
}

/** The value that would stand at `rank` if the values were sorted; reorders them (Hoare's selection). */
function smallest(values: Float64Array, rank: number): number {
  let low = 0;
  let high = values.length - 1;
  while (low < high) {
    const pivot = values[(low + high) >> 1];
    let i = low;
    let j = high;
    while (i <= j) {
      while (values[i] < pivot) i++;
      while (values[j] > pivot) j--;
      if (i > j) break;
      [values[i], values[j]] = [values[j], values[i]];
      i++;
      j--;
    }
    if (rank <= j) high = j;
    else if (rank >= i) low = i;
    else break;
  }
  return values[rank];
}
