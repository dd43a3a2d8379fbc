'use client';
/** What can be done with a whole card: tune, sheet, copy, duplicate, file, undo, rename, retire, print. */
import { useState, useTransition } from 'react';
import type { CardView } from '@/server/cards/cards.ts';
import type { Station } from '@/server/station/station.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { saveCard, undoLastChange } from '../../actions.ts';
import type { CardDraft } from '../cardDraft.ts';
import { NewCard } from '../NewCard.tsx';

export function CardActions({ card, station }: { card: CardView; station: Station }) {
  const [newest] = card.revisions;
  const [draft, setDraft] = useState<CardDraft | null>(null);
  const [name, setName] = useState<string | null>(null);
  const [message, setMessage] = useState<string | null>(null);
  const [isBusy, start] = useTransition();
  const run = (work: () => Promise<{ ok: boolean; message?: string }>) =>
    start(async () => {
      const answer = await work().catch(() => ({ ok: false, message: 'The server did not answer. Nothing was saved.' }));
      setMessage(answer.ok ? null : (answer.message ?? ''));
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
        <Button onPress={() => setName(card.name)}>Rename</Button>
        <Button isDisabled={isBusy} onPress={() => run(() => saveCard({ cardId: card.id, isRetired: !card.isRetired }))}>
          {card.isRetired ? 'Take out again' : 'Retire'}
        </Button>
        <Button onPress={() => window.print()}>Print</Button>
        <a href={`/api/cards/${card.id}`}>Card file</a>
      </Bar>
      {message && <Notice tone="fault">{message}</Notice>}
      {draft && <NewCard station={station} draft={draft} onClose={() => setDraft(null)} />}
      {name !== null && (
        <Dialog title="Rename the card" isOpen onClose={() => setName(null)}>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              if (name.trim() === '') return;
              run(() => saveCard({ cardId: card.id, name }));
              setName(null);
            }}
          >
            <Field label="Name" value={name} onChange={setName} maxLength={80} autoFocus />
            <Bar>
              <Button primary type="submit" isDisabled={name.trim() === ''}>
                Keep it
              </Button>
              <Button onPress={() => setName(null)}>Leave it</Button>
            </Bar>
          </form>
        </Dialog>
      )}
    </>
  );
}
