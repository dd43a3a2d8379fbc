'use client';
/** Levels over frequency or time: linear as radio spectra are looked at, or log with given ticks; curves named at their highest point. */
import { type ReactNode, useCallback } from 'react';
import styled from 'styled-components';
import { withMinus } from '@/core/units/index.ts';
import { axisNumbers, BARE_AXIS, Chart, type Colours, nameLabel, type Size } from './Chart.tsx';
import { placeNames } from './curveNames.ts';

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
const tickText = (hz: number, isFirst: boolean) => `${hz >= 1000 ? `${hz / 1000}k` : hz}${isFirst ? ' Hz' : ''}`;

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
    (colours: Colours, size: Size) => {
      const plot = { width: size.width - PLOT.left - PLOT.right, height: size.height - PLOT.top - PLOT.bottom };
      const scale = logTicks ? Math.log : (x: number) => x;
      const [first, last] = [scale(xRange[0]), scale(xRange[1])];
      const places = placeNames(
        lines.map(({ name, points }) => ({
          name,
          line: points.map(
            ([x, y]) =>
              [
                (plot.width * (scale(x) - first)) / (last - first),
                y === null ? Number.NaN : (plot.height * (range[1] - y)) / (range[1] - range[0]),
              ] as const,
          ),
        })),
        plot,
      );
      return {
        // The plot stays where it is told to be: what is laid over it must fit.
        grid: { ...PLOT, outerBoundsMode: 'none' },
        xAxis: {
          type: logTicks ? 'log' : 'value',
          min: xRange[0],
          max: xRange[1],
          ...BARE_AXIS,
          axisLabel: {
            formatter: (value: number) =>
              logTicks
                ? tickText(value, value === logTicks[0])
                : `${withMinus(Number((value / 1000).toFixed(2)))}${value === 0 ? ` ${unit}` : ''}`,
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
            markArea: {
              silent: true,
              itemStyle: { color: colours.band },
              data: shade.map(([from, to]) => [{ xAxis: from }, { xAxis: to }]),
            },
          },
          ...lines.map(({ name, role, points }, l) => {
            const place = places[l];
            const style = lineStyleOf(role, colours);
            return {
              type: 'line',
              silent: true,
              symbol: 'none',
              clip: true,
              lineStyle: style,
              showSymbol: true,
              data: points.map(([x, y], k) =>
                k === place?.at ? { value: [x, y ?? '-'], ...nameLabel(name, place, style.color) } : [x, y ?? '-'],
              ),
            };
          }),
        ],
      };
    },
    [lines, range, xRange, unit, yUnit, shade, logTicks],
  );
  return (
    <Frame>
      <Chart draw={draw} label={label} height={height} />
      {children}
    </Frame>
  );
}
