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
import { type Card, hasAlc, type RigProfile, responseOf } from '@/core/rig/index.ts';
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

/** What an I/Q recording says of the mic gain of AM and FM, and the over that it is of. */
export interface HeardGain {
  readonly advice: RadioGain;
  readonly overId: number;
  /** The card has the same numbers now. */
  readonly isNow: boolean;
}

/** By the newest over of the card, whatever numbers it was made with; null for SSB, and where there is none. */
export const newestGain = (bench: Pick<BenchView, 'card'>, evidence: CardEvidence): HeardGain | null =>
  gainsHeard(bench, evidence)[0] ?? null;

/** By the newest over that was made with the card's numbers. */
export const radioGainOf = (bench: Pick<BenchView, 'card'>, evidence: CardEvidence): RadioGain | null =>
  gainsHeard(bench, evidence).find(({ isNow }) => isNow)?.advice ?? null;

/** Depth was measured with any numbers of the card, or it is FM: the level is its own, and the ALC turns nothing. */
export const hasOwnLevel = ({ card }: Pick<BenchView, 'card'>, evidence: CardEvidence | null): boolean =>
  !hasAlc(card) || (evidence?.modulations.length ?? 0) > 0;

/** Newest first. */
function gainsHeard({ card }: Pick<BenchView, 'card'>, { deviations, modulations }: CardEvidence): HeardGain[] {
  const rig = card.rig.profile;
  const now = JSON.stringify(card.revisions[0].values);
  const told = ({ card: then, overId }: { card: Card; overId: number }, advice: RadioGain | null): HeardGain[] =>
    advice ? [{ advice, overId, isNow: JSON.stringify(then.values) === now }] : [];
  return [
    ...deviations.flatMap((one) => told(one, fmGain(rig, one.card, one.peakHz, deviationsBeside(deviations, one)))),
    ...modulations.flatMap((one) => told(one, amGain(rig, one.card, one.modulation, modulationsBeside(modulations, one)))),
  ];
}

/** The next channel of the card as it stands, as it was read off an analyser last; null where nobody did. */
export const analyserDbOf = ({ card, readings }: Pick<BenchView, 'card' | 'readings'>): Decibels | null =>
  readings.find(({ revision, adjacentDb }) => revision.id === card.revisions[0].id && adjacentDb !== null)?.adjacentDb ?? null;
