/** From where on a number is worth a look or a fault: the built-in limits, and the station's own. */
import type { Metadata } from 'next';
import { LimitsPage } from '@/features/station/limits/LimitsPage.tsx';
import { ownLimits } from '@/server/measuring/limits.ts';
import { load } from '@/server/requests/answer.ts';

export const metadata: Metadata = { title: 'Limits' };

export default async function Page() {
  return <LimitsPage own={await load(ownLimits)} />;
}
