/**
 * The SSB measurement: an I/Q recording of an over in, the contract's numbers out. Two passes in constant memory:
 * levels first, then spectra and the envelope over the active part.
 */
import type { SampleSource } from '../formats/samples.ts';
import type { Sideband } from '../modulation/ssb.ts';
import { Channel } from '../signal/channel.ts';
import { powerToDb } from '../signal/conversions.ts';
import type { FrameLevels } from '../signal/frames.ts';
import { PairBlock } from '../signal/pairBlock.ts';
import { PowerCounter } from '../signal/quantiles.ts';
import { fftSizeFor, type Spectrum, SpectrumAverager } from '../signal/spectrum.ts';
import type { Decibels, Hertz, Power } from '../signal/units.ts';
import { eachPairBlock, type IqLevels, type IqOptions, iqBasics, scanLevels, WIDEST_RADIO_BIN_HZ } from './iq.ts';
import type { Measured, Notes, RadioDetail, SsbMeasurement } from './measurement.ts';
import { occupiedBand, passbandAgainst } from './passband.ts';
import { CarrierBands, drawn, extent, noiseDensity, occupiedEdges } from './radioSpectrum.ts';
import { type Skirts, ssbFindings } from './ssbFindings.ts';
import { speechSpectrum } from './voice.ts';

const WANTED: readonly [Hertz, Hertz] = [100, 3000];
const ADJACENT: readonly [Hertz, Hertz] = [3300, 6300];
const CARRIER_HALF_HZ = 30;
const HIGHEST_AUDIO_HZ = 6500;
const EXTENT_DB: Decibels = 40;
/** The envelope is that of the file unless more than this share of the power lies outside the channel. */
const MOST_OUTSIDE = 0.005;
const CHANNEL_HALF_HZ = 15_000;

export interface SsbOptions extends IqOptions {
  readonly sideband?: Sideband;
  /** Recording of the same voice at the microphone, for the -6 dB passband. */
  readonly reference?: SampleSource;
}

/** @throws NotMeasurable for a single channel; the signal's reason when aborted */
export async function measureSsb(
  source: SampleSource,
  options: SsbOptions = {},
): Promise<{ measurement: SsbMeasurement; detail: RadioDetail }> {
  const { carrierHz = 0, sideband = 'usb' } = options;
  const levels = await scanLevels(source, options, [0, 0.4]);
  const spectra = await measureSpectra(source, options, levels);
  const reference = options.reference ? await speechSpectrum(options.reference, options.signal) : undefined;
  const { basics, notes } = iqBasics(source, levels);
  const numbers = spectra.active
    ? await numbersOf(source, options, levels, { ...spectra, active: spectra.active }, reference, notes)
    : nothing(notes);
  const measurement = { kind: 'ssb' as const, ...basics, carrierHz, sideband, ...numbers.keys, notes };
  const skirts = spectra.active && skirtsOf(new CarrierBands(spectra.active, carrierHz, sideband), measurement.passbandHz, numbers.noise);
  const findings = ssbFindings(measurement, { levels, ...spectra, noise: numbers.noise, skirts }, options.limits);
  return {
    measurement: { ...measurement, findings },
    detail: radioDetail(spectra.active, spectra.highest, numbers.noise, carrierHz),
  };
}

/** Spectra around a carrier for drawing. */
export function radioDetail(
  active: Spectrum | null,
  highest: Spectrum | null,
  noise: number | null,
  aboutHz: Hertz,
  reachHz = 12_000,
): RadioDetail {
  const part = (spectrum: Spectrum | null) => spectrum && drawn(spectrum, aboutHz - reachHz, aboutHz + reachHz);
  return { mean: part(active), highest: part(highest), noiseDb: noise === null || noise <= 0 ? null : powerToDb(noise) };
}

interface Spectra {
  readonly active: Spectrum | null;
  readonly pauses: Spectrum | null;
  readonly highest: Spectrum | null;
  readonly envelope: PowerCounter;
}

async function measureSpectra(source: SampleSource, options: SsbOptions, { kernel, block, frames }: IqLevels): Promise<Spectra> {
  const rate = source.sampleRateHz;
  const averager = new SpectrumAverager({
    sampleRateHz: rate,
    size: fftSizeFor(rate, WIDEST_RADIO_BIN_HZ),
    averages: 2,
    weigh: (start, length) => {
      const active = frames.activeShare(start, length);
      return [active, active === 0 && frames.isPause(start, length) ? 1 : 0];
    },
    isComplex: true,
    holdsHighest: true,
    kernel,
  });
  const envelope = new PowerCounter(kernel);
  await eachPairBlock(source, block, options, [0.4, options.reference ? 0.9 : 1], (first) => {
    averager.push(block.values());
    eachActiveStretch(frames, first, block.count, (from, to) => envelope.push(block, from, to));
  });
  const [active, pauses] = averager.result();
  return { active, pauses, highest: averager.highest(), envelope };
}

/** The parts of a block, in its own samples, that lie in active frames. */
function eachActiveStretch(frames: FrameLevels, first: number, count: number, use: (from: number, to: number) => void): void {
  const size = frames.frameSamples;
  for (let frame = Math.floor(first / size); frame * size < first + count; frame++) {
    if (!frames.active[frame]) continue;
    const from = Math.max(0, frame * size - first);
    const to = Math.min(count, (frame + 1) * size - first);
    if (to > from) use(from, to);
  }
}

type Keys = Omit<SsbMeasurement, keyof Measured | 'kind' | 'carrierHz' | 'sideband'>;

function nothing(notes: Notes): { keys: Keys; noise: null } {
  for (const key of [
    'peakToAverageDb',
    'peakDb',
    'passbandHz',
    'occupiedBandwidthHz',
    'oppositeSidebandDb',
    'carrierDb',
    'adjacentDb',
    'extentHz',
  ]) {
    notes[key] = 'The recording is digital silence, or too short for a spectrum.';
  }
  const adjacentDb = { wantedSide: null, otherSide: null };
  return {
    keys: {
      peakToAverageDb: null,
      peakDb: null,
      passbandHz: null,
      occupiedBandwidthHz: null,
      oppositeSidebandDb: null,
      carrierDb: null,
      adjacentDb,
      extentHz: null,
    },
    noise: null,
  };
}

async function numbersOf(
  source: SampleSource,
  options: SsbOptions,
  levels: IqLevels,
  { active, highest, envelope }: Spectra & { active: Spectrum },
  reference: Spectrum | null | undefined,
  notes: Notes,
): Promise<{ keys: Keys; noise: number | null }> {
  const { carrierHz = 0, sideband = 'usb' } = options;
  const bands = new CarrierBands(active, carrierHz, sideband);
  const signal = [-300, 3300].map((hz) => carrierHz + (sideband === 'usb' ? hz : -hz)).sort((a, b) => a - b);
  const noise = noiseDensity(active, carrierHz, [signal[0], signal[1]]);
  const wanted = bands.power(...WANTED);
  const relative = (key: string, [low, high]: readonly [Hertz, Hertz]): Decibels | null => {
    if (!bands.reaches(low, high)) {
      notes[key] = `The file does not reach ${Math.abs(low)} to ${Math.abs(high)} Hz there.`;
      return null;
    }
    const power = bands.power(low, high);
    if (wanted <= 0 || power <= 0) {
      notes[key] = NO_POWER;
      return null;
    }
    noteNoise(notes, key, power, noise, high - low);
    return powerToDb(power / wanted);
  };
  if (noise !== null && noise * (WANTED[1] - WANTED[0]) > wanted / 2)
    notes.wanted = 'Noise explains more than half of the wanted sideband.';
  const occupied = occupiedEdges(active, carrierHz + (sideband === 'usb' ? 1500 : -1500), noise ?? 0);
  if (!occupied) notes.occupiedBandwidthHz = 'Nothing stands above the noise.';
  const peak = await envelopePeak(source, options, levels, active, envelope, notes);
  if (peak.peakToAverageDb === null) notes.peakToAverageDb = NO_POWER;
  if (peak.peakDb === null) notes.peakDb = NO_POWER;
  const keys: Keys = {
    ...peak,
    passbandHz: passband(bands, reference, noise, notes),
    occupiedBandwidthHz: occupied && occupied[1] - occupied[0],
    oppositeSidebandDb: relative('oppositeSidebandDb', [-WANTED[1], -WANTED[0]]),
    carrierDb: relative('carrierDb', [-CARRIER_HALF_HZ, CARRIER_HALF_HZ]),
    adjacentDb: {
      wantedSide: relative('adjacentDb.wantedSide', ADJACENT),
      otherSide: relative('adjacentDb.otherSide', [-ADJACENT[1], -ADJACENT[0]]),
    },
    extentHz: extentOf(highest, carrierHz, noise, notes),
  };
  return { keys, noise };
}

const NO_POWER = 'There is no power to compare.';

/** Beyond the filter's own slope, and as wide as third-order products of a voice reach. */
const SKIRT_FROM_HZ = 150;
const SKIRT_TO_HZ = 1800;

function skirtsOf(bands: CarrierBands, passbandHz: SsbMeasurement['passbandHz'], noise: number | null): Skirts | null {
  const [low, high] = [passbandHz?.[0] ?? null, passbandHz?.[1] ?? null];
  const wanted = bands.power(...WANTED);
  if (low === null || high === null || wanted <= 0) return null;
  const level = (from: Hertz, to: Hertz): Decibels | null => {
    const power = bands.power(from, to);
    const isClear = bands.reaches(from, to) && power > 2 * (noise ?? 0) * (to - from);
    return isClear && power > 0 ? powerToDb(power / wanted) : null;
  };
  const aside = bands.power(-100 - 2 * CARRIER_HALF_HZ, -100);
  return {
    lowerDb: level(low - SKIRT_TO_HZ, low - SKIRT_FROM_HZ),
    upperDb: level(high + SKIRT_FROM_HZ, high + SKIRT_TO_HZ),
    carrierOverDb: powerToDb(bands.power(-CARRIER_HALF_HZ, CARRIER_HALF_HZ) / Math.max(aside, Number.MIN_VALUE)),
  };
}

/** Where noise explains more than half of a band, its number is an upper bound (contract). */
export function noteNoise(notes: Notes, key: string, power: Power, noise: number | null, widthHz: Hertz): void {
  if (noise !== null && noise * widthHz > power / 2)
    notes[key] = 'Noise-limited: an upper bound, the noise beside the signal explains more than half of it.';
}

function passband(
  bands: CarrierBands,
  reference: Spectrum | null | undefined,
  noise: number | null,
  notes: Notes,
): SsbMeasurement['passbandHz'] {
  const audio = bands.audio(HIGHEST_AUDIO_HZ);
  if (reference === undefined) {
    const reach = Math.min(HIGHEST_AUDIO_HZ, (audio.density.length - 1) * audio.binHz);
    const total = bands.power(0, reach);
    // 1 % is left out; noise must not be more than half of that.
    noteNoise(notes, 'passbandHz', 0.01 * total, noise, reach);
    const held = occupiedBand(audio, 0, reach, 0.99);
    if (!held) notes.passbandHz = NO_POWER;
    return held;
  }
  if (reference === null) {
    notes.passbandHz = 'The reference recording is digital silence.';
    return null;
  }
  const edges = passbandAgainst(audio, reference);
  if (!edges) notes.passbandHz = 'The two recordings have nothing in common between 500 and 2000 Hz.';
  else if (edges.includes(null)) notes.passbandHz = 'No -6 dB edge was found on the side that is null.';
  return edges;
}

function extentOf(highest: Spectrum | null, carrierHz: Hertz, noise: number | null, notes: Notes): [Hertz, Hertz] | null {
  const found = highest && extent(highest, carrierHz, EXTENT_DB);
  if (!found) {
    notes.extentHz = 'Nothing was held.';
    return null;
  }
  // The highest of many windows of noise stands about 10 dB over its mean.
  if (noise !== null && powerToDb(noise / found.peak) + 10 > -EXTENT_DB)
    notes.extentHz = `Noise-limited: the noise is less than ${EXTENT_DB + 10} dB under the peak.`;
  return found.edges;
}

/** Of the whole file's envelope, or of the channel's where the file holds more than the signal. */
async function envelopePeak(
  source: SampleSource,
  options: SsbOptions,
  { block, frames }: IqLevels,
  active: Spectrum,
  whole: PowerCounter,
  notes: Notes,
): Promise<Pick<SsbMeasurement, 'peakToAverageDb' | 'peakDb'>> {
  const { carrierHz = 0, sideband = 'usb' } = options;
  const centreHz = carrierHz + (sideband === 'usb' ? 1500 : -1500);
  const all = active.density.reduce((a, b) => a + b, 0) * active.binHz;
  const inside = new CarrierBands(active, centreHz, 'usb').power(-CHANNEL_HALF_HZ, CHANNEL_HALF_HZ);
  if (inside >= (1 - MOST_OUTSIDE) * all) return overMean(whole, meanPower(frames));
  notes.peakToAverageDb = 'The file holds other power beside the signal: measured in the channel of +-15 kHz.';
  const channel = new Channel(block.kernel, {
    sampleRateHz: source.sampleRateHz,
    centreHz,
    halfWidthHz: CHANNEL_HALF_HZ,
    transitionHz: 4000,
    leastRateHz: 2 * CHANNEL_HALF_HZ + 8000,
  });
  const narrow = new PairBlock(block.kernel);
  const counter = new PowerCounter(block.kernel);
  const step = source.sampleRateHz / channel.sampleRateHz;
  let at = 0;
  let sum = 0;
  await eachPairBlock(source, block, options, [0.95, 1], () => {
    const { i, q } = channel.push(block);
    narrow.load(Float32Array.from({ length: 2 * i.length }, (_, n) => (n % 2 ? q : i)[n >> 1]));
    for (let n = 0; n < i.length; n++) {
      if (!frames.active[Math.floor(((at + n) * step) / frames.frameSamples)]) continue;
      counter.push(narrow, n, n + 1);
      sum += i[n] ** 2 + q[n] ** 2;
    }
    at += i.length;
  });
  return overMean(counter, sum / counter.total);
}

function meanPower(frames: FrameLevels): Power {
  const active = frames.powers.filter((_, i) => frames.active[i]);
  return active.reduce((a, b) => a + b, 0) / active.length;
}

function overMean(counter: PowerCounter, mean: Power): Pick<SsbMeasurement, 'peakToAverageDb' | 'peakDb'> {
  const top = counter.percentile(99.9);
  return top === null || !(mean > 0)
    ? { peakToAverageDb: null, peakDb: null }
    : { peakToAverageDb: powerToDb(top / mean), peakDb: powerToDb(top) };
}
