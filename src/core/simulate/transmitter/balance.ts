/** What the modulator leaves behind: some carrier, and the other sideband where its filter or phasing is imperfect. */
import { type Complex, instantRadio, type RadioStage } from '../../dsp/index.ts';
import { type Decibels, dbToAmplitude } from '../../units/index.ts';

/** Errors of the modulator's two paths, and its carrier. */
export interface Balance {
  /** Residual carrier re full drive; null for none. */
  readonly carrierDb: Decibels | null;
  /** Opposite sideband re the wanted one; null for none. */
  readonly oppositeDb: Decibels | null;
}

/** A modulator in order. */
export const USUAL_BALANCE: Balance = { carrierDb: -55, oppositeDb: -60 };

/** The same as amplitudes. */
export const amplitudesOf = ({ carrierDb, oppositeDb }: Balance) => ({
  carrier: carrierDb === null ? 0 : dbToAmplitude(carrierDb),
  opposite: oppositeDb === null ? 0 : dbToAmplitude(oppositeDb),
});

/** Mirrors and leaks as a modulator out of balance does. */
export function balanceStage(balance: Balance): RadioStage {
  const { carrier, opposite } = amplitudesOf(balance);
  return instantRadio(({ i, q }: Complex) => {
    // The other sideband is the conjugate: the same audio, mirrored.
    for (let n = 0; n < i.length; n++) {
      i[n] = i[n] * (1 + opposite) + carrier;
      q[n] *= 1 - opposite;
    }
    return { i, q };
  });
}
