'use client';
/** The one line of an air check: what is heard, with what it will do before Enter. */
import { useEffect, useMemo, useRef } from 'react';
import { Input, Label, TextField } from 'react-aria-components';
import styled from 'styled-components';
import type { useSayLine } from '@/client/useSayLine.ts';
import { type AirCheck, meaningOf } from '@/core/advice/index.ts';
import { LONGEST_LINE } from '@/core/language/index.ts';
import type { RigProfile } from '@/core/rig/index.ts';
import { useKeys } from '@/ui/keys.ts';
import { readText } from '@/ui/reports/ReportLines.tsx';

const Box = styled.div`
  border: 2px solid var(--ink); border-radius: 3px; background: var(--sheet); padding: 9px 12px; margin-top: 12px; position: sticky; bottom: 8px;
  .label { font-size: 13px; color: var(--soft); display: block; }
  &:has(input:focus-visible) { outline: 3px solid var(--signal); outline-offset: 1px; }
  input { width: 100%; border: 0; background: none; padding: 4px 0; font-size: 19px; outline: none;
    font-family: 'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace; }
  p { margin: 2px 0 0; font-size: 14px; color: var(--soft); min-height: 20px; }`;

const NO_SIGNAL = { readability: null, strength: null, overS9Db: null };

interface SayLineProps {
  readonly say: ReturnType<typeof useSayLine>;
  readonly check: AirCheck;
  readonly rig: RigProfile;
  readonly isGuest: boolean;
}

export function SayLine({ say, check, rig, isGuest }: SayLineProps) {
  const input = useRef<HTMLInputElement>(null);
  useKeys({ '/': () => input.current?.focus() });
  const end = useRef<HTMLSpanElement>(null);
  const { text } = say;
  const count = check.steps.length;
  // What was just said stands above the line, in view. The line itself sticks to the window, so it is its place that is shown.
  useEffect(() => {
    if (count > 0) end.current?.scrollIntoView({ block: 'end' });
  }, [count]);
  const meaning = useMemo(() => told(text, rig, check), [text, rig, check]);
  const isTooLong = text.length > LONGEST_LINE;
  return (
    <>
      <Box className="no-print">
        <TextField value={text} onChange={say.setText} autoFocus>
          <Label className="label">
            {isGuest ? 'Type what they tell you and what you hear; Enter writes it down' : 'Type what you hear; Enter writes it down'}
          </Label>
          <Input
            ref={input}
            autoComplete="off"
            spellCheck={false}
            placeholder={isGuest ? '500 is at plus 9' : 'two less on the 2k'}
            onKeyDown={(event) => {
              if (event.key !== 'Enter' || text.trim() === '' || isTooLong) return;
              event.preventDefault();
              say.say(text);
            }}
          />
        </TextField>
        <p aria-live="polite">{isTooLong ? `At most ${LONGEST_LINE} characters: nothing was written down.` : meaning}</p>
      </Box>
      <span ref={end} />
    </>
  );
}

/** What the line would do, in a sentence. */
function told(text: string, rig: RigProfile, check: AirCheck): string {
  if (text.trim() === '') return '';
  const { kind, explained, remarks, signal } = meaningOf(rig, check, text);
  return [...(kind === 'remark' ? [readText(signal ?? NO_SIGNAL, remarks)] : []), ...explained].join(' ');
}
