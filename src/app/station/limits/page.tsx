/** From where on a number is worth a look or a fault: the built-in limits, and the station's own. */
import type { Metadata } from 'next';
import { load } from '@/server/answer.ts';
import { ownLimits } from '@/server/limits.ts';
import { LimitsPage } from './LimitsPage.tsx';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Limits' };

export default async function Page() {
  return <LimitsPage own={await load(ownLimits)} />;
}
