'use client';
/** One line for advice as it is heard; says what will happen before Enter, and puts it on the card. */
import { useMemo, useRef, useState } from 'react';
import { Button, Input, Label, TextField } from 'react-aria-components';
import styled from 'styled-components';
import { type DialLine as Line, type LineContext, readDialLine, suggestionsFor } from '@/core/language/index.ts';
import type { Card, RigProfile } from '@/core/rig/index.ts';
import { useKeys } from '../keys.ts';
import { Notice } from '../parts/Notice.tsx';
import { recall, remember } from './history.ts';

const Box = styled.section`
  border-top: 1px solid var(--line); padding-top: 10px;
  .label { font-size: 13px; color: var(--soft); display: block; margin-bottom: 4px; }
  input { width: 100%; border: 1.5px solid var(--ink); border-radius: 3px; background: var(--paper); padding: 6px 10px; min-height: 36px;
    font-family: 'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace; font-size: 15px; }
  input::placeholder { color: var(--soft); }
  .told { margin: 6px 0 0; font-size: 14px; }
  .told p { margin: 0 0 3px; }
  .watch { color: var(--watch); }
  .problem { color: var(--soft); }
  ul { list-style: none; margin: 6px 0 0; padding: 0; display: flex; flex-wrap: wrap; gap: 5px; }
  li button { border: 1px solid var(--line); border-radius: 3px; background: none; padding: 2px 8px; cursor: pointer; font-size: 13px;
    font-family: 'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace; }
  li button[data-hovered] { background: var(--signal-wash); }`;

/** What became of a line, told in one sentence. */
export interface LineOutcome {
  readonly isDone: boolean;
  readonly text: string;
}

interface DialLineProps {
  readonly rig: RigProfile;
  readonly card: Card;
  /** What was before, for "same again" and "back to what it was". */
  readonly context?: LineContext;
  /** Does what the line says. */
  readonly enter: (line: Line, words: string) => Promise<LineOutcome>;
}

export function DialLine({ rig, card, context, enter: carryOut }: DialLineProps) {
  const [text, setText] = useState('');
  const [place, setPlace] = useState(-1);
  const [message, setMessage] = useState<{ tone: 'plain' | 'fault'; text: string } | null>(null);
  const isSaving = useRef(false);
  const input = useRef<HTMLInputElement>(null);
  useKeys({ '/': () => input.current?.focus() });
  const line = useMemo(() => readDialLine(text, rig, card, context), [text, rig, card, context]);
  const suggestions = useMemo(() => suggestionsFor(text, rig, card), [text, rig, card]);

  const enter = async () => {
    if (isSaving.current || line.kind === 'empty' || line.kind === 'problem') return;
    isSaving.current = true;
    const outcome = await carryOut(line, text.trim()).finally(() => {
      isSaving.current = false;
    });
    setMessage({ tone: outcome.isDone ? 'plain' : 'fault', text: outcome.text });
    if (!outcome.isDone) return;
    remember(text);
    setText((now) => (now === text ? '' : now));
    setPlace(-1);
  };
  const accept = (words: string) => {
    setText(words);
    input.current?.focus();
  };
  const keys = (event: React.KeyboardEvent) => {
    const past = recall();
    if (event.key === 'Enter') void enter();
    else if (event.key === 'Escape') setText('');
    else if (event.key === 'ArrowUp' && place + 1 < past.length) {
      event.preventDefault();
      setPlace(place + 1);
      setText(past[place + 1]);
    } else if (event.key === 'ArrowDown' && place >= 0) {
      event.preventDefault();
      setPlace(place - 1);
      setText(place === 0 ? '' : past[place - 1]);
    } else if (event.key === 'ArrowRight' && suggestions.length > 0 && input.current?.selectionStart === text.length && text !== '') {
      event.preventDefault();
      setText(suggestions[0].text);
    }
  };
  return (
    <Box aria-label="Dial line">
      <TextField
        value={text}
        onChange={(words) => {
          setText(words);
          setMessage(null);
        }}
        onKeyDown={keys}
      >
        <Label className="label">Dial line: type it as you are told</Label>
        <Input ref={input} autoComplete="off" spellCheck={false} placeholder="2500 +3" />
      </TextField>
      <div className="told" aria-live="polite">
        {line.kind === 'problem' && <p className="problem">{line.text}</p>}
        {line.kind !== 'problem' && 'explained' in line && line.explained.map((sentence) => <p key={sentence}>{sentence}</p>)}
        {line.kind === 'do' &&
          line.warnings.map((sentence) => (
            <p key={sentence} className="watch">
              {sentence}
            </p>
          ))}
        {line.kind === 'do' && <p className="soft">Enter {line.moves.length === 0 ? 'notes it' : 'puts it on the card'}.</p>}
        {line.kind === 'empty' && message && <Notice tone={message.tone}>{message.text}</Notice>}
      </div>
      {line.kind !== 'empty' && message?.tone === 'fault' && <Notice tone="fault">{message.text}</Notice>}
      {suggestions.length > 0 && (line.kind === 'empty' || line.kind === 'problem') && (
        <ul aria-label="Suggestions">
          {suggestions.map((each) => (
            <li key={each.text}>
              <Button onPress={() => accept(each.text)} aria-label={`${each.text.trim()}: ${each.note}`}>
                {each.text.trim()}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </Box>
  );
}
