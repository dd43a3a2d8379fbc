/** Live audio of a second receiver through the sound card. */
import type { Metadata } from 'next';
import { load } from '@/server/answer.ts';
import { allAims } from '@/server/targets.ts';
import { Live } from './Live.tsx';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Live' };

export default async function Page() {
  return <Live aims={await load(allAims)} />;
}
