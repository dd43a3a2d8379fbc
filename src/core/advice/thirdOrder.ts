/**
 * Where an amplifier's third-order products fall: three frequencies of the voice make f1 + f2 - f3, and a bright voice makes them
 * beyond its own channel. Only the difference of two equalizers means anything: how much the amplifier makes in all is its own affair.
 */
import { VOICE_TWELFTH_OCTAVES } from '../dsp/index.ts';
import { type Decibels, dbToPower, type Hertz, powerToDb } from '../units/index.ts';
import type { HeardSpeech } from './toneError.ts';

/** The voice is laid on a grid of so many hertz, up to where filters end. */
const STEP_HZ: Hertz = 75;
const CELLS = 48;
/** The next channel beyond the carrier, as it is measured. */
const NEXT_HZ: readonly [Hertz, Hertz] = [3300, 6300];
/** Measured with recorded voices, random equalizers and soft amplifiers: 0.84 dB for a decibel of this, give or take 1.1 dB. */
const MEASURED = 0.85;

/**
 * Share of the third-order products that falls into the louder next channel.
 * @param changeDb what the voice goes through beyond what it was heard with, at VOICE_TWELFTH_OCTAVES
 */
function shareDb({ speechPowers }: HeardSpeech, changeDb: readonly Decibels[], [low, high]: readonly [Hertz, Hertz]): Decibels {
  const cells = new Float64Array(CELLS);
  VOICE_TWELFTH_OCTAVES.forEach(({ lowHz, highHz }, i) => {
    const power = (speechPowers[i] ?? 0) * dbToPower(changeDb[i]);
    for (let cell = Math.floor(lowHz / STEP_HZ); cell * STEP_HZ < highHz && cell < CELLS; cell++) {
      const from = Math.max(lowHz, low, cell * STEP_HZ);
      const to = Math.min(highHz, high, (cell + 1) * STEP_HZ);
      if (to > from) cells[cell] += (power * (to - from)) / (highHz - lowHz);
    }
  });
  const pairs = new Float64Array(2 * CELLS - 1);
  let total = 0;
  for (let a = 0; a < CELLS; a++) {
    total += cells[a];
    for (let b = 0; b < CELLS; b++) pairs[a + b] += cells[a] * cells[b];
  }
  let [above, below] = [0, 0];
  for (let sum = 0; sum < pairs.length; sum++) {
    for (let less = 0; less < CELLS; less++) {
      // The middles of three cells.
      const hz = (sum - less + 0.5) * STEP_HZ;
      if (hz >= NEXT_HZ[0] && hz <= NEXT_HZ[1]) above += pairs[sum] * cells[less];
      else if (hz <= -NEXT_HZ[0] && hz >= -NEXT_HZ[1]) below += pairs[sum] * cells[less];
    }
  }
  return total > 0 ? powerToDb(Math.max(above, below) / total ** 3 + 1e-15) : 0;
}

/**
 * How much more the next channel holds with one equalizer than with another, at the same drive.
 * @param heardDb what the voice was heard through, at VOICE_TWELFTH_OCTAVES
 * @param passbandHz of the transmit filter
 */
export function nextChannelChangeDb(
  voice: HeardSpeech,
  heardDb: readonly Decibels[],
  [fromDb, toDb]: readonly [readonly Decibels[], readonly Decibels[]],
  passbandHz: readonly [Hertz, Hertz],
): Decibels {
  const changeOf = (responseDb: readonly Decibels[]) => responseDb.map((db, i) => db - heardDb[i]);
  return MEASURED * (shareDb(voice, changeOf(toDb), passbandHz) - shareDb(voice, changeOf(fromDb), passbandHz));
}
