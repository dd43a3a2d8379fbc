'use client';
/** One dial's value, set on its own scale: up and down step through its positions; anything else is refused. */
import { Minus, Plus } from 'lucide-react';
import { useState } from 'react';
import { Button, Input, TextField } from 'react-aria-components';
import styled from 'styled-components';
import { type Dial, type DialValue, nameOf, parseDialText, rangeText, stepFrom, valueText } from '@/core/rig/index.ts';
import { withMinus } from '@/core/units/index.ts';
import { Picker } from '../parts/Picker.tsx';

const Row = styled.div`
  display: inline-flex; align-items: center; justify-content: flex-end; position: relative;
  button { border: 1px solid transparent; background: none; width: 24px; height: 26px; border-radius: 3px; display: grid; place-items: center; cursor: pointer; color: var(--soft); }
  button[data-hovered] { background: var(--signal-wash); color: var(--ink); }
  button[data-disabled] { opacity: 0.35; cursor: default; }
  @media print { button { display: none; } }
  input { width: 84px; text-align: right; border: 1px solid transparent; border-radius: 3px; background: none; padding: 1px 6px; height: 27px;
    font-family: 'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace; font-size: 14.5px; color: inherit; font-weight: inherit; }
  input[data-hovered], input[data-focused] { border-color: var(--soft); background: var(--sheet); color: var(--ink); }
  input[data-invalid] { border-color: var(--fault); }
  .refused { position: absolute; top: 100%; right: 0; z-index: 3; background: var(--sheet); border: 1px solid var(--fault); color: var(--fault);
    font-size: 13px; padding: 3px 8px; white-space: nowrap; border-radius: 3px; font-weight: 400; }`;

export function DialInput({
  dial,
  value,
  onChange,
  label = nameOf(dial),
}: {
  dial: Dial;
  value: DialValue;
  onChange: (value: DialValue) => void;
  label?: string;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [refused, setRefused] = useState(false);
  if (dial.scale.kind === 'options') {
    const choices = dial.scale.options.map((option) => ({ id: option, text: option }));
    return <Picker inline label={label} choices={choices} value={String(value)} onChange={onChange} />;
  }
  const take = () => {
    if (typed === null) return;
    const parsed = parseDialText(dial.scale, typed);
    setRefused(parsed === null);
    if (parsed === null) return;
    setTyped(null);
    onChange(parsed);
  };
  const step = (steps: number) => {
    setTyped(null);
    setRefused(false);
    onChange(stepFrom(dial.scale, value, steps));
  };
  return (
    <Row>
      <Button
        aria-label={`${label} down`}
        excludeFromTabOrder
        onPress={() => step(-1)}
        isDisabled={stepFrom(dial.scale, value, -1) === value}
      >
        <Minus size={14} aria-hidden />
      </Button>
      <TextField
        aria-label={label}
        value={typed ?? valueText(dial, value)}
        isInvalid={refused}
        onChange={setTyped}
        onFocus={() => setTyped(withMinus(value))}
        onBlur={() => {
          take();
          if (parseDialText(dial.scale, typed ?? '') !== null || typed === null) setTyped(null);
        }}
        onKeyDown={(event) => {
          const steps = { ArrowUp: 1, ArrowDown: -1, PageUp: 5, PageDown: -5 }[event.key];
          if (steps !== undefined) {
            event.preventDefault();
            const next = stepFrom(dial.scale, value, steps);
            setRefused(false);
            onChange(next);
            setTyped(withMinus(next));
          } else if (event.key === 'Enter') take();
          else if (event.key === 'Escape') {
            setTyped(null);
            setRefused(false);
          }
        }}
      >
        <Input autoComplete="off" inputMode="decimal" />
        {refused && (
          <span className="refused" role="alert">
            {rangeText(dial)}
          </span>
        )}
      </TextField>
      <Button aria-label={`${label} up`} excludeFromTabOrder onPress={() => step(1)} isDisabled={stepFrom(dial.scale, value, 1) === value}>
        <Plus size={14} aria-hidden />
      </Button>
    </Row>
  );
}
