'use client';
/** Finds a card among any number of them: type words of its name, its operator or its rig. */
import { ChevronDown } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Button, ComboBox, Input, Label, ListBox, ListBoxItem, Popover } from 'react-aria-components';
import styled from 'styled-components';
import { MODE_LABELS } from '@/core/rig/index.ts';
import type { CardSummary } from '@/server/cards/cardList.ts';

export type FindCards = (words: string) => Promise<readonly CardSummary[] | null>;

const Root = styled(ComboBox)`
  display: inline-grid; gap: 3px; width: 100%;
  .label { font-size: 13px; color: var(--soft); }
  .line { position: relative; }
  .line button { position: absolute; right: 4px; top: 50%; translate: 0 -50%; border: 0; background: none; padding: 5px; cursor: pointer; display: grid; color: var(--soft); }
  input { border: 1px solid var(--soft); border-radius: 3px; background: var(--sheet); padding: 5px 28px 5px 10px; min-height: 34px; width: 100%; font-weight: 600; text-overflow: ellipsis; }`;
const Sheet = styled(Popover)`
  background: var(--sheet); border: 1px solid var(--line); border-radius: 3px; box-shadow: 0 6px 24px rgb(0 0 0 / 0.18);
  max-height: 60vh; overflow: auto; min-width: max(var(--trigger-width), 260px);`;
const Item = styled(ListBoxItem)`
  padding: 7px 12px; cursor: pointer; outline: none;
  &[data-focused] { background: var(--signal-wash); }
  &[data-selected] { font-weight: 700; }
  small { display: block; color: var(--soft); font-size: 13px; font-weight: 400; }`;

const titleOf = ({ name, revision }: Pick<CardSummary, 'name' | 'revision'>) => `${name}, rev. ${revision}`;

export function CardPicker({
  label,
  hideLabel = false,
  card,
  onChoose,
  find,
  first = [],
}: {
  label: string;
  hideLabel?: boolean;
  card: Pick<CardSummary, 'id' | 'name' | 'revision'> | null;
  onChoose: (card: CardSummary) => void;
  /** Looks up cards by words; null when they cannot be had now. */
  find: FindCards;
  /** Shown before anything is typed. */
  first?: readonly CardSummary[];
}) {
  const title = card ? titleOf(card) : '';
  const [text, setText] = useState(title);
  const [found, setFound] = useState(first);
  useEffect(() => setText(title), [title]);
  const look = async (words: string) => {
    const cards = await find(words === title ? '' : words);
    if (cards) setFound(cards);
  };
  return (
    <Root
      aria-label={hideLabel ? label : undefined}
      menuTrigger="focus"
      allowsEmptyCollection
      items={found}
      inputValue={text}
      onInputChange={(words) => {
        setText(words);
        void look(words);
      }}
      onOpenChange={(isOpen) => isOpen && void look(title)}
      selectedKey={card?.id ?? null}
      onSelectionChange={(key) => {
        const chosen = found.find(({ id }) => id === key);
        setText(chosen ? titleOf(chosen) : title);
        if (chosen && chosen.id !== card?.id) onChoose(chosen);
      }}
      onBlur={() => setText(title)}
    >
      {!hideLabel && <Label className="label">{label}</Label>}
      <div className="line">
        <Input />
        <Button>
          <ChevronDown size={15} aria-hidden />
        </Button>
      </div>
      <Sheet>
        <ListBox renderEmptyState={() => <div style={{ padding: '8px 12px' }}>No card of that name.</div>}>
          {(each: CardSummary) => (
            <Item id={each.id} textValue={titleOf(each)}>
              {titleOf(each)}
              <small>
                {each.operator} on {each.rig}, {MODE_LABELS[each.mode]}
              </small>
            </Item>
          )}
        </ListBox>
      </Sheet>
    </Root>
  );
}
