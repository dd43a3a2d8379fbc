'use client';
/** What can be done with a whole card: tune, sheet, copy, duplicate, file, undo, rename, retire, print. */
import { useState, useTransition } from 'react';
import { asked } from '@/client/asked.ts';
import { useDraft } from '@/client/useDraft.ts';
import { saveCard, undoLastChange } from '@/server/cards/actions.ts';
import type { CardView } from '@/server/cards/cards.ts';
import type { Answer } from '@/server/requests/answer.ts';
import type { Station } from '@/server/station/station.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { EditSheet } from '@/ui/shell/EditSheet.tsx';
import type { CardDraft } from './cardDraft.ts';
import { NewCard } from './NewCard.tsx';

export function CardActions({ card, station }: { card: CardView; station: Station }) {
  const [newest] = card.revisions;
  const [draft, setDraft] = useState<CardDraft | null>(null);
  const [isRenaming, setIsRenaming] = useState(false);
  const [message, setMessage] = useState<string | null>(null);
  const [isBusy, start] = useTransition();
  const run = (work: () => Promise<Answer<unknown>>) =>
    start(async () => {
      const answer = await asked(work());
      setMessage(answer.ok ? null : answer.message);
    });
  const duplicate: CardDraft = {
    name: `${card.name}, copy`.slice(0, 80),
    operatorId: card.operator.id,
    rigId: card.rig.id,
    microphoneId: card.microphone.id,
    mode: card.mode,
    purpose: card.purpose,
    values: newest.values,
    use: newest.use,
    reason: `as ${card.name}, revision ${newest.number}`,
  };
  return (
    <>
      <Bar className="no-print">
        <ButtonLink $primary href={`/bench?card=${card.id}`}>
          Tune it at the Bench
        </ButtonLink>
        <ButtonLink href={`/cards/${card.id}/sheet`}>Dial sheet</ButtonLink>
        <ButtonLink href={`/cards/${card.id}/copy`}>Copy to another rig</ButtonLink>
        <Button onPress={() => setDraft(duplicate)}>Duplicate</Button>
        <Button
          isDisabled={isBusy || newest.number < 2}
          onPress={() => run(() => undoLastChange({ cardId: card.id, baseRevisionId: newest.id }))}
        >
          Undo
        </Button>
        <Button onPress={() => setIsRenaming(true)}>Rename</Button>
        <Button isDisabled={isBusy} onPress={() => run(() => saveCard({ cardId: card.id, isRetired: !card.isRetired }))}>
          {card.isRetired ? 'Restore' : 'Retire'}
        </Button>
        <Button onPress={() => window.print()}>Print</Button>
        <a href={`/api/cards/${card.id}`}>Card file</a>
      </Bar>
      {message && <Notice tone="fault">{message}</Notice>}
      {draft && <NewCard station={station} draft={draft} onClose={() => setDraft(null)} />}
      {isRenaming && <Rename card={card} onClose={() => setIsRenaming(false)} />}
    </>
  );
}

function Rename({ card, onClose }: { card: CardView; onClose: () => void }) {
  const draft = useDraft(`card name ${card.id}`, { name: card.name });
  const { name } = draft.value;
  return (
    <EditSheet
      title="Rename the card"
      draft={draft}
      isReady={name.trim() !== ''}
      save={(base) => saveCard({ cardId: card.id, name, ...(base && { base }) })}
      onClose={onClose}
    >
      <Field label="Name" value={name} onChange={(text) => draft.set({ name: text })} maxLength={80} autoFocus />
    </EditSheet>
  );
}
