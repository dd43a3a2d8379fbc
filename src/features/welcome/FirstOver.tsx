'use client';
/** The end of setting up: the first over with a receiver, or the practice radio without one. */
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useDraft } from '@/client/useDraft.ts';
import { useWorkingCard } from '@/client/useWorkingCard.ts';
import { RECEIVER_KINDS, type ReceiverKind, receiverKindText } from '@/core/measure/index.ts';
import type { CardSummary } from '@/server/cards/cardList.ts';
import { saveReceiver } from '@/server/station/actions.ts';
import type { Station } from '@/server/station/station.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { StepForm } from './StepForm.tsx';

/** What an SSB receiver usually lets through; corrected on the Station page. */
const USUAL_HZ = { lowHz: 100, highHz: 3000 };

export function FirstOver({ card, station }: { card: CardSummary; station: Station }) {
  useWorkingCard(card.id);
  const [hasReceiver, setHasReceiver] = useState(station.receivers.length > 0 ? true : null);
  if (hasReceiver === null) return <HearQuestion card={card} onYes={() => setHasReceiver(true)} />;
  if (station.receivers.length === 0) return <WhereQuestion card={card} />;
  return (
    <section style={{ maxWidth: 660 }}>
      <h2>Ready to tune</h2>
      <p>
        Tune leads you through the first evening with {card.name}, heard on {station.receivers[0].name}: into a dummy load first, one step
        after another.
      </p>
      <Bar>
        <ButtonLink $primary href={`/tune?card=${card.id}`}>
          Begin to tune
        </ButtonLink>
        <ButtonLink href={`/tune?card=${card.id}&ears=practice`}>Practise first</ButtonLink>
        <ButtonLink href={`/bench?card=${card.id}`}>Straight to the Bench</ButtonLink>
      </Bar>
    </section>
  );
}

function HearQuestion({ card, onYes }: { card: CardSummary; onYes: () => void }) {
  return (
    <section style={{ maxWidth: 660 }}>
      <h2>Can you hear yourself on another receiver?</h2>
      <p className="soft">
        A second receiver in the room with a short antenna, or a remote one on the web, recorded for 15 seconds. It is what every
        measurement rests on. Without one you can practise first, with a simulated radio and a synthetic voice.
      </p>
      <Bar>
        <Button primary onPress={onYes}>
          Yes, I can record it
        </Button>
        <ButtonLink href={`/tune?card=${card.id}&ears=none`}>No: by the meters alone</ButtonLink>
        <ButtonLink href={`/tune?card=${card.id}&ears=practice`}>Not now: practise</ButtonLink>
      </Bar>
    </section>
  );
}

function WhereQuestion({ card }: { card: CardSummary }) {
  const router = useRouter();
  const draft = useDraft('welcome receiver', { kind: 'local' as ReceiverKind });
  const { kind } = draft.value;
  const trust = kind === 'local' ? 'high' : 'medium';
  return (
    <StepForm
      question="Where do you record yourself?"
      why="How far a recording can be trusted depends on where it is tapped."
      draft={draft}
      isReady
      save={() => saveReceiver({ name: receiverKindText(kind), kind, ...USUAL_HZ, agc: '', path: '', trust, note: '' })}
      onSaved={() => router.push(`/tune?card=${card.id}`)}
    >
      <Picker label="Receiver" value={kind} choices={RECEIVER_KINDS} onChange={(id) => draft.set({ kind: id as ReceiverKind })} />
    </StepForm>
  );
}
