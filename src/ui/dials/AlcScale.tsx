'use client';
/** The ALC meter as a plain scale with the zone where speech peaks belong. */
import styled from 'styled-components';
import { fullScale, type RigProfile, readingText } from '@/core/rig/index.ts';

const Scale = styled.div`
  position: relative; height: 34px; max-width: 520px; border: 1px solid var(--line); background: var(--sheet); margin: 10px 0 26px;
  .zone { position: absolute; inset-block: 0; background: var(--signal-wash); border-inline: 1px solid var(--signal); }
  .needle { position: absolute; inset-block: -5px; width: 3px; background: var(--ink); }
  .tick { position: absolute; top: 100%; transform: translateX(-50%); font-size: 12.5px; color: var(--soft); }`;

interface AlcScaleProps {
  readonly alc: RigProfile['alc'];
  /** As a fraction of the scale; null where it was not read. */
  readonly reading: number | null;
}

export function AlcScale({ alc, reading }: AlcScaleProps) {
  const [low, high] = alc.zone;
  return (
    <>
      <p>
        Speech peaks belong between {readingText(alc, low)} and {readingText(alc, high)}. Above the zone: turn the mic gain down. Below it:
        turn it up.
      </p>
      <Scale role="img" aria-label={`ALC scale, zone ${low} to ${high}, reading ${reading ?? 'none'}`}>
        <span className="zone" style={{ left: `${100 * low}%`, right: `${100 * (1 - high)}%` }} />
        {reading !== null && <span className="needle" style={{ left: `calc(${100 * reading}% - 1.5px)` }} />}
        {[0, 0.25, 0.5, 0.75, 1].map((at) => (
          <span key={at} className="tick mono" style={{ left: `${100 * at}%` }}>
            {Number((at * fullScale(alc)).toFixed(2))}
          </span>
        ))}
      </Scale>
    </>
  );
}
