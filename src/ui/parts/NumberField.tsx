'use client';
/** A number in a range, taken when it is one. */
import { useState } from 'react';
import styled from 'styled-components';
import { neededNumber } from '@/core/units/index.ts';
import { Field } from './Field.tsx';

const Narrow = styled.div`width: 140px; .fields > & { width: auto; }`;

export function NumberField({
  label,
  hideLabel,
  value,
  range,
  refusal = `${range[0]} to ${range[1]}.`,
  onChange,
}: {
  label: string;
  hideLabel?: boolean;
  value: number;
  range: readonly [number, number];
  /** What is said of a number outside the range. */
  refusal?: string;
  onChange: (value: number) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const parse = (text: string) => neededNumber(text, range[0], range[1]);
  const isWrong = typed !== null && parse(typed) === null;
  return (
    <Narrow>
      <Field
        label={label}
        hideLabel={hideLabel}
        value={typed ?? String(value)}
        onChange={(text) => {
          setTyped(text);
          const number = parse(text);
          if (number !== null) onChange(number);
        }}
        onBlur={() => !isWrong && setTyped(null)}
        error={isWrong ? refusal : undefined}
      />
    </Narrow>
  );
}
