'use client';
/** The level of live sound on a plain scale, with its peak hold. */
import styled from 'styled-components';
import type { LiveReading } from '@/core/measure/index.ts';
import { decibels } from '@/core/units/index.ts';

const Scale = styled.div`
  position: relative; height: 22px; border: 1px solid var(--line); background: var(--sheet); margin: 10px 0 4px; max-width: 720px;
  .level { position: absolute; inset: 0 auto 0 0; background: var(--signal); opacity: 0.75; }
  .peak { position: absolute; top: -3px; bottom: -3px; width: 3px; background: var(--ink); }`;
/** Levels drawn from here to full scale. */
const LOWEST_DB = -72;
const share = (db: number | null): number => (db === null ? 0 : Math.max(0, Math.min(1, 1 - db / LOWEST_DB)));

export function LiveLevel({ reading }: { reading: LiveReading | null }) {
  const [level, peak] = [reading?.levelDb ?? null, reading?.heldPeakDb ?? null];
  const text = (db: number | null) => (db === null ? 'none' : decibels(db));
  return (
    <>
      <Scale aria-hidden>
        <div className="level" style={{ width: `${100 * share(level)}%` }} />
        {peak !== null && <div className="peak" style={{ left: `calc(${100 * share(peak)}% - 3px)` }} />}
      </Scale>
      <p className="mono">
        level {text(level)}, peak hold {text(peak)} re full scale
        {reading?.isClipping && <strong> — clipping: turn the receiver or the input down</strong>}
      </p>
    </>
  );
}
