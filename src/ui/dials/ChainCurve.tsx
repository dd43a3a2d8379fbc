'use client';
/** What microphone and equalizer do together, inside the passband. */
import { useMemo } from 'react';
import { type Card, effective, type Microphone, type MicrophoneUse, type RigProfile, responseOf } from '@/core/rig/index.ts';
import { microphoneResponseDb } from '@/core/simulate/index.ts';
import { BalanceChart, type Curve, DRAWN_HZ } from '../charts/BalanceChart.tsx';

export function ChainCurve({ rig, card, microphone, use }: { rig: RigProfile; card: Card; microphone: Microphone; use: MicrophoneUse }) {
  const { curves, passbandHz, range, label } = useMemo(() => chain(rig, card, microphone, use), [rig, card, microphone, use]);
  return <BalanceChart curves={curves} passbandHz={passbandHz} range={range} label={label} height={200} />;
}

function chain(rig: RigProfile, card: Card, microphone: Microphone, use: MicrophoneUse) {
  const { passbandHz } = effective(rig, card);
  const equalizer = responseOf(rig, card, DRAWN_HZ);
  const mic = microphoneResponseDb(microphone, use, DRAWN_HZ);
  const together = equalizer.map((db, i) => db + mic[i]);
  const inside = (hz: number) => hz >= passbandHz[0] && hz <= passbandHz[1];
  const points = (levels: readonly number[]) => DRAWN_HZ.map((hz, i) => [hz, levels[i]] as const);
  const isFlat = (levels: readonly number[]) => levels.every((db) => Math.abs(db) < 0.05);
  const curves: Curve[] = [];
  if (!isFlat(mic)) curves.push({ name: 'microphone', role: 'noise', points: points(mic) });
  if (!isFlat(mic) && !isFlat(equalizer)) curves.push({ name: 'equalizer', role: 'predicted', points: points(equalizer) });
  curves.push({
    name: 'whole chain',
    role: 'measured',
    points: DRAWN_HZ.map((hz, i) => [hz, inside(hz) ? together[i] : null] as const),
  });
  const levels = [...equalizer, ...mic, ...together];
  const lowest = Math.max(-36, Math.floor(Math.min(-6, ...levels) / 6) * 6);
  const highest = Math.min(36, Math.ceil(Math.max(6, ...levels) / 6) * 6);
  return {
    curves,
    passbandHz,
    range: [lowest, highest] as const,
    label: `What microphone and equalizer do to the voice, in dB, inside the passband ${passbandHz[0]} to ${passbandHz[1]} Hz`,
  };
}
