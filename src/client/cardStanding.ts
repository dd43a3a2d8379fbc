/** What readings and recordings say of a card as it stands, as core weighs them. */
import {
  type AlcStanding,
  alcStanding,
  amGain,
  deviationsBeside,
  fmGain,
  type HeardWay,
  modulationsBeside,
  type RadioGain,
  tooMuchDrive,
  withZone,
} from '@/core/advice/index.ts';
import { overdrivenBy } from '@/core/findings/index.ts';
import { type Card, type RigProfile, responseOf } from '@/core/rig/index.ts';
import type { Decibels } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardEvidence } from '@/server/bench/cardEvidence.ts';

/** The voice that levels are worked out from, with what it went through; none where none was measured. */
export function heardVoice({ over, voice }: Pick<BenchView, 'over' | 'voice'>): HeardWay[] {
  const heard = over ?? voice?.over;
  if (!heard?.measured) return [];
  const { rig, card, revision } = heard;
  const responseDb = responseOf(rig.profile, { mode: card.mode, values: revision.values });
  return [{ rig: rig.profile, voice: { voice: heard.measured.detail, responseDb }, weight: 1 }];
}

/** The card's rig with the zone that its ALC is to stand in. */
export const schooledRig = ({ card, school }: Pick<BenchView, 'card' | 'school'>): RigProfile =>
  withZone(card.rig.profile, school.wish.alcZone);

/** The ALC readings. @param zone of a school; the card's own when left out */
export function standingOf(bench: BenchView, zone = bench.school.wish.alcZone): AlcStanding {
  const { card, readings } = bench;
  const [newest] = card.revisions;
  const read = [...readings]
    .reverse()
    .flatMap(({ alc, revision: { values, use } }) => (alc === null ? [] : [{ alc, card: { mode: card.mode, values, use } }]));
  return alcStanding(
    withZone(card.rig.profile, zone),
    { mode: card.mode, values: newest.values, use: newest.use },
    read,
    heardVoice(bench),
  );
}

/** Why an I/Q recording, or an analyser, shows too much drive of the card as it stands, in a sentence; null where none does. */
export function driveOfCard({ card, radio, readings }: Pick<BenchView, 'card' | 'radio' | 'readings'>): string | null {
  const result = radio?.revision.id === card.revisions[0].id ? radio.evidence?.result : undefined;
  if (result?.kind === 'am') return overdrivenBy(result.findings)?.text ?? null;
  return tooMuchDrive({ radios: result?.kind === 'ssb' ? [result] : [], adjacentDb: analyserDbOf({ card, readings }) });
}

/** What the newest I/Q recording made with the card's numbers says of the mic gain of AM and FM; null for SSB, and where there is none. */
export function radioGainOf({ card }: Pick<BenchView, 'card'>, { deviations, modulations }: CardEvidence): RadioGain | null {
  const rig = card.rig.profile;
  const now: Card = { mode: card.mode, values: card.revisions[0].values };
  const isNow = ({ card: then }: { readonly card: Card }) => JSON.stringify(then.values) === JSON.stringify(now.values);
  const deviation = deviations.find(isNow);
  if (deviation) return fmGain(rig, now, deviation.peakHz, deviationsBeside(deviations, deviation));
  const depth = modulations.find(isNow);
  return depth ? amGain(rig, now, depth.modulation, modulationsBeside(modulations, depth)) : null;
}

/** The next channel of the card as it stands, as it was read off an analyser last; null where nobody did. */
export const analyserDbOf = ({ card, readings }: Pick<BenchView, 'card' | 'readings'>): Decibels | null =>
  readings.find(({ revision, adjacentDb }) => revision.id === card.revisions[0].id && adjacentDb !== null)?.adjacentDb ?? null;
