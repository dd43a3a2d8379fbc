'use client';
/** A talking distance, shown and typed in the reader's unit, kept in centimetres. */
import { distanceText, inCentimetres, inUnit } from '@/core/units/index.ts';
import { useDistance } from '../distance.ts';
import { NumberField } from './NumberField.tsx';

interface DistanceFieldProps {
  readonly label: string;
  readonly cm: number;
  readonly rangeCm: readonly [number, number];
  readonly onChange: (cm: number) => void;
}

export function DistanceField({ label, cm, rangeCm: [least, most], onChange }: DistanceFieldProps) {
  const { unit } = useDistance();
  return (
    <NumberField
      key={unit}
      label={`${label}, ${unit}`}
      value={inUnit(cm, unit)}
      range={[inUnit(least, unit), inUnit(most, unit)]}
      refusal={`${inUnit(least, unit)} to ${distanceText(most, unit)}.`}
      onChange={(value) => onChange(Math.min(most, Math.max(least, inCentimetres(value, unit))))}
    />
  );
}
