/**
 * The SSB measurement: an I/Q recording of an over in, the contract's numbers out. One pass in constant memory.
 */
import { bandPower, PairBlock, type Spectrum } from '../../dsp/index.ts';
import type { SampleSource } from '../../files/index.ts';
import type { FindingCode } from '../../findings/index.ts';
import type { Sideband } from '../../modem/index.ts';
import { type Decibels, decibels, frequency, type Hertz, type Power, powerToDb } from '../../units/index.ts';
import type { Measured, Notes, RadioDetail, SsbMeasurement } from '../measurement.ts';
import { occupiedBand, passbandAgainst } from '../passband.ts';
import { speechSpectrum } from '../voice/voice.ts';
import { withDetail } from '../withDetail.ts';
import { eachPairBlock, type IqOptions, iqBasics, iqKernel, LevelScan, noiseInBand } from './iq.ts';
import { LEAST_OVER_NOISE } from './keying.ts';
import { strongestBand } from './modulated.ts';
import { CarrierBands, drawn, extent, noiseDensity, occupiedEdges, withoutCentreLine } from './radioSpectrum.ts';
import { type Rounding, ssbFindings } from './ssbFindings.ts';
import { SsbPass, type SsbPassResult } from './ssbPass.ts';

const WANTED: readonly [Hertz, Hertz] = [100, 3000];
const ADJACENT: readonly [Hertz, Hertz] = [3300, 6300];
const CARRIER: readonly [Hertz, Hertz] = [-30, 30];
const HIGHEST_AUDIO_HZ = 6500;
const EXTENT_DB: Decibels = 40;
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
  const block = new PairBlock(iqKernel(source));
  const scan = new LevelScan(source, block, false);
  const pass = new SsbPass(block.kernel, source.sampleRateHz, carrierHz, sideband, band);
  const nonFinite = await eachPairBlock(source, block, options, [0, options.reference ? 0.9 : 1], () => {
    scan.push();
    pass.push(block);
  });
  const levels = scan.result(nonFinite);
  const heard = ownLineAside(
    pass.result((mean) => LEAST_OVER_NOISE * (noiseInBand(mean, band) ?? 0)),
    carrierHz,
  );
  const reference = options.reference ? await speechSpectrum(options.reference, options.signal) : undefined;
  const { basics, notes } = iqBasics(source, levels);
  const rounding = roundingOf(source, heard, options);
  const numbers = heard.fine.active ? numbersOf(options, heard, heard.fine.active, reference, notes, rounding) : nothing(notes);
  const measurement = { kind: 'ssb' as const, ...basics, carrierHz, sideband, ...numbers.keys, notes };
  const growth = pass.moments.growth(heard.least, numbers.noise ?? 0);
  const evidence = { levels, ...heard.coarse, noise: numbers.noise, rounding, growth };
  const findings = ssbFindings(measurement, evidence, options.limits);
  return withDetail({ ...measurement, findings }, () => radioDetail(heard.fine.active, heard.fine.highest, numbers.noise, carrierHz));
}

/** What rounding to whole codes may have made: a twelfth of a squared step in each part of a sample, anywhere in the file. */
export const roundingPower = (codeStep: number): Power => codeStep ** 2 / 6;

function roundingOf(
  { codeStep, sampleRateHz }: SampleSource,
  { fine }: SsbPassResult,
  { carrierHz = 0, sideband = 'usb' }: SsbOptions,
): Rounding {
  const power = roundingPower(codeStep);
  const wanted = fine.active ? new CarrierBands(fine.active, carrierHz, sideband).power(...WANTED) : 0;
  return { power, density: power / sampleRateHz, reWantedDb: power > 0 && wanted > 0 ? powerToDb(power / wanted) : -Infinity };
}

/** The line that the receiver itself puts at the centre of the file belongs to no signal. */
function ownLineAside({ fine, coarse, ...rest }: SsbPassResult, carrierHz: Hertz): SsbPassResult {
  const without = (spectrum: Spectrum | null) => spectrum && withoutCentreLine(spectrum, carrierHz);
  return {
    ...rest,
    fine: { active: without(fine.active), highest: without(fine.highest) },
    coarse: { active: without(coarse.active), pauses: without(coarse.pauses) },
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
  { fine, coarse, envelope }: SsbPassResult,
  active: Spectrum,
  reference: Spectrum | null | undefined,
  notes: Notes,
  rounding: Rounding,
): { keys: Keys; noise: number | null } {
  const { carrierHz = 0, sideband = 'usb' } = options;
  const bands = new CarrierBands(active, carrierHz, sideband);
  const signal = [-300, 3300].map((hz) => carrierHz + (sideband === 'usb' ? hz : -hz)).sort((a, b) => a - b);
  const noise = coarse.active && noiseDensity(coarse.active, carrierHz, [signal[0], signal[1]]);
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
    noteNoise(notes, key, power, { noise, widthHz: high - low, rounding: rounding.power });
    return powerToDb(power / wanted);
  };
  const isNoise = noise !== null && noise * (WANTED[1] - WANTED[0]) > wanted / 2;
  const elsewhere = coarse.active && strongerElsewhere(coarse.active, carrierHz, wanted);
  const said = [...(isNoise ? ['Noise explains more than half of the wanted sideband.'] : []), ...(elsewhere ? [elsewhere] : [])];
  if (said.length > 0) notes.wanted = said.join(' ');
  const occupied = occupiedEdges(active, carrierHz + (sideband === 'usb' ? 1500 : -1500), noise ?? 0);
  if (!occupied) notes.occupiedBandwidthHz = 'Nothing stands above the noise.';
  else if (rounding.power > EDGE_SHARE * wanted) notes.occupiedBandwidthHz = FEW_BITS;
  const { top } = envelope;
  const hasPeak = top !== null && top > 0;
  if (!hasPeak) for (const key of ['peakToAverageDb', 'peakDb', 'carrierPepDb']) notes[key] = NO_POWER;
  const keys: Keys = {
    peakToAverageDb: hasPeak ? powerToDb(top / envelope.mean) : null,
    peakDb: hasPeak ? powerToDb(top) : null,
    passbandHz: passband(bands, reference, { noise, rounding: rounding.power }, notes),
    occupiedBandwidthHz: occupied && occupied[1] - occupied[0],
    oppositeSidebandDb: relative('oppositeSidebandDb', [-WANTED[1], -WANTED[0]]),
    carrierDb: relative('carrierDb', CARRIER),
    carrierPepDb: hasPeak && bands.reaches(...CARRIER) ? powerToDb(Math.max(bands.power(...CARRIER), Number.MIN_VALUE) / top) : null,
    adjacentDb: {
      wantedSide: relative('adjacentDb.wantedSide', ADJACENT),
      otherSide: relative('adjacentDb.otherSide', [-ADJACENT[1], -ADJACENT[0]]),
    },
    extentHz: extentOf(fine.highest, carrierHz, noise, notes),
  };
  return { keys, noise };
}

/** A signal may stand beside the wanted one, but hardly be so much stronger: then the carrier was said wrongly. */
const ELSEWHERE_DB: Decibels = 15;

/** In a sentence; null where nothing is that strong farther off than the other sideband. */
function strongerElsewhere(spectrum: Spectrum, carrierHz: Hertz, wanted: Power): string | null {
  const width = WANTED[1] - WANTED[0];
  const middle = strongestBand(spectrum, width);
  const more = powerToDb(bandPower(spectrum, middle - width / 2, middle + width / 2) / Math.max(wanted, Number.MIN_VALUE));
  if (Math.abs(middle - carrierHz) < WANTED[1] || more < ELSEWHERE_DB) return null;
  return `A signal ${decibels(more, 0)} stronger lies around ${frequency(Math.round(middle / 100) * 100)} from the file’s centre: give its carrier.`;
}

/** On each side of the occupied band so much of the power is left. */
const EDGE_SHARE = 0.005;
const FEW_BITS = 'Noise-limited: an upper bound, the signal fills too little of the file’s few bits to show less.';
const NO_POWER = 'There is no power to compare.';

/** What may hide a band: noise per hertz beside the signal, and all that the rounding of samples may have made. */
export interface Hiding {
  readonly noise: number | null;
  readonly rounding: Power;
}

/** Where noise explains more than half of a band, its number is an upper bound (contract). */
export function noteNoise(
  notes: Notes,
  key: string,
  power: Power,
  { noise, widthHz, rounding }: Hiding & { readonly widthHz: Hertz },
): void {
  if (power < rounding) notes[key] = FEW_BITS;
  else if (noise !== null && noise * widthHz > power / 2)
    notes[key] = 'Noise-limited: an upper bound, the noise beside the signal explains more than half of it.';
}

function passband(bands: CarrierBands, reference: Spectrum | null | undefined, hiding: Hiding, notes: Notes): SsbMeasurement['passbandHz'] {
  const audio = bands.audio(HIGHEST_AUDIO_HZ);
  if (reference === undefined) {
    const reach = Math.min(HIGHEST_AUDIO_HZ, (audio.density.length - 1) * audio.binHz);
    const total = bands.power(0, reach);
    // 1 % is left out; noise must not be more than half of that.
    noteNoise(notes, 'passbandHz', 0.01 * total, { ...hiding, widthHz: reach });
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
