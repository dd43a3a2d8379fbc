/** The carrier offsets that a card's overs were made with, by what was heard and said of each. */
import type { CurvePoint } from '../../curve/index.ts';
import type { Card, RigProfile } from '../../rig/index.ts';
import { type CarrierBracket, carrierBracket } from '../advisors/carrierBracket.ts';
import { cardOf, type SeenOver } from './seen.ts';

/** Null where the radio has no such dial in this mode. The monitor taps before the filter: it tells nothing of it. */
export const offsetsOf = (rig: RigProfile, now: Card, overs: readonly SeenOver[], target: readonly CurvePoint[]): CarrierBracket | null =>
  carrierBracket(
    rig,
    now,
    overs.map((over) => ({
      card: cardOf(over),
      voice: over.voices.find(({ tap }) => tap !== 'monitor')?.detail ?? null,
      remarks: (over.reports ?? []).flatMap(({ remarks }) => remarks),
    })),
    target,
  );
