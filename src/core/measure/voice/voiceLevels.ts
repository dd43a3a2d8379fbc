/** The first pass over a voice recording: levels of frames, speech, clipping and flat tops. What is talk is known after it. */
import {
  ClippingMeter,
  FlatTopMeter,
  FRAME_SECONDS,
  FrameLevels,
  type Kernel,
  type KernelArray,
  type SamplesAt,
  SpeechCounter,
  StepReader,
  stepsAt,
} from '../../dsp/index.ts';
import type { SampleSource } from '../../files/index.ts';
import type { Power } from '../../units/index.ts';

const BLOCK_SAMPLES = 16384;

/** Feed it with blocks of one channel, then ask for the result. */
export class VoiceLevels {
  /** So many samples are best pushed at once: whole steps in pairs, that fit the processor's caches. */
  readonly blockSamples: number;
  readonly #steps: StepReader;
  readonly #frameSteps: number;
  readonly #frameSamples: number;
  readonly #powers: Power[] = [];
  readonly #speech: SpeechCounter;
  readonly #flatTops: FlatTopMeter;
  readonly #clipping: readonly ClippingMeter[];
  readonly #peak: KernelArray;
  #frameEnergy = 0;
  #inFrame = 0;
  #highest = 0;
  #lowest = 0;
  #samples = 0;

  constructor(
    readonly kernel: Kernel,
    source: Pick<SampleSource, 'sampleRateHz' | 'codeStep' | 'fullScale' | 'channels'>,
  ) {
    const { step, frame } = stepsAt(source.sampleRateHz, FRAME_SECONDS);
    this.blockSamples = 2 * step * Math.ceil(BLOCK_SAMPLES / 2 / step);
    this.#steps = new StepReader(kernel, source.sampleRateHz, step);
    this.#frameSteps = frame / step;
    this.#frameSamples = frame;
    this.#speech = new SpeechCounter(kernel, source.sampleRateHz);
    this.#flatTops = new FlatTopMeter(source.codeStep);
    this.#clipping = Array.from({ length: source.channels }, () => new ClippingMeter(source.fullScale));
    this.#peak = kernel.take(2, 8);
  }

  /** @param mono as many samples as `blockSamples`; the last may be fewer  @param pairs both channels as stored, where there are two */
  push(mono: SamplesAt, pairs: SamplesAt | null): void {
    this.#samples += mono.count;
    const steps = this.#steps.push(mono);
    this.#speech.push(steps, this.#steps.step);
    let [highest, lowest] = [0, 0];
    for (let from = 0; from < steps.count; ) {
      const to = Math.min(steps.count, from + this.#frameSteps - this.#inFrame);
      const totals = this.#steps.totals(steps, from, to);
      highest = Math.max(highest, totals.highest);
      lowest = Math.min(lowest, totals.lowest);
      this.#frameEnergy += totals.power;
      this.#inFrame += to - from;
      from = to;
      if (this.#inFrame === this.#frameSteps) this.#endFrame(this.#frameSamples);
    }
    this.#widen(highest, lowest);
    this.#lookAtTops(mono, steps, highest, lowest, pairs === null ? this.#clipping : []);
    if (pairs) this.#countClipping(pairs);
  }

  #widen(highest: number, lowest: number): void {
    this.#highest = Math.max(this.#highest, highest);
    this.#lowest = Math.min(this.#lowest, lowest);
  }

  /** Flat tops, and full scale where there is one channel: samples are looked at one by one only where they come near either. */
  #lookAtTops(mono: SamplesAt, steps: SamplesAt, highest: number, lowest: number, clipping: readonly ClippingMeter[]): void {
    const { step } = this.#steps;
    const [above, below] = this.#limits(clipping);
    const pass = (count: number) => {
      this.#flatTops.pass();
      for (const meter of clipping) meter.pass(count);
    };
    const look = (at: SamplesAt) => {
      const samples = this.#samplesAt(at);
      this.#flatTops.push(samples);
      for (const meter of clipping) meter.push(samples);
    };
    // A last step that is not whole has not been looked at.
    if (mono.count % step !== 0) look(mono);
    else if (highest < above && lowest > below) pass(mono.count);
    else {
      const bytes = mono.isCodes ? 2 : 4;
      const values = this.kernel.floats({ address: steps.address, length: 4 * steps.count });
      for (let k = 0; k < steps.count; k++) {
        if (values[4 * k + 2] < above && values[4 * k + 3] > below) pass(step);
        else look({ ...mono, address: mono.address + bytes * k * step, count: step });
      }
    }
  }

  /** Samples below the first and above the second are neither flat tops nor clipped. */
  #limits(clipping: readonly ClippingMeter[]): readonly [number, number] {
    const [above, below] = this.#flatTops.limits;
    const scales = clipping.map(({ fullScale }) => fullScale);
    return [Math.min(above, ...scales.map(({ positive }) => positive)), Math.max(below, ...scales.map(({ negative }) => negative))];
  }

  #samplesAt({ address, count, isCodes }: SamplesAt): Float32Array {
    if (!isCodes) return this.kernel.floats({ address, length: count });
    return Float32Array.from(this.kernel.codes({ address, length: count }), (code) => code * 2 ** -15);
  }

  #countClipping(pairs: SamplesAt): void {
    this.kernel.run.squares(pairs.address, 2 * pairs.count, this.#peak.address);
    const peak = this.kernel.doubles(this.#peak)[1];
    const both = this.kernel.floats({ address: pairs.address, length: 2 * pairs.count });
    for (const [c, meter] of this.#clipping.entries()) {
      if (peak >= Math.min(meter.fullScale.positive, -meter.fullScale.negative)) meter.push(both.filter((_, n) => n % 2 === c));
      else meter.pass(pairs.count);
    }
  }

  #endFrame(samples: number): void {
    this.#powers.push(this.#frameEnergy / samples);
    this.#frameEnergy = 0;
    this.#inFrame = 0;
  }

  /** Once no more come. */
  result() {
    const { samples, steps: last } = this.#steps.end();
    this.#speech.push(last, samples);
    if (last.count > 0) {
      const totals = this.#steps.totals(last, 0, 1);
      this.#widen(totals.highest, totals.lowest);
      this.#frameEnergy += totals.power;
    }
    if (this.#powers.length === 0 && this.#samples > 0) this.#endFrame(this.#samples);
    return {
      frames: new FrameLevels(this.#powers, this.#frameSamples, Math.max(this.#highest, -this.#lowest)),
      speech: this.#speech.result(),
      clipping: this.#clipping,
      flatTops: this.#flatTops.result(),
      samples: this.#samples,
    };
  }
}

/** All that the first pass tells. */
export type VoiceLevelsResult = ReturnType<VoiceLevels['result']>;
