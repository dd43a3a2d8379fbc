'use client';
/** What the overs have shown of the radio, and its profile corrected by it. */
import { useState, useTransition } from 'react';
import { correctRig } from '@/client/correctRig.ts';
import { type Calibration, calibrations, type Learned as Known } from '@/core/advice/index.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { Bar, Button } from '../parts/Button.tsx';
import { Notice } from '../parts/Notice.tsx';

export function Learned({ card, learned }: { card: CardView; learned: Known }) {
  const [message, setMessage] = useState<string | null>(null);
  const [isSaving, start] = useTransition();
  const { id, profile } = card.rig;
  const offers = calibrations(profile, learned);
  // A practice radio says nothing of the real one.
  if (offers.length === 0 || card.practiceRadio !== null) return null;
  const correct = (offer: Calibration) => start(async () => setMessage(await correctRig(id, profile, offer.profile)));
  return (
    <section aria-label="Learned of this radio">
      <h2 style={{ margin: 0 }}>Learned of this radio</h2>
      {offers.map((offer) => (
        <div key={offer.key}>
          <p>{offer.text}</p>
          <Bar>
            <Button isDisabled={isSaving} onPress={() => correct(offer)}>
              Correct the profile of {card.rig.name}
            </Button>
          </Bar>
        </div>
      ))}
      {message && <Notice tone="fault">{message}</Notice>}
    </section>
  );
}
