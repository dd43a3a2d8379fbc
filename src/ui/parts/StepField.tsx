'use client';
/** A field for a whole number in which arrow keys step by ten and Page keys by a hundred, exactly. */
import type { KeyboardEvent } from 'react';
import { neededNumber } from '@/core/units/index.ts';
import { steppedBy } from '../steps.ts';
import { NumberText } from './NumberText.tsx';

interface StepFieldProps {
  readonly label: string;
  readonly text: string;
  readonly range: readonly [number, number];
  readonly onChange: (text: string) => void;
}

export function StepField({ label, text, range: [least, most], onChange }: StepFieldProps) {
  const step = (event: KeyboardEvent) => {
    const value = neededNumber(text, least, most);
    const moved = value === null ? null : steppedBy(event.key, value, [least, most]);
    if (moved === null) return;
    event.preventDefault();
    onChange(String(moved));
  };
  return <NumberText label={label} value={text} least={least} most={most} onChange={onChange} onKeyDown={step} />;
}
