/** A voice's tone beside its target, for the eye: only shapes count. */
import { type CurvePoint, curveAt } from '../curve/index.ts';
import { mean, VOICE_THIRD_OCTAVES } from '../dsp/index.ts';
import type { Decibels, Hertz } from '../units/index.ts';

/** Where words have most of their power: both are laid at the same mean level there. */
const MIDDLE: readonly [Hertz, Hertz] = [380, 2600];

type Points = (readonly [Hertz, Decibels | null])[];

function centred(points: Points): Points {
  const levels = points.flatMap(([hz, db]) => (db !== null && hz > MIDDLE[0] && hz < MIDDLE[1] ? [db] : []));
  const middle = levels.length === 0 ? 0 : mean(levels);
  return points.map(([hz, db]) => [hz, db === null ? null : db - middle] as const);
}

/** @param thirdOctavesDb levels of VOICE_THIRD_OCTAVES; null while there are none */
export function toneAgainst(
  target: readonly CurvePoint[],
  thirdOctavesDb: readonly (Decibels | null)[] | null,
): { readonly wanted: Points; readonly heard: Points | null } {
  const centres = VOICE_THIRD_OCTAVES.map(({ centreHz }) => centreHz);
  return {
    wanted: centred(centres.map((hz) => [hz, curveAt(target, hz)])),
    heard: thirdOctavesDb && centred(centres.map((hz, i) => [hz, thirdOctavesDb[i] ?? null])),
  };
}
