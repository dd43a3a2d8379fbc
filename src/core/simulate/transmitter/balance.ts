/** What the modulator leaves behind: some carrier, and the other sideband where its filter or phasing is imperfect. */
import { type Complex, instantRadio, type RadioStage } from '../../dsp/index.ts';
import { type Decibels, dbToAmplitude } from '../../units/index.ts';

export interface Balance {
  /** Residual carrier re full drive; null for none. */
  readonly carrierDb: Decibels | null;
  /** Opposite sideband re the wanted one; null for none. */
  readonly oppositeDb: Decibels | null;
}

export const USUAL_BALANCE: Balance = { carrierDb: -55, oppositeDb: -60 };

export function balanceStage({ carrierDb, oppositeDb }: Balance): RadioStage {
  const carrier = carrierDb === null ? 0 : dbToAmplitude(carrierDb);
  const opposite = oppositeDb === null ? 0 : dbToAmplitude(oppositeDb);
  return instantRadio(({ i, q }: Complex) => {
    // The other sideband is the conjugate: the same audio, mirrored.
    for (let n = 0; n < i.length; n++) {
      i[n] = i[n] * (1 + opposite) + carrier;
      q[n] *= 1 - opposite;
    }
    return { i, q };
  });
}
