/** Live audio of a second receiver through the sound card. */
import type { Metadata } from 'next';
import { Live } from '@/features/live/Live.tsx';
import { allTargets } from '@/server/cards/targets.ts';
import { load } from '@/server/requests/answer.ts';

export const metadata: Metadata = { title: 'Live' };

export default async function Page() {
  return <Live targets={await load(allTargets)} />;
}
