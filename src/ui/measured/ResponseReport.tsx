'use client';
/** The response of a path as a curve. */
import { useMemo } from 'react';
import type { ResponseMeasurement } from '@/core/measure/index.ts';
import type { CaptureSettings } from '@/server/db/models.ts';
import { BalanceChart, type Curve } from '../charts/BalanceChart.tsx';
import { Notice } from '../parts/Notice.tsx';

const RANGE = [-42, 6] as const;

/** What has been taken off the curve, in words; null when nothing was. */
function takenOff({ subtractsMicrophone, subtractCaptureId }: CaptureSettings): string | null {
  const parts = [
    ...(subtractsMicrophone ? ['the card’s microphone, as it was used'] : []),
    ...(subtractCaptureId === undefined ? [] : [`the curve of recording ${subtractCaptureId}`]),
  ];
  return parts.length === 0 ? null : `Taken off: ${parts.join(', and ')}.`;
}

export function ResponseReport({ result, settings }: { result: ResponseMeasurement; settings: CaptureSettings }) {
  const curves = useMemo<Curve[]>(() => [{ name: 'response', role: 'measured', points: result.curve }], [result.curve]);
  const [low, high] = result.passbandHz ?? [null, null];
  const passband = useMemo<[number, number] | undefined>(() => (low === null || high === null ? undefined : [low, high]), [low, high]);
  return (
    <>
      <BalanceChart
        curves={curves}
        passbandHz={passband}
        range={RANGE}
        height={270}
        label={`Response re 1 kHz; −6 dB edges at ${low?.toFixed(0) ?? 'none'} and ${high?.toFixed(0) ?? 'none'} Hz.`}
      />
      {result.notes.curve && <Notice>{result.notes.curve}</Notice>}
      {takenOff(settings) && <p>{takenOff(settings)}</p>}
      <p className="soft">Pick this over and another response on the Overs page to compare radios, or to tell the mic from the radio.</p>
    </>
  );
}
