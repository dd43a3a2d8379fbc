'use client';
/** Several lines of text with a label and their error. */
import { TextArea as AriaTextArea, FieldError, Label, Text, TextField } from 'react-aria-components';
import styled from 'styled-components';
import type { FieldProps } from './Field.tsx';

const Root = styled(TextField)`display: grid; gap: 3px;
  .label { font-size: 13px; color: var(--soft); }
  textarea { border: 1px solid var(--soft); border-radius: 3px; background: var(--sheet); padding: 6px 9px; width: 100%; resize: vertical;
    font-family: 'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace; font-size: 14px; }
  textarea[data-invalid] { border-color: var(--fault); }
  .error { color: var(--fault); font-size: 13px; }
  .hint { color: var(--soft); font-size: 13px; }`;

export function TextArea({ label, hint, error, rows = 6, ...props }: FieldProps & { rows?: number }) {
  return (
    <Root {...props} isInvalid={error !== undefined}>
      <Label className="label">{label}</Label>
      <AriaTextArea rows={rows} spellCheck={false} />
      {hint && !error && (
        <Text slot="description" className="hint">
          {hint}
        </Text>
      )}
      <FieldError className="error">{error}</FieldError>
    </Root>
  );
}
