'use client';
/** One ECharts drawing: knows the theme's colours, resizes, and tells in words what it shows. */
import { LineChart } from 'echarts/charts';
import { GridComponent, MarkAreaComponent, MarkLineComponent } from 'echarts/components';
import type { EChartsCoreOption } from 'echarts/core';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';

echarts.use([LineChart, GridComponent, MarkAreaComponent, MarkLineComponent, SVGRenderer]);

const NAMES = ['paper', 'sheet', 'ink', 'soft', 'line', 'grid', 'signal', 'band', 'target', 'watch', 'fault'] as const;
export type Colours = Record<(typeof NAMES)[number], string>;
export type Drawing = (colours: Colours) => EChartsCoreOption;

export const TEXT_FONT = "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif";
export const NUMBER_FONT = "'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace";

/** How numbers stand along an axis. */
export const axisNumbers = (colours: Colours) => ({ color: colours.soft, fontFamily: NUMBER_FONT, fontSize: 12.5 });
/** An axis is its numbers and grid lines only. */
export const BARE_AXIS = { axisLine: { show: false, onZero: false }, axisTick: { show: false } } as const;

function coloursNow(): Colours {
  const style = getComputedStyle(document.documentElement);
  return Object.fromEntries(NAMES.map((name) => [name, style.getPropertyValue(`--${name}`).trim()])) as Colours;
}

/** @param label what the drawing shows, in words; @param onPick told the name of a data point that is pressed */
export function Chart({ draw, label, height, onPick }: { draw: Drawing; label: string; height: number; onPick?: (name: string) => void }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!box.current) return;
    const chart = echarts.init(box.current, null, { renderer: 'svg' });
    const paint = () => chart.setOption({ animation: false, ...draw(coloursNow()) }, { notMerge: true });
    paint();
    if (onPick) chart.on('click', ({ name }) => onPick(name));
    const resized = new ResizeObserver(() => chart.resize());
    resized.observe(box.current);
    const themed = new MutationObserver(paint);
    themed.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
    const dark = window.matchMedia('(prefers-color-scheme: dark)');
    dark.addEventListener('change', paint);
    return () => {
      dark.removeEventListener('change', paint);
      themed.disconnect();
      resized.disconnect();
      chart.dispose();
    };
  }, [draw, onPick]);
  return <div ref={box} role="img" aria-label={label} style={{ height, width: '100%' }} />;
}
