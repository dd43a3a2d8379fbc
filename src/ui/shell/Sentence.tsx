'use client';
/** What is being worked on, as a sentence whose underlined words are pickers. */
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import { MODE_LABELS, PURPOSE_LABELS, PURPOSES, type Purpose } from '@/core/rig/card.ts';
import type { Mode } from '@/core/rig/rig.ts';
import { saveCard } from '@/server/actions.ts';
import type { Neighbour, neighboursOf } from '@/server/cards/cardList.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { Notice } from '../parts/Notice.tsx';
import { Picker } from '../parts/Picker.tsx';
import { CardPicker } from './CardPicker.tsx';

export type Neighbours = Awaited<ReturnType<typeof neighboursOf>>;

const Card = styled.span`display: inline-block; width: 208px; vertical-align: middle; margin-left: 4px;`;

/** @param to page that shows the card that is picked */
export function Sentence({ card, neighbours, to = '/bench' }: { card: CardView; neighbours: Neighbours; to?: string }) {
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
  const choose = async (purpose: Purpose) => {
    const answer = await asked(saveCard({ cardId: card.id, purpose, base: { purpose: card.purpose } }));
    setMessage(answer.ok ? null : answer.message);
  };
  return (
    <>
      {picker('Operator', card.operator.name, neighbours.operators)} on {picker('Rig', card.rig.name, neighbours.rigs)},{' '}
      {picker('Mode', card.mode, neighbours.modes, (mode) => MODE_LABELS[mode as Mode])}, for{' '}
      <Picker
        inline
        label="Purpose"
        value={card.purpose}
        choices={PURPOSES.map((id) => ({ id, text: PURPOSE_LABELS[id] }))}
        onChange={(purpose) => purpose !== card.purpose && void choose(purpose as Purpose)}
      />{' '}
      – card
      <Card>
        <CardPicker
          label="Card"
          hideLabel
          card={{ id: card.id, name: card.name, revision: card.revisions[0].number }}
          onChoose={({ id }) => go(id)}
        />
      </Card>
      {message && <Notice tone="fault">{message}</Notice>}
    </>
  );
}
