/** A receiver: where a signal is judged. Its filter, its tuning, its AGC and what its helpers do to the voice. */
import {
  type AudioStage,
  type Complex,
  createKernel,
  FftFilter,
  inRow,
  instantAudio,
  joined,
  type Kernel,
  lowPassTaps,
  oneSidedTaps,
  type Stage,
} from '../../dsp/index.ts';
import { Discriminator } from '../../modem/index.ts';
import type { Mode } from '../../rig/index.ts';
import { type Decibels, dbToAmplitude, type Fraction, type Hertz } from '../../units/index.ts';
import { type AgcShape, agcStage, SLOW_AGC } from './agc.ts';
import { noiseReductionStage } from './noiseReduction.ts';

/** Filter, AGC, mistuning, blanker, noise reduction and overload. */
export interface ReceiverShape {
  /** Audio that its filter passes, -6 dB edges. */
  readonly passbandHz: readonly [Hertz, Hertz];
  readonly agc: AgcShape | null;
  /** How much higher the voice comes out, in SSB. */
  readonly mistuneHz: Hertz;
  /** Where its input clips, re full drive; null: never. */
  readonly overloadDb: Decibels | null;
  /** 0 for none, 1 for all it can. */
  readonly noiseReduction: Fraction;
  /** The noise blanker cuts what passes this many times the mean size; null: off. */
  readonly blanker: number | null;
  /** Deviation that an FM receiver is made for. */
  readonly deviationHz: Hertz;
}

/** A receiver that adds nothing of its own. */
export const GOOD_RECEIVER: ReceiverShape = {
  passbandHz: [100, 3600],
  agc: SLOW_AGC,
  mistuneHz: 0,
  overloadDb: null,
  noiseReduction: 0,
  blanker: null,
  deviationHz: 5000,
};

const SSB_SLOPE_HZ: Hertz = 200;
const BLANK_S = 0.001;
/** Half width of an FM channel beyond the deviation: the voice's highest. */
const FM_VOICE_HZ: Hertz = 3000;

/** From I and Q at the antenna to audio, block by block. */
export class Receiver implements Stage<Complex, Float64Array> {
  readonly #front: (block: Complex) => Complex;
  readonly #filter: FftFilter;
  readonly #detect: (block: Complex) => Float64Array;
  readonly #audio: AudioStage;

  constructor(mode: Mode, shape: ReceiverShape, rateHz: Hertz, kernel: Kernel | null = createKernel()) {
    this.#front = frontEnd(shape, mode, rateHz);
    this.#filter = channelFilter(shape, mode, rateHz, kernel);
    this.#detect = detector(shape, mode, rateHz);
    const audio: AudioStage[] = [instantAudio((block) => block)];
    if (mode === 'am' || mode === 'fm') audio.push(audioFilter(shape, rateHz, kernel));
    if (shape.noiseReduction > 0) audio.push(noiseReductionStage(shape.noiseReduction));
    if (shape.agc) audio.push(agcStage(shape.agc, rateHz));
    this.#audio = inRow(audio, (a, b) => joined([a, b]));
  }

  push(block: Complex): Float64Array {
    const { i, q } = this.#front(block);
    return this.#audio.push(this.#detect(this.#filter.push(i, q)));
  }

  end(): Float64Array {
    return joined([this.#audio.push(this.#detect(this.#filter.end())), this.#audio.end()]);
  }
}

/** Overload, blanker, tuning: what happens before the filter. */
function frontEnd({ overloadDb, blanker, mistuneHz }: ReceiverShape, mode: Mode, rateHz: Hertz): (block: Complex) => Complex {
  const most = overloadDb === null ? Number.POSITIVE_INFINITY : dbToAmplitude(overloadDb);
  const turn = (2 * Math.PI * (mode === 'lsb' ? -mistuneHz : mistuneHz)) / rateHz;
  const slow = 1 - Math.exp(-1 / (0.2 * rateHz));
  const blank = Math.round(BLANK_S * rateHz);
  let mean = 0;
  let left = 0;
  let at = 0;
  const clip = (x: number) => Math.max(-most, Math.min(most, x));
  if (overloadDb === null && blanker === null && turn === 0) return (block) => block;
  return ({ i, q }) => {
    const out = { i: i.map(clip), q: q.map(clip) };
    for (let n = 0; n < i.length; n++, at++) {
      if (blanker !== null) {
        const size = Math.hypot(out.i[n], out.q[n]);
        if (size > blanker * mean && mean > 0) left = blank;
        mean += (size - mean) * slow;
        if (left > 0) {
          out.i[n] = 0;
          out.q[n] = 0;
          left--;
        }
      }
      if (turn === 0) continue;
      const [c, s] = [Math.cos(turn * at), Math.sin(turn * at)];
      const x = out.i[n] * c - out.q[n] * s;
      out.q[n] = out.i[n] * s + out.q[n] * c;
      out.i[n] = x;
    }
    return out;
  };
}

function channelFilter({ passbandHz, deviationHz }: ReceiverShape, mode: Mode, rateHz: Hertz, kernel: Kernel | null): FftFilter {
  const [low, high] = passbandHz;
  if (mode === 'am') return new FftFilter({ i: lowPassTaps(rateHz, high + SSB_SLOPE_HZ, 2 * SSB_SLOPE_HZ) }, kernel);
  if (mode === 'fm') return new FftFilter({ i: lowPassTaps(rateHz, deviationHz + FM_VOICE_HZ, 2000) }, kernel);
  const taps = mode === 'lsb' ? oneSidedTaps(rateHz, -high, -low, SSB_SLOPE_HZ) : oneSidedTaps(rateHz, low, high, SSB_SLOPE_HZ);
  // The signal is analytic already: no gain of two.
  return new FftFilter({ i: taps.i.map((x) => x / 2), q: taps.q.map((x) => x / 2) }, kernel);
}

function detector({ deviationHz }: ReceiverShape, mode: Mode, rateHz: Hertz): (block: Complex) => Float64Array {
  if (mode === 'usb' || mode === 'lsb') return ({ i }) => i.slice();
  if (mode === 'am') return ({ i, q }) => i.map((x, n) => 2 * Math.sqrt(x * x + q[n] * q[n]));
  const discriminator = new Discriminator(rateHz);
  return (block) => discriminator.push(block).map((hz) => hz / deviationHz);
}

/** Behind the envelope or the discriminator: takes the carrier's constant off and keeps the voice. */
function audioFilter({ passbandHz: [low, high] }: ReceiverShape, rateHz: Hertz, kernel: Kernel | null): AudioStage {
  const filter = new FftFilter(oneSidedTaps(rateHz, low, high, SSB_SLOPE_HZ), kernel);
  return { push: (block) => filter.push(block).i.slice(), end: () => filter.end().i.slice() };
}
