'use client';
/** What is being worked on, as a sentence whose underlined words are pickers. */
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import styled from 'styled-components';
import { MODE_LABELS, type Mode, PURPOSE_LABELS, PURPOSES, type Purpose } from '@/core/rig/index.ts';
import type { Neighbour, neighboursOf } from '@/server/cards/cardList.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { Notice } from '../parts/Notice.tsx';
import { Picker } from '../parts/Picker.tsx';
import { CardPicker, type FindCards } from './CardPicker.tsx';

export type Neighbours = Awaited<ReturnType<typeof neighboursOf>>;

const Card = styled.span`display: inline-block; width: 208px; vertical-align: middle; margin-left: 4px;`;

interface SentenceProps {
  readonly card: CardView;
  readonly neighbours: Neighbours;
  /** Page that shows the card that is picked. */
  readonly to?: string;
  readonly find: FindCards;
  /** Gives the card another purpose. @returns why that was refused */
  readonly onPurpose: (purpose: Purpose) => Promise<string | null>;
}

export function Sentence({ card, neighbours, to = '/bench', find, onPurpose }: SentenceProps) {
  const router = useRouter();
  const go = (id: number | undefined) => id !== undefined && id !== card.id && router.push(`${to}?card=${id}`);
  const picker = (label: string, value: string, choices: readonly Neighbour[], words: (text: string) => string = (text) => text) => (
    <Picker
      inline
      label={label}
      value={value}
      choices={choices.map(({ text }) => ({ id: text, text: words(text) }))}
      onChange={(chosen) => chosen !== value && go(choices.find(({ text }) => text === chosen)?.cardId)}
    />
  );
  const [message, setMessage] = useState<string | null>(null);
  return (
    <>
      {picker('Operator', card.operator.name, neighbours.operators)} on {picker('Rig', card.rig.name, neighbours.rigs)},{' '}
      {picker('Mode', card.mode, neighbours.modes, (mode) => MODE_LABELS[mode as Mode])}, for{' '}
      <Picker
        inline
        label="Purpose"
        value={card.purpose}
        choices={PURPOSES.map((id) => ({ id, text: PURPOSE_LABELS[id] }))}
        onChange={(purpose) => purpose !== card.purpose && void onPurpose(purpose as Purpose).then(setMessage)}
      />{' '}
      – card
      <Card>
        <CardPicker
          label="Card"
          hideLabel
          find={find}
          card={{ id: card.id, name: card.name, revision: card.revisions[0].number }}
          onChoose={({ id }) => go(id)}
        />
      </Card>
      {message && <Notice tone="fault">{message}</Notice>}
    </>
  );
}
