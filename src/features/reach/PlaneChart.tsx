'use client';
/** Points on the plane of reach and naturalness, each kind with a shape of its own, and the best as a line. */
import { useRouter } from 'next/navigation';
import { useCallback } from 'react';
import { frontier } from '@/core/intelligibility/index.ts';
import { fixed } from '@/core/units/index.ts';
import { axisNumbers, BARE_AXIS, Chart, type Colours, TEXT_FONT } from '@/ui/charts/Chart.tsx';
import type { CandidateKind, Placed } from './candidates.ts';
import { LIFT, type NameSide, placeNames } from './placeNames.ts';

const SHAPES: Record<CandidateKind, { symbol: string; size: number; name: string }> = {
  card: { symbol: 'circle', size: 12, name: 'Your cards (dots)' },
  over: { symbol: 'triangle', size: 11, name: 'last overs (triangles)' },
  school: { symbol: 'emptyDiamond', size: 12, name: 'starting points (diamonds)' },
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

const WIDTH = 620;
const HEIGHT = 320;

const rank = ({ kind, key }: Placed, onLine: ReadonlySet<string>): number => (kind === 'card' ? 0 : onLine.has(key) ? 1 : 2);

function labelAt(side: NameSide | null) {
  const [position, lift] = side?.split(' ') ?? ['right'];
  return { show: side !== null, position, offset: [0, lift === 'up' ? -LIFT : lift === 'down' ? LIFT : 0] };
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
  const onLine = new Set(best.map(({ key }) => key));
  const lowest = Math.max(0, 10 * Math.floor(Math.min(60, ...points.map(({ score }) => score)) / 10) - 10);
  const reaches = points.map(({ reachDb }) => reachDb);
  const [from, to] = [Math.floor(Math.min(-1, ...reaches) - 0.5), Math.ceil(Math.max(3, ...reaches) + 1.5)];
  // About the plot's size in pixels; the operator's own cards are named first, then the best, then what has room.
  const ranked = [...points].sort((a, b) => rank(a, onLine) - rank(b, onLine));
  const spot = ({ reachDb, score }: { reachDb: number; score: number }) => ({
    x: (WIDTH * (reachDb - from)) / (to - from),
    y: (HEIGHT * (100 - score)) / (100 - lowest),
  });
  const spots = ranked.map((each) => ({ name: each.name, isNeeded: each.kind === 'card', ...spot(each) }));
  const line = [...best].sort((a, b) => a.reachDb - b.reachDb).map(spot);
  const sides = new Map(placeNames(spots, line, WIDTH).map((side, k) => [ranked[k].key, side]));
  return {
    grid: { left: 54, right: 26, top: 14, bottom: 44 },
    xAxis: {
      ...axis,
      ...title,
      name: 'reach, dB further than the flat voice',
      nameGap: 28,
      min: from,
      max: to,
    },
    yAxis: { ...axis, ...title, name: 'naturalness, of 100', nameGap: 34, min: lowest, max: 100 },
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
        label: { formatter: '{b}', color: colour[kind], fontFamily: TEXT_FONT, fontSize: 13 },
        data: points
          .filter((each) => each.kind === kind)
          .map(({ key, name, reachDb, score }) => ({ name, value: [reachDb, score], label: labelAt(sides.get(key) ?? null) })),
      })),
    ],
  };
}
