/**
 * The voice measurement: receiver audio or a microphone recording in, the contract's numbers out.
 * Two passes over the file: levels (voiceLevels.ts), and what needs to know where talk is (voicePass.ts).
 */
import {
  ACTIVE_RANGE_DB,
  bandPowers,
  clippedShare,
  createKernel,
  FRAME_SECONDS,
  type FrameLevels,
  LEAST_VOICED_SHARE,
  mean,
  percentileOf,
  rising,
  type Spectrum,
  slope,
  VOICE_THIRD_OCTAVES,
  VOICE_TWELFTH_OCTAVES,
} from '../../dsp/index.ts';
import type { SampleSource } from '../../files/index.ts';
import type { OwnLimits } from '../../findings/index.ts';
import { amplitudeToDb, type Decibels, dbToPower, type Fraction, type Hertz, type Power, powerToDb } from '../../units/index.ts';
import type { Notes, VoiceDetail, VoiceMeasurement } from '../measurement.ts';
import { occupiedVoiceBand, passbandAgainst } from '../passband.ts';
import { NotMeasurable } from '../radio/iq.ts';
import { withDetail } from '../withDetail.ts';
import { type ChannelOptions, eachMono } from './eachMono.ts';
import { overOrdinarySpeech, type PassedBand, passedBand } from './passedBand.ts';
import type { TalkSpectraResult } from './talkSpectra.ts';
import { type Room, voiceFindings } from './voiceFindings.ts';
import { VoiceLevels } from './voiceLevels.ts';
import { VoicePass, type VoicePassResult } from './voicePass.ts';

/** Above this share of talk there is no pause to hear the room in (contract). */
const MOST_ACTIVITY = 0.95;
/** Of the ten third octaves from 315 to 2500 Hz at least this many must lie inside the passband (contract). */
const TILT_BANDS: readonly [number, number] = [5, 15];
const LEAST_TILT_BANDS = 5;
/** Above this share of talk the noise floor is an upper bound (contract). */
const BOUNDED_ACTIVITY = 0.85;
const STRIP_POINTS = 600;

/** Channel, passband of the path, own limits, progress. */
export interface VoiceOptions {
  /** Channel to measure, counted from 1; without it the mean of all. */
  readonly channel?: number;
  /** Recording of the same voice at the microphone, for the -6 dB passband. */
  readonly reference?: SampleSource;
  /** What the card's filter lets through; told from the recording when left out. */
  readonly passbandHz?: readonly [Hertz, Hertz];
  /** The station's own limits for findings. */
  readonly limits?: OwnLimits;
  /** Told the share done, 0 to 1, now and then. */
  readonly onProgress?: (share: Fraction) => void;
  readonly signal?: AbortSignal;
}

/** Numbers and drawings of a voice. */
export interface VoiceResult {
  readonly measurement: VoiceMeasurement;
  readonly detail: VoiceDetail;
}

/**
 * Measures a voice recording.
 * @throws RangeError for a channel the file does not have; the signal's reason when aborted
 */
export async function measureVoice(source: SampleSource, options: VoiceOptions = {}): Promise<VoiceResult> {
  if (options.channel !== undefined && !(options.channel >= 1 && options.channel <= source.channels)) {
    throw new RangeError(`Channel ${options.channel} does not exist; this file has ${source.channels}.`);
  }
  const { heard, nonFinite } = await passesOver(source, options, options.reference ? 0.7 : 1);
  const reference = options.reference ? await speechSpectrum(options.reference, options.signal) : null;
  return assemble(source, options, heard, nonFinite, reference);
}

/** The first pass's part of the work. */
const LEVELS_SHARE: Fraction = 0.25;

/**
 * @param share of the whole work, for the progress
 * @throws NotMeasurable where this machine can't
 */
async function passesOver(
  source: SampleSource,
  options: ChannelOptions,
  share: Fraction,
): Promise<{ heard: VoicePassResult; nonFinite: number }> {
  const kernel = createKernel();
  if (!kernel) throw new NotMeasurable('This machine has no WebAssembly with vectors, which measuring needs.');
  const levels = new VoiceLevels(kernel, source);
  const { blockSamples } = levels;
  const first = LEVELS_SHARE * share;
  const nonFinite = await eachMono(source, kernel, blockSamples, options, [0, first], (mono, pairs) => levels.push(mono, pairs));
  const pass = new VoicePass(kernel, source.sampleRateHz, levels.result());
  await eachMono(source, kernel, blockSamples, options, [first, share], (mono) => pass.push(mono));
  return { heard: pass.result(), nonFinite };
}

/** Long-term spectrum of the active part alone, up to 8 kHz; null in silence. */
export async function speechSpectrum(source: SampleSource, signal?: AbortSignal): Promise<Spectrum | null> {
  const { heard } = await passesOver(source, { signal }, 1);
  return heard.spectra.speech;
}

function assemble(
  source: SampleSource,
  options: VoiceOptions,
  heard: VoicePassResult,
  nonFinite: number,
  reference: Spectrum | null,
): VoiceResult {
  const { spectra } = heard;
  const notes: Notes = {};
  const { levelDb, activity } = heard.speech;
  const { loudnessLufs } = heard;
  const durationS = heard.samples / source.sampleRateHz;
  if (source.warnings.length > 0) notes.durationS = source.warnings.join(' ');
  if (nonFinite > 0) {
    notes.samples = `${nonFinite} samples were not finite numbers and were read as silence.`;
  }
  if (levelDb === null) {
    for (const key of ['activeSpeechLevelDb', 'activityFactor', 'peakToAverageDb', 'passbandHz', 'snrDb']) {
      notes[key] = 'The recording is digital silence.';
    }
  }
  if (loudnessLufs === null) {
    notes.loudnessLufs = durationS < 0.4 ? 'Shorter than one 400 ms loudness block.' : 'Nothing is louder than the -70 LUFS gate.';
  }
  const noise = noiseFloor(heard.frames, activity, levelDb, notes);
  const isLimited = noiseLimited(spectra);
  const thirdOctaveDb = thirdOctaves(spectra.speech, isLimited, notes);
  const powers = spectra.speech ? bandPowers(spectra.speech, VOICE_TWELFTH_OCTAVES) : [];
  const measured = passband(spectra.speech, options.reference !== undefined, reference, notes);
  const passed = meet(options.passbandHz, (reference && measured) || passedBand(powers));
  const measurement = {
    kind: 'voice' as const,
    durationS,
    sampleRateHz: source.sampleRateHz,
    clippedShare: clippedShare(heard.clipping),
    activeSpeechLevelDb: levelDb,
    activityFactor: activity,
    loudnessLufs,
    peakToAverageDb: levelDb === null ? null : heard.frames.peakDb - levelDb,
    thirdOctaveDb,
    tiltDbPerOctave: tilt(thirdOctaveDb, passed, notes),
    passbandHz: measured,
    noiseFloorDb: noise,
    snrDb: noise === null || levelDb === null ? null : levelDb - noise,
    pitchHz: pitch(heard.pitchHz, notes),
    levelSpreadDb: levelSpread(heard.frames, notes),
    notes,
  };
  const findings = voiceFindings(
    measurement,
    {
      ...spectra,
      flatTops: heard.flatTops,
      plosives: heard.plosives,
      hum: heard.hum.result(),
      passed,
      overSpeechDb: overOrdinarySpeech(powers.length > 0 ? powers : VOICE_TWELFTH_OCTAVES.map(() => null), passed),
      isLimited,
      peakDb: amplitudeToDb(heard.frames.peak),
      room: roomOf(heard.frames),
    },
    options.limits,
  );
  return withDetail({ ...measurement, findings }, () => detailOf(heard.frames, spectra));
}

/** What the card's filter and what was heard have in common. */
const meet = (card: readonly [Hertz, Hertz] | undefined, [low, high]: PassedBand): PassedBand =>
  card ? [Math.max(card[0], low ?? 0), Math.min(card[1], high ?? Infinity)] : [low, high];

function noiseFloor({ heard }: FrameLevels, activity: Fraction | null, levelDb: Decibels | null, notes: Notes): Decibels | null {
  const reason =
    levelDb === null || heard.length === 0
      ? 'The recording is digital silence.'
      : activity !== null && activity > MOST_ACTIVITY
        ? 'There is no pause in the talk to hear the room in.'
        : null;
  if (reason === null) {
    if (activity !== null && activity > BOUNDED_ACTIVITY) {
      notes.noiseFloorDb = 'An upper bound: there are hardly any pauses in the talk.';
      notes.snrDb = 'A lower bound: there are hardly any pauses in the talk.';
    }
    return percentileOf(heard, 10, powerToDb);
  }
  notes.noiseFloorDb = reason;
  notes.snrDb = reason;
  return null;
}

/** Blocks of 400 ms, a word or two (contract). */
const SPREAD_FRAMES = 8;

function levelSpread({ powers }: FrameLevels, notes: Notes): Decibels | null {
  const blocks: Power[] = [];
  for (let from = 0; from + SPREAD_FRAMES <= powers.length; from += SPREAD_FRAMES)
    blocks.push(mean(powers.slice(from, from + SPREAD_FRAMES)));
  const least = blocks.reduce((most, power) => Math.max(most, power), 0) * dbToPower(-ACTIVE_RANGE_DB);
  const active = rising(blocks.filter((power) => power > 0 && power >= least));
  if (active.length >= 2) return percentileOf(active, 90, powerToDb) - percentileOf(active, 50, powerToDb);
  notes.levelSpreadDb = 'There are fewer than two active blocks of 400 ms.';
  return null;
}

/** Levels between the first and the last word: what stands before and after is not the operator's room. */
function roomOf({ powers, active }: FrameLevels): Room | null {
  const within = rising(powers.slice(active.indexOf(true), active.lastIndexOf(true) + 1).filter((power) => power > 0));
  if (within.length < LEAST_ROOM_FRAMES) return null;
  const [lowest, low, higher] = [2, 10, 20].map((percent) => powerToDb(percentileOf(within, percent)));
  return { floorDb: low, lowestDb: lowest, spreadDb: higher - lowest };
}

const LEAST_ROOM_FRAMES = 20;

/** Which third octaves hold more of the pauses' noise than of the talk: their levels are upper bounds. */
function noiseLimited({ speech, pauses, quiet }: TalkSpectraResult): boolean[] {
  // Where noise leaves no pauses, the quietest moments stand for them.
  const noise = pauses ?? quiet;
  if (!speech || !noise) return VOICE_THIRD_OCTAVES.map(() => false);
  const talk = bandPowers(speech, VOICE_THIRD_OCTAVES);
  return bandPowers(noise, VOICE_THIRD_OCTAVES).map((floor, i) => (talk[i] ?? 0) > 0 && (floor ?? 0) > (talk[i] ?? 0) / 2);
}

function thirdOctaves(speech: Spectrum | null, isLimited: readonly boolean[], notes: Notes): [Hertz, Decibels | null][] {
  const powers = speech ? bandPowers(speech, VOICE_THIRD_OCTAVES) : VOICE_THIRD_OCTAVES.map(() => null);
  const strongest = Math.max(...powers.map((power) => power ?? 0));
  const missing = powers.filter((power) => power === null || power === 0).length;
  if (strongest === 0) notes.thirdOctaveDb = 'The recording is digital silence, or too short for a spectrum.';
  else if (missing > 0) notes.thirdOctaveDb = `${missing} bands lie beyond what this file's sample rate can hold, or are empty.`;
  const limited = VOICE_THIRD_OCTAVES.filter((_, i) => isLimited[i]);
  if (limited.length > 0 && strongest > 0) {
    const list = limited.map((band) => `${Math.round(band.centreHz)}`).join(', ');
    notes.thirdOctaveDb = `${notes.thirdOctaveDb ? `${notes.thirdOctaveDb} ` : ''}Noise-limited, so upper bounds: ${list} Hz.`;
  }
  return VOICE_THIRD_OCTAVES.map(({ centreHz }, i) => {
    const power = powers[i];
    return [centreHz, power === null || power === 0 || strongest === 0 ? null : powerToDb(power / strongest)];
  });
}

function tilt(bands: readonly (readonly [Hertz, Decibels | null])[], [low, high]: PassedBand, notes: Notes): number | null {
  const used = bands.slice(...TILT_BANDS).flatMap(([hz, level], i) => {
    const { lowHz, highHz } = VOICE_THIRD_OCTAVES[TILT_BANDS[0] + i];
    return level === null || lowHz < (low ?? 0) || highHz > (high ?? Infinity) ? [] : [[Math.log2(hz), level] as const];
  });
  if (used.length < LEAST_TILT_BANDS) {
    notes.tiltDbPerOctave = `Fewer than ${LEAST_TILT_BANDS} of the bands from 315 to 2500 Hz lie inside the passband.`;
    return null;
  }
  return slope(
    used.map(([octave]) => octave),
    used.map(([, level]) => level),
  );
}

function passband(
  speech: Spectrum | null,
  hasReference: boolean,
  reference: Spectrum | null,
  notes: Notes,
): VoiceMeasurement['passbandHz'] {
  if (!speech) {
    notes.passbandHz ??= 'The recording is too short for a spectrum.';
    return null;
  }
  if (!hasReference) {
    const band = occupiedVoiceBand(speech);
    if (!band) notes.passbandHz ??= 'There is no power between 50 and 6500 Hz.';
    return band;
  }
  if (!reference) {
    notes.passbandHz = 'The reference recording is digital silence.';
    return null;
  }
  const edges = passbandAgainst(speech, reference);
  if (!edges) notes.passbandHz = 'The two recordings have nothing in common between 500 and 2000 Hz.';
  else if (edges.includes(null)) notes.passbandHz = 'No -6 dB edge was found on the side that is null.';
  return edges;
}

function pitch(medianHz: Hertz | null, notes: Notes): Hertz | null {
  if (medianHz === null) notes.pitchHz = `Under ${100 * LEAST_VOICED_SHARE} % of the talk is voiced between 60 and 400 Hz.`;
  return medianHz;
}

function detailOf(frames: FrameLevels, { speech, pauses, quiet, even, halves }: TalkSpectraResult): VoiceDetail {
  const noise = pauses ?? quiet;
  const powersOf = (spectrum: Spectrum | null) => (spectrum ? bandPowers(spectrum, VOICE_TWELFTH_OCTAVES) : null);
  const [first, second] = halves.map(powersOf);
  const perPoint = Math.max(1, Math.ceil(frames.powers.length / STRIP_POINTS));
  const stripDb: (Decibels | null)[] = [];
  const stripActive: boolean[] = [];
  for (let from = 0; from < frames.powers.length; from += perPoint) {
    const loudest = Math.max(...frames.powers.slice(from, from + perPoint));
    stripDb.push(loudest > 0 ? powerToDb(loudest) : null);
    stripActive.push(frames.active.slice(from, from + perPoint).includes(true));
  }
  return {
    speechPowers: powersOf(speech) ?? VOICE_TWELFTH_OCTAVES.map(() => null),
    pausePowers: powersOf(noise),
    ...(even && { evenPowers: powersOf(even) ?? undefined }),
    ...(first && second && { halfPowers: [first, second] as const }),
    talkSeconds: frames.active.filter(Boolean).length * FRAME_SECONDS,
    stripDb,
    stripSeconds: perPoint * FRAME_SECONDS,
    stripActive,
  };
}
