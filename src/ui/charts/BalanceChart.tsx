'use client';
/** Levels over log frequency, 80 Hz to 5 kHz, with curves named at the curve. */
import { useCallback } from 'react';
import { withMinus } from '@/core/units/index.ts';
import { axisNumbers, BARE_AXIS, Chart, type Colours, nameLabel, type Size } from './Chart.tsx';
import { placeNames } from './curveNames.ts';

export type CurveRole = 'measured' | 'target' | 'predicted' | 'noise';

export interface Curve {
  readonly name: string;
  readonly role: CurveRole;
  /** [Hz, dB]; null breaks the line. */
  readonly points: readonly (readonly [number, number | null])[];
  /** Draw flat bands instead of a line through the points. */
  readonly steps?: boolean;
}

/** Where curves are worked out for drawing: 48 points an octave, so that narrow bands keep their shape. */
export const DRAWN_HZ: readonly number[] = Array.from({ length: 288 }, (_, i) => 80 * 2 ** (i / 48));

const TICKS = [100, 200, 300, 500, 1000, 2000, 3000, 5000];
const LOWEST_HZ = 80;
const HIGHEST_HZ = 5000;
/** The first tick tells the unit. */
const tickText = (hz: number) => (hz === TICKS[0] ? `${hz} Hz` : hz >= 1000 ? `${hz / 1000}k` : String(hz));
const GRID = { left: 44, right: 14, top: 12, bottom: 24 } as const;

const lineOf = (role: CurveRole, colours: Colours) =>
  ({
    measured: { color: colours.ink, width: 2, type: 'solid' },
    target: { color: colours.target, width: 2, type: 'dotted' },
    predicted: { color: colours.signal, width: 2.6, type: 'solid' },
    noise: { color: colours.soft, width: 1, type: 'solid' },
  })[role];

/** @param range lowest and highest level drawn */
export function BalanceChart({
  curves,
  passbandHz,
  range,
  label,
  height = 256,
}: {
  curves: readonly Curve[];
  passbandHz?: readonly [number, number];
  range: readonly [number, number];
  label: string;
  height?: number;
}) {
  const draw = useCallback(
    (colours: Colours, size: Size) => {
      const drawn = curves.map(({ points }) =>
        points.filter(([hz, db]) => hz >= LOWEST_HZ && hz <= HIGHEST_HZ && (db === null || db >= range[0] - 20)),
      );
      const plot = { width: size.width - GRID.left - GRID.right, height: size.height - GRID.top - GRID.bottom };
      const at = ([hz, db]: readonly [number, number | null]) =>
        [
          (plot.width * Math.log(hz / LOWEST_HZ)) / Math.log(HIGHEST_HZ / LOWEST_HZ),
          db === null ? Number.NaN : (plot.height * (range[1] - db)) / (range[1] - range[0]),
        ] as const;
      const places = placeNames(
        curves.map(({ name }, c) => ({ name, line: drawn[c].map(at) })),
        plot,
      );
      return {
        grid: { ...GRID, outerBoundsMode: 'none' },
        xAxis: {
          type: 'log',
          min: LOWEST_HZ,
          max: HIGHEST_HZ,
          ...BARE_AXIS,
          axisLabel: { customValues: TICKS, formatter: tickText, ...axisNumbers(colours) },
          splitLine: { show: false },
        },
        yAxis: {
          type: 'value',
          min: range[0],
          max: range[1],
          interval: 6,
          ...BARE_AXIS,
          axisLabel: {
            formatter: (db: number) => (db === range[1] ? 'dB' : `${db > 0 ? '+' : ''}${withMinus(db)}`),
            ...axisNumbers(colours),
          },
          splitLine: { lineStyle: { color: colours.grid } },
        },
        series: [
          {
            type: 'line',
            data: [],
            silent: true,
            markArea: passbandHz && { itemStyle: { color: colours.band }, data: [[{ xAxis: passbandHz[0] }, { xAxis: passbandHz[1] }]] },
            markLine: {
              symbol: 'none',
              label: { show: false },
              lineStyle: { color: colours.grid, type: 'solid', width: 1 },
              data: TICKS.map((xAxis) => ({ xAxis })),
            },
          },
          ...curves.map((curve, c) => {
            const shown = drawn[c];
            const place = places[c];
            const line = lineOf(curve.role, colours);
            return {
              type: 'line',
              silent: true,
              symbol: 'none',
              showSymbol: true,
              step: curve.steps ? 'middle' : false,
              smooth: curve.steps ? false : 0.2,
              clip: true,
              lineStyle: line,
              data: shown.map(([hz, db], i) =>
                i === place?.at ? { value: [hz, db ?? '-'], ...nameLabel(curve.name, place, line.color) } : [hz, db ?? '-'],
              ),
            };
          }),
        ],
      };
    },
    [curves, passbandHz, range],
  );
  return <Chart draw={draw} label={label} height={height} />;
}
