/** A card listened to: the own voice through the model up to a stage, or on through a path to a receiver. */
import { createKernel, joined } from '../../dsp/index.ts';
import { peakAndMean } from '../../measure/index.ts';
import type { Card } from '../../rig/index.ts';
import type { Hertz } from '../../units/index.ts';
import { CLEAR_PATH, type PathShape, pathStage } from '../path/path.ts';
import { GOOD_RECEIVER, Receiver, type ReceiverShape } from '../receiver/receiver.ts';
import type { StationSetting, Voice } from '../station/voiceAndStation.ts';
import { parametersOf } from '../transmitter/parameters.ts';
import { type Tap, transmit, voiceGainDb } from '../transmitter/transmitter.ts';

/** Where in the path one listens. */
export type ListenAt = Exclude<Tap, 'on-air'> | 'heard';

/** A path and a receiver to listen through. */
export interface Way {
  readonly path: PathShape;
  readonly receiver: ReceiverShape;
}

/** Next door, on a good receiver. */
export const NEAR: Way = { path: CLEAR_PATH, receiver: GOOD_RECEIVER };

/** Audio at the model's rate. At "heard" the signal is brought to peak envelope power 1 before the path. */
export function hearCard(
  voice: Voice,
  station: StationSetting,
  card: Card,
  at: ListenAt,
  way: Way = NEAR,
): { samples: Float64Array; rateHz: Hertz } {
  const gain = voiceGainDb(voice.samples, voice.rateHz);
  if (gain === null) throw new RangeError('There is no speech to listen to.');
  const parameters = parametersOf(station.rig, card, station.radio);
  const { rateHz, mode } = parameters;
  const options = { inputRateHz: voice.rateHz, voiceGainDb: gain, microphone: station.microphone };
  if (at !== 'heard') return { samples: transmit(voice.samples, parameters, { ...options, upTo: at }).signal.i, rateHz };
  const { signal } = transmit(voice.samples, parameters, options);
  const scale = 1 / Math.sqrt(Math.max(1e-12, peakAndMean(signal, rateHz).peak));
  const sent = { i: signal.i.map((x) => scale * x), q: signal.q.map((x) => scale * x) };
  const receiver = new Receiver(mode, way.receiver, rateHz, createKernel());
  const first = receiver.push(pathStage(way.path, rateHz).push(sent));
  return { samples: joined([first.slice(), receiver.end()]), rateHz };
}
