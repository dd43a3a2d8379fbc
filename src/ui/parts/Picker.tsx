'use client';
/** A choice out of a list: as a field, or as an underlined word in a sentence. */
import { ChevronDown } from 'lucide-react';
import { Button, Label, ListBox, ListBoxItem, Popover, Select, SelectValue } from 'react-aria-components';
import styled from 'styled-components';

export interface Choice {
  readonly id: string;
  readonly text: string;
  readonly note?: string;
}

export interface PickerProps {
  readonly label: string;
  readonly choices: readonly Choice[];
  readonly value: string | null;
  readonly onChange: (id: string) => void;
  /** Show as a word of a sentence. */
  readonly inline?: boolean;
  readonly name?: string;
}

const Root = styled(Select)`
  display: inline-flex; flex-direction: column; gap: 3px; vertical-align: baseline;
  .label { font-size: 13px; color: var(--soft); }`;
const Field = styled(Button)`
  display: inline-flex; align-items: center; justify-content: space-between; gap: 8px; min-height: 34px; padding: 5px 10px;
  border: 1px solid var(--soft); border-radius: 3px; background: var(--sheet); text-align: left; cursor: pointer;`;
const Word = styled(Button)`
  border: 0; padding: 3px 0; margin: 0; background: none; font-weight: 600; color: var(--ink); cursor: pointer;
  text-decoration: underline; text-decoration-color: var(--signal); text-underline-offset: 4px; white-space: nowrap;`;
const Sheet = styled(Popover)`
  background: var(--sheet); border: 1px solid var(--line); border-radius: 3px; box-shadow: 0 6px 24px rgb(0 0 0 / 0.18);
  max-height: 60vh; overflow: auto; min-width: var(--trigger-width);`;
const Item = styled(ListBoxItem)`
  padding: 7px 12px; cursor: pointer; outline: none;
  &[data-focused] { background: var(--signal-wash); }
  &[data-selected] { font-weight: 700; }
  small { display: block; color: var(--soft); font-size: 13px; font-weight: 400; }`;

export function Picker({ label, choices, value, onChange, inline = false, name }: PickerProps) {
  const Trigger = inline ? Word : Field;
  return (
    <Root name={name} aria-label={inline ? label : undefined} value={value} onChange={(key) => key !== null && onChange(String(key))}>
      {!inline && <Label className="label">{label}</Label>}
      <Trigger>
        <SelectValue>
          {({ defaultChildren, isPlaceholder }) =>
            isPlaceholder ? 'choose' : (choices.find(({ id }) => id === value)?.text ?? defaultChildren)
          }
        </SelectValue>
        {!inline && <ChevronDown size={16} aria-hidden />}
      </Trigger>
      <Sheet>
        <ListBox items={choices}>
          {({ id, text, note }: Choice) => (
            <Item id={id} textValue={text}>
              {text}
              {note && <small>{note}</small>}
            </Item>
          )}
        </ListBox>
      </Sheet>
    </Root>
  );
}
