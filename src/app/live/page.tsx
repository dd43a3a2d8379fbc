/** Live audio of a second receiver through the sound card. */
import type { Metadata } from 'next';
import type { CurvePoint } from '@/core/formats/curve.ts';
import { PURPOSES, type Purpose } from '@/core/station/card.ts';
import { aimFor } from '@/server/targets.ts';
import { Live } from './Live.tsx';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Live' };

export default async function Page() {
  const aims = await Promise.all(PURPOSES.map(async (purpose) => [purpose, await aimFor(purpose)] as const));
  return <Live aims={Object.fromEntries(aims) as Record<Purpose, CurvePoint[]>} />;
}
