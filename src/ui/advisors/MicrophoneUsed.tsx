import Link from 'next/link';
import type { CardView } from '@/server/cards/cards.ts';

/** The microphone and the distance on a card, and the way to change them. */
export function MicrophoneUsed({ card }: { card: CardView }) {
  return (
    <p>
      On the card: {card.microphone.name}, {card.revisions[0].use.distanceCm} cm.{' '}
      <Link href={`/bench?card=${card.id}&stage=mic`}>Change how it is used</Link>
    </p>
  );
}
