'use client';
/** The voice as it was heard last, against the target. */
import { useMemo } from 'react';
import { targetCurve, toneBasis, voiceCurve } from '@/core/advice/index.ts';
import { effective, PURPOSE_LABELS } from '@/core/rig/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { BalanceChart, type Curve } from '@/ui/charts/BalanceChart.tsx';

export function VoiceCurve({ bench: { card, over, target } }: { bench: BenchView }) {
  const drawn = useMemo(() => {
    if (!over?.measured) return null;
    const { passbandHz } = effective(over.rig.profile, { mode: over.card.mode, values: over.revision.values });
    const voice = over.measured.detail;
    const heard = voiceCurve(
      toneBasis(voice, target, passbandHz),
      voice,
      voice.speechPowers.map(() => 0),
    );
    const curves: Curve[] = [
      { name: `as heard on over ${over.id}`, role: 'measured', points: heard },
      { name: `target: ${PURPOSE_LABELS[card.purpose]}`, role: 'target', points: targetCurve(target) },
    ];
    return { curves, passbandHz };
  }, [card.purpose, over, target]);
  if (!drawn) return null;
  return (
    <BalanceChart
      curves={drawn.curves}
      passbandHz={drawn.passbandHz}
      range={[-30, 12]}
      height={220}
      label={`Tone balance of over ${over?.id} against the target for ${PURPOSE_LABELS[card.purpose]}`}
    />
  );
}
