'use client';
/** Rows of fields, the answers below them, and watts in words. */
import styled from 'styled-components';

export const Row = styled.div`display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)); gap: 14px; align-items: end; margin: 6px 0; button { width: 100%; }
  @media (max-width: 560px) { grid-template-columns: minmax(0, 1fr); gap: 8px; }`;
export const Told = styled.dl`
  display: grid; grid-template-columns: max-content 1fr; gap: 4px 16px; margin: 8px 0;
  dt { color: var(--soft); } dd { margin: 0; font-weight: 600; }`;

/** Watts as operators write them. */
export function watts(value: number): string {
  // A value that rounds up to the next unit belongs there.
  if (value >= 0.9995) return `${Number(value.toPrecision(3))} W`;
  if (value >= 0.9995e-3) return `${Number((value * 1e3).toPrecision(3))} mW`;
  return value >= 0.9995e-6 ? `${Number((value * 1e6).toPrecision(3))} µW` : `${Number((value * 1e9).toPrecision(3))} nW`;
}
