'use client';
/** A number in a range, taken when it is one. */
import { useState } from 'react';
import styled from 'styled-components';
import { neededNumber } from '@/core/units/index.ts';
import { NumberText } from './NumberText.tsx';

const Narrow = styled.div`width: 140px; .fields > & { width: auto; }`;

interface NumberFieldProps {
  readonly label: string;
  readonly hideLabel?: boolean;
  readonly value: number;
  readonly range: readonly [number, number];
  readonly refusal?: string;
  readonly onChange: (value: number) => void;
}

export function NumberField({ value, range: [least, most], onChange, ...props }: NumberFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const isGood = (text: string) => neededNumber(text, least, most) !== null;
  return (
    <Narrow>
      <NumberText
        {...props}
        least={least}
        most={most}
        value={typed ?? String(value)}
        onChange={(text) => {
          setTyped(text);
          const number = neededNumber(text, least, most);
          if (number !== null) onChange(number);
        }}
        onBlur={() => typed !== null && isGood(typed) && setTyped(null)}
      />
    </Narrow>
  );
}
