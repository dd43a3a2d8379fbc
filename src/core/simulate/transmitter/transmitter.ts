/** The whole transmit path over a stream: the operator's voice in, the signal on the air out, heard at any stage. */
import {
  ActiveSpeechMeter,
  type AudioStage,
  type Complex,
  createKernel,
  inRow,
  instantAudio,
  joined,
  joinedRadio,
  type Kernel,
  type RadioStage,
  resampleStream,
  type Stage,
} from '../../dsp/index.ts';
import { type InterleavedBlock, samplesOfPiece } from '../../files/index.ts';
import { type Decibels, dbToAmplitude, type Hertz, type Power } from '../../units/index.ts';
import { Alc } from './alc.ts';
import { amplifierStage } from './amplifier.ts';
import { amplitudesOf, balanceStage } from './balance.ts';
import { type Compressing, clipperStage } from './clipper.ts';
import { compressorStage, USUAL_COMPRESSOR } from './compressor.ts';
import { equalizerStage } from './equalizerStage.ts';
import {
  affineIn,
  amplifierIn,
  audioIn,
  clipperIn,
  copyIn,
  gainIn,
  halvers,
  KernelChain,
  type KernelStage,
  passbandIn,
  radioIn,
  sectionsIn,
  sidebandIn,
} from './kernelChain.ts';
import { micGainStage } from './micGain.ts';
import { isSilentMicrophone, type MicrophoneSetting, microphoneStage, VOICE_LEVEL_DB } from './microphoneStage.ts';
import { amStage, fmStage, mirrorStage, radioGainStage } from './modulators.ts';
import type { TransmitterParameters } from './parameters.ts';
import { passbandStage, sidebandStage } from './passband.ts';

/** Places where the path can be listened to, in its order. */
export const TAPS = ['voice', 'mic', 'gain', 'equalizer', 'compressor', 'passband', 'alc', 'on-air'] as const;
/** One of the taps. */
export type Tap = (typeof TAPS)[number];

/** What goes in, and how far through it goes. */
export interface TransmitterOptions {
  readonly inputRateHz: Hertz;
  /** Gain that brings the recording to VOICE_LEVEL_DB; see `voiceGainDb`. */
  readonly voiceGainDb: Decibels;
  readonly microphone: MicrophoneSetting;
  /** Heard there; the signal on the air when left out. */
  readonly upTo?: Tap;
  /** Leaves out all that is not linear: compressor, ALC, amplifier. What reach compares distortion against. */
  readonly isLinear?: boolean;
  readonly kernel?: Kernel | null;
}

/** What brings the active speech level (ITU-T P.56) that a meter has seen to where the model expects it. Null for silence. */
export function gainToModelLevel(meter: ActiveSpeechMeter): Decibels | null {
  const { levelDb } = meter.result();
  return levelDb === null ? null : VOICE_LEVEL_DB - levelDb;
}

/** The same for a recording in memory. */
export function voiceGainDb(samples: Float64Array, rateHz: Hertz): Decibels | null {
  const meter = new ActiveSpeechMeter(rateHz);
  meter.push(samples);
  return gainToModelLevel(meter);
}

/** From the microphone to the antenna, block by block, tapped anywhere. */
export class Transmitter implements Stage<Float64Array, Complex> {
  readonly rateHz: Hertz;
  readonly alc: Alc;
  /** Null where nothing compresses. */
  readonly compressor: Compressing | null;
  /** The whole path in the kernel, where it can be; the others then stay empty. */
  readonly #chain: KernelChain | null;
  readonly #audio: AudioStage | null = null;
  readonly #sideband: Stage<Float64Array, Complex> | null = null;
  readonly #radio: RadioStage | null = null;
  #peakPower = 0;

  constructor(parameters: TransmitterParameters, options: TransmitterOptions) {
    const { kernel = createKernel(), upTo = 'on-air', isLinear = false } = options;
    const { rateHz, passband, compression } = parameters;
    this.rateHz = rateHz;
    this.alc = new Alc(parameters.alc, rateHz);
    const reaches = (tap: Tap) => TAPS.indexOf(upTo) >= TAPS.indexOf(tap);
    const isClipped = compression.kind === 'rf' && compression.compressionDb > 0 && !isLinear;
    const inKernel = kernel && this.#inKernel(kernel, parameters, options, reaches, isClipped);
    this.#chain = inKernel?.chain ?? null;
    this.compressor = inKernel?.compressor ?? null;
    if (inKernel) return;
    const audio: AudioStage[] = [
      resampleStream(options.inputRateHz, rateHz, kernel),
      // Blocks are the caller's until here: from now on stages may write into them.
      instantAudio((block) => block.slice()),
      micGainStage(options.voiceGainDb),
    ];
    if (reaches('mic')) audio.push(microphoneStage(options.microphone, rateHz, kernel));
    if (reaches('gain')) audio.push(micGainStage(parameters.micGainDb));
    if (reaches('equalizer')) audio.push(equalizerStage(parameters.equalizer));
    const isAudio = reaches('compressor') && compression.kind === 'audio' && compression.compressionDb > 0 && !isLinear;
    const compressor = isAudio ? compressorStage({ ...USUAL_COMPRESSOR, ...compression }, rateHz) : null;
    if (compressor) audio.push(compressor);
    this.#audio = inRow(audio, (a, b) => joined([a, b]));
    const isRadio = reaches('passband') || (reaches('compressor') && isClipped);
    this.#sideband = isRadio ? sidebandStage(passband, rateHz, kernel) : null;
    const radio: RadioStage[] = [];
    const clipper = isRadio && isClipped ? clipperStage(compression.compressionDb, compression.ceilingDb) : null;
    if (clipper) radio.push(clipper);
    this.compressor = compressor ?? clipper;
    if (reaches('passband') && isClipped) radio.push(passbandStage(passband, rateHz, kernel));
    if (reaches('alc') && !isLinear) radio.push(this.alc);
    if (reaches('on-air')) radio.push(...this.#onAir(parameters, isLinear, kernel));
    this.#radio = radio.length > 0 ? inRow(radio, joinedRadio) : null;
  }

  /** Single sideband at a rate that halves lead to; null for the rest, which the stages on doubles serve. */
  #inKernel(
    kernel: Kernel,
    parameters: TransmitterParameters,
    { inputRateHz, voiceGainDb, microphone, isLinear = false }: TransmitterOptions,
    reaches: (tap: Tap) => boolean,
    isClipped: boolean,
  ): { chain: KernelChain; compressor: Compressing | null } | null {
    const { mode, rateHz, passband, compression, balance, output, amplifier } = parameters;
    const down = halvers(kernel, inputRateHz, rateHz);
    if ((mode !== 'usb' && mode !== 'lsb') || !down) return null;
    const stages: KernelStage[] = [...down, copyIn(kernel), gainIn(kernel, dbToAmplitude(voiceGainDb))];
    if (reaches('mic') && !isSilentMicrophone(microphone)) {
      const tail = microphone.microphone && microphone.use ? rateHz : 0;
      stages.push(audioIn(kernel, microphoneStage(microphone, rateHz, kernel), tail));
    }
    if (reaches('gain')) stages.push(gainIn(kernel, dbToAmplitude(parameters.micGainDb)));
    if (reaches('equalizer')) stages.push(...sectionsIn(kernel, parameters.equalizer));
    const isAudio = reaches('compressor') && compression.kind === 'audio' && compression.compressionDb > 0 && !isLinear;
    const compressor = isAudio ? compressorStage({ ...USUAL_COMPRESSOR, ...compression }, rateHz) : null;
    if (compressor) stages.push(audioIn(kernel, compressor));
    const isRadio = reaches('passband') || (reaches('compressor') && isClipped);
    if (isRadio) stages.push(sidebandIn(kernel, passband, rateHz));
    const clipper = isRadio && isClipped ? clipperIn(kernel, compression.compressionDb, compression.ceilingDb) : null;
    if (clipper) stages.push(clipper);
    if (reaches('passband') && isClipped) stages.push(passbandIn(kernel, passband, rateHz));
    if (reaches('alc') && !isLinear) stages.push(this.alc.inKernel(kernel));
    if (reaches('on-air')) {
      const { carrier, opposite } = amplitudesOf(balance);
      stages.push(affineIn(kernel, output * (1 + opposite), output * carrier, output * (1 - opposite)));
      if (!isLinear) stages.push(amplifier.mostTurn === 0 ? amplifierIn(kernel, amplifier) : radioIn(kernel, amplifierStage(amplifier)));
      if (mode === 'lsb') stages.push(affineIn(kernel, 1, 0, -1));
    }
    return { chain: new KernelChain(kernel, stages, isRadio, inputRateHz / rateHz), compressor: compressor ?? clipper };
  }

  #onAir(parameters: TransmitterParameters, isLinear: boolean, kernel: Kernel | null): RadioStage[] {
    const { mode, balance, amplifier, deviationHz, rateHz, output } = parameters;
    const power = radioGainStage(output);
    // The amplifier of AM sees the carrier with its sidebands, that of FM a constant size.
    const amplifiers = isLinear ? [] : [amplifierStage(amplifier)];
    if (mode === 'am') return [amStage(), power, ...amplifiers];
    if (mode === 'fm') return [fmStage(deviationHz, rateHz, kernel), power];
    return [balanceStage(balance), power, ...amplifiers, ...(mode === 'lsb' ? [mirrorStage()] : [])];
  }

  push(block: Float64Array | InterleavedBlock): Complex {
    const parts: Complex[] = [];
    for (let at = 0; at < block.length; at += PIECE) {
      const piece = block.subarray(at, at + PIECE);
      parts.push(this.#chain?.push(piece) ?? this.#onward(this.#audio?.push(doublesOf(piece)) ?? NO_AUDIO));
    }
    return { i: joined(parts.map(({ i }) => i)), q: joined(parts.map(({ q }) => q)) };
  }

  end(): Complex {
    if (this.#chain) return this.#chain.end();
    const rest = this.#onward(this.#audio?.end() ?? NO_AUDIO);
    if (!this.#sideband) return rest;
    const left = this.#sideband.end();
    const passed = this.#radio ? this.#radio.push(left) : left;
    const own = this.#radio ? this.#radio.end() : NOTHING;
    return joinedRadio(rest, this.#watched(joinedRadio(passed, own)));
  }

  /** Highest power that came out so far, re full drive. */
  get peakPower(): Power {
    return this.#chain?.peakPower ?? this.#peakPower;
  }

  #watched(signal: Complex): Complex {
    for (let n = 0; n < signal.i.length; n++) this.#peakPower = Math.max(this.#peakPower, signal.i[n] ** 2 + signal.q[n] ** 2);
    return signal;
  }

  #onward(audio: Float64Array): Complex {
    if (!this.#sideband) return { i: audio, q: new Float64Array(audio.length) };
    const radio = this.#sideband.push(audio);
    return this.#watched(this.#radio ? this.#radio.push(radio) : radio);
  }
}

const doublesOf = (piece: Float64Array | InterleavedBlock): Float64Array => (piece instanceof Float64Array ? piece : samplesOfPiece(piece));

/** Long blocks are worked on in pieces, so that memory does not grow with them. */
const PIECE = 16384;

const NO_AUDIO = new Float64Array(0);
const NOTHING: Complex = { i: new Float64Array(0), q: new Float64Array(0) };

/** A whole recording in memory through the path. */
export function transmit(
  samples: Float64Array,
  parameters: TransmitterParameters,
  options: TransmitterOptions,
): { readonly signal: Complex; readonly transmitter: Transmitter } {
  const transmitter = new Transmitter(parameters, options);
  const first = transmitter.push(samples);
  return { signal: joinedRadio(first, transmitter.end()), transmitter };
}
