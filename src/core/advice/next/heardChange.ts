/** Did an equalizer's change come true: the change that was heard between two overs against the one the dials promise. */
import { VOICE_TWELFTH_OCTAVES } from '../../dsp/index.ts';
import { effective, type RigProfile, responseOf } from '../../rig/index.ts';
import { type Decibels, powerToDb } from '../../units/index.ts';
import { cardOf, type SeenOver, type SeenVoice } from './seen.ts';

/** Changes smaller than this, RMS over the bands, drown in the scatter of talk. */
const LEAST_CHANGE_DB: Decibels = 1.5;
/** A band counts where talk stands so far above the pauses. */
const LEAST_OVER_NOISE_DB: Decibels = 6;
/** Scatter of a twelfth octave between two overs of one voice. */
const SCATTER_DB: Decibels = 3.5;
/** Neighbouring twelfth octaves scatter together: so many of them are one. */
const ALIKE = 4;

/** An equalizer of which so little is heard, so many standard deviations from all of it, is not in the path. */
const DEAD_SHARE = 0.3;
const DEAD_SDS = 3;

interface Heard {
  readonly over: SeenOver;
  readonly voice: SeenVoice;
}

/** Whether the equalizer was moved between two overs and nothing of it was heard, whatever its width number means. */
export function isDeadChange(rig: RigProfile, before: Heard, after: Heard): boolean {
  const ways = (['octaves', 'q'] as const).map((meaning) =>
    rig.equalizer.kind === 'parametric' ? { ...rig, equalizer: { ...rig.equalizer, width: { meaning } } } : rig,
  );
  return ways.every((way) => {
    const heard = heardShare(way, before, after);
    return heard !== null && heard.share < DEAD_SHARE && (1 - heard.share) / heard.sd > DEAD_SDS;
  });
}

/** Least-squares share of the promised change that was heard, and its standard deviation; null where it can't be told. */
export function heardShare(rig: RigProfile, before: Heard, after: Heard): { share: number; sd: number } | null {
  const pair = [before.voice, after.voice];
  const [was, is] = [responseOf(rig, cardOf(before.over)), responseOf(rig, cardOf(after.over))];
  const { passbandHz } = effective(rig, cardOf(after.over));
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

function levelAt({ detail: { speechPowers, pausePowers } }: SeenVoice, i: number): Decibels | null {
  const [speech, pause] = [speechPowers[i], pausePowers?.[i]];
  if (!speech) return null;
  const level = powerToDb(speech);
  return pause && level - powerToDb(pause) < LEAST_OVER_NOISE_DB ? null : level;
}
