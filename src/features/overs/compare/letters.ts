/** Overs in a comparison go by letters, in the order they were picked. */
import { type View, viewOf as viewOfResult } from '@/core/playback/index.ts';
import type { OverView } from '@/server/overs/overView.ts';
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
export const viewOf = ({ over }: Lettered): View | null => viewOfResult(over.evidence.result);
