/**
 * The second pass over a voice recording, in constant memory: loudness, spectra, pitch, hum and pops. What is talk is known
 * from the first (voiceLevels.ts).
 */
import {
  type FrameLevels,
  Halver,
  type Kernel,
  LEAST_VOICED_SHARE,
  LoudnessMeter,
  LowBand,
  median,
  PitchFinder,
  Room,
  type SamplesAt,
} from '../../dsp/index.ts';
import type { Fraction, Hertz } from '../../units/index.ts';
import { type Frames, type FrameWindow, FrameWindows } from '../frameWindows.ts';
import { HumMeter } from './hum.ts';
import { PlosiveMeter } from './plosives.ts';
import { TalkSpectra, type TalkSpectraResult } from './talkSpectra.ts';
import type { VoiceLevelsResult } from './voiceLevels.ts';

/** The rate is halved while what is told of a voice stays whole. */
const LEAST_RATE_HZ: Hertz = 20_000;
/** Flat to here on the way down, and a little less above. */
const KEPT_HZ: Hertz = 7000;
/** Pitch is looked for so often; less often once much of it is known. */
const PITCH_HOP_S = 0.02;
const LATER_PITCH_HOP_S = 0.04;
const CLOSE_PITCH_S = 60;

/** All that the two passes tell. */
export interface VoicePassResult extends VoiceLevelsResult {
  readonly loudnessLufs: number | null;
  readonly spectra: TalkSpectraResult;
  /** Median over the voiced frames of the talk; null when too few are voiced. */
  readonly pitchHz: Hertz | null;
  readonly plosives: PlosiveMeter;
  readonly hum: HumMeter;
}

/** Feed it with the blocks that the first pass had, then ask for the result. */
export class VoicePass {
  readonly #floats: Room;
  readonly #halvers: readonly Halver[];
  readonly #factor: number;
  readonly #loudness: LoudnessMeter;
  readonly #spectra: TalkSpectra;
  readonly #low: LowBand;
  readonly #pitch: PitchOfTalk;
  readonly #plosives: PlosiveMeter;
  readonly #hum: HumMeter;
  /** Samples that went on at the lower rate. */
  #lowered = 0;

  constructor(
    readonly kernel: Kernel,
    rateHz: Hertz,
    readonly levels: VoiceLevelsResult,
  ) {
    const { frames } = levels;
    this.#floats = new Room(kernel);
    const halvers: Halver[] = [];
    let rate = rateHz;
    for (; rate / 2 >= LEAST_RATE_HZ; rate /= 2) halvers.push(new Halver(kernel, rate, KEPT_HZ, 1));
    this.#halvers = halvers;
    this.#factor = rateHz / rate;
    this.#loudness = new LoudnessMeter(kernel, rate, Math.round((2 * frames.frameSamples) / this.#factor));
    this.#spectra = new TalkSpectra(kernel, { sampleRateHz: rate, factor: this.#factor }, frames);
    this.#low = new LowBand(kernel, rate);
    this.#pitch = new PitchOfTalk(kernel, this.#low.sampleRateHz, this.#factor * this.#low.factor, frames);
    this.#plosives = new PlosiveMeter(kernel, this.#low.thinnedRateHz);
    this.#hum = new HumMeter(kernel, this.#low.thinnedRateHz);
  }

  push(mono: SamplesAt): void {
    const [first, ...others] = this.#halvers;
    if (first) this.#onward(others.reduce((passed, halver) => halver.push(passed), first.push(mono)));
    else this.#onward(mono.isCodes ? this.#asFloats(mono) : mono);
  }

  #asFloats({ address, count }: SamplesAt): SamplesAt {
    const floats = this.#floats.forValues(count);
    this.kernel.run.fromInt16(address, floats, count);
    return { address: floats, count };
  }

  #onward({ address, count }: SamplesAt): void {
    // What came behind the stream to bring the rest out is no part of it.
    const left = Math.ceil(this.levels.samples / this.#factor) - this.#lowered;
    const low = { address, count: Math.max(0, Math.min(count, left)) };
    this.#lowered += low.count;
    this.#loudness.push(low);
    this.#spectra.push(low);
    const lowest = this.#low.push(low);
    this.#pitch.push(lowest);
    const thinned = this.#low.thinned(lowest);
    this.#plosives.push(thinned);
    this.#hum.push(thinned);
  }

  /** Once no more come. */
  result(): VoicePassResult {
    const tail = this.#halvers.reduce((sum, halver, k) => sum + halver.tail * 2 ** k, 2 * this.#factor);
    this.push({ address: this.kernel.take(tail).address, count: tail });
    this.#spectra.end();
    this.#pitch.end();
    const { powers } = this.levels.frames;
    // Steps of loudness are two frames long.
    const steps = Array.from({ length: Math.floor(powers.length / 2) }, (_, k) => (powers[2 * k] + powers[2 * k + 1]) / 2);
    return {
      ...this.levels,
      loudnessLufs: this.#loudness.result(this.#halvers.length > 0 ? steps : undefined),
      spectra: this.#spectra.result(),
      pitchHz: this.#pitch.medianHz(),
      plosives: this.#plosives,
      hum: this.#hum,
    };
  }
}

/** Pitches of the talk: of windows that touch at least as much talk as pause. */
class PitchOfTalk {
  readonly #windows: FrameWindows;
  readonly #finder: PitchFinder;
  readonly #frames: Frames;
  readonly #voiced: Hertz[] = [];
  #looked = 0;

  constructor(
    kernel: Kernel,
    rateHz: Hertz,
    factor: number,
    readonly levels: FrameLevels,
  ) {
    const { powers, frameSamples } = levels;
    this.#frames = { powers, frameSamples, isWhole: true };
    this.#finder = new PitchFinder(kernel, rateHz);
    const hop = (start: number) => Math.round((start < CLOSE_PITCH_S * rateHz ? PITCH_HOP_S : LATER_PITCH_HOP_S) * rateHz);
    const shape = { width: 1, factor, frameSamples, size: this.#finder.size, hop } as const;
    this.#windows = new FrameWindows(kernel, shape, (window) => this.#look(window));
  }

  #look({ address, length, from, to }: FrameWindow): void {
    let talk = 0;
    for (let frame = from; frame < to; frame++) if (this.levels.active[frame]) talk++;
    if (2 * talk < to - from || length < this.#finder.size) return;
    this.#looked++;
    const pitchHz = this.#finder.pitchOf(address);
    if (pitchHz !== null) this.#voiced.push(pitchHz);
  }

  push(low: SamplesAt): void {
    this.#windows.push(low, this.#frames);
  }

  end(): void {
    this.#windows.end(this.#frames);
  }

  medianHz(): Hertz | null {
    const share: Fraction = this.#looked === 0 ? 0 : this.#voiced.length / this.#looked;
    return share < LEAST_VOICED_SHARE ? null : median(this.#voiced);
  }
}
