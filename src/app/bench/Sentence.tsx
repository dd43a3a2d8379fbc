'use client';
/** What is being worked on, as a sentence whose underlined words are pickers. */
import { useRouter } from 'next/navigation';
import { MODE_LABELS, PURPOSE_LABELS, PURPOSES, type Purpose } from '@/core/station/card.ts';
import type { CardSummary, CardView } from '@/server/cards.ts';
import { Picker } from '@/ui/parts/Picker.tsx';
import { changePurpose } from '../actions.ts';

/** Each value once, in the order met. */
const distinct = (values: readonly string[]): string[] => [...new Set(values)];

export function Sentence({ card, cards }: { card: CardView; cards: readonly CardSummary[] }) {
  const router = useRouter();
  const go = (id: number | undefined) => id !== undefined && router.push(`/bench?card=${id}`);
  const ofOperator = cards.filter((each) => each.operator === card.operator.name);
  const onRig = ofOperator.filter((each) => each.rig === card.rig.name);
  const picker = (label: string, value: string, values: readonly string[], find: (value: string) => CardSummary | undefined) => (
    <Picker
      inline
      label={label}
      value={value}
      choices={distinct(values).map((id) => ({ id, text: id }))}
      onChange={(chosen) => chosen !== value && go(find(chosen)?.id)}
    />
  );
  return (
    <>
      {picker(
        'Operator',
        card.operator.name,
        cards.map(({ operator }) => operator),
        (operator) => cards.find((each) => each.operator === operator),
      )}{' '}
      on{' '}
      {picker(
        'Rig',
        card.rig.name,
        ofOperator.map(({ rig }) => rig),
        (rig) => ofOperator.find((each) => each.rig === rig),
      )}
      ,{' '}
      {picker(
        'Mode',
        MODE_LABELS[card.mode],
        onRig.map(({ mode }) => MODE_LABELS[mode]),
        (mode) => onRig.find((each) => MODE_LABELS[each.mode] === mode),
      )}
      , for{' '}
      <Picker
        inline
        label="Purpose"
        value={card.purpose}
        choices={PURPOSES.map((id) => ({ id, text: PURPOSE_LABELS[id] }))}
        onChange={(purpose) => purpose !== card.purpose && void changePurpose({ cardId: card.id, purpose: purpose as Purpose })}
      />{' '}
      – card{' '}
      <Picker
        inline
        label="Card"
        value={String(card.id)}
        choices={cards.map(({ id, name, revision, operator, rig }) => ({
          id: String(id),
          text: `${name}, rev. ${revision}`,
          note: `${operator} on ${rig}`,
        }))}
        onChange={(id) => Number(id) !== card.id && go(Number(id))}
      />
    </>
  );
}
