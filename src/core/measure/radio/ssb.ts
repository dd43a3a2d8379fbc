/**
 * The SSB measurement: an I/Q recording of an over in, the contract's numbers out. Two passes in constant memory:
 * levels first, then spectra and the envelope over the active part.
 */
import { DownConverter, fftSizeFor, PowerHistogram, type Spectrum, SpectrumAverager } from '../../dsp/index.ts';
import type { SampleSource } from '../../files/index.ts';
import type { FindingCode } from '../../findings/index.ts';
import type { Sideband } from '../../modem/index.ts';
import { type Decibels, type Hertz, type Power, powerToDb } from '../../units/index.ts';
import type { Measured, Notes, RadioDetail, SsbMeasurement } from '../measurement.ts';
import { occupiedBand, passbandAgainst } from '../passband.ts';
import { speechSpectrum } from '../voice/voice.ts';
import { VoiceMoments } from './growth.ts';
import { eachPairBlock, type IqLevels, type IqOptions, iqBasics, noiseInBand, scanLevels, WIDEST_RADIO_BIN_HZ } from './iq.ts';
import { partSamplesOf, voiceFrames } from './keying.ts';
import { CarrierBands, drawn, extent, noiseDensity, occupiedEdges } from './radioSpectrum.ts';
import { ssbFindings } from './ssbFindings.ts';

const WANTED: readonly [Hertz, Hertz] = [100, 3000];
const ADJACENT: readonly [Hertz, Hertz] = [3300, 6300];
const CARRIER: readonly [Hertz, Hertz] = [-30, 30];
const HIGHEST_AUDIO_HZ = 6500;
const EXTENT_DB: Decibels = 40;
/** The envelope is that of this channel about the voice's middle. */
const CHANNEL_HALF_HZ = 15_000;
const CENTRE_HZ = 1500;
/** Speech is told from pauses by the power within this of the carrier: both sidebands. */
const VOICE_HALF_HZ = 3500;

/** Carrier, sideband and how the recording is read. */
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
  const band = { centreHz: carrierHz, halfWidthHz: VOICE_HALF_HZ };
  const scanned = await scanLevels(source, options, [0, 0.4], band);
  const levels = { ...scanned, frames: voiceFrames(scanned.bandParts, partSamplesOf(source.sampleRateHz), noiseInBand(scanned, band)) };
  const spectra = await measureSpectra(source, options, levels);
  const reference = options.reference ? await speechSpectrum(options.reference, options.signal) : undefined;
  const { basics, notes } = iqBasics(source, levels);
  const numbers = spectra.active ? numbersOf(options, { ...spectra, active: spectra.active }, reference, notes) : nothing(notes);
  const measurement = { kind: 'ssb' as const, ...basics, carrierHz, sideband, ...numbers.keys, notes };
  const growth = spectra.moments.growth(numbers.noise ?? 0);
  const evidence = { levels: scanned, ...spectra, noise: numbers.noise, growth };
  const findings = ssbFindings(measurement, evidence, options.limits);
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
  readonly envelope: Envelope;
  readonly moments: VoiceMoments;
}

interface Envelope {
  /** 99.9 percentile of the power; null of nothing. */
  readonly top: Power | null;
  readonly mean: Power;
}

/** One pass: spectra of the whole file, and in the signal's channel the envelope and the moments. */
async function measureSpectra(source: SampleSource, options: SsbOptions, levels: IqLevels): Promise<Spectra> {
  const { kernel, block, frames } = levels;
  const { carrierHz = 0, sideband = 'usb' } = options;
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
  const sign = sideband === 'usb' ? 1 : -1;
  const channel = new DownConverter(kernel, {
    sampleRateHz: rate,
    centreHz: carrierHz + sign * CENTRE_HZ,
    halfWidthHz: CHANNEL_HALF_HZ,
    transitionHz: 4000,
    leastRateHz: 2 * CHANNEL_HALF_HZ + 8000,
  });
  const step = rate / channel.sampleRateHz;
  const isActive = (start: number, length: number) => frames.activeShare(Math.round(start * step), Math.round(length * step)) === 1;
  const moments = new VoiceMoments(kernel, channel.sampleRateHz, -sign * CENTRE_HZ, sign, isActive);
  const counter = new PowerHistogram();
  let at = 0;
  let sum = 0;
  await eachPairBlock(source, block, options, [0.4, options.reference ? 0.9 : 1], () => {
    averager.push(block.values());
    const pairs = channel.push(block);
    moments.push(pairs);
    const { i, q } = pairs;
    for (let n = 0; n < i.length; n++) {
      if (!frames.active[Math.floor(((at + n) * step) / frames.frameSamples)]) continue;
      const power = i[n] * i[n] + q[n] * q[n];
      counter.push(power);
      sum += power;
    }
    at += i.length;
  });
  const [active, pauses] = averager.result();
  const envelope = { top: counter.percentile(99.9), mean: counter.total === 0 ? 0 : sum / counter.total };
  return { active, pauses, highest: averager.highest(), envelope, moments };
}

type Keys = Omit<SsbMeasurement, keyof Measured | 'kind' | 'carrierHz' | 'sideband'>;

const NO_KEYS: Keys = {
  peakToAverageDb: null,
  peakDb: null,
  passbandHz: null,
  occupiedBandwidthHz: null,
  oppositeSidebandDb: null,
  carrierDb: null,
  carrierPepDb: null,
  adjacentDb: { wantedSide: null, otherSide: null },
  extentHz: null,
};

function nothing(notes: Notes, reason = 'The recording is digital silence, or too short for a spectrum.'): { keys: Keys; noise: null } {
  for (const key of Object.keys(NO_KEYS)) notes[key] = reason;
  return { keys: NO_KEYS, noise: null };
}

/** The same recording while nobody has said where its carrier is: nothing that counts from it. */
export function withoutCarrier(measurement: SsbMeasurement): SsbMeasurement {
  const notes: Notes = Object.fromEntries(
    Object.entries(measurement.notes).filter(([key]) => !(key in NO_KEYS) && !key.startsWith('adjacentDb')),
  );
  const { keys } = nothing(
    notes,
    'The carrier is not known yet: the voice alone does not tell it well enough. Give it, and it is measured.',
  );
  // What is said of the receiver and the level needs no carrier.
  const findings = measurement.findings.filter(({ code }) => RECORDING_CODES.includes(code));
  return { ...measurement, ...keys, notes, findings };
}

const RECORDING_CODES: readonly FindingCode[] = ['receiver-overload', 'iq-imbalance', 'low-level'];

function numbersOf(
  options: SsbOptions,
  { active, highest, envelope }: Spectra & { active: Spectrum },
  reference: Spectrum | null | undefined,
  notes: Notes,
): { keys: Keys; noise: number | null } {
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
  const { top } = envelope;
  const hasPeak = top !== null && top > 0;
  if (!hasPeak) for (const key of ['peakToAverageDb', 'peakDb', 'carrierPepDb']) notes[key] = NO_POWER;
  const keys: Keys = {
    peakToAverageDb: hasPeak ? powerToDb(top / envelope.mean) : null,
    peakDb: hasPeak ? powerToDb(top) : null,
    passbandHz: passband(bands, reference, noise, notes),
    occupiedBandwidthHz: occupied && occupied[1] - occupied[0],
    oppositeSidebandDb: relative('oppositeSidebandDb', [-WANTED[1], -WANTED[0]]),
    carrierDb: relative('carrierDb', CARRIER),
    carrierPepDb: hasPeak && bands.reaches(...CARRIER) ? powerToDb(Math.max(bands.power(...CARRIER), Number.MIN_VALUE) / top) : null,
    adjacentDb: {
      wantedSide: relative('adjacentDb.wantedSide', ADJACENT),
      otherSide: relative('adjacentDb.otherSide', [-ADJACENT[1], -ADJACENT[0]]),
    },
    extentHz: extentOf(highest, carrierHz, noise, notes),
  };
  return { keys, noise };
}

const NO_POWER = 'There is no power to compare.';

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
