'use client';
/** Points on the plane of reach and naturalness, each kind with a shape of its own, and the best as a line. */
import { useRouter } from 'next/navigation';
import { useCallback } from 'react';
import { frontier } from '@/core/hearing/frontier.ts';
import { axisNumbers, BARE_AXIS, Chart, type Colours, TEXT_FONT } from '@/ui/charts/Chart.tsx';
import { fixed } from '@/ui/format.ts';
import type { CandidateKind, Placed } from './candidates.ts';

const SHAPES: Record<CandidateKind, { symbol: string; size: number; labelAt: string; name: string }> = {
  card: { symbol: 'circle', size: 12, labelAt: 'right', name: 'Your cards (dots)' },
  over: { symbol: 'triangle', size: 11, labelAt: 'top', name: 'last overs (triangles)' },
  school: { symbol: 'emptyDiamond', size: 12, labelAt: 'bottom', name: 'where schools begin (diamonds)' },
};

export function PlaneChart({ placed }: { placed: readonly Placed[] }) {
  const router = useRouter();
  const pick = useCallback(
    (name: string) => {
      const href = placed.find((each) => each.name === name)?.href;
      if (href) router.push(href);
    },
    [placed, router],
  );
  const draw = useCallback((colours: Colours) => drawing(placed, colours), [placed]);
  const known = placed.filter(({ point }) => point !== null);
  return (
    <>
      <Chart
        draw={draw}
        height={380}
        onPick={pick}
        label={`Reach against naturalness of ${known.length} cards; the table below has the numbers`}
      />
      <p className="soft" style={{ margin: '2px 0 10px' }}>
        {Object.values(SHAPES)
          .map(({ name }) => name)
          .join(', ')}
        ; the line joins the best that can be had. Press a point to go to its card.
      </p>
    </>
  );
}

function drawing(placed: readonly Placed[], colours: Colours) {
  const points = placed.flatMap((each) => (each.point ? [{ ...each, ...each.point }] : []));
  const best = frontier(points);
  const colour = { card: colours.ink, over: colours.signal, school: colours.soft };
  const axis = {
    type: 'value',
    ...BARE_AXIS,
    axisLabel: { ...axisNumbers(colours), formatter: (value: number) => fixed(value, 0) },
    splitLine: { lineStyle: { color: colours.grid } },
  } as const;
  const title = { nameLocation: 'middle', nameTextStyle: { color: colours.soft, fontFamily: TEXT_FONT, fontSize: 13 } } as const;
  const reaches = points.map(({ reachDb }) => reachDb);
  return {
    grid: { left: 54, right: 26, top: 14, bottom: 44 },
    xAxis: {
      ...axis,
      ...title,
      name: 'reach, dB further than the flat voice',
      nameGap: 28,
      min: Math.floor(Math.min(-1, ...reaches) - 0.5),
      max: Math.ceil(Math.max(3, ...reaches) + 1.5),
    },
    yAxis: { ...axis, ...title, name: 'naturalness, of 100', nameGap: 34, min: 0, max: 100 },
    series: [
      {
        type: 'line',
        silent: true,
        showSymbol: false,
        data: best.map(({ reachDb, score }) => [reachDb, score]),
        lineStyle: { color: colours.signal, width: 1.5, type: 'dashed' },
      },
      ...(Object.keys(SHAPES) as CandidateKind[]).map((kind) => ({
        type: 'line',
        symbol: SHAPES[kind].symbol,
        symbolSize: SHAPES[kind].size,
        showSymbol: true,
        lineStyle: { opacity: 0 },
        itemStyle: { color: colour[kind] },
        cursor: 'pointer',
        labelLayout: { hideOverlap: true, moveOverlap: 'shiftY' },
        label: { show: true, position: SHAPES[kind].labelAt, formatter: '{b}', color: colour[kind], fontFamily: TEXT_FONT, fontSize: 13 },
        data: points.filter((each) => each.kind === kind).map(({ name, reachDb, score }) => ({ name, value: [reachDb, score] })),
      })),
    ],
  };
}
