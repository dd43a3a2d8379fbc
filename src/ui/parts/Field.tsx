'use client';
/** A labelled text field with its error beside it. */
import { FieldError, Input, Label, Text, TextField, type TextFieldProps } from 'react-aria-components';
import styled from 'styled-components';

const Root = styled(TextField)`display: grid; gap: 3px;
  .label { font-size: 13px; color: var(--soft); }
  input { border: 1px solid var(--soft); border-radius: 3px; background: var(--sheet); padding: 5px 9px; min-height: 34px; width: 100%; }
  input[data-invalid] { border-color: var(--fault); }
  .error { color: var(--fault); font-size: 13px; }
  .hint { color: var(--soft); font-size: 13px; }`;

export interface FieldProps extends TextFieldProps {
  readonly label: string;
  readonly hint?: string;
  readonly error?: string;
  /** Leave the label to a table heading; it is still read out. */
  readonly hideLabel?: boolean;
}

export function Field({ label, hint, error, hideLabel, ...props }: FieldProps) {
  return (
    <Root {...props} isInvalid={error !== undefined} aria-label={hideLabel ? label : undefined}>
      {!hideLabel && <Label className="label">{label}</Label>}
      <Input />
      {hint && !error && (
        <Text slot="description" className="hint">
          {hint}
        </Text>
      )}
      <FieldError className="error">{error}</FieldError>
    </Root>
  );
}
