/** Asks the server for an over of a practice radio. */
import type { DialValues } from '@/core/rig/index.ts';
import type { MeterReadings } from '@/core/simulate/index.ts';

export interface PracticeRequest {
  readonly cardId: number;
  readonly values: DialValues;
  readonly radio: number;
  readonly receiver: number;
  readonly isIq: boolean;
  readonly load: 'dummy load' | 'antenna';
}

export interface PracticeAnswer {
  readonly file: File;
  readonly meters: MeterReadings & { readonly swr: number };
}

/** @throws Error with one sentence */
export async function transmit(request: PracticeRequest): Promise<PracticeAnswer> {
  const response = await fetch('/api/practice', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(request),
  }).catch(() => {
    throw new Error('The server did not answer. Please try again.');
  });
  if (!response.ok) throw new Error((await response.json().catch(() => ({}))).message ?? 'The server did not answer.');
  const name = decodeURIComponent(/''(.+)$/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? 'simulated.wav');
  const meters = JSON.parse(response.headers.get('x-dialtune-meters') ?? 'null');
  return { file: new File([await response.blob()], name, { type: 'audio/wav' }), meters };
}
