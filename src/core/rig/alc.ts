/** Readings of the ALC meter: kept as fractions of its scale, told as the meter is marked. */

import type { Fraction } from '../units/index.ts';
import type { Card } from './card.ts';
import type { RigProfile } from './rig.ts';

type Meter = RigProfile['alc'];

/** What the end of the scale is marked. */
export const fullScale = ({ full }: Meter): number => full ?? 1;

/** A reading, or an end of the zone, as the meter shows it: 0.45, or 4.5 on a meter marked to 10. */
export const readingText = (meter: Meter, reading: Fraction): string =>
  fullScale(meter) === 1 ? reading.toFixed(2) : String(Number((reading * fullScale(meter)).toFixed(1)));

/** "of the scale", or "of 10" on a meter with marks. */
export const ofScale = (meter: Meter): string => `of ${fullScale(meter) === 1 ? 'the scale' : fullScale(meter)}`;

/** The zone: "0.30–0.50". */
export const zoneText = (meter: Meter): string => meter.zone.map((end) => readingText(meter, end)).join('–');

/** A meter as an eye reads it: to a twentieth of its scale. */
export const asRead = (share: Fraction): Fraction => Math.round(20 * Math.min(1, Math.max(0, share))) / 20;

/** FM has no ALC to set: its level is how far peaks deviate. */
export const hasAlc = ({ mode }: Pick<Card, 'mode'>): boolean => mode !== 'fm';
