'use client';
/** Level over the time of a recording; talk in ink, pauses soft. */
import { useCallback } from 'react';
import { withMinus } from '@/core/units/index.ts';
import { axisNumbers, BARE_AXIS, Chart, type Colours, TEXT_FONT } from './Chart.tsx';

export function LevelStrip({
  levelsDb,
  active,
  stepSeconds,
  speechDb,
  noiseDb,
  label,
}: {
  levelsDb: readonly (number | null)[];
  active: readonly boolean[];
  stepSeconds: number;
  speechDb: number | null;
  noiseDb: number | null;
  label: string;
}) {
  const draw = useCallback(
    (colours: Colours) => {
      const mark = (yAxis: number, name: string) => ({
        yAxis,
        label: { formatter: name, position: 'insideEndTop', color: colours.ink, fontFamily: TEXT_FONT, fontSize: 12.5 },
      });
      const points = (wanted: boolean) =>
        levelsDb.map((db, i) => [
          i * stepSeconds,
          db !== null && (active[i] === wanted || active[i - 1] === wanted || active[i + 1] === wanted) ? Math.max(db, -90) : '-',
        ]);
      const low = Math.max(-90, Math.floor(Math.min(...levelsDb.map((db) => db ?? 0)) / 12) * 12);
      return {
        grid: { left: 44, right: 12, top: 10, bottom: 24 },
        xAxis: {
          type: 'value',
          min: 0,
          max: levelsDb.length * stepSeconds,
          ...BARE_AXIS,
          axisLabel: {
            formatter: (s: number) => `${Number(s.toFixed(1))} s`,
            ...axisNumbers(colours),
            hideOverlap: true,
          },
          splitLine: { show: false },
        },
        yAxis: {
          type: 'value',
          min: low,
          max: 0,
          interval: 12,
          ...BARE_AXIS,
          axisLabel: {
            formatter: (db: number) => (db === 0 ? 'dB' : withMinus(db)),
            ...axisNumbers(colours),
          },
          splitLine: { lineStyle: { color: colours.grid } },
        },
        series: [
          { type: 'line', silent: true, symbol: 'none', lineStyle: { color: colours.soft, width: 1 }, data: points(false) },
          {
            type: 'line',
            silent: true,
            symbol: 'none',
            lineStyle: { color: colours.ink, width: 1.4 },
            data: points(true),
            markLine: {
              symbol: 'none',
              silent: true,
              lineStyle: { color: colours.signal, type: 'dashed', width: 1.2 },
              data: [
                ...(speechDb === null ? [] : [mark(speechDb, 'speech level')]),
                ...(noiseDb === null ? [] : [mark(noiseDb, 'noise floor')]),
              ],
            },
          },
        ],
      };
    },
    [levelsDb, active, stepSeconds, speechDb, noiseDb],
  );
  return <Chart draw={draw} label={label} height={150} />;
}
