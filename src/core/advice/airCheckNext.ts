/** What to do next in an air check: what the engine says to the readings and words of the check. */
import type { Purpose, RigProfile } from '../rig/index.ts';
import { type AirCheck, linesOf, readingFirst } from './airCheck.ts';
import { alcAbout, type StandingCard } from './alcStanding.ts';
import { changeText } from './moveText.ts';
import { nextAnswer, type SchoolWish, type SeenOver } from './next/index.ts';
import type { HeardReport } from './weighReports.ts';

/** Of whom, by whom and for what. */
export interface CheckedCard {
  readonly rig: RigProfile;
  readonly purpose: Purpose;
  readonly school: SchoolWish;
  /** How its microphone is used; null where nobody knows. */
  readonly use: StandingCard['use'];
  /** Who says what is heard, and by which path. */
  readonly heardBy: Pick<HeardReport, 'station' | 'path'>;
}

/** What to do, and why where that does not go without saying. */
export interface CheckNext {
  readonly todo: string;
  readonly why: string | null;
}

const ASK = 'Ask how it sounds now, and talk 10 to 15 seconds about anything.';

/** @param check as it stands */
export function airCheckNext({ rig, purpose, school, use, heardBy }: CheckedCard, check: AirCheck): CheckNext {
  const first = readingFirst(check);
  if (first !== null) return { todo: first, why: null };
  const { card, steps } = check;
  const read = steps.flatMap((step): SeenOver[] =>
    step.line.isUndone || step.reading?.alc === undefined
      ? []
      : [{ card: { ...step.card, use }, alc: step.reading.alc, compressionDb: null, swr: null, voices: [], radios: [] }],
  );
  // What was said of the dials as they stand, and of no other.
  const { before, after } = linesOf(check);
  const remarks = (check.changed.length === 0 ? before : after).flatMap((step) => step.remarks);
  const reports = remarks.length === 0 ? [] : [{ ...heardBy, remarks }];
  const overs = read.map((over, k) => (k === read.length - 1 ? { ...over, reports } : over));
  const { status, set, why, goal, expected } = nextAnswer({ rig, mode: card.mode, purpose, school, overs, scope: ['tone'] });
  if (status === 'stop') return { todo: why, why: null };
  if (status !== 'move') return { todo: goal.alc === 'low' || goal.alc === 'high' ? why : ASK, why: null };
  const dials = set.map(({ dial, from, to }) => `${dial.label} ${changeText(dial, from, to)}`).join(', ');
  return { todo: `${dials}.`, why: expected.alc ? `${why} Expect the ALC ${alcAbout(rig, expected.alc)}.` : why };
}
