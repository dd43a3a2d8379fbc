/** Whether two cards of a rig sound the same, and in what they differ: dead dials and bands at 0 dB don't count. */
import type { Decibels } from '../units/index.ts';
import type { Card } from './card.ts';
import { compareMenu } from './dialScale.ts';
import { type EffectiveSettings, effective } from './effective.ts';
import { equalizerBands } from './equalizer.ts';
import { isSameUse, type MicrophoneUse } from './microphone.ts';
import { responseOf } from './response.ts';
import type { Dial, DialValue, RigProfile } from './rig.ts';

/** A card with the microphone it is talked into. */
export interface SoundingCard extends Card {
  readonly use?: MicrophoneUse;
}

/** What of the sound differs between two cards. */
export interface SoundChange {
  /** Dials that act otherwise, as they act: a dead one counts as nothing (null). */
  readonly dials: readonly { readonly dial: Dial; readonly from: DialValue | null; readonly to: DialValue | null }[];
  /** Largest difference of the two equalizer curves. */
  readonly equalizerDb: Decibels;
  readonly isMicrophoneMoved: boolean;
}

/** Curves nearer than this sound the same. */
const SAME_DB: Decibels = 0.1;

const actingValues = ({ dials }: EffectiveSettings) => new Map(dials.map(({ dial, value, dead }) => [dial.id, dead ? null : value]));

/** What of the sound differs between two cards of one rig; null when nothing does. */
export function soundChange(rig: RigProfile, from: SoundingCard, to: SoundingCard): SoundChange | null {
  const before = responseOf(rig, from);
  const equalizerDb = Math.max(0, ...responseOf(rig, to).map((db, i) => Math.abs(db - before[i])));
  const isMicrophoneMoved = from.use !== undefined && to.use !== undefined && !isSameUse(from.use, to.use);
  const inEqualizer = new Set(equalizerBands(rig).flatMap((band) => [band.centre, band.level, band.width]));
  const [was, is] = [actingValues(effective(rig, from)), actingValues(effective(rig, to))];
  const dials = [...rig.dials]
    .sort(compareMenu)
    .filter(({ id, stage }) => {
      if (was.get(id) === is.get(id) || stage === 'alc') return false;
      return stage !== 'equalizer' || (inEqualizer.has(id) && equalizerDb > SAME_DB);
    })
    .map((dial) => ({ dial, from: was.get(dial.id) ?? null, to: is.get(dial.id) ?? null }));
  return dials.length > 0 || equalizerDb > SAME_DB || isMicrophoneMoved ? { dials, equalizerDb, isMicrophoneMoved } : null;
}
