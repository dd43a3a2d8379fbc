'use client';
/** What the overs have shown of the radio, and its profile corrected by it. */
import { useState, useTransition } from 'react';
import { correctRig } from '@/client/correctRig.ts';
import { type Calibration, calibrations, type Learned as Known, learnedLines } from '@/core/advice/index.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { Bar, Button } from '../parts/Button.tsx';
import { Notice } from '../parts/Notice.tsx';

export function Learned({ card, learned }: { card: CardView; learned: Known }) {
  const [message, setMessage] = useState<string | null>(null);
  const [isSaving, start] = useTransition();
  const { id, profile } = card.rig;
  // A practice radio says nothing of the real one.
  const offers = card.practiceRadio === null ? calibrations(profile, learned) : [];
  const lines = learnedLines(profile, card.mode, learned);
  if (offers.length === 0 && lines.length === 0) return null;
  const correct = (offer: Calibration) => start(async () => setMessage(await correctRig(id, profile, offer.profile)));
  return (
    <section aria-label="Learned of this radio">
      <h2 style={{ margin: 0 }}>Learned of this radio</h2>
      {lines.map((line) => (
        <p key={line}>{line}</p>
      ))}
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
