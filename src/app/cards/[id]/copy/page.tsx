/** A card copied to another rig: the nearest sound on its dials. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import type { Mode, RigProfile } from '@/core/rig/index.ts';
import { CopyPage } from '@/features/cards/copy/CopyPage.tsx';
import { lastCards } from '@/server/cards/cardList.ts';
import { loadCard, loadCards } from '@/server/cards/cards.ts';
import { load } from '@/server/requests/answer.ts';
import { loadStation } from '@/server/station/station.ts';
import { idOf } from '../../../paging.ts';

export const metadata: Metadata = { title: 'Copy to another rig' };

/** Whether a rig has a mode for the card: its own, or the other sideband. */
const canCarry = ({ modes }: RigProfile, mode: Mode): boolean =>
  modes.includes(mode) || (['usb', 'lsb'].includes(mode) && (modes.includes('usb') || modes.includes('lsb')));

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  const card = id === undefined ? null : await load(() => loadCard(id));
  if (!card) notFound();
  const [station, last] = await load(() => Promise.all([loadStation(), lastCards(card.operator.id)]));
  const rigs = station.rigs.filter((rig) => rig.id !== card.rig.id && canCarry(rig.profile, card.mode));
  // The operator's last card on each other rig knows the gain that suits this voice there.
  const cards = await load(() => loadCards(rigs.flatMap(({ id: rigId }) => last.get(rigId) ?? [])));
  const known = rigs.map((rig) => {
    const other = cards.find((each) => each.rig.id === rig.id);
    const isSameMic = other?.microphone.id === card.microphone.id;
    return { rig, known: other && isSameMic ? { name: other.name, values: other.revisions[0].values } : null };
  });
  return <CopyPage card={card} station={station} others={known} />;
}
