/** What a station is simulated from, beside its card: the operator's voice, the radio and the microphone. */
import { createKernel, joined, resampleStream } from '../../dsp/index.ts';
import type { RigProfile } from '../../rig/index.ts';
import type { Hertz } from '../../units/index.ts';
import type { MicrophoneSetting } from '../transmitter/microphoneStage.ts';
import { modelRateHz, type RadioTruth } from '../transmitter/parameters.ts';

const RATE_HZ: Hertz = modelRateHz('usb');

/** A voice to be sent, full scale 1. */
export interface Voice {
  /** The operator's own voice, as a flat microphone at 5 cm would have it. */
  readonly samples: Float64Array;
  readonly rateHz: Hertz;
}

/** A voice at the rate that single sideband is modelled at: whoever renders it often saves the conversion. */
export function atModelRate({ samples, rateHz }: Voice): Voice {
  const stream = resampleStream(rateHz, RATE_HZ, createKernel());
  return { samples: joined([stream.push(samples), stream.end()]), rateHz: RATE_HZ };
}

/** Everything of a station but the card. */
export interface StationSetting {
  readonly rig: RigProfile;
  readonly radio: RadioTruth;
  readonly microphone: MicrophoneSetting;
}
