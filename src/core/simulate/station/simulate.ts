/** An over of a simulated station, block by block in constant memory: what a receiver gives, or its I and Q. */
import { ActiveSpeechMeter, type Complex, createKernel, type Stage } from '../../dsp/index.ts';
import { monoPieces, type SampleSource } from '../../files/index.ts';
import type { Decibels, Fraction, Hertz } from '../../units/index.ts';
import { CLEAR_PATH, pathStage } from '../path/path.ts';
import { Receiver } from '../receiver/receiver.ts';
import type { AlcReading } from '../transmitter/alc.ts';
import { SILENT_ROOM } from '../transmitter/microphoneStage.ts';
import { modelRateHz, parametersOf } from '../transmitter/parameters.ts';
import { gainToModelLevel, Transmitter } from '../transmitter/transmitter.ts';
import type { SimulatedReceiver, SimulatedStation } from './stationFile.ts';

/** Headroom of I/Q files: full drive stands here. */
const IQ_GAIN = 0.5;

/** Which receiver, audio or I/Q. */
export interface SimulateOptions {
  readonly receiver: SimulatedReceiver;
  /** I and Q behind the path instead of the receiver's audio. */
  readonly isIq: boolean;
  /** The transmitter by itself: the voice as it was recorded, no room, path or receiver; the signal's audio. */
  readonly isAlone?: boolean;
  readonly onProgress?: (share: Fraction) => void;
  readonly signal?: AbortSignal;
}

/** What the meters of the radio showed. */
export interface MeterReadings {
  readonly alc: AlcReading;
  /** Loudest moment, as a share of full power. */
  readonly power: Fraction;
  /** Most that the processor took off a peak. */
  readonly compressionDb: Decibels;
}

/** One over of a simulated station, as a stream of blocks. */
export class Simulation {
  readonly sampleRateHz: Hertz;
  readonly channels: 1 | 2;
  readonly #transmitter: Transmitter;
  readonly #options: SimulateOptions;

  /** @param voiceGainDb see `voiceGain` */
  constructor(
    readonly source: SampleSource,
    readonly station: SimulatedStation,
    voiceGainDb: Decibels,
    options: SimulateOptions,
  ) {
    const { mode } = station.card;
    this.#options = options;
    this.sampleRateHz = modelRateHz(mode);
    this.channels = options.isIq ? 2 : 1;
    this.#transmitter = new Transmitter(parametersOf(station.trueRig, station.card, station.radio), {
      inputRateHz: source.sampleRateHz,
      voiceGainDb: voiceGainDb + station.loudnessDb,
      microphone: options.isAlone ? { ...station.microphone, microphone: null, use: null, room: SILENT_ROOM } : station.microphone,
    });
  }

  /** An array per channel each time. */
  async *blocks(): AsyncGenerator<readonly Float64Array[]> {
    const { receiver, isIq, isAlone = false, onProgress, signal } = this.#options;
    const { mode } = this.station.card;
    const path = pathStage(isAlone ? CLEAR_PATH : receiver.path, this.sampleRateHz);
    const end: Stage<Complex, readonly Float64Array[]> = isAlone
      ? audioEnd()
      : isIq
        ? iqEnd()
        : receiverEnd(new Receiver(mode, receiver.receiver, this.sampleRateHz, createKernel()));
    let done = 0;
    for await (const piece of monoPieces(this.source)) {
      signal?.throwIfAborted();
      yield end.push(path.push(this.#transmitter.push(piece)));
      done += piece.length;
      onProgress?.(done / this.source.frames);
    }
    yield end.push(path.push(this.#transmitter.end()));
    yield end.end();
  }

  /** Complete once the blocks have been read. */
  readings(): MeterReadings {
    const { alc, compressor } = this.#transmitter;
    return { alc: alc.reading(), power: this.#transmitter.peakPower, compressionDb: compressor?.highestDb() ?? 0 };
  }
}

const audioEnd = (): Stage<Complex, readonly Float64Array[]> => ({ push: ({ i }) => [i], end: () => [new Float64Array(0)] });

const iqEnd = (): Stage<Complex, readonly Float64Array[]> => ({
  push: ({ i, q }) => [i, q].map((part) => part.map((x) => IQ_GAIN * x)),
  end: () => [new Float64Array(0), new Float64Array(0)],
});

const receiverEnd = (receiver: Receiver): Stage<Complex, readonly Float64Array[]> => ({
  push: (block) => [receiver.push(block)],
  end: () => [receiver.end()],
});

/** Gain that brings a recording's active speech level to where the model expects it; null for silence. */
export async function voiceGain(source: SampleSource): Promise<Decibels | null> {
  const meter = new ActiveSpeechMeter(source.sampleRateHz);
  for await (const piece of monoPieces(source)) meter.push(piece);
  return gainToModelLevel(meter);
}
