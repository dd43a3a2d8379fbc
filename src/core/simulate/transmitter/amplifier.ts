/**
 * The power amplifier: memoryless saturation on the envelope. Amplitude: C. Rapp 1991, g(r) = 1 / (1 + (r/A)^2p)^(1/2p).
 * Phase, optional: turns by up to `mostTurn` as the envelope nears saturation, r^2/A^2 over 1 + r^2/A^2 of it
 * (the form of A. Saleh 1981; from memory).
 */
import { type Complex, instantRadio, type RadioStage } from '../../dsp/index.ts';
import { type Decibels, dbToAmplitude, dbToPower, type Power } from '../../units/index.ts';
import { gainTable, lookUp } from './gainTable.ts';

/** Where it saturates, and how hard. */
export interface AmplifierShape {
  /** Saturation, re full drive. */
  readonly saturationDb: Decibels;
  /** Smoothness p of the bend: 1 soft, 3 and more hard. */
  readonly smoothness: number;
  /** Largest turn of the phase in radians; 0 for none. */
  readonly mostTurn: number;
}

/** Its two-tone products at full drive stand about 30 dB under each tone (checked in the tests). */
export const USUAL_AMPLIFIER: AmplifierShape = { saturationDb: 1.5, smoothness: 3, mostTurn: 0 };

/** Gain at an envelope's power. */
export function rappGain({ saturationDb, smoothness }: AmplifierShape, power: Power): number {
  const ratio = power / dbToPower(saturationDb);
  return (1 + ratio ** smoothness) ** (-1 / (2 * smoothness));
}

/** Saturation without memory; the phase stays. */
export function amplifierStage(shape: AmplifierShape): RadioStage {
  const saturation = dbToAmplitude(shape.saturationDb) ** 2;
  const gains = gainTable((power) => rappGain(shape, power), 4 * saturation);
  const turn = (power: Power) => (shape.mostTurn * (power / saturation)) / (1 + power / saturation);
  if (shape.mostTurn === 0)
    return instantRadio(({ i, q }: Complex) => {
      for (let n = 0; n < i.length; n++) {
        const gain = lookUp(gains, i[n] * i[n] + q[n] * q[n]);
        i[n] *= gain;
        q[n] *= gain;
      }
      return { i, q };
    });
  return instantRadio(({ i, q }: Complex) => {
    for (let n = 0; n < i.length; n++) {
      const power = i[n] * i[n] + q[n] * q[n];
      const gain = lookUp(gains, power);
      const angle = turn(power);
      const [c, s] = [gain * Math.cos(angle), gain * Math.sin(angle)];
      const x = i[n] * c - q[n] * s;
      q[n] = i[n] * s + q[n] * c;
      i[n] = x;
    }
    return { i, q };
  });
}
