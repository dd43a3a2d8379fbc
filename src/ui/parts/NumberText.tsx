'use client';
/** A number as it is typed, with its range refused at the field. What it is worth, `neededNumber` tells. */
import type { KeyboardEvent } from 'react';
import { neededNumber, withMinus } from '@/core/units/index.ts';
import { Field } from './Field.tsx';

export interface NumberTextProps {
  readonly label: string;
  readonly hideLabel?: boolean;
  readonly value: string;
  readonly onChange: (text: string) => void;
  readonly least: number;
  readonly most: number;
  /** What is said of a number outside the range. */
  readonly refusal?: string;
  readonly onBlur?: () => void;
  readonly onKeyDown?: (event: KeyboardEvent) => void;
}

export function NumberText({ least, most, value, refusal = `${withMinus(least)} to ${withMinus(most)}.`, ...props }: NumberTextProps) {
  return <Field {...props} value={value} inputMode="decimal" error={neededNumber(value, least, most) === null ? refusal : undefined} />;
}
