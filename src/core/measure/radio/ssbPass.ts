/**
 * One pass over an SSB recording: a fine spectrum about the voice, a coarse one of the whole file, the envelope, and the
 * moments of the voice, all sorted by level until the end tells what was talk.
 */
import {
  Decimator,
  fftSizeFor,
  Halver,
  type Kernel,
  lowPassTaps,
  type PairBlock,
  type SamplesAt,
  type Spectrum,
  Tuner,
} from '../../dsp/index.ts';
import type { Sideband } from '../../modem/index.ts';
import type { Hertz, Power } from '../../units/index.ts';
import { FrameLedger } from '../frameWindows.ts';
import { LevelSpectra, LevelTally } from './byLevel.ts';
import { VoiceMoments } from './growth.ts';
import { WIDEST_RADIO_BIN_HZ } from './iq.ts';
import { partSamplesOf, type SignalBand } from './keying.ts';

/** The voice's middle, from the carrier. */
const CENTRE_HZ: Hertz = 1500;
/** Widths and extents are told this far from the carrier and the middle (contract: +-15 kHz). */
const FINE_HALF_HZ: Hertz = 16_500;
const LEAST_FINE_RATE_HZ: Hertz = 48_000;
/** The envelope is that of this channel about the voice's middle. */
const ENVELOPE_HALF_HZ: Hertz = 12_000;
const ENVELOPE_TRANSITION_HZ: Hertz = 6000;
/** A half-band filter serves where its corner comes near enough to that. */
const HALF_BAND_RATES_HZ: readonly [Hertz, Hertz] = [46_000, 52_000];
/** The power in the band tells talk; fewer pairs than this a second would tell it less well. */
const LEAST_BAND_RATE_HZ: Hertz = 4000;
/** Slope of the band's edges, re its half width. */
const BAND_SLOPE = 0.6;
/** What stands far from the voice is noise and other stations: coarse, and one window of so many pairs. */
const COARSE_BIN_HZ: Hertz = 200;
const COARSE_HOP = 16;

/** Anything that takes pairs and gives fewer. */
interface Narrowing {
  push(pairs: SamplesAt): SamplesAt;
}

/** What the talk, the pauses and the loudest moments look like, and the envelope of the talk. */
export interface SsbPassResult {
  /** About the voice, in fine bins. */
  readonly fine: { readonly active: Spectrum | null; readonly highest: Spectrum | null };
  /** Of the whole file, in coarse bins. */
  readonly coarse: { readonly active: Spectrum | null; readonly pauses: Spectrum | null };
  /** 99.9 percentile of the envelope's power (null of nothing), and its mean. */
  readonly envelope: { readonly top: Power | null; readonly mean: Power };
  /** Power of the weakest frame that is talk. */
  readonly least: Power;
}

/** Feed it with blocks, then ask for the result. */
export class SsbPass {
  readonly moments: VoiceMoments;
  readonly #tuner: Tuner;
  readonly #narrow: Narrowing;
  readonly #inBand: Decimator;
  readonly #fine: LevelSpectra;
  readonly #coarse: LevelSpectra;
  readonly #envelope: LevelTally;
  /** Samples of the recording to a pair of the envelope, and of the band. */
  readonly #narrowFactor: number;
  readonly #bandFactor: number;
  readonly #frames: FrameLedger;
  #frameSum = 0;
  #frameCount = 0;
  /** Pairs taken so far. */
  #tunedAt = 0;
  #narrowAt = 0;
  #bandAt = 0;
  #samples = 0;

  /** @param band by whose power talk is told from pauses */
  constructor(
    readonly kernel: Kernel,
    rateHz: Hertz,
    carrierHz: Hertz,
    sideband: Sideband,
    band: SignalBand,
  ) {
    const sign = sideband === 'usb' ? 1 : -1;
    const frameSamples = 5 * partSamplesOf(rateHz);
    this.#frames = new FrameLedger(frameSamples);
    const middle = carrierHz + sign * CENTRE_HZ;
    this.#tuner = new Tuner(kernel, { sampleRateHz: rateHz, centreHz: middle, keptHz: FINE_HALF_HZ, leastRateHz: LEAST_FINE_RATE_HZ });
    const { sampleRateHz, factor, centreHz } = this.#tuner;
    const { narrow, step } = narrowing(kernel, sampleRateHz);
    this.#narrow = narrow;
    this.#narrowFactor = factor * step;
    const narrowRate = sampleRateHz / step;
    const bandStep = Math.max(1, Math.floor(narrowRate / LEAST_BAND_RATE_HZ));
    this.#bandFactor = this.#narrowFactor * bandStep;
    const transition = BAND_SLOPE * band.halfWidthHz;
    const fits = band.halfWidthHz + transition / 2 < narrowRate / 2;
    const taps = fits ? lowPassTaps(narrowRate, band.halfWidthHz, transition) : Float64Array.of(1);
    this.#inBand = new Decimator(kernel, narrowRate, bandStep, taps, band.centreHz - centreHz);
    const size = fftSizeFor(sampleRateHz, WIDEST_RADIO_BIN_HZ);
    this.#fine = new LevelSpectra(kernel, {
      sampleRateHz,
      centreHz,
      factor,
      frameSamples,
      size,
      hop: size / 2,
      keptHz: FINE_HALF_HZ,
      keeps: 'highest',
    });
    const coarse = fftSizeFor(rateHz, COARSE_BIN_HZ);
    this.#coarse = new LevelSpectra(kernel, {
      sampleRateHz: rateHz,
      centreHz: 0,
      factor: 1,
      frameSamples,
      size: coarse,
      hop: COARSE_HOP * coarse,
      keeps: 'pauses',
    });
    this.#envelope = new LevelTally(kernel, this.#narrowFactor);
    this.moments = new VoiceMoments(
      kernel,
      { sampleRateHz: narrowRate, factor: this.#narrowFactor, frameSamples },
      carrierHz - centreHz,
      sign,
    );
  }

  push(block: PairBlock): void {
    this.#samples += block.count;
    const raw = block.stored();
    this.#take(this.#tuner.push(raw), raw);
  }

  #take(all: SamplesAt, raw: SamplesAt | null): void {
    const allNarrow = this.#narrow.push(all);
    this.#watch(this.#inBand.push(allNarrow));
    // What came behind the stream to bring the rest out is no part of it.
    const within = ({ address, count }: SamplesAt, done: number, factor: number): SamplesAt => ({
      address,
      count: Math.min(count, Math.ceil(this.#samples / factor) - done),
    });
    const tuned = within(all, this.#tunedAt, this.#tuner.factor);
    const narrow = within(allNarrow, this.#narrowAt, this.#narrowFactor);
    this.#tunedAt += tuned.count;
    this.#narrowAt += narrow.count;
    const frames = this.#frames.known(raw === null);
    this.#fine.push(tuned, frames);
    if (raw) this.#coarse.push(raw, frames);
    this.#envelope.push(narrow, frames);
    this.moments.push(narrow, frames);
  }

  #watch({ address, count }: SamplesAt): void {
    for (let n = 0; n < count; ) {
      // The first pair of the next frame.
      const end = Math.ceil(((this.#frames.powers.length + 1) * this.#frames.frameSamples) / this.#bandFactor);
      const upTo = Math.min(count, n + end - this.#bandAt);
      this.#frameSum += this.kernel.run.energy(address + 8 * n, 2 * (upTo - n));
      this.#frameCount += upTo - n;
      this.#bandAt += upTo - n;
      n = upTo;
      if (this.#bandAt === end) this.#endFrame();
    }
  }

  #endFrame(): void {
    this.#frames.add(this.#frameCount === 0 ? 0 : this.#frameSum / this.#frameCount);
    this.#frameSum = 0;
    this.#frameCount = 0;
  }

  /** @param leastPower told the spectrum of the whole recording: a frame with less power than this is no talk, however quiet the loudest one is */
  result(leastPower: (mean: Spectrum | null) => Power): SsbPassResult {
    // Silence behind the stream brings out what the filters still hold.
    const tail = Math.ceil((TAIL_S * this.#frames.frameSamples) / 0.05);
    this.#take(this.#tuner.silence(tail), null);
    if (this.#frames.powers.length === 0) this.#endFrame();
    // A last, shorter frame counts only when it is the only one.
    this.#frames.keep(Math.max(1, Math.floor(this.#samples / this.#frames.frameSamples)));
    const frames = this.#frames.known(true);
    this.#fine.end(frames);
    this.#coarse.end(frames);
    this.moments.end(frames, this.#narrowAt);
    const least = Math.max(leastPower(this.#coarse.whole()), this.#frames.least);
    return { fine: this.#fine.result(least), coarse: this.#coarse.result(least), envelope: this.#envelope.result(least, 99.9), least };
  }
}

const TAIL_S = 0.1;

/** From the fine rate to the envelope's. */
function narrowing(kernel: Kernel, rateHz: Hertz): { narrow: Narrowing; step: number } {
  const [from, to] = HALF_BAND_RATES_HZ;
  if (rateHz >= from && rateHz <= to) {
    return { narrow: new Halver(kernel, rateHz, rateHz / 4 - ENVELOPE_TRANSITION_HZ / 2), step: 2 };
  }
  // A file as narrow as the channel is the channel.
  if (ENVELOPE_HALF_HZ + ENVELOPE_TRANSITION_HZ / 2 >= rateHz / 2) return { narrow: { push: (pairs) => pairs }, step: 1 };
  const step = Math.max(1, Math.floor(rateHz / (2 * ENVELOPE_HALF_HZ)));
  return { narrow: new Decimator(kernel, rateHz, step, lowPassTaps(rateHz, ENVELOPE_HALF_HZ, ENVELOPE_TRANSITION_HZ), 0), step };
}
