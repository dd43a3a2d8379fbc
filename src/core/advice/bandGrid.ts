/** A band's dials as a grid: every combination of their positions, of which only those are worked out that are looked at. */
import { addResponseDb, type Biquad, halfSines, TWELFTH_CENTRES } from '../dsp/index.ts';
import { bandCentre, bandFilter, type Dial, type DialValue, MODEL_RATE_HZ, positionsOf } from '../rig/index.ts';
import { type FitSearch, levelCost, movableDials, type Projection } from './fitQuestion.ts';
import type { Slot } from './gridSearch.ts';
import { bandEffects } from './toneError.ts';

/** About so many options are a sample. */
const SAMPLE = 700;
/** Odd and no multiple of 5: a sample does not run in step with grids of 2, 5 or 10 positions. */
const STRIDES = [1, 3, 7, 11, 13, 17, 19, 23, 29];
/** So many positions of each dial on either side are near. */
const NEAR = 3;

/** Some options of a grid as a slot of the search. */
export interface GridSlot extends Slot {
  /** Which they are: their numbers on the grid. */
  readonly options: Int32Array;
}

/** The options are numbered, the last dial's positions running fastest. */
export class BandGrid {
  readonly dials: readonly Dial[];
  readonly #positions: readonly (readonly DialValue[])[];
  /** Options from one position of a dial to its next. */
  readonly #strides: readonly number[];
  readonly #isAllowed: Uint8Array;
  /** Options that may be set, in rising order. */
  readonly #allowed: Int32Array;
  /** Where the dials stand, and what does nothing or least. */
  readonly present: number;
  readonly #flat: number;
  readonly #effects: Effects;

  constructor(
    readonly question: FitSearch,
    readonly band: FitSearch['bands'][number],
    readonly project: Projection,
  ) {
    const { rig, awake } = question;
    this.dials = movableDials(rig, band);
    this.#positions = this.dials.map(({ scale }) => positionsOf(scale));
    const lengths = this.#positions.map(({ length }) => length);
    this.#strides = lengths.map((_, d) => lengths.slice(d + 1).reduce((product, length) => product * length, 1));
    this.present = this.dials.reduce((number, dial, d) => number + this.#strides[d] * this.#positions[d].indexOf(awake.values[dial.id]), 0);
    this.#isAllowed = this.#rule(lengths.reduce((product, length) => product * length, 1));
    this.#allowed = new Int32Array(this.#isAllowed.length).map((_, option) => option).filter((option) => this.#isAllowed[option] === 1);
    const levels = this.#positions[this.#level].map((level) => Math.abs(Number(level)));
    this.#flat = this.#allowed.reduce((best, option) =>
      levels[this.#place(option, this.#level)] < levels[this.#place(best, this.#level)] ? option : best,
    );
    this.#effects = new Effects(question, project);
  }

  get #level(): number {
    return this.dials.findIndex((dial) => dial.id === this.band.level);
  }

  /** Where a dial stands at an option. */
  #place(option: number, dial: number): number {
    return Math.floor(option / this.#strides[dial]) % this.#positions[dial].length;
  }

  /** Which options may be set. At 0 dB centre and width do nothing: one option stands for them all, with the dials where they are. */
  #rule(count: number): Uint8Array {
    const { isInsideOnly, passbandHz, awake } = this.question;
    const { band, dials, present } = this;
    const level = this.#level;
    const stride = this.#strides[level];
    const isZero = this.#positions[level].map((value) => Number(value) === 0);
    const others = present - stride * this.#place(present, level);
    const centre = dials.findIndex((dial) => dial.id === band.centre);
    const isInside = (hz: number) => !isInsideOnly || band.shape !== 'bell' || (hz >= passbandHz[0] && hz <= passbandHz[1]);
    const inside = centre < 0 ? [isInside(bandCentre(band, awake.values))] : this.#positions[centre].map((hz) => isInside(Number(hz)));
    const isAllowed = new Uint8Array(count);
    for (let option = 0; option < count; option++) {
      const at = this.#place(option, level);
      const isFine = isZero[at]
        ? option - stride * at === others
        : inside[centre < 0 ? 0 : this.#place(option, centre)] || option === present;
      isAllowed[option] = isFine ? 1 : 0;
    }
    return isAllowed;
  }

  /** How many options there are. */
  get size(): number {
    return this.#allowed.length;
  }

  /** What each dial is set to. */
  valuesOf(option: number): DialValue[] {
    return this.#positions.map((positions, d) => positions[this.#place(option, d)]);
  }

  /** Options spread over the grid; all of them when there are few. */
  sample(): Int32Array {
    const allowed = this.#allowed;
    const stride = STRIDES.find((each) => allowed.length / each <= SAMPLE) ?? 31;
    const chosen = new Set([this.present, this.#flat]);
    for (let k = 0; k < allowed.length; k += stride) chosen.add(allowed[k]);
    return Int32Array.from(chosen);
  }

  /** All that lie near some options, and what stands now. */
  near(options: readonly number[]): Int32Array {
    const found = new Set([this.present, this.#flat]);
    for (const option of new Set(options)) {
      found.add(option);
      const visit = (dial: number, number: number): void => {
        if (dial === this.dials.length) {
          if (this.#isAllowed[number] === 1) found.add(number);
          return;
        }
        const place = this.#place(option, dial);
        const last = Math.min(this.#positions[dial].length - 1, place + NEAR);
        for (let at = Math.max(0, place - NEAR); at <= last; at++) visit(dial + 1, number + this.#strides[dial] * at);
      };
      visit(0, 0);
    }
    return Int32Array.from(found).sort();
  }

  /** Some options as a slot. */
  slot(options: Int32Array): GridSlot {
    const { band, present } = this;
    const { costs, awake, rig } = this.question;
    const { width } = this.project;
    const vectors = new Float64Array(options.length * width);
    const own = new Float64Array(options.length);
    const octaves = new Float64Array(options.length);
    const liftDb = new Float64Array(options.length);
    const values: Record<string, DialValue> = { ...awake.values };
    for (let k = 0; k < options.length; k++) {
      const option = options[k];
      let moved = 0;
      for (let d = 0; d < this.dials.length; d++) {
        const place = this.#place(option, d);
        values[this.dials[d].id] = this.#positions[d][place];
        if (place !== this.#place(present, d)) moved++;
      }
      const level = Number(values[band.level]);
      own[k] = costs.move * moved + levelCost(level, costs);
      octaves[k] = Math.log2(bandCentre(band, values));
      liftDb[k] = costs.crowding * level;
      this.#effects.write(option, () => bandFilter(rig, band, values), vectors, k * width);
    }
    return {
      options,
      vectors,
      costs: own,
      place: costs.crowding === 0 ? undefined : { octaves, liftDb },
      present: options.indexOf(present),
      flat: options.indexOf(this.#flat),
    };
  }
}

/** What filters do to the bands that count, projected; each option's worked out once. */
class Effects {
  readonly #phis: Float64Array;
  /** What a decibel at each frequency adds to each number of a vector: all of it is linear. */
  readonly #weights: Float64Array;
  readonly #own: Float64Array;
  readonly #width: number;
  readonly #rows = new Map<number, number>();
  #vectors: Float64Array;

  constructor({ basis }: FitSearch, project: Projection) {
    const used = [...new Set(basis.bands.flatMap((each) => each.parts))];
    this.#phis = halfSines(
      MODEL_RATE_HZ,
      used.map((i) => TWELFTH_CENTRES[i]),
    );
    this.#width = project.width;
    this.#own = new Float64Array(used.length);
    this.#weights = new Float64Array(used.length * project.width);
    const response = new Float64Array(TWELFTH_CENTRES.length);
    used.forEach((i, k) => {
      response.fill(0)[i] = 1;
      project.shape(bandEffects(basis, response), this.#weights, k * project.width);
      project.level(response, this.#weights, k * project.width);
    });
    this.#vectors = new Float64Array(1024 * project.width);
  }

  /** @param filter asked for where the option is new */
  write(option: number, filter: () => Biquad, into: Float64Array, at: number): void {
    const width = this.#width;
    const row = this.#rows.get(option) ?? this.#workOut(option, filter());
    const vectors = this.#vectors;
    for (let i = 0; i < width; i++) into[at + i] = vectors[row * width + i];
  }

  #workOut(option: number, filter: Biquad): number {
    const width = this.#width;
    const row = this.#rows.size;
    this.#rows.set(option, row);
    if ((row + 1) * width > this.#vectors.length) {
      const more = new Float64Array(2 * this.#vectors.length);
      more.set(this.#vectors);
      this.#vectors = more;
    }
    const own = this.#own;
    addResponseDb(filter, this.#phis, own.fill(0));
    const [vectors, weights] = [this.#vectors, this.#weights];
    const first = row * width;
    for (let k = 0; k < own.length; k++) for (let i = 0; i < width; i++) vectors[first + i] += weights[k * width + i] * own[k];
    return row;
  }
}
