/** From the drive to the signal on the air, for the modes that are not SSB. Full drive is magnitude 1. */
import { FftFilter, instantRadio, type Kernel, lowPassTaps, type RadioStage } from '../../dsp/index.ts';
import { amEnvelope, FrequencyModulator } from '../../modem/index.ts';
import type { Hertz } from '../../units/index.ts';

/** LSB is USB mirrored. */
export const mirrorStage = (): RadioStage =>
  instantRadio(({ i, q }) => {
    for (let n = 0; n < q.length; n++) q[n] = -q[n];
    return { i, q };
  });

/** A gain over I and Q; 1 leaves the block as it is. */
export const radioGainStage = (gain: number): RadioStage =>
  instantRadio(({ i, q }) => {
    if (gain === 1) return { i, q };
    for (let n = 0; n < i.length; n++) {
      i[n] *= gain;
      q[n] *= gain;
    }
    return { i, q };
  });

/** Carrier at half the peak amplitude: full drive reaches the peak envelope power and no more. */
const CARRIER = 0.5;

/** The real part of the drive modulates. */
export const amStage = (): RadioStage =>
  instantRadio(({ i, q }) => {
    for (let n = 0; n < i.length; n++) {
      i[n] = CARRIER * amEnvelope(i[n], 1);
      q[n] = 0;
    }
    return { i, q };
  });

/** Behind the limiter the audio is kept under this, so that clipping does not widen the channel. */
const FM_AUDIO_HZ: Hertz = 3000;
const FM_SLOPE_HZ: Hertz = 800;

/** Limiter, audio filter, and a carrier of size 1 whose frequency follows: full drive is full deviation. */
export function fmStage(deviationHz: Hertz, rateHz: Hertz, kernel: Kernel | null): RadioStage {
  const filter = new FftFilter({ i: lowPassTaps(rateHz, FM_AUDIO_HZ + FM_SLOPE_HZ / 2, FM_SLOPE_HZ) }, kernel);
  const modulator = new FrequencyModulator(rateHz, 0, deviationHz);
  return {
    push: ({ i }) => modulator.push(filter.push(i.map((x) => Math.max(-1, Math.min(1, x)))).i),
    end: () => modulator.push(filter.end().i),
  };
}
