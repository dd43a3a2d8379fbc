/**
 * What all measurements of I/Q recordings share: the first pass over the file (levels, clipping, state of the two
 * channels), which transmission counts, and the walk through blocks in the kernel's memory.
 */
import {
  ClippingMeter,
  clippedShare,
  createKernel,
  FrameLevels,
  type Kernel,
  MomentSums,
  type Moments,
  PairBlock,
  Pieces,
  type Spectrum,
  SteadySpectra,
} from '../../dsp/index.ts';
import type { SampleSource } from '../../files/index.ts';
import { type Finding, judge, type OwnLimits } from '../../findings/index.ts';
import { type Fraction, type Hertz, type Power, roughPercent } from '../../units/index.ts';
import type { Measured, Notes } from '../measurement.ts';
import { walk } from '../walk.ts';
import { BandPower, inGroups, partSamplesOf, type SignalBand } from './keying.ts';
import { noiseDensity } from './radioSpectrum.ts';

/** Averaged spectra of radio kinds have bins of at most this (contract). */
export const WIDEST_RADIO_BIN_HZ: Hertz = 12;

/** How I and Q are read, and which part. */
export interface IqOptions {
  /** Suppressed carrier or carrier centre re the file's centre; found or 0 when left out. */
  readonly carrierHz?: Hertz;
  /** I and Q change places: the spectrum is mirrored. */
  readonly isSwapped?: boolean;
  /** The station's own limits for findings. */
  readonly limits?: OwnLimits;
  /** Told the share done, 0 to 1, now and then. */
  readonly onProgress?: (share: Fraction) => void;
  readonly signal?: AbortSignal;
}

/** A recording that is no I/Q recording, or that this machine can't measure. */
export class NotMeasurable extends Error {
  override name = 'NotMeasurable';
}

/** @throws NotMeasurable for a single channel */
export function iqKernel(source: SampleSource): Kernel {
  if (source.channels !== 2) {
    throw new NotMeasurable('This recording has one channel; I and Q are needed (a stereo WAV file or SigMF).');
  }
  const kernel = createKernel();
  if (!kernel) throw new NotMeasurable('This machine has no WebAssembly with vectors, which I/Q recordings need.');
  return kernel;
}

/** Pairs worked on at once: small enough for the processor's caches. */
const PAIRS_AT_ONCE = 65536;

/**
 * Walks through a recording in the kernel's memory, so many pairs at once however it is read; the last may be fewer.
 * @param share part of the whole work, for the progress
 */
export async function eachPairBlock(
  source: SampleSource,
  block: PairBlock,
  options: IqOptions,
  share: readonly [Fraction, Fraction],
  use: (firstSample: number) => void,
): Promise<number> {
  let first = 0;
  const pieces = new Pieces(block.kernel, 2 * PAIRS_AT_ONCE, (piece) => {
    block.take(piece);
    if (options.isSwapped) block.swap();
    use(first);
    first += block.count;
  });
  const nonFinite = await walk(source, { blocks: source.interleaved, room: pieces.room }, options, share, (stored) => {
    pieces.push(stored);
    return stored.length / 2;
  });
  pieces.end();
  return nonFinite;
}

/** Levels, balance and clipping of both channels, found in a first pass. */
export interface IqLevels {
  readonly kernel: Kernel;
  readonly block: PairBlock;
  /** Levels of 50 ms frames of all that the file holds. */
  readonly frames: FrameLevels;
  /** Spectra of half seconds, in coarse bins: where signals are. Null for files shorter than a window, and where nobody asked. */
  readonly map: ReturnType<SteadySpectra['result']>;
  readonly moments: Moments;
  readonly clippedShare: Fraction;
  readonly samples: number;
  readonly nonFinite: number;
}

const MAP_BIN_HZ: Hertz = 200;
const MAP_STRETCH_S = 0.4;

/** Levels of frames, moments of the whole, clipping, and where in the file signals are: fed with blocks. */
export class LevelScan {
  readonly #clipping: readonly ClippingMeter[];
  readonly #map: SteadySpectra | null;
  readonly #moments: MomentSums;
  #samples = 0;

  /** @param hasMap whether it is looked for where in the file signals are */
  constructor(
    readonly source: SampleSource,
    readonly block: PairBlock,
    hasMap: boolean,
  ) {
    const rate = source.sampleRateHz;
    this.#moments = new MomentSums(block.kernel, partSamplesOf(rate));
    this.#clipping = [new ClippingMeter(source.fullScale), new ClippingMeter(source.fullScale)];
    const shape = { sampleRateHz: rate, widestBinHz: MAP_BIN_HZ, stretchS: MAP_STRETCH_S };
    this.#map = hasMap ? new SteadySpectra(shape, block.kernel) : null;
  }

  /** Takes what the block holds now. */
  push(): void {
    const { block } = this;
    this.#moments.add(block.stored());
    countClipping(block, this.#clipping, this.#moments.latestPeak());
    this.#map?.push(block.values());
    this.#samples += block.count;
  }

  result(nonFinite: number): IqLevels {
    const moments = this.#moments.result();
    return {
      kernel: this.block.kernel,
      block: this.block,
      frames: new FrameLevels(inGroups(this.#moments.parts, 5), 5 * this.#moments.partSamples, moments.peak),
      map: this.#map?.result() ?? null,
      moments,
      clippedShare: clippedShare(this.#clipping),
      samples: this.#samples,
      nonFinite,
    };
  }
}

/** A pass over the file for its levels. */
export async function scanLevels(source: SampleSource, options: IqOptions, share: readonly [Fraction, Fraction]): Promise<IqLevels> {
  const block = new PairBlock(iqKernel(source));
  const scan = new LevelScan(source, block, true);
  return scan.result(await eachPairBlock(source, block, options, share, () => scan.push()));
}

/** A pass over the file for the power inside a band: mean of each 10 ms. */
export async function bandParts(
  source: SampleSource,
  options: IqOptions,
  { kernel, block }: IqLevels,
  band: SignalBand,
  share: readonly [Fraction, Fraction],
): Promise<Power[]> {
  const meter = new BandPower(kernel, source.sampleRateHz, band);
  await eachPairBlock(source, block, options, share, () => meter.push(block));
  return meter.parts();
}

/** Noise power in a band, from beside the signal; null where the file holds nothing beside it. @param mean spectrum of the whole recording */
export function noiseInBand(mean: Spectrum | null, { centreHz, halfWidthHz }: SignalBand): Power | null {
  const density = mean && noiseDensity(mean, centreHz, [centreHz - halfWidthHz, centreHz + halfWidthHz]);
  return density === null ? null : density * 2 * halfWidthHz;
}

function countClipping(block: PairBlock, meters: readonly ClippingMeter[], peak: number): void {
  const [{ fullScale }] = meters;
  if (peak < Math.min(fullScale.positive, -fullScale.negative)) {
    for (const meter of meters) meter.pass(block.count);
    return;
  }
  const values = block.values();
  for (const [c, meter] of meters.entries()) meter.push(Float64Array.from({ length: block.count }, (_, n) => values[2 * n + c]));
}

/** The numbers every kind starts with, and what they need to be told with. */
export function iqBasics(source: SampleSource, levels: IqLevels): { basics: Omit<Measured, 'notes' | 'findings'>; notes: Notes } {
  const notes: Notes = {};
  if (source.warnings.length > 0) notes.durationS = source.warnings.join(' ');
  if (levels.nonFinite > 0) notes.samples = `${levels.nonFinite} samples were not finite numbers and were read as silence.`;
  return {
    basics: {
      durationS: levels.samples / source.sampleRateHz,
      sampleRateHz: source.sampleRateHz,
      clippedShare: levels.clippedShare,
    },
    notes,
  };
}

/** What is wrong with the recording itself. */
export interface IqState {
  /** The weaker channel re the stronger one, in power. */
  readonly balance: Fraction;
  /** Power of the constant part of both re the whole. */
  readonly constantShare: Fraction;
  /** How alike the two channels are: 0 independent, 1 the same but for sign and size. */
  readonly likeness: Fraction;
}

/** What the two channels look like as wholes. */
export function iqState({ moments: m }: IqLevels): IqState | null {
  const total = m.ii + m.qq;
  if (total === 0) return null;
  const [vi, vq] = [m.ii - m.i ** 2 / m.count, m.qq - m.q ** 2 / m.count];
  const cov = m.iq - (m.i * m.q) / m.count;
  return {
    balance: Math.max(m.ii, m.qq) === 0 ? 0 : Math.max(0, Math.min(vi, vq)) / Math.max(vi, vq, Number.MIN_VALUE),
    constantShare: Math.min(1, (m.i ** 2 + m.q ** 2) / m.count / total),
    likeness: vi > 0 && vq > 0 ? Math.min(1, Math.abs(cov) / Math.sqrt(vi * vq)) : 0,
  };
}

/** A carrier that turns less than so often about the centre may stand at any one angle of I and Q. */
const LEAST_TURNS = 3;
/** What turns by more is no offset of the receiver. */
const MOST_OFFSET_TURNS = 0.1;
/** Of a carrier with two equal sidebands hardly anything stands across it: power across re along. */
const MOST_ACROSS: Fraction = 0.25;

/**
 * Whether a carrier with two sidebands stands so near to the centre of the file that it looks like a constant offset, a dead
 * channel or two that are the same: it is none of these.
 * @param offsetHz where the strongest line was found; a stated carrier is believed
 */
export function isCarrierAtCentre(levels: IqLevels, offsetHz: Hertz | null, { durationS }: Pick<Measured, 'durationS'>, isStated: boolean) {
  if (offsetHz === null) return false;
  const turns = Math.abs(offsetHz) * durationS;
  return turns < LEAST_TURNS && (isStated || turns > MOST_OFFSET_TURNS || movesAlongConstant(levels));
}

/** So does a carrier with its sidebands, and hardly anything beside a mere offset. */
function movesAlongConstant({ moments: m }: IqLevels): boolean {
  const [vi, vq, cov] = [m.ii - m.i ** 2 / m.count, m.qq - m.q ** 2 / m.count, m.iq - (m.i * m.q) / m.count];
  const constant = m.i ** 2 + m.q ** 2;
  if (constant === 0) return false;
  const along = (vi * m.i ** 2 + vq * m.q ** 2 + 2 * cov * m.i * m.q) / constant;
  return vi + vq - along <= MOST_ACROSS * along;
}

/**
 * Judgements on the recording itself, which come before any on the transmitter.
 * @param hasCarrierAtCentre a carrier is known to stand at the centre: nothing can be told there of offsets and channels
 */
export function recordingFindings(levels: IqLevels, own?: OwnLimits, hasCarrierAtCentre = false): (Finding | null)[] {
  const state = hasCarrierAtCentre ? null : iqState(levels);
  const share = levels.clippedShare;
  return [
    judge('overload', 100 * share, own, {
      code: 'receiver-overload',
      text: 'The receiver was driven to full scale: suspect the receiver first. Lower its gain or add attenuation, and record again; until then nothing is said of the transmitter.',
      evidence: `${roughPercent(share)} of the samples at full scale in runs`,
    }),
    judge('deadChannel', state && 100 * state.balance, own, {
      code: 'iq-imbalance',
      text: 'One of I and Q is dead or nearly so: both sides of the spectrum show the same. Check the cable and the recorder.',
      evidence: `the weaker channel holds ${roughPercent(state?.balance ?? 0)} of the power of the other`,
    }),
    judge('sameChannels', state?.likeness ?? null, own, {
      code: 'iq-imbalance',
      text: 'I and Q are the same signal: this is plain audio in stereo, or the recorder was set to mono.',
      evidence: `their correlation is ${(state?.likeness ?? 0).toFixed(3)}`,
    }),
    judge('constantPart', state && 100 * state.constantShare, own, {
      code: 'iq-imbalance',
      text: 'A strong constant offset sits at the centre of the file: the receiver’s own, unless a carrier stands exactly there. Tune a few kHz aside.',
      evidence: `${roughPercent(state?.constantShare ?? 0)} of the power is at 0 Hz`,
    }),
  ];
}
