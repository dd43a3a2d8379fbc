'use client';
/** The radio's meters as plain scales. */
import styled from 'styled-components';
import type { PracticeAnswer } from '@/client/transmit.ts';
import { readingText } from '@/core/rig/index.ts';
import { fixed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';

const Meters = styled.dl`
  display: grid; grid-template-columns: 110px 1fr 70px; gap: 8px 10px; align-items: center; margin: 10px 0 14px; dt { color: var(--soft); } dd { margin: 0; }
  .track { height: 16px; border: 1px solid var(--line); background: var(--paper); position: relative; }
  .zone { position: absolute; inset-block: 0; background: var(--signal-wash); border-inline: 1px solid var(--signal); }
  .now { position: absolute; inset-block: -3px; width: 3px; background: var(--ink); }
  .mono { text-align: right; white-space: nowrap; }`;

/** The highest that each scale shows. */
const MOST_COMPRESSION_DB = 30;
const MOST_POWER = 1.3;
const MOST_SWR = 3;

/** At rest while nobody has talked. */
export function MeterScales({ meters, bench }: { meters: PracticeAnswer['meters'] | null; bench: BenchView }) {
  const meter = bench.card.rig.profile.alc;
  const alc = meters?.alc.usual ?? null;
  const rows = [
    { name: 'ALC', share: alc ?? 0, text: alc === null ? '–' : readingText(meter, alc), zone: meter.zone },
    ...(meters
      ? [
          {
            name: 'Compression',
            share: meters.compressionDb / MOST_COMPRESSION_DB,
            text: `${fixed(meters.compressionDb, 0)} dB`,
            zone: null,
          },
          { name: 'Power (peak)', share: meters.power / MOST_POWER, text: `${fixed(100 * meters.power, 0)} %`, zone: null },
          { name: 'SWR', share: (meters.swr - 1) / (MOST_SWR - 1), text: fixed(meters.swr, 1), zone: null },
        ]
      : ['Compression', 'Power (peak)', 'SWR'].map((name) => ({ name, share: 0, text: '–', zone: null }))),
  ];
  return (
    <Meters aria-label="Meters">
      {rows.map(({ name, share, text, zone }) => (
        <MeterRow key={name} name={name} share={Math.max(0, Math.min(1, share))} text={text} zone={zone} />
      ))}
    </Meters>
  );
}

function MeterRow({ name, share, text, zone }: { name: string; share: number; text: string; zone: readonly number[] | null }) {
  return (
    <>
      <dt>{name}</dt>
      <dd>
        <div className="track" aria-hidden>
          {zone && <span className="zone" style={{ left: `${100 * zone[0]}%`, right: `${100 * (1 - zone[1])}%` }} />}
          <span className="now" style={{ left: `calc(${100 * share}% - 1.5px)` }} />
        </div>
      </dd>
      <dd className="mono">{text}</dd>
    </>
  );
}
