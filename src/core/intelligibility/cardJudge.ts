/** A card heard: the operator's voice through microphone, radio and a receiver, and what it is worth. */
import { bandPassTaps, type Complex, FftFilter, gaussian, joined, seededRandom } from '../dsp/index.ts';
import { peakAndMean } from '../measure/index.ts';
import type { Card } from '../rig/index.ts';
import {
  type AlcReading,
  atModelRate,
  GOOD_RECEIVER,
  modelRateHz,
  parametersOf,
  Receiver,
  type ReceiverShape,
  type StationSetting,
  type TransmitterOptions,
  type TransmitterParameters,
  transmit,
  USUAL_RADIO,
  type Voice,
  voiceGainDb,
} from '../simulate/index.ts';
import { amplitudeToDb, type Decibels, dbToAmplitude, type Hertz, powerToDb } from '../units/index.ts';
import { type BandFrames, bandFrames } from './bandFrames.ts';
import { type Naturalness, naturalness, SSB_HZ } from './naturalness.ts';
import { CRITERION, type Reach, ReadableVoice, reachOf } from './reach.ts';
import { stoi } from './stoi.ts';

/** What the model says of a card: reach, naturalness, ALC, peak-to-average. */
export interface JudgedCard {
  readonly reach: Reach;
  readonly naturalness: Naturalness;
  readonly alc: AlcReading;
  /** 99.9 percentile of the envelope's power over its mean while talking. */
  readonly peakToAverageDb: Decibels;
}

/** Reach and naturalness are told for single sideband: AM and FM share their power otherwise. */
export const canJudge = ({ mode }: Pick<Card, 'mode'>): boolean => mode === 'usb' || mode === 'lsb';

/** Peak drive that the flat reference is given: the ALC about a third up its scale, as most schools have it. */
const REFERENCE_DRIVE_DB: Decibels = 6;
/** Odd: the filter's middle lies on a sample. */
const CARRIED_TAPS = 1201;
const FLAT_HZ: readonly [Hertz, Hertz] = [300, 2700];
/** Single sideband only, so one rate. */
const RATE_HZ: Hertz = modelRateHz('usb');

/** Judges cards of one station and one voice; the flat reference is worked out once. */
export class CardJudge {
  readonly #options: TransmitterOptions;
  /** The voice at the model's rate and level. */
  readonly #own: Float64Array;
  /** The same inside what single sideband can carry: what naturalness is told against, whatever the recording holds. */
  readonly #carried: BandFrames;
  readonly #flat: ReadableVoice;

  /** @throws RangeError when there is no speech in the voice */
  constructor(
    voice: Voice,
    readonly station: StationSetting,
    readonly receiver: ReceiverShape = GOOD_RECEIVER,
  ) {
    const gain = voiceGainDb(voice.samples, voice.rateHz);
    if (gain === null) throw new RangeError('There is no speech to judge by.');
    const amplitude = dbToAmplitude(gain);
    this.#own = atModelRate(voice).samples.map((x) => amplitude * x);
    const filter = new FftFilter({ i: bandPassTaps(RATE_HZ, ...SSB_HZ, CARRIED_TAPS) });
    this.#carried = bandFrames(joined([filter.push(this.#own).i.slice(), filter.end().i]), RATE_HZ);
    this.#options = { inputRateHz: RATE_HZ, voiceGainDb: 0, microphone: station.microphone };
    const flat = this.#flatParameters();
    this.#flat = this.#readable(flat, bandFrames(this.#heard(flat).heard, flat.rateHz));
  }

  /** @throws RangeError for AM and FM, see `canJudge` */
  judge(card: Card): JudgedCard {
    if (!canJudge(card)) throw new RangeError('Reach is calculated for single sideband only.');
    const parameters = parametersOf(this.station.rig, card, this.station.radio);
    const { heard, alc, peakToAverageDb } = this.#heard(parameters);
    const frames = bandFrames(heard, parameters.rateHz);
    const readable = this.#readable(parameters, frames);
    return {
      reach: reachOf(readable, this.#flat),
      naturalness: naturalness(this.#carried, frames, readable.distortionDb),
      alc,
      peakToAverageDb,
    };
  }

  /**
   * STOI of this card and of the flat reference in the noise in which the reference is just readable; null where one
   * can't be had. A second opinion: it counts bands that no radio sends as lost.
   */
  secondOpinion(card: Card): { readonly stoi: number | null; readonly stoiFlat: number | null } {
    const density = this.#flat.densityAt(CRITERION);
    const noisy = (parameters: TransmitterParameters): number | null => {
      const { heard } = this.#heard(parameters);
      const normal = gaussian(seededRandom(3));
      const rms = Math.sqrt(((density ?? 0) * parameters.rateHz) / 2);
      return stoi(
        this.#own,
        heard.map((x) => x + rms * normal()),
        parameters.rateHz,
      );
    };
    return { stoi: noisy(parametersOf(this.station.rig, card, this.station.radio)), stoiFlat: noisy(this.#flatParameters()) };
  }

  /** The same radio flat, uncompressed, 300 to 2700 Hz, driven so that the ALC just works. */
  #flatParameters(): TransmitterParameters {
    const usual = parametersOf(this.station.rig, { mode: 'usb', values: {} }, { ...USUAL_RADIO, ...this.station.radio });
    const flat: TransmitterParameters = {
      ...usual,
      equalizer: [],
      compression: { ...usual.compression, compressionDb: 0 },
      passband: { ...usual.passband, edgesHz: FLAT_HZ },
      output: 1,
      micGainDb: 0,
    };
    const { signal } = transmit(this.#own, flat, { ...this.#options, upTo: 'passband' });
    return { ...flat, micGainDb: REFERENCE_DRIVE_DB - powerToDb(peakAndMean(signal, flat.rateHz).peak) };
  }

  #readable(parameters: TransmitterParameters, heard: BandFrames): ReadableVoice {
    const { room } = this.#options.microphone;
    const silent = { ...this.#options.microphone, room: { ...room, noiseDb: null, humDb: null, plosivesPerMinute: 0 } };
    const { signal } = transmit(this.#own, parameters, { ...this.#options, microphone: silent, isLinear: true });
    const clean = bandFrames(this.#received(signal, parameters), parameters.rateHz);
    return new ReadableVoice({ heard, clean, rateHz: parameters.rateHz });
  }

  /** What the receiver gives without noise and AGC, for a peak envelope power of 1. */
  #heard(parameters: TransmitterParameters) {
    const { signal, transmitter } = transmit(this.#own, parameters, this.#options);
    const { peak, mean } = peakAndMean(signal, parameters.rateHz);
    const audio = this.#received(signal, parameters);
    const gain = peak > 0 ? 1 / Math.sqrt(peak) : 1;
    return {
      heard: audio.map((x) => gain * x),
      alc: transmitter.alc.reading(),
      peakToAverageDb: amplitudeToDb(Math.sqrt(peak / mean)),
    };
  }

  #received(signal: Complex, { mode, rateHz }: TransmitterParameters): Float64Array {
    const receiver = new Receiver(mode, { ...this.receiver, agc: null }, rateHz);
    return joined([receiver.push(signal).slice(), receiver.end()]);
  }
}
