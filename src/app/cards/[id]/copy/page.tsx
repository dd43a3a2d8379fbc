/** A card copied to another rig: the nearest sound on its dials. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import type { Mode, RigProfile } from '@/core/station/rig.ts';
import { load } from '@/server/answer.ts';
import { listCards } from '@/server/cards/cardList.ts';
import { loadCard } from '@/server/cards/cards.ts';
import { loadStation } from '@/server/station/station.ts';
import { idOf } from '../../../paging.ts';
import { CopyPage } from './CopyPage.tsx';

export const metadata: Metadata = { title: 'Copy to another rig' };
export const dynamic = 'force-dynamic';

/** Whether a rig has a mode for the card: its own, or the other sideband. */
const canCarry = ({ modes }: RigProfile, mode: Mode): boolean =>
  modes.includes(mode) || (['usb', 'lsb'].includes(mode) && (modes.includes('usb') || modes.includes('lsb')));

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  const card = id === undefined ? null : await load(() => loadCard(id));
  if (!card) notFound();
  const station = await loadStation();
  const own = await listCards({ operatorId: card.operator.id, limit: 200 });
  // The operator's last card on each other rig knows the gain that suits this voice there.
  const known = await Promise.all(
    station.rigs
      .filter((rig) => rig.id !== card.rig.id && canCarry(rig.profile, card.mode))
      .map(async (rig) => {
        const last = own.find(({ rigId }) => rigId === rig.id);
        const other = last ? await loadCard(last.id) : null;
        const isSameMic = other?.microphone.id === card.microphone.id;
        return { rig, known: other && isSameMic ? { name: other.name, values: other.revisions[0].values } : null };
      }),
  );
  return <CopyPage card={card} station={station} others={known} />;
}
