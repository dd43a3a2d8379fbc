/**
 * The spectrum of a recording over its keyed transmissions. About the signal it has fine bins; in wide files what lies far off
 * (noise, other stations) is told by coarse ones, from one window in some, and laid out in the same steps.
 */
import {
  fftSizeFor,
  floatsAt,
  type Kernel,
  type PairBlock,
  type SamplesAt,
  type Spectrum,
  SpectrumAverager,
  Tuner,
} from '../../dsp/index.ts';
import type { Hertz } from '../../units/index.ts';
import { WIDEST_RADIO_BIN_HZ } from './iq.ts';
import { type Transmission, weighKeyed } from './keying.ts';

/** Widths are told within +-15 kHz of the signal (contract), which may stand a little off where it was looked for. */
const FINE_HALF_HZ: Hertz = 17_500;
const LEAST_FINE_RATE_HZ: Hertz = 48_000;
const COARSE_BIN_HZ: Hertz = 200;
/** Of so many coarse windows one is looked at, where there are enough. */
const COARSE_EVERY = 16;
const LEAST_COARSE = 64;

/** Feed it with blocks, then ask for the result. */
export class KeyedSpectrum {
  readonly #tuner: Tuner;
  readonly #fine: SpectrumAverager;
  /** Null where the file is no wider than what is told in fine bins. */
  readonly #coarse: SpectrumAverager | null;

  constructor(
    readonly kernel: Kernel,
    readonly sampleRateHz: Hertz,
    transmissions: readonly Transmission[],
    centreHz: Hertz,
  ) {
    const averager = (rate: Hertz, widestBinHz: Hertz, weigh: ReturnType<typeof weighKeyed>) =>
      new SpectrumAverager({ sampleRateHz: rate, size: fftSizeFor(rate, widestBinHz), averages: 1, weigh, isComplex: true, kernel });
    const isWide = sampleRateHz >= 2 * LEAST_FINE_RATE_HZ;
    const leastRateHz = isWide ? LEAST_FINE_RATE_HZ : sampleRateHz;
    this.#tuner = new Tuner(kernel, { sampleRateHz, centreHz: isWide ? centreHz : 0, keptHz: FINE_HALF_HZ, leastRateHz });
    const { factor } = this.#tuner;
    this.#fine = averager(this.#tuner.sampleRateHz, WIDEST_RADIO_BIN_HZ, weighKeyed(transmissions, factor));
    if (factor === 1) {
      this.#coarse = null;
      return;
    }
    const hop = fftSizeFor(sampleRateHz, COARSE_BIN_HZ) / 2;
    const windows = transmissions.reduce((sum, { from, to }) => sum + (to - from) / hop, 0);
    const every = Math.max(1, Math.min(COARSE_EVERY, Math.floor(windows / LEAST_COARSE)));
    const weigh = weighKeyed(transmissions, 1);
    this.#coarse = averager(sampleRateHz, COARSE_BIN_HZ, (start, length) => ((start / hop) % every === 0 ? weigh(start, length) : [0]));
  }

  push(block: PairBlock): void {
    this.#take(this.#tuner.push(block.stored()));
    this.#coarse?.push(block.values());
  }

  #take({ address, count }: SamplesAt): void {
    this.#fine.push(floatsAt(this.kernel, address, count));
  }

  /** From minus to plus half the file's rate; null where no window was keyed. */
  result(): Spectrum | null {
    if (this.#coarse) this.#take(this.#tuner.end());
    const [[fine], [coarse]] = [this.#fine.result(), this.#coarse?.result() ?? [null]];
    if (!fine || !coarse) return this.#coarse ? null : fine;
    const { binHz } = fine;
    const density = new Float64Array(Math.round(this.sampleRateHz / binHz));
    const firstHz = -this.sampleRateHz / 2;
    for (let k = 0; k < density.length; k++) {
      const offset = firstHz + k * binHz - this.#tuner.centreHz;
      density[k] =
        Math.abs(offset) <= FINE_HALF_HZ
          ? fine.density[Math.round((offset - fine.firstHz) / binHz)]
          : coarse.density[Math.min(coarse.density.length - 1, Math.round((k * binHz) / coarse.binHz))];
    }
    return { binHz, firstHz, density };
  }
}
