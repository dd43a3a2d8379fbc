/** The search behind the equalizer fit: every combination of dial positions, band by band, weighed against what it costs. */
import { seededRandom } from '../dsp/index.ts';
import type { DialValues } from '../rig/index.ts';
import { BandGrid, type GridSlot } from './bandGrid.ts';
import { type FitSearch, projection } from './fitQuestion.ts';
import { improved, type Slot, type Solution, searchGrid } from './gridSearch.ts';
import { bandEffects } from './toneError.ts';

const RANDOM_SEED = 20;
/** How many ends of the search over a sample are refined. */
const REFINED = 12;

/** So many ends of the search are where the least error is looked for. */
const LEAST_FROM = 6;

/** What a search comes to. */
export interface Searched {
  /** Dial values that leave little error for what they cost, the best first. */
  readonly ends: readonly DialValues[];
  /** Those that leave the least error, whatever they cost. */
  readonly nearest: () => DialValues;
}

/** Dial values that leave little error. */
export function searchFit(question: FitSearch): Searched {
  const { basis, awake, bands, heardDb, presentDb } = question;
  const project = projection(question);
  const base = new Float64Array(project.width);
  const removed = bandEffects(basis, heardDb);
  project.shape(
    basis.bands.map((band, b) => band.heardDb - removed[b] - band.targetDb),
    base,
    0,
  );
  project.level(
    presentDb.map((db) => -db),
    base,
    0,
  );
  base[project.width - 1] -= Math.sqrt(question.costs.level) * (question.levelDb ?? 0);
  const grids = bands.map((band) => new BandGrid(question, band, project));
  const valuesAt = (options: Options) => {
    const values = { ...awake.values };
    grids.forEach((grid, s) => {
      const own = grid.valuesOf(options[s]);
      grid.dials.forEach((dial, d) => {
        values[dial.id] = own[d];
      });
    });
    return values;
  };
  const sample = grids.map((grid) => grid.slot(grid.sample()));
  const first = searchGrid(base, sample, seededRandom(RANDOM_SEED)).map((found) => onGrid(sample, found));
  const isWhole = grids.every((grid, s) => grid.size === sample[s].options.length);
  const ends = isWhole ? first : [...first, ...refined(base, grids, first.slice(0, REFINED), (slot) => slot)];
  const best = ranked(ends);
  const nearest = () => {
    const start = base.slice();
    start[project.width - 1] = 0;
    return valuesAt(ranked(refined(start, grids, best.slice(0, LEAST_FROM), (slot) => freeOf(slot, project.width)))[0].options);
  };
  return { ends: best.map(({ options }) => valuesAt(options)), nearest };
}

/** An option of each grid. */
type Options = readonly number[];

interface Place {
  readonly options: Options;
  readonly score: number;
}

const onGrid = (slots: readonly GridSlot[], { choice, score }: Solution): Place => ({
  options: choice.map((option, s) => slots[s].options[option]),
  score,
});

/** Each place once, the best first. */
const ranked = (places: readonly Place[]): Place[] =>
  [...new Map(places.map((place) => [place.options.join(), place])).values()].sort((a, b) => a.score - b.score);

/** Two rounds are usual; a place that wanders has more. */
const MOST_ROUNDS = 12;

/** Improves places by what lies near them on the grids, until none moves. @param as what counts of the options */
function refined(base: Float64Array, grids: readonly BandGrid[], from: readonly Place[], as: (slot: GridSlot) => Slot): Place[] {
  const found: Place[] = [];
  let places = from;
  for (let round = 0; round < MOST_ROUNDS && places.length > 0; round++) {
    const slots = grids.map((grid, s) => grid.slot(grid.near(places.map(({ options }) => options[s]))));
    const starts = places.map(({ options }) => options.map((option, s) => slots[s].options.indexOf(option)));
    const next = improved(base, slots.map(as), starts).map((solution) => onGrid(slots, solution));
    found.push(...next);
    const before = new Set(places.map(({ options }) => options.join()));
    places = ranked(next.filter(({ options }) => !before.has(options.join())));
  }
  return found;
}

/** A slot whose options cost nothing: neither turns and lifts, nor the level, which is the last number of each. */
function freeOf({ vectors, costs, present, flat }: Slot, width: number): Slot {
  const shapes = vectors.slice();
  for (let at = width - 1; at < shapes.length; at += width) shapes[at] = 0;
  return { vectors: shapes, costs: new Float64Array(costs.length), present, flat };
}
