'use client';
/** Levels over frequency or time: linear as radio spectra are looked at, or log with given ticks; curves named at their highest point. */
import { type ReactNode, useCallback } from 'react';
import styled from 'styled-components';
import { withMinus } from '@/core/units/index.ts';
import { axisNumbers, BARE_AXIS, Chart, type Colours, TEXT_FONT } from './Chart.tsx';

export interface SpectrumLine {
  readonly name: string;
  readonly role: 'measured' | 'highest' | 'noise' | 'other' | 'third' | 'fourth';
  readonly points: readonly (readonly [number, number | null])[];
}

/** Room beside the plot, also for what is laid over it. */
export const PLOT = { left: 54, right: 14, top: 12, bottom: 26 } as const;

const Frame = styled.div`position: relative;`;

export const lineStyleOf = (role: SpectrumLine['role'], colours: Colours) =>
  ({
    measured: { color: colours.ink, width: 1.8, type: 'solid' },
    highest: { color: colours.soft, width: 1, type: 'solid' },
    noise: { color: colours.target, width: 1.4, type: 'dotted' },
    other: { color: colours.signal, width: 1.8, type: 'solid' },
    third: { color: colours.target, width: 1.8, type: 'dashed' },
    fourth: { color: colours.fault, width: 1.6, type: 'dotted' },
  })[role];

const NO_SHADE: readonly (readonly [number, number])[] = [];
const isRound = (value: number) => value % 1000 === 0;
const tickText = (hz: number) => (hz >= 1000 ? `${hz / 1000}k` : String(hz));

/** The highest point of a line's own share of its width, so that several names do not meet. */
function namedPoint(points: SpectrumLine['points'], index: number, count: number): number {
  // Away from the ends, where names would leave the plot.
  const known = points.flatMap(([, y], i) => (y === null || i < 0.06 * points.length || i > 0.94 * points.length ? [] : [i]));
  const level = (i: number) => points[i][1] ?? -Infinity;
  const top = known.reduce((best, i) => (level(i) > level(best) ? i : best), known[0] ?? 0);
  if (count < 2) return top;
  // Near the top, a little to one side for each.
  const near = known.filter((i) => level(i) > level(top) - 14);
  return near[Math.floor(((index + 0.5) / count) * near.length)] ?? top;
}

/** @param unit "kHz" draws hertz in kilohertz; @param shade bands that matter; @param children laid over the plot */
export function SpectrumChart({
  lines,
  range,
  xRange,
  label,
  height = 260,
  unit = 'kHz',
  yUnit = 'dB',
  shade = NO_SHADE,
  logTicks,
  children,
}: {
  lines: readonly SpectrumLine[];
  range: readonly [number, number];
  xRange: readonly [number, number];
  label: string;
  height?: number;
  unit?: 'kHz' | 'ms';
  yUnit?: string;
  shade?: readonly (readonly [number, number])[];
  /** Draws log frequency with these ticks. */
  logTicks?: readonly number[];
  children?: ReactNode;
}) {
  const draw = useCallback(
    (colours: Colours) => ({
      // The plot stays where it is told to be: what is laid over it must fit.
      grid: { ...PLOT, outerBoundsMode: 'none' },
      xAxis: {
        type: logTicks ? 'log' : 'value',
        min: xRange[0],
        max: xRange[1],
        ...BARE_AXIS,
        axisLabel: {
          formatter: (value: number) =>
            logTicks ? tickText(value) : `${withMinus(Number((value / 1000).toFixed(2)))}${value === 0 ? ` ${unit}` : ''}`,
          ...(logTicks ? { customValues: logTicks } : { showMinLabel: isRound(xRange[0]), showMaxLabel: isRound(xRange[1]) }),
          ...axisNumbers(colours),
          hideOverlap: true,
        },
        splitLine: { show: !logTicks, lineStyle: { color: colours.grid } },
      },
      yAxis: {
        type: 'value',
        min: range[0],
        max: range[1],
        ...BARE_AXIS,
        axisLabel: {
          formatter: (value: number) => (value === range[1] ? yUnit : withMinus(value)),
          ...axisNumbers(colours),
        },
        splitLine: { lineStyle: { color: colours.grid } },
      },
      series: [
        {
          type: 'line',
          data: [],
          silent: true,
          markLine: logTicks && {
            symbol: 'none',
            silent: true,
            label: { show: false },
            lineStyle: { color: colours.grid, type: 'solid', width: 1 },
            data: logTicks.map((xAxis) => ({ xAxis })),
          },
          markArea: { silent: true, itemStyle: { color: colours.band }, data: shade.map(([from, to]) => [{ xAxis: from }, { xAxis: to }]) },
        },
        ...lines.map(({ name, role, points }, l) => {
          const named = namedPoint(points, l, lines.length);
          const style = lineStyleOf(role, colours);
          return {
            type: 'line',
            silent: true,
            symbol: 'none',
            clip: true,
            lineStyle: style,
            showSymbol: true,
            data: points.map(([x, y], k) =>
              name !== '' && k === named
                ? {
                    value: [x, y ?? '-'],
                    symbol: 'circle',
                    symbolSize: 0.1,
                    label: {
                      show: true,
                      formatter: name,
                      position: 'top',
                      color: style.color,
                      fontFamily: TEXT_FONT,
                      fontSize: 13,
                      fontWeight: 600,
                    },
                  }
                : [x, y ?? '-'],
            ),
          };
        }),
      ],
    }),
    [lines, range, xRange, unit, yUnit, shade, logTicks],
  );
  return (
    <Frame>
      <Chart draw={draw} label={label} height={height} />
      {children}
    </Frame>
  );
}
