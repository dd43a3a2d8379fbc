'use client';
/** The response of a microphone as it is used, beside its curve as given where the distance changes it. */
import { useMemo } from 'react';
import type { Microphone, MicrophoneUse } from '@/core/rig/index.ts';
import { microphoneResponseDb } from '@/core/simulate/index.ts';
import { type DistanceUnit, distanceText } from '@/core/units/index.ts';
import { BalanceChart, type Curve, DRAWN_HZ } from '../charts/BalanceChart.tsx';
import { useDistance } from '../distance.ts';

export function MicrophoneCurve({ microphone, use, height = 230 }: { microphone: Microphone; use: MicrophoneUse; height?: number }) {
  const { unit } = useDistance();
  const curves = useMemo(() => curvesOf(microphone, use, unit), [microphone, use, unit]);
  const reach = Math.max(9, ...curves.flatMap(({ points }) => points.map(([, db]) => Math.abs(db ?? 0))));
  const end = Math.min(36, Math.ceil(reach / 6) * 6);
  return (
    <BalanceChart
      curves={curves}
      range={[-end, end]}
      height={height}
      label={`Response of ${microphone.name || 'the microphone'} in dB, as it is used`}
    />
  );
}

function curvesOf(microphone: Microphone, use: MicrophoneUse, unit: DistanceUnit): Curve[] {
  const points = (levels: readonly number[]) => DRAWN_HZ.map((hz, i) => [hz, levels[i]] as const);
  const response = microphoneResponseDb(microphone, use, DRAWN_HZ);
  const used: Curve = { name: `at ${distanceText(use.distanceCm, unit)}`, role: 'measured', points: points(response) };
  if (!microphone.positions.some(({ name }) => name === use.position)) return [used];
  const given = microphoneResponseDb({ ...microphone, pattern: 'omni' }, { ...use, accessories: [] }, DRAWN_HZ);
  const isSame = given.every((db, i) => Math.abs(db - response[i]) < 0.1);
  return isSame ? [used] : [{ name: `${use.position}, as given`, role: 'noise', points: points(given) }, used];
}
