/** Sounds to be compared are played at one level, so that none wins by being louder. */
import { ActiveSpeechMeter } from '../dsp/index.ts';
import { type Decibels, dbToAmplitude, type Hertz } from '../units/index.ts';

/** Listening level and the highest peak. */
const LISTEN_DB: Decibels = -24;
const HIGHEST_PEAK = 0.89;

/** Several sounds at one active speech level (ITU-T P.56), all turned down together where one would clip. */
export function levelMatched(sounds: readonly Float64Array[], rateHz: Hertz): Float64Array[] {
  const raised = sounds.map((samples) => {
    const meter = new ActiveSpeechMeter(rateHz);
    meter.push(samples);
    const { levelDb } = meter.result();
    const gain = levelDb === null ? 1 : dbToAmplitude(LISTEN_DB - levelDb);
    return samples.map((x) => gain * x);
  });
  const peak = raised.reduce((most, samples) => samples.reduce((a, x) => Math.max(a, Math.abs(x)), most), 0);
  const down = peak > HIGHEST_PEAK ? HIGHEST_PEAK / peak : 1;
  return down === 1 ? raised : raised.map((samples) => samples.map((x) => down * x));
}
