'use client';
/** What the processor does to peaks: level in against level out, as the card stands and with the values being tried. */
import { useCallback } from 'react';
import type { Card, RigProfile } from '@/core/rig/index.ts';
import { compressorGainDb, parametersOf, type TransmitterParameters, USUAL_COMPRESSOR } from '@/core/simulate/index.ts';
import { fixed, signed } from '@/core/units/index.ts';
import { axisNumbers, BARE_AXIS, Chart, type Colours, TEXT_FONT } from '@/ui/charts/Chart.tsx';

const FROM_DB = -36;
const TO_DB = 12;
const STEP_DB = 0.5;

/** Level out over level in, both re full drive; without a processor out is in. */
function curveOf(compression: TransmitterParameters['compression']): [number, number][] {
  const { kind, compressionDb, ceilingDb } = compression;
  return Array.from({ length: (TO_DB - FROM_DB) / STEP_DB + 1 }, (_, k) => {
    const level = FROM_DB + STEP_DB * k;
    if (compressionDb <= 0) return [level, level];
    const out =
      kind === 'rf' ? Math.min(ceilingDb, level + compressionDb) : level + compressorGainDb({ ...USUAL_COMPRESSOR, ...compression }, level);
    return [level, out];
  });
}

export function CompressorCurve({ rig, now, wanted }: { rig: RigProfile; now: Card; wanted: Card }) {
  const [before, after] = [parametersOf(rig, now), parametersOf(rig, wanted)];
  // As text, so that the drawing changes only with the values.
  const [standing, trying] = [JSON.stringify(before.compression), JSON.stringify(after.compression)];
  const draw = useCallback(
    (colours: Colours) => drawing(curveOf(JSON.parse(standing)), trying === standing ? null : curveOf(JSON.parse(trying)), colours),
    [standing, trying],
  );
  const amount = after.compression.compressionDb;
  return (
    <>
      <Chart
        draw={draw}
        height={190}
        label={`What the processor does to peaks: ${amount > 0 ? `up to ${fixed(amount, 0)} dB of compression` : 'nothing'}`}
      />
      <p className="soft" style={{ margin: '2px 0 8px' }}>
        Model: an RF clipper with {fixed(amount, 0)} dB, whatever this radio’s processor is inside.
      </p>
    </>
  );
}

function drawing(before: [number, number][], after: [number, number][] | null, colours: Colours) {
  const axis = {
    type: 'value',
    ...BARE_AXIS,
    axisLabel: { ...axisNumbers(colours), formatter: (value: number) => signed(value, 0) },
    splitLine: { lineStyle: { color: colours.grid } },
    min: FROM_DB,
    max: TO_DB,
    interval: 12,
    nameLocation: 'middle',
    nameTextStyle: { color: colours.soft, fontFamily: TEXT_FONT, fontSize: 13 },
  } as const;
  const line = (name: string, data: [number, number][], color: string) => ({
    name,
    type: 'line',
    showSymbol: false,
    data,
    lineStyle: { color, width: 1.8 },
    endLabel: { show: true, formatter: '{a}', color, fontFamily: TEXT_FONT, fontSize: 13 },
  });
  return {
    grid: { left: 54, right: 150, top: 10, bottom: 40 },
    xAxis: { ...axis, name: 'level in, dB re full drive', nameGap: 24 },
    yAxis: { ...axis, name: 'level out', nameGap: 36 },
    series: [line('as the card stands', before, colours.ink), ...(after ? [line('with these values', after, colours.signal)] : [])],
  };
}
