/** Did an equalizer's change come true: the change that was heard between two overs against the one the dials promise. */
import { VOICE_TWELFTH_OCTAVES } from '../../dsp/index.ts';
import { effective, type RigProfile, responseOf } from '../../rig/index.ts';
import { type Decibels, powerToDb } from '../../units/index.ts';
import { cardOf, type SeenOver, type SeenVoice, TAPS } from './seen.ts';

/** Changes smaller than this, RMS over the bands, drown in the scatter of talk. */
const LEAST_CHANGE_DB: Decibels = 1.5;
/** A band counts where talk stands so far above the pauses. */
const LEAST_OVER_NOISE_DB: Decibels = 6;
/** Scatter of a twelfth octave between two overs of one voice. */
const SCATTER_DB: Decibels = 3.5;
/** Neighbouring twelfth octaves scatter together: so many of them are one. */
const ALIKE = 4;

/** Least-squares share of the promised change that was heard, and its standard deviation; null where it can't be told. */
export function heardShare(rig: RigProfile, before: SeenOver, after: SeenOver): { share: number; sd: number } | null {
  const pair = samePair(before, after);
  if (!pair) return null;
  const [was, is] = [responseOf(rig, cardOf(before)), responseOf(rig, cardOf(after))];
  const { passbandHz } = effective(rig, cardOf(after));
  const bands = VOICE_TWELFTH_OCTAVES.flatMap(({ centreHz }, i) => {
    const heard = levelAt(pair[1], i);
    const then = levelAt(pair[0], i);
    const isInside = centreHz >= passbandHz[0] && centreHz <= passbandHz[1];
    return isInside && heard !== null && then !== null ? [{ promised: is[i] - was[i], heard: heard - then }] : [];
  });
  if (bands.length < 3 * ALIKE) return null;
  // The overall level is the gain's.
  const [meanPromised, meanHeard] = [mean(bands.map(({ promised }) => promised)), mean(bands.map(({ heard }) => heard))];
  const squares = bands.reduce((sum, { promised }) => sum + (promised - meanPromised) ** 2, 0);
  if (Math.sqrt(squares / bands.length) < LEAST_CHANGE_DB) return null;
  const products = bands.reduce((sum, { promised, heard }) => sum + (promised - meanPromised) * (heard - meanHeard), 0);
  return { share: products / squares, sd: (SCATTER_DB * Math.sqrt(ALIKE)) / Math.sqrt(squares) };
}

const mean = (values: readonly number[]): number => values.reduce((sum, x) => sum + x, 0) / values.length;

/** The best receiver that heard both. */
function samePair(before: SeenOver, after: SeenOver): readonly [SeenVoice, SeenVoice] | null {
  for (const tap of TAPS) {
    const [then, now] = [before.voices.find((each) => each.tap === tap), after.voices.find((each) => each.tap === tap)];
    if (then && now) return [then, now];
  }
  return null;
}

function levelAt({ detail: { speechPowers, pausePowers } }: SeenVoice, i: number): Decibels | null {
  const [speech, pause] = [speechPowers[i], pausePowers?.[i]];
  if (!speech) return null;
  const level = powerToDb(speech);
  return pause && level - powerToDb(pause) < LEAST_OVER_NOISE_DB ? null : level;
}
