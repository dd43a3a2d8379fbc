/** A passband as it was measured, put into the profile in place of what the manual says. */
import type { Hertz } from '../units/index.ts';
import type { Card } from './card.ts';
import { carrierShiftHz, effective } from './effective.ts';
import type { RigProfile } from './rig.ts';

/** Measured edges are kept to this. */
const STEP_HZ: Hertz = 5;

const rounded = ([low, high]: readonly [Hertz, Hertz]): [Hertz, Hertz] => [
  Math.round(low / STEP_HZ) * STEP_HZ,
  Math.round(high / STEP_HZ) * STEP_HZ,
];

/**
 * The profile with these edges for the filter that a card uses.
 * @returns null where the dials themselves are the edges: there is nothing in the profile to change
 */
export function withMeasuredEdges(rig: RigProfile, card: Card, measured: readonly [Hertz, Hertz]): RigProfile | null {
  const at = Math.max(
    0,
    rig.passbands.findIndex(({ modes }) => modes.includes(card.mode)),
  );
  const passband = rig.passbands[at];
  if (passband.kind === 'edges') return null;
  const { values } = effective(rig, card);
  // The profile has them with the carrier at its factory place.
  const shift = carrierShiftHz(rig, card.mode, values);
  const edges = rounded([measured[0] - shift, measured[1] - shift]);
  if (passband.kind === 'fixed') return { ...rig, passbands: rig.passbands.with(at, { ...passband, edges }) };
  const option = passband.edges.find(([name]) => name === values[passband.dial])?.[0] ?? passband.edges[0][0];
  const all = passband.edges.map((each): [string, Hertz, Hertz] => (each[0] === option ? [option, ...edges] : [each[0], each[1], each[2]]));
  return { ...rig, passbands: rig.passbands.with(at, { ...passband, edges: all }) };
}
