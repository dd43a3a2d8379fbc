/** The first pass over a voice recording: levels of frames, speech, clipping and flat tops. What is talk is known after it. */
import {
  ClippingMeter,
  FlatTopMeter,
  FRAME_SECONDS,
  FrameLevels,
  FrameTotals,
  type Kernel,
  Room,
  type SamplesAt,
  SpeechCounter,
  STEP_HIGHEST,
  STEP_LOWEST,
  STEP_VALUES,
  StepReader,
  stepsAt,
} from '../../dsp/index.ts';
import type { SampleSource } from '../../files/index.ts';

const BLOCK_SAMPLES = 32768;

/** Feed it with blocks of one channel, then ask for the result. */
export class VoiceLevels {
  /** So many samples are best pushed at once: whole steps in pairs, that fit the processor's caches. */
  readonly blockSamples: number;
  readonly #steps: StepReader;
  readonly #frames: FrameTotals;
  readonly #frameSamples: number;
  readonly #speech: SpeechCounter;
  readonly #flatTops: FlatTopMeter;
  readonly #clipping: readonly ClippingMeter[];
  readonly #floats: Room;
  #samples = 0;

  constructor(
    readonly kernel: Kernel,
    source: Pick<SampleSource, 'sampleRateHz' | 'codeStep' | 'fullScale' | 'channels'>,
  ) {
    const { step, frame } = stepsAt(source.sampleRateHz, FRAME_SECONDS);
    this.blockSamples = 2 * step * Math.ceil(BLOCK_SAMPLES / 2 / step);
    this.#steps = new StepReader(kernel, source.sampleRateHz, step);
    this.#frames = new FrameTotals(kernel, frame / step);
    this.#frameSamples = frame;
    this.#speech = new SpeechCounter(kernel, source.sampleRateHz);
    this.#flatTops = new FlatTopMeter(source.codeStep);
    this.#clipping = Array.from({ length: source.channels }, () => new ClippingMeter(source.fullScale));
    this.#floats = new Room(kernel);
    // Taken at once: room that is asked for later moves the memory under what is being looked at.
    this.#floats.forValues(step);
  }

  /** @param mono as many samples as `blockSamples`; the last may be fewer  @param pairs both channels as stored, where there are two */
  push(mono: SamplesAt, pairs: SamplesAt | null): void {
    this.#samples += mono.count;
    const steps = this.#steps.push(mono);
    this.#speech.push(steps, this.#steps.step);
    const [highest, lowest] = this.#frames.push(steps);
    this.#lookAtTops(mono, steps, highest, lowest, pairs === null ? this.#clipping : []);
    if (pairs) this.#countClipping(pairs);
  }

  /** Flat tops, and full scale where there is one channel: samples are looked at one by one only where they come near either. */
  #lookAtTops(mono: SamplesAt, steps: SamplesAt, highest: number, lowest: number, clipping: readonly ClippingMeter[]): void {
    const { step } = this.#steps;
    const [flatAbove, flatBelow] = this.#flatTops.limits;
    const scales = clipping.map(({ fullScale }) => fullScale);
    const above = Math.min(flatAbove, ...scales.map(({ positive }) => positive));
    const below = Math.max(flatBelow, ...scales.map(({ negative }) => negative));
    const pass = (count: number) => {
      if (count === 0) return;
      this.#flatTops.pass();
      for (const meter of clipping) meter.pass(count);
    };
    const look = (at: SamplesAt, high: number, low: number) => {
      const samples = this.#samplesAt(at);
      this.#flatTops.push(samples, high >= flatAbove, low <= flatBelow);
      for (const meter of clipping) {
        if (high >= meter.fullScale.positive || low <= meter.fullScale.negative) meter.push(samples);
        else meter.pass(at.count);
      }
    };
    // A last step that is not whole has not been looked at.
    if (mono.count % step !== 0) look(mono, Infinity, -Infinity);
    else if (highest < above && lowest > below) pass(mono.count);
    else {
      const bytes = mono.isCodes ? 2 : 4;
      const values = this.kernel.floats({ address: steps.address, length: STEP_VALUES * steps.count });
      for (let from = 0; from < steps.count; ) {
        const at = this.kernel.run.nextBeyond(steps.address, from, steps.count, above, below);
        pass(step * (at - from));
        const [high, low] = [values[STEP_VALUES * at + STEP_HIGHEST], values[STEP_VALUES * at + STEP_LOWEST]];
        if (at < steps.count) look({ ...mono, address: mono.address + bytes * at * step, count: step }, high, low);
        from = at + 1;
      }
    }
  }

  #samplesAt({ address, count, isCodes }: SamplesAt): Float32Array {
    if (!isCodes) return this.kernel.floats({ address, length: count });
    const floats = this.#floats.forValues(count);
    this.kernel.run.fromInt16(address, floats, count);
    return this.kernel.floats({ address: floats, length: count });
  }

  #countClipping(pairs: SamplesAt): void {
    const peak = this.kernel.run.peakOf(pairs.address, 2 * pairs.count);
    const both = this.kernel.floats({ address: pairs.address, length: 2 * pairs.count });
    for (const [c, meter] of this.#clipping.entries()) {
      if (peak >= Math.min(meter.fullScale.positive, -meter.fullScale.negative)) meter.push(both.filter((_, n) => n % 2 === c));
      else meter.pass(pairs.count);
    }
  }

  /** Once no more come. */
  result() {
    const { samples, steps: last } = this.#steps.end();
    this.#speech.push(last, samples);
    const { energies } = this.#frames;
    const whole = energies.length;
    // The last step may be shorter, and so is the frame that it ends: that counts only when it is the only one.
    if (last.count > 0) this.#frames.push(last);
    const { highest, lowest, open } = this.#frames;
    const powers = energies.slice(0, whole).map((energy) => energy / this.#frameSamples);
    if (whole === 0 && this.#samples > 0) powers.push((open + (energies[0] ?? 0)) / this.#samples);
    return {
      frames: new FrameLevels(powers, this.#frameSamples, Math.max(highest, -lowest)),
      speech: this.#speech.result(),
      clipping: this.#clipping,
      flatTops: this.#flatTops.result(),
      samples: this.#samples,
    };
  }
}

/** All that the first pass tells. */
export type VoiceLevelsResult = ReturnType<VoiceLevels['result']>;
