'use client';
/** One ECharts drawing: knows the theme's colours, resizes, and tells in words what it shows. */
import type { ECharts, EChartsCoreOption } from 'echarts/core';
import { useEffect, useEffectEvent, useRef } from 'react';
import type { NamePlace } from './curveNames.ts';

const NAMES = ['paper', 'sheet', 'ink', 'soft', 'line', 'grid', 'signal', 'band', 'target', 'watch', 'fault'] as const;
export type Colours = Record<(typeof NAMES)[number], string>;
/** Size of the whole drawing, in pixels. */
export interface Size {
  readonly width: number;
  readonly height: number;
}
export type Drawing = (colours: Colours, size: Size) => EChartsCoreOption;

export const TEXT_FONT = "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif";
export const NUMBER_FONT = "'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace";

/** How numbers stand along an axis. */
export const axisNumbers = (colours: Colours) => ({ color: colours.soft, fontFamily: NUMBER_FONT, fontSize: 12.5 });
/** The label of a name that is tied to a point of a curve but stands beside it. */
export const nameLabel = (name: string, { dx, dy }: NamePlace, color: string) => ({
  symbol: 'circle',
  symbolSize: 0.1,
  label: {
    show: true,
    formatter: name,
    position: [dx, dy],
    align: 'center',
    verticalAlign: 'middle',
    color,
    fontFamily: TEXT_FONT,
    fontSize: 13,
  },
});
/** An axis is its numbers and grid lines only. */
export const BARE_AXIS = { axisLine: { show: false, onZero: false }, axisTick: { show: false } } as const;

function coloursNow(): Colours {
  const style = getComputedStyle(document.documentElement);
  return Object.fromEntries(NAMES.map((name) => [name, style.getPropertyValue(`--${name}`).trim()])) as Colours;
}

interface ChartProps {
  readonly draw: Drawing;
  /** What the drawing shows, in words. */
  readonly label: string;
  readonly height: number;
  /** Told the name of a data point that is pressed. */
  readonly onPick?: (name: string) => void;
}

export function Chart({ draw, label, height, onPick }: ChartProps) {
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<ECharts | null>(null);
  const paint = useEffectEvent(() => {
    const shown = chart.current;
    const size = { width: shown?.getWidth() ?? 0, height: shown?.getHeight() ?? 0 };
    shown?.setOption({ animation: false, ...draw(coloursNow(), size) }, { notMerge: true });
  });
  const picked = useEffectEvent((name: string) => onPick?.(name));
  useEffect(() => {
    let isGone = false;
    const resized = new ResizeObserver(() => {
      chart.current?.resize();
      paint();
    });
    const themed = new MutationObserver(() => paint());
    const dark = window.matchMedia('(prefers-color-scheme: dark)');
    const repaint = () => paint();
    void import('./echartsParts.ts').then(({ init }) => {
      if (isGone || !box.current) return;
      chart.current = init(box.current, null, { renderer: 'svg' });
      chart.current.on('click', ({ name }) => picked(name));
      paint();
      resized.observe(box.current);
      themed.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
      dark.addEventListener('change', repaint);
    });
    return () => {
      isGone = true;
      dark.removeEventListener('change', repaint);
      themed.disconnect();
      resized.disconnect();
      chart.current?.dispose();
      chart.current = null;
    };
  }, []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another drawing is what to paint for; paint() itself reads it
  useEffect(() => paint(), [draw]);
  return <div ref={box} role="img" aria-label={label} style={{ height, width: '100%', overflow: 'hidden' }} />;
}
