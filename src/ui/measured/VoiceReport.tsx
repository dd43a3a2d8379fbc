'use client';
/** Spectrum and level strip of a measured voice. */
import { useMemo } from 'react';
import { slidingThirdOctaves, VOICE_TWELFTH_OCTAVES } from '@/core/dsp/index.ts';
import { effective } from '@/core/rig/index.ts';
import { decibels, duration, powerToDb } from '@/core/units/index.ts';
import type { OverView } from '@/server/overs/overView.ts';
import { BalanceChart, type Curve } from '../charts/BalanceChart.tsx';
import { LevelStrip } from '../charts/LevelStrip.tsx';

export function VoiceReport({ over }: { over: OverView }) {
  const { measured, rig, card, revision } = over;
  const curves = useMemo(() => (measured ? spectrum(measured.detail) : []), [measured]);
  const sent = useMemo(
    () => effective(rig.profile, { mode: card.mode, values: revision.values }).passbandHz,
    [rig.profile, card.mode, revision.values],
  );
  if (!measured) return null;
  const { result, detail } = measured;
  return (
    <>
      <BalanceChart
        curves={curves}
        passbandHz={sent}
        range={[-48, 6]}
        height={230}
        label={`Third-octave levels of speech from 100 Hz to 4 kHz, strongest at ${Math.round(strongest(result.thirdOctaveDb))} Hz.`}
      />
      <LevelStrip
        levelsDb={detail.stripDb}
        active={detail.stripActive}
        stepSeconds={detail.stripSeconds}
        speechDb={result.activeSpeechLevelDb}
        noiseDb={result.noiseFloorDb}
        label={`Level over ${duration(result.durationS)}: speech level ${decibels(result.activeSpeechLevelDb)}, noise floor ${decibels(result.noiseFloorDb)}.`}
      />
    </>
  );
}

const strongest = (bands: readonly (readonly [number, number | null])[]): number =>
  bands.reduce((best, band) => ((band[1] ?? -Infinity) > (best[1] ?? -Infinity) ? band : best))[0];

/** Speech and pauses as smooth third-octave levels re the strongest of the speech. */
function spectrum({ speechPowers, pausePowers }: NonNullable<OverView['measured']>['detail']): Curve[] {
  const speech = slidingThirdOctaves(speechPowers);
  const top = Math.max(...speech.map((power) => power ?? 0));
  const points = (powers: readonly (number | null)[]) =>
    powers.map((power, i) => [VOICE_TWELFTH_OCTAVES[i].centreHz, power === null || power === 0 ? null : powerToDb(power / top)] as const);
  return [
    { name: 'speech', role: 'measured', points: points(speech) },
    ...(pausePowers
      ? [
          {
            name: 'pauses',
            role: 'noise' as const,
            points: points(slidingThirdOctaves(pausePowers)),
          },
        ]
      : []),
  ];
}
