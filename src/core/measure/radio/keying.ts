/**
 * When a transmitter was keyed, told from the power inside the signal's own channel: a wide recording with pauses then
 * measures like the keyed transmission alone (contract: on the air).
 */
import { ACTIVE_RANGE_DB, DownConverter, type Kernel, median, type PairBlock, percentile, type SamplesAt } from '../../dsp/index.ts';
import { dbToPower, type Hertz, type Power } from '../../units/index.ts';

/** Frames are told in parts: 10 ms each, five to a 50 ms frame, two to a 20 ms one. */
const PART_SECONDS = 0.01;

/** Length of the parts by which keying is found, in samples. */
export const partSamplesOf = (sampleRateHz: Hertz): number => Math.max(1, Math.round(sampleRateHz * PART_SECONDS));

/** The band that a signal fills. */
export interface SignalBand {
  readonly centreHz: Hertz;
  readonly halfWidthHz: Hertz;
}

/** Mean power of the parts of a recording inside a band. */
export class BandPower {
  readonly #channel: DownConverter;
  readonly #step: number;
  readonly #partSamples: number;
  readonly #sums: number[] = [];
  readonly #counts: number[] = [];
  #at = 0;

  constructor(
    readonly kernel: Kernel,
    sampleRateHz: Hertz,
    { centreHz, halfWidthHz }: SignalBand,
  ) {
    this.#channel = new DownConverter(kernel, {
      sampleRateHz,
      centreHz,
      halfWidthHz,
      transitionHz: halfWidthHz / 3,
      leastRateHz: 2.5 * halfWidthHz,
      isByBlocks: true,
    });
    this.#step = sampleRateHz / this.#channel.sampleRateHz;
    this.#partSamples = partSamplesOf(sampleRateHz);
  }

  push(block: PairBlock): void {
    this.#count(this.#channel.turning(block));
  }

  #count({ address, count }: SamplesAt): void {
    for (let n = 0; n < count; ) {
      const part = Math.floor(((this.#at + n) * this.#step) / this.#partSamples);
      const end = Math.min(count, Math.max(n + 1, Math.ceil(((part + 1) * this.#partSamples) / this.#step) - this.#at));
      this.#sums[part] = (this.#sums[part] ?? 0) + this.kernel.run.energy(address + 8 * n, 2 * (end - n));
      this.#counts[part] = (this.#counts[part] ?? 0) + end - n;
      n = end;
    }
    this.#at += count;
  }

  /** Once no more comes. */
  parts(): Power[] {
    this.#count(this.#channel.turningEnd());
    return this.#sums.map((sum, part) => sum / this.#counts[part]);
  }
}

/** Means of `size` neighbours; a last, smaller group counts only when it is the only one. */
export function inGroups(parts: readonly Power[], size: number): Power[] {
  const count = Math.max(1, Math.floor(parts.length / size));
  return Array.from({ length: count }, (_, g) => {
    const group = parts.slice(g * size, (g + 1) * size);
    return group.length === 0 ? 0 : group.reduce((a, b) => a + b, 0) / group.length;
  });
}

/** A frame of speech must stand this much over the noise in its channel to count as active. */
export const LEAST_OVER_NOISE: Power = 2;

/** Samples [from, to) of a recording. */
export interface Transmission {
  readonly from: number;
  readonly to: number;
}

/** A carrier counts as loud as it holds for so many frames: an impulse does not. */
const HELD_FRAMES = 5;
/** Pauses lie at least this far under the carrier, where nothing else tells the noise. */
const LEAST_PAUSE_DEPTH: Power = 8;
/** Under this much over the noise nothing can be told by level. */
const LEAST_CARRIER_OVER_NOISE: Power = 4;
/** Gaps of up to so many 20 ms frames are no pause. */
const BRIDGED_FRAMES = 3;
/** A keyed transmitter's edges are not modulation: so much is left out at each end (contract). */
const EDGE_SECONDS = 0.04;

/**
 * The keyed transmissions of a signal with a carrier (AM, FM), each less 40 ms at its ends; empty when there is none.
 * @param parts mean powers of 10 ms each  @param noise power of the noise in the band, null where unknown
 */
export function keyedTransmissions(parts: readonly Power[], sampleRateHz: Hertz, noise: Power | null): Transmission[] {
  const frames = inGroups(parts, 2);
  const least = leastKeyed(frames, noise);
  const frameSamples = 2 * partSamplesOf(sampleRateHz);
  const edge = Math.round(EDGE_SECONDS * sampleRateHz);
  const found: Transmission[] = [];
  let first = -1;
  let last = -1;
  const close = () => {
    const [from, to] = [first * frameSamples + edge, (last + 1) * frameSamples - edge];
    if (first >= 0 && to > from) found.push({ from, to });
  };
  frames.forEach((power, k) => {
    if (!(power > 0 && power >= least)) return;
    if (first >= 0 && k - last > BRIDGED_FRAMES + 1) {
      close();
      first = k;
    }
    if (first < 0) first = k;
    last = k;
  });
  close();
  return found;
}

/** Half way (in dB) between the noise and the carrier, and never more than 25 dB under the carrier. */
function leastKeyed(frames: readonly Power[], noise: Power | null): Power {
  let held = 0;
  for (let k = 0; k < frames.length; k++) held = Math.max(held, Math.min(...frames.slice(k, k + HELD_FRAMES)));
  const quiet = noise ?? percentile(frames, 5);
  const isTold = noise === null ? held > LEAST_PAUSE_DEPTH * quiet : held > LEAST_CARRIER_OVER_NOISE * quiet;
  const contract = held * dbToPower(-ACTIVE_RANGE_DB);
  return isTold ? Math.max(contract, Math.sqrt(held * quiet)) : contract;
}

/** Fewer parts of a pause than this tell no noise. */
const LEAST_PAUSE_PARTS = 10;

/** Median power of what lies outside the keyed transmissions and their edges; null where there is hardly anything. */
export function pausePower(parts: readonly Power[], transmissions: readonly Transmission[], sampleRateHz: Hertz): Power | null {
  const size = partSamplesOf(sampleRateHz);
  const edge = 2 * EDGE_SECONDS * sampleRateHz;
  const isPause = (at: number) => transmissions.every(({ from, to }) => at + size < from - edge || at > to + edge);
  const pauses = parts.filter((_, k) => isPause(k * size));
  return pauses.length < LEAST_PAUSE_PARTS ? null : median(pauses);
}

/** The parts of a block, in its own samples, that lie in keyed transmissions. @param step samples of the recording to one of the block */
export function eachKeyed(
  transmissions: readonly Transmission[],
  step: number,
  first: number,
  count: number,
  use: (from: number, to: number, transmission: Transmission) => void,
): void {
  for (const transmission of transmissions) {
    const from = Math.max(0, Math.ceil(transmission.from / step) - first);
    const to = Math.min(count, Math.floor(transmission.to / step) - first);
    if (to > from) use(from, to, transmission);
  }
}

/** Weighs windows of a spectrum: 1 when the whole window lies in one transmission. @param step as of `eachKeyed` */
export const weighKeyed = (transmissions: readonly Transmission[], step: number) => (start: number, length: number) =>
  [transmissions.some(({ from, to }) => start * step >= from && (start + length) * step <= to) ? 1 : 0] as const;
