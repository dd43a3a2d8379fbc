'use client';
/** A scope trace: its envelope, and the power in it. */
import { useMemo } from 'react';
import type { PowerDetail, PowerMeasurement } from '@/core/measure/index.ts';
import { SpectrumChart, type SpectrumLine } from '../charts/SpectrumChart.tsx';

export function PowerReport({ result, detail }: { result: PowerMeasurement; detail: PowerDetail }) {
  // Milliseconds in thousandths, as the chart draws thousands.
  const lines = useMemo<SpectrumLine[]>(
    () => [{ name: 'envelope', role: 'measured', points: detail.envelope.map(([s, v]) => [s * 1e6, v] as const) }],
    [detail],
  );
  const top = Math.ceil((result.crestV ?? 1) * 1.15);
  const range = useMemo<[number, number]>(() => [0, top], [top]);
  const xRange = useMemo<[number, number]>(() => [0, result.durationS * 1e6], [result.durationS]);
  return (
    <>
      <SpectrumChart
        lines={lines}
        range={range}
        xRange={xRange}
        unit="ms"
        yUnit="V"
        label={`Envelope over ${(result.durationS * 1e3).toPrecision(3)} ms, crest ${result.crestV?.toPrecision(3) ?? 'none,'} V.`}
      />
      <p className="soft">
        {result.traceKind === 'rf' ? 'The trace shows RF as it swings.' : 'The trace shows a detected envelope.'} PEP is the crest squared
        over twice the load; two equal tones read 3 dB under it on a mean-reading meter.
      </p>
    </>
  );
}
