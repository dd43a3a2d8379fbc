/**
 * One pass over a voice recording in constant memory: levels, loudness, clipping, spectra, pitch, hum and pops. What
 * depends on where talk is, is sorted by level until the end tells it.
 */
import {
  ClippingMeter,
  FlatTopMeter,
  FRAME_SECONDS,
  FrameLevels,
  Halver,
  type Kernel,
  type KernelArray,
  LEAST_VOICED_SHARE,
  LoudnessMeter,
  LowBand,
  median,
  PitchFinder,
  percentile,
  type SamplesAt,
  SpeechCounter,
  StepReader,
  stepsAt,
} from '../../dsp/index.ts';
import type { SampleSource } from '../../files/index.ts';
import type { Fraction, Hertz, Power } from '../../units/index.ts';
import { FrameLedger, FrameWindows, firstStepOf, type KnownFrames } from '../frameWindows.ts';
import { HumMeter } from './hum.ts';
import { PlosiveMeter } from './plosives.ts';
import { TalkSpectra, type TalkSpectraResult } from './talkSpectra.ts';

/** The rate is halved while what is told of a voice stays whole. */
const LEAST_RATE_HZ: Hertz = 20_000;
/** Loudness keeps to a rate at which the standard's filters have their printed shape. */
const LEAST_LOUDNESS_RATE_HZ: Hertz = 40_000;
const HIGHEST_LOUDNESS_HZ: Hertz = 16_000;
/** Flat to here on the way down, and a little less above. */
const KEPT_HZ: Hertz = 7000;
const BLOCK_SAMPLES = 8192;
/** Pitch is looked for so often; less often once much of it is known. */
const PITCH_HOP_S = 0.02;
const LATER_PITCH_HOP_S = 0.04;
const CLOSE_PITCH_S = 60;

/** All that one pass tells. */
export interface VoicePassResult {
  readonly frames: FrameLevels;
  readonly speech: SpeechCounter;
  readonly loudnessLufs: number | null;
  readonly clipping: readonly ClippingMeter[];
  readonly samples: number;
  readonly spectra: TalkSpectraResult;
  /** Median over the voiced frames of the talk; null when too few are voiced. */
  readonly pitchHz: Hertz | null;
  readonly flatTops: { readonly tops: number; readonly samples: number };
  readonly plosives: PlosiveMeter;
  readonly hum: HumMeter;
}

/** Feed it with blocks of one channel, then ask for the result. */
export class VoicePass {
  readonly #steps: StepReader;
  readonly #frameSteps: number;
  readonly #frames: FrameLedger;
  readonly #speech: SpeechCounter;
  /** Down to the rate for loudness, and on to that for the rest. */
  readonly #early: readonly Halver[];
  readonly #late: readonly Halver[];
  readonly #factor: number;
  readonly #loudness: LoudnessMeter;
  readonly #spectra: TalkSpectra;
  readonly #low: LowBand;
  readonly #pitch: PitchOfTalk;
  readonly #flatTops: FlatTopMeter;
  readonly #plosives: PlosiveMeter;
  readonly #hum: HumMeter;
  readonly #clipping: readonly ClippingMeter[];
  readonly #peak: KernelArray;
  #frameEnergy = 0;
  #inFrame = 0;
  #highest = 0;
  #lowest = 0;
  #samples = 0;
  /** Samples that went on at the two lower rates. */
  #heard = 0;
  #lowered = 0;

  constructor(
    readonly kernel: Kernel,
    source: Pick<SampleSource, 'sampleRateHz' | 'codeStep' | 'fullScale' | 'channels'>,
  ) {
    const rate = source.sampleRateHz;
    const { step, frame } = stepsAt(rate, FRAME_SECONDS);
    this.#steps = new StepReader(kernel, rate, step);
    this.#frameSteps = frame / step;
    this.#frames = new FrameLedger(frame);
    this.#speech = new SpeechCounter(kernel, rate);
    const halved = (from: Hertz, least: Hertz, kept: Hertz) => {
      const halvers: Halver[] = [];
      for (let each = from; each / 2 >= least; each /= 2) halvers.push(new Halver(kernel, each, kept, 1));
      return halvers;
    };
    this.#early = halved(rate, LEAST_LOUDNESS_RATE_HZ, HIGHEST_LOUDNESS_HZ);
    const middle = rate / 2 ** this.#early.length;
    this.#late = halved(middle, LEAST_RATE_HZ, KEPT_HZ);
    const low = middle / 2 ** this.#late.length;
    this.#factor = rate / low;
    const shape = { sampleRateHz: low, factor: this.#factor, frameSamples: frame };
    this.#loudness = new LoudnessMeter(kernel, middle, Math.round((2 * frame * middle) / rate));
    this.#spectra = new TalkSpectra(kernel, shape);
    this.#low = new LowBand(kernel, low);
    this.#pitch = new PitchOfTalk(kernel, this.#low.sampleRateHz, this.#factor * this.#low.factor, frame);
    this.#plosives = new PlosiveMeter(kernel, this.#low.thinnedRateHz);
    this.#hum = new HumMeter(kernel, this.#low.thinnedRateHz);
    this.#flatTops = new FlatTopMeter(source.codeStep);
    this.#peak = kernel.take(2, 8);
    this.#clipping = Array.from({ length: source.channels }, () => new ClippingMeter(source.fullScale));
  }

  /** So many samples are best pushed at once: whole steps, that fit the processor's caches. */
  get blockSamples(): number {
    return this.#steps.step * Math.ceil(BLOCK_SAMPLES / this.#steps.step);
  }

  /** @param mono as many samples as `blockSamples`; the last may be fewer  @param pairs both channels as stored, where there are two */
  push(mono: SamplesAt, pairs: SamplesAt | null): void {
    this.#samples += mono.count;
    const steps = this.#steps.push(mono);
    this.#speech.push(steps, this.#steps.step);
    // A last step that is not whole has not been looked at.
    const isWhole = mono.count % this.#steps.step === 0;
    let [highest, lowest] = isWhole ? [0, 0] : [Infinity, -Infinity];
    for (let from = 0; from < steps.count; ) {
      const to = Math.min(steps.count, from + this.#frameSteps - this.#inFrame);
      const totals = this.#steps.totals(steps, from, to);
      this.#widen(totals.highest, totals.lowest);
      highest = Math.max(highest, totals.highest);
      lowest = Math.min(lowest, totals.lowest);
      this.#frameEnergy += totals.power;
      this.#inFrame += to - from;
      from = to;
      if (this.#inFrame === this.#frameSteps) this.#endFrame(this.#frames.frameSamples);
    }
    const samples = this.kernel.floats({ address: mono.address, length: mono.count });
    this.#flatTops.push(samples, highest, lowest);
    this.#countClipping(samples, highest, lowest, pairs);
    this.#onward(mono, false);
  }

  #widen(highest: number, lowest: number): void {
    this.#highest = Math.max(this.#highest, highest);
    this.#lowest = Math.min(this.#lowest, lowest);
  }

  #countClipping(mono: Float32Array, highest: number, lowest: number, pairs: SamplesAt | null): void {
    const [{ fullScale }] = this.#clipping;
    if (pairs === null) {
      if (highest >= fullScale.positive || lowest <= fullScale.negative) this.#clipping[0].push(mono);
      else this.#clipping[0].pass(mono.length);
      return;
    }
    this.kernel.run.squares(pairs.address, 2 * pairs.count, this.#peak.address);
    const isFull = this.kernel.doubles(this.#peak)[1] >= Math.min(fullScale.positive, -fullScale.negative);
    const both = this.kernel.floats({ address: pairs.address, length: 2 * pairs.count });
    for (const [c, meter] of this.#clipping.entries()) {
      if (isFull) meter.push(both.filter((_, n) => n % 2 === c));
      else meter.pass(pairs.count);
    }
  }

  #endFrame(samples: number): void {
    this.#frames.add(this.#frameEnergy / samples);
    this.#frameEnergy = 0;
    this.#inFrame = 0;
  }

  #onward(mono: SamplesAt, isWhole: boolean): void {
    // What came behind the stream to bring the rest out is no part of it.
    const within = ({ address, count }: SamplesAt, factor: number, done: number): SamplesAt => ({
      address,
      count: Math.max(0, Math.min(count, Math.ceil(this.#samples / factor) - done)),
    });
    const through = (halvers: readonly Halver[], samples: SamplesAt) => halvers.reduce((passed, halver) => halver.push(passed), samples);
    const middle = through(this.#early, mono);
    const heard = within(middle, 2 ** this.#early.length, this.#heard);
    this.#heard += heard.count;
    this.#loudness.push(heard);
    const low = within(through(this.#late, middle), this.#factor, this.#lowered);
    this.#lowered += low.count;
    const frames = this.#frames.known(isWhole);
    this.#spectra.push(low, frames);
    const lowest = this.#low.push(low);
    this.#pitch.push(lowest, frames);
    const thinned = this.#low.thinned(lowest);
    this.#plosives.push(thinned);
    this.#hum.push(thinned);
  }

  /** Once no more come. */
  result(): VoicePassResult {
    const { samples, steps: last } = this.#steps.end();
    this.#speech.push(last, samples);
    if (last.count > 0) {
      const totals = this.#steps.totals(last, 0, 1);
      this.#widen(totals.highest, totals.lowest);
      this.#frameEnergy += totals.power;
    }
    const { powers, frameSamples } = this.#frames;
    if (powers.length === 0 && this.#samples > 0) this.#endFrame(this.#samples);
    const halvers = [...this.#early, ...this.#late];
    const tail = halvers.reduce((sum, halver, k) => sum + halver.tail * 2 ** k, 2 * this.#factor);
    this.#onward({ address: this.kernel.take(tail).address, count: tail }, true);
    const known = this.#frames.known(true);
    this.#spectra.end(known);
    this.#pitch.end(known);
    const frames = new FrameLevels(powers, frameSamples, Math.max(this.#highest, -this.#lowest));
    const { least } = this.#frames;
    const heard = powers.filter((power) => power > 0);
    const quietest = heard.length === 0 ? 0 : percentile(heard, 25);
    const steps = Array.from({ length: Math.floor(powers.length / 2) }, (_, k) => (powers[2 * k] + powers[2 * k + 1]) / 2);
    return {
      frames,
      speech: this.#speech,
      loudnessLufs: this.#loudness.result(this.#early.length > 0 ? steps : undefined),
      clipping: this.#clipping,
      samples: this.#samples,
      spectra: this.#spectra.result(least, quietest),
      pitchHz: this.#pitch.medianHz(least),
      flatTops: this.#flatTops.result(),
      plosives: this.#plosives,
      hum: this.#hum,
    };
  }
}

/** Pitches of frames, with the level that decides whether at least half of what each touches is talk. */
class PitchOfTalk {
  readonly #windows: FrameWindows;
  readonly #finder: PitchFinder;
  readonly #found: { readonly step: number; readonly pitchHz: Hertz | null }[] = [];
  #leastStep = 0;

  constructor(kernel: Kernel, rateHz: Hertz, factor: number, frameSamples: number) {
    this.#finder = new PitchFinder(kernel, rateHz);
    const hop = (start: number) => Math.round((start < CLOSE_PITCH_S * rateHz ? PITCH_HOP_S : LATER_PITCH_HOP_S) * rateHz);
    this.#windows = new FrameWindows(
      kernel,
      { width: 1, factor, frameSamples, size: this.#finder.size, hop },
      ({ steps }, address, length) => {
        const step = steps.length === 2 ? Math.max(...steps) : [...steps].sort((a, b) => b - a)[Math.ceil(steps.length / 2) - 1];
        if (step < this.#leastStep || length < this.#finder.size) return;
        this.#found.push({ step, pitchHz: this.#finder.pitchOf(address) });
      },
    );
  }

  push(low: SamplesAt, frames: KnownFrames): void {
    this.#leastStep = frames.leastStep;
    this.#windows.push(low, frames);
  }

  end(frames: KnownFrames): void {
    this.#windows.end(frames);
  }

  /** @param least power of the weakest frame that is talk */
  medianHz(least: Power): Hertz | null {
    const first = firstStepOf(least);
    const talk = this.#found.filter(({ step }) => step >= first);
    const voiced = talk.flatMap(({ pitchHz }) => (pitchHz === null ? [] : [pitchHz]));
    const share: Fraction = talk.length === 0 ? 0 : voiced.length / talk.length;
    return share < LEAST_VOICED_SHARE ? null : median(voiced);
  }
}
