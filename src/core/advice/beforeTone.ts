/** What comes before any tone: a bad SWR, an overdriven transmitter, an ALC outside its zone. Null where nothing does. */
import { positionsOf, type RigProfile, readingText, shareOf } from '../rig/index.ts';
import { fixed } from '../units/index.ts';
import { gainSpanDb } from './alcGain.ts';
import { type AlcStanding, gainSentence } from './alcStanding.ts';
import { moveText } from './moveText.ts';
import type { NextStep } from './nextStep.ts';

/** Level and safety of the card as it stands. */
export interface LevelInput {
  readonly rig: RigProfile;
  readonly standing: AlcStanding;
  /** The newest SWR that was read; null where none was. */
  readonly swr: number | null;
  /** Why an I/Q recording of the card as it stands shows too much drive, in a sentence; null where none does. */
  readonly tooMuchDrive: string | null;
}

/** Above this the antenna is looked at before anything is turned (common practice). */
export const MOST_SWR = 3;
/** A first step down from overdrive. */
const STEP_DOWN_DB = 3;
/** A stale reading counts as out of the zone once that is likelier than not. */
const LIKELY = 0.5;

/**
 * @param skipped what the operator left aside: safety and level for one revision of the card only
 * @param revision of the card as it stands
 */
export function beforeTone(
  { rig, standing, swr, tooMuchDrive }: LevelInput,
  skipped: readonly string[],
  revision: number,
): NextStep | null {
  const [drive, alc] = [`overdrive-${revision}`, `alc-${revision}`];
  if (swr !== null && swr > MOST_SWR)
    return {
      kind: 'none',
      title: 'Stop and look at the antenna',
      text: `The SWR was read as ${fixed(swr, 1)}. No dial mends that: stop transmitting, look at the antenna and its cable, and read it again.`,
    };
  if (tooMuchDrive !== null && !skipped.includes(drive)) return lessDrive(tooMuchDrive, standing, drive);
  return skipped.includes(alc) ? null : level(rig, standing, alc);
}

function lessDrive(text: string, { gain }: AlcStanding, skips: string): NextStep {
  const step = { title: 'Less drive first', text, skips };
  if (!gain) return { kind: 'none', ...step };
  const { dial, from } = gain;
  const positions = positionsOf(dial.scale);
  const down = Math.max(1, Math.round((STEP_DOWN_DB / gainSpanDb(positions.length)) * (positions.length - 1)));
  const at = positions.indexOf(from);
  // Where the ALC asks for less already, its number is the one: the same as Tune says.
  const to = shareOf(dial, gain.to) < shareOf(dial, from) ? gain.to : positions[Math.max(0, at - down)];
  if (at <= 0) return { kind: 'none', ...step, text: `${text} The mic gain is at its end: look at the power setting.` };
  return {
    kind: 'move',
    ...step,
    title: moveText(dial, from, to),
    expect: 'Make another I/Q recording then; the tone is judged once the next channel is clean.',
    move: { dial, from, to, why: 'the transmitter was overdriven' },
  };
}

function level(rig: RigProfile, { newest, gain }: AlcStanding, skips: string): NextStep | null {
  if (!newest || !gain || gain.from === gain.to) return null;
  const [low, high] = rig.alc.zone;
  const isStale = newest.changed.length > 0;
  const isOutside = newest.alc < low || newest.alc > high;
  if (isStale ? gain.now.chance >= LIKELY : !isOutside) return null;
  const { dial, from, to } = gain;
  const where = `The ALC read ${readingText(rig.alc, newest.alc)}; speech peaks belong between ${readingText(rig.alc, low)} and ${readingText(rig.alc, high)}.`;
  return {
    kind: 'move',
    title: moveText(dial, from, to),
    text: isStale ? `${where} Since then ${newest.changed.join(', ')} changed, and it is likely outside now.` : where,
    expect: gainSentence(rig, gain),
    skips,
    move: { dial, from, to, why: isStale ? 'the ALC is likely outside its zone' : 'the ALC was outside its zone' },
  };
}
