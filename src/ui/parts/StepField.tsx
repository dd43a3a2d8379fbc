'use client';
/** A field for a whole number in which arrow keys step by ten and Page keys by a hundred, exactly; the range is refused at the field. */
import type { KeyboardEvent } from 'react';
import { fixed, neededNumber } from '@/core/units/index.ts';
import { steppedBy } from '../steps.ts';
import { Field } from './Field.tsx';

export function StepField({
  label,
  text,
  range: [least, most],
  onChange,
}: {
  label: string;
  text: string;
  range: readonly [number, number];
  onChange: (text: string) => void;
}) {
  const value = neededNumber(text, least, most);
  const step = (event: KeyboardEvent) => {
    const moved = value === null ? null : steppedBy(event.key, value, [least, most]);
    if (moved === null) return;
    event.preventDefault();
    onChange(String(moved));
  };
  return (
    <Field
      label={label}
      value={text}
      inputMode="numeric"
      onChange={onChange}
      onKeyDown={step}
      error={value === null ? `A number from ${fixed(least, 0)} to ${fixed(most, 0)}.` : undefined}
    />
  );
}
