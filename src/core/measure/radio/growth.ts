/**
 * How the power in a band beside the voice grows with the voice, from moment to moment. A constant carrier does not grow
 * (0 dB for 1), leakage through a filter or a balance keeps its distance (1 for 1), an amplifier's products grow faster
 * (2 and more for 1). Tried on recorded voices; see docs/measurements.md.
 */
import { bandPower, fftSizeFor, type Kernel, type KernelArray, type SamplesAt, type Spectrum } from '../../dsp/index.ts';
import { type Decibels, type Fraction, type Hertz, type Power, powerToDb } from '../../units/index.ts';
import { type FrameWindow, FrameWindows, firstStepOf, type KnownFrames, WindowSpectrum, type WindowsShape } from '../frameWindows.ts';

/** Windows are about 40 ms long. */
const WIDEST_BIN_HZ: Hertz = 25;
/** They overlap by half at first; side by side is enough once many are known. */
const CLOSE_S = 10;
/** The voice's own level is read here. */
const VOICE_HZ: readonly [Hertz, Hertz] = [250, 2800];
const LOWEST_DB = -160;
/** Moments are told apart by steps of this. */
const STEP_DB = 0.5;
/**
 * Pairs of moments that are compared, as shares of their order by loudness. A transmitter that is driven far into
 * saturation levels its loudest moments, and only the quieter ones tell.
 */
const LEVERS: readonly { readonly loud: readonly [Fraction, Fraction]; readonly quieter: readonly [Fraction, Fraction] }[] = [
  { loud: [0.85, 1], quieter: [0.4, 0.6] },
  { loud: [0.85, 1], quieter: [0.1, 0.3] },
  { loud: [0.6, 1], quieter: [0.02, 0.15] },
];
/** A band must stand this much over the noise in loud moments before anything is said of it. */
const LEAST_OVER_NOISE: Power = 2;
/** With less between loud and ordinary moments growth can't be told. */
const LEAST_LEVER_DB: Decibels = 1.5;
const LEAST_MOMENTS = 40;
/** More than there are steps of level. */
const MOST_LEVELS = 4096;
/** Of the steps by which talk is told from pauses, so many are kept together here. */
const STEPS_TOGETHER = 4;

/** How a band's power grows with the voice. */
export interface Growth {
  /** Level in the loudest moments, re the voice then. */
  readonly levelDb: Decibels;
  /** dB for each dB of the voice, over each of the pairs of moments where it can be told. Where noise hides the quieter moments it is at least so much. */
  readonly slopes: readonly number[];
  /** Those of them that no noise bounds. */
  readonly told: readonly number[];
}

interface Group {
  /** The weakest frame that its windows touch, in steps taken together, and the voice's level in them. */
  readonly step: number;
  readonly level: number;
  count: number;
  readonly sum: KernelArray;
}

/** Moments of the voice, loud and soft, with the spectrum of each. */
export class VoiceMoments {
  readonly #windows: FrameWindows;
  readonly #spectra: WindowSpectrum;
  readonly #size: number;
  readonly #scale: number;
  readonly #groups = new Map<number, Group>();
  /** Stretches of bins that hold the voice; those of negative frequencies stand last in a result. */
  readonly #voiceBins: readonly { readonly from: number; readonly count: number }[];
  /** What is known now; set before any window is looked at. */
  #frames: KnownFrames | null = null;

  /**
   * @param shape of the pairs  @param carrierHz the carrier in them
   * @param sign  +1 for the upper sideband, -1 for the lower
   */
  constructor(
    readonly kernel: Kernel,
    readonly shape: Pick<WindowsShape, 'factor' | 'frameSamples'> & { readonly sampleRateHz: Hertz },
    readonly carrierHz: Hertz,
    readonly sign: 1 | -1,
  ) {
    this.#size = fftSizeFor(shape.sampleRateHz, WIDEST_BIN_HZ);
    const size = this.#size;
    this.#spectra = new WindowSpectrum(kernel, size, true);
    const hop = (start: number) => (start < CLOSE_S * shape.sampleRateHz ? size / 2 : size);
    this.#windows = new FrameWindows(kernel, { ...shape, width: 2, size, hop }, (window) => this.#take(window));
    const binHz = shape.sampleRateHz / size;
    const [low, high] = VOICE_HZ.map((hz) => Math.round((carrierHz + sign * hz) / binHz)).sort((a, b) => a - b);
    const stretch = (from: number, to: number) => (to < from ? [] : [{ from: (from + size) % size, count: to - from + 1 }]);
    this.#voiceBins = [...stretch(low, Math.min(high, -1)), ...stretch(Math.max(low, 0), high)];
    this.#scale = 1 / (shape.sampleRateHz * this.#spectra.windowPower);
  }

  push(pairs: SamplesAt, frames: KnownFrames): void {
    this.#frames = frames;
    this.#windows.push(pairs, frames);
  }

  /** @param pairs how many the stream had */
  end(frames: KnownFrames, pairs: number): void {
    this.#frames = frames;
    // Too few moments tell nothing: a stream shorter than a window is none.
    if (pairs >= this.#size) this.#windows.end(frames);
  }

  #take({ address, length, from, to }: FrameWindow): void {
    const frames = this.#frames;
    if (frames === null) return;
    let step = Infinity;
    for (let frame = from; frame < to; frame++) step = Math.min(step, frames.steps[frame]);
    if (step < frames.leastStep) return;
    const { kernel } = this;
    const powers = this.#spectra.powersOf(address, length);
    if (powers === null) return;
    const voice = powerToDb(Math.max(this.#voicePower(powers), Number.MIN_VALUE));
    const level = Math.max(0, Math.round((voice - LOWEST_DB) / STEP_DB));
    const key = Math.floor(step / STEPS_TOGETHER) * MOST_LEVELS + level;
    let group = this.#groups.get(key);
    if (!group) {
      group = { step: Math.floor(step / STEPS_TOGETHER), level, count: 0, sum: kernel.take(this.#size) };
      this.#groups.set(key, group);
    }
    group.count++;
    kernel.run.addScaled(group.sum.address, powers, this.#size, 1);
  }

  /** The voice's power in a raw result, of whole bins. */
  #voicePower(powers: number): Power {
    const { run } = this.kernel;
    let sum = 0;
    for (const { from, count } of this.#voiceBins) sum += run.sumOf(powers + 4 * from, count);
    return sum * this.#scale * (this.shape.sampleRateHz / this.#size);
  }

  /** Moments whose frames are all talk, by loudness. */
  #talk(least: Power): readonly Group[] {
    const first = Math.round(firstStepOf(least) / STEPS_TOGETHER);
    return [...this.#groups.values()].filter(({ step }) => step >= first).sort((a, b) => a.level - b.level);
  }

  /** Mean spectrum of the moments between two shares of the order by loudness; null of too few. */
  #spectrumBetween(talk: readonly Group[], from: number, to: number): Spectrum | null {
    const total = talk.reduce((sum, { count }) => sum + count, 0);
    if (total < LEAST_MOMENTS) return null;
    const { sampleRateHz } = this.shape;
    const sums = this.kernel.take(this.#size, 8);
    let seen = 0;
    let weight = 0;
    // Those of one level count alike, whatever their frames: they have no order.
    for (let at = 0; at < talk.length; ) {
      const first = at;
      let count = 0;
      for (; at < talk.length && talk[at].level === talk[first].level; at++) count += talk[at].count;
      const [a, b] = [Math.max(seen, from * total), Math.min(seen + count, to * total)];
      seen += count;
      if (b <= a) continue;
      weight += b - a;
      for (let k = first; k < at; k++) this.kernel.run.accumulate(sums.address, talk[k].sum.address, this.#size, (b - a) / count);
    }
    const scale = this.#scale / weight;
    const values = this.kernel.doubles(sums);
    const half = this.#size / 2;
    const density = new Float64Array(this.#size);
    for (let k = 0; k < half; k++) {
      density[k] = scale * values[half + k];
      density[half + k] = scale * values[k];
    }
    return { binHz: sampleRateHz / this.#size, firstHz: -sampleRateHz / 2, density };
  }

  /**
   * Tells the growth of bands, in the audio's frequencies (negative: the other sideband); null when there is too little speech.
   * @param least power of the weakest frame that is talk
   */
  growth(least: Power, noiseDensity: number): ((low: Hertz, high: Hertz) => Growth | null) | null {
    const clean = (spectrum: Spectrum, low: Hertz, high: Hertz): Power => {
      const ends = [this.carrierHz + this.sign * low, this.carrierHz + this.sign * high];
      return bandPower(spectrum, Math.min(...ends), Math.max(...ends)) - noiseDensity * (high - low);
    };
    const talk = this.#talk(least);
    const levers = LEVERS.flatMap(({ loud, quieter }) => {
      const [louder, other] = [this.#spectrumBetween(talk, ...loud), this.#spectrumBetween(talk, ...quieter)];
      if (!louder || !other) return [];
      const voice = [clean(louder, ...VOICE_HZ), clean(other, ...VOICE_HZ)];
      return voice[0] > 0 && voice[1] > 0 ? [{ louder, other, voice: voice[0], leverDb: powerToDb(voice[0] / voice[1]) }] : [];
    });
    if (levers.length === 0) return null;
    return (low, high) => {
      const noise = noiseDensity * (high - low);
      const [{ louder, voice }] = levers;
      const inLoud = clean(louder, low, high);
      if (!(inLoud > 0) || inLoud < (LEAST_OVER_NOISE - 1) * noise) return null;
      const found = levers.flatMap((lever) => {
        const power = clean(lever.louder, low, high);
        if (lever.leverDb < LEAST_LEVER_DB || !(power > 0)) return [];
        // What noise hides in quieter moments is at most as strong as it.
        const least = Math.max(noise * (LEAST_OVER_NOISE - 1), Number.MIN_VALUE);
        const quieter = clean(lever.other, low, high);
        return [{ slope: powerToDb(power / Math.max(quieter, least)) / lever.leverDb, isTold: quieter >= least }];
      });
      return {
        levelDb: powerToDb(inLoud / voice),
        slopes: found.map(({ slope }) => slope),
        told: found.filter(({ isTold }) => isTold).map(({ slope }) => slope),
      };
    };
  }
}
