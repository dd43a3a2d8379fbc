/** Overs in a comparison go by letters, in the order they were picked. */
import type { View } from '@/core/playback/index.ts';
import type { OverView } from '@/server/overs/overs.ts';
import type { SpectrumLine } from '@/ui/charts/SpectrumChart.tsx';

export const LETTERS = ['A', 'B', 'C', 'D'] as const;
export type Letter = (typeof LETTERS)[number];

export const ROLES: readonly SpectrumLine['role'][] = ['measured', 'other', 'third', 'fourth'];

/** A measured over under its letter. */
export interface Lettered {
  readonly letter: Letter;
  readonly over: OverView & { readonly evidence: NonNullable<OverView['evidence']>; readonly capture: NonNullable<OverView['capture']> };
}

export const lettered = (overs: readonly OverView[]): Lettered[] =>
  overs
    .filter((over): over is Lettered['over'] => over.evidence !== null && over.capture !== null)
    .map((over, i) => ({ letter: LETTERS[i], over }));

/** How an over is heard and seen; null for curves and traces. */
export function viewOf({ over }: Lettered): View | null {
  const { result } = over.evidence;
  switch (result.kind) {
    case 'voice':
      return { kind: 'voice' };
    case 'ssb':
      return { kind: 'ssb', carrierHz: result.carrierHz, sideband: result.sideband };
    case 'am':
      return { kind: 'am', carrierHz: result.carrierOffsetHz ?? 0 };
    case 'fm':
      return { kind: 'fm', carrierHz: result.offsetHz ?? 0 };
    case 'two-tone':
      return { kind: 'two-tone', carrierHz: result.tonesHz ? (result.tonesHz[0] + result.tonesHz[1]) / 2 : 0 };
    case 'response':
      // The test signal itself; a curve is silent.
      return result.sampleRateHz > 0 ? { kind: 'voice' } : null;
    default:
      return null;
  }
}
