'use client';
/** What is being worked on, as a sentence whose underlined words are pickers. */
import { useRouter } from 'next/navigation';
import { type ReactNode, useState } from 'react';
import styled from 'styled-components';
import { MODE_LABELS, type Mode, PURPOSE_LABELS, PURPOSES, type Purpose } from '@/core/rig/index.ts';
import type { Neighbour, neighboursOf } from '@/server/cards/cardList.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { Notice } from '../parts/Notice.tsx';
import { Picker } from '../parts/Picker.tsx';
import { CardPicker, type FindCards } from './CardPicker.tsx';

export type Neighbours = Awaited<ReturnType<typeof neighboursOf>>;

/** One line: long names are cut, and the whole of them stands in the pickers. */
const Line = styled.div`
  display: flex; align-items: center; gap: 5px; min-width: 0; white-space: nowrap;
  > span { flex: none; }
  > [data-part] { flex: 0 1 auto; min-width: 3ch; max-width: 180px; overflow: hidden; button { max-width: 100%; overflow: hidden; text-overflow: ellipsis; display: block; } }
  @media (max-width: 560px) { flex-wrap: wrap; row-gap: 4px; > [data-part] { max-width: 46%; } }`;
const Card = styled.span`flex: 1 1 208px !important; min-width: 130px; max-width: 260px; margin-left: 2px; @media (max-width: 560px) { flex-basis: 100% !important; max-width: none; margin: 2px 0 0; }`;

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
  const part = (content: ReactNode) => <span data-part>{content}</span>;
  return (
    <>
      <Line>
        {part(picker('Operator', card.operator.name, neighbours.operators))}
        <span>on</span>
        {part(picker('Rig', card.rig.name, neighbours.rigs))}
        <span>in</span>
        {part(picker('Mode', card.mode, neighbours.modes, (mode) => MODE_LABELS[mode as Mode]))}
        <span>for</span>
        {part(
          <Picker
            inline
            label="Purpose"
            value={card.purpose}
            choices={PURPOSES.map((id) => ({ id, text: PURPOSE_LABELS[id] }))}
            onChange={(purpose) => purpose !== card.purpose && void onPurpose(purpose as Purpose).then(setMessage)}
          />,
        )}
        <span className="unseen">, card</span>
        <Card>
          <CardPicker
            label="Card"
            hideLabel
            find={find}
            card={{ id: card.id, name: card.name, revision: card.revisions[0].number }}
            onChoose={({ id }) => go(id)}
          />
        </Card>
      </Line>
      {message && <Notice tone="fault">{message}</Notice>}
    </>
  );
}
