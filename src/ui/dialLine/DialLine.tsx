'use client';
/** One line for advice as it is heard; says what will happen before Enter, and puts it on the card. */
import { useMemo, useRef, useState, useTransition } from 'react';
import { Button, Input, Label, TextField } from 'react-aria-components';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import { type DialLine as Line, readDialLine } from '@/core/language/dialLine.ts';
import { suggestionsFor } from '@/core/language/suggestions.ts';
import { saveOverNote, saveRevision, undoLastChange } from '@/server/actions.ts';
import type { CardView } from '@/server/cards/cards.ts';
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

/** The over in view: readings are noted on it, and moves expect from it where it is measured. */
export interface LineOver {
  readonly id: number;
  readonly note: string;
  readonly isMeasured: boolean;
}

interface DialLineProps {
  readonly card: CardView;
  readonly over: LineOver | null;
}

export function DialLine({ card, over }: DialLineProps) {
  const rig = card.rig.profile;
  const [newest] = card.revisions;
  const now = useMemo(() => ({ mode: card.mode, values: newest.values }), [card.mode, newest.values]);
  const [text, setText] = useState('');
  const [place, setPlace] = useState(-1);
  const [message, setMessage] = useState<{ tone: 'plain' | 'fault'; text: string } | null>(null);
  const [isSaving, start] = useTransition();
  const input = useRef<HTMLInputElement>(null);
  useKeys({ '/': () => input.current?.focus() });
  const line = useMemo(() => readDialLine(text, rig, now), [text, rig, now]);
  const suggestions = useMemo(() => suggestionsFor(text, rig, now), [text, rig, now]);

  const enter = () => {
    if (isSaving || line.kind === 'empty' || line.kind === 'problem') return;
    start(async () => {
      const result = await run(line, { card, over }, text.trim());
      setMessage(result.ok ? { tone: 'plain', text: result.value } : { tone: 'fault', text: result.message });
      if (!result.ok) return;
      remember(text);
      setText('');
      setPlace(-1);
    });
  };
  const accept = (words: string) => {
    setText(words);
    input.current?.focus();
  };
  const keys = (event: React.KeyboardEvent) => {
    const past = recall();
    if (event.key === 'Enter') enter();
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
        maxLength={200}
        onKeyDown={keys}
      >
        <Label className="label">Dial line: type it as you are told</Label>
        <Input ref={input} autoComplete="off" spellCheck={false} placeholder="2500 +3" />
      </TextField>
      <div className="told" aria-live="polite">
        {line.kind === 'problem' && <p className="problem">{line.text}</p>}
        {'explained' in line && line.explained.map((sentence) => <p key={sentence}>{sentence}</p>)}
        {line.kind === 'moves' &&
          line.warnings.map((sentence) => (
            <p key={sentence} className="watch">
              {sentence}
            </p>
          ))}
        {'explained' in line && <p className="soft">Enter {line.kind === 'alc' ? 'notes it' : 'puts it on the card'}.</p>}
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

type Result = { readonly ok: true; readonly value: string } | { readonly ok: false; readonly message: string };

async function run(line: Line, { card, over }: DialLineProps, words: string): Promise<Result> {
  const [newest] = card.revisions;
  if (line.kind === 'moves') {
    const answer = await asked(
      saveRevision({
        cardId: card.id,
        baseRevisionId: newest.id,
        values: Object.fromEntries(line.moves.map(({ dial, to }) => [dial.id, to])),
        reason: `as told: ${words}`,
        why: Object.fromEntries(line.moves.map(({ dial }) => [dial.id, `as told: ${words}`])),
        ...(over?.isMeasured ? { overId: over.id } : {}),
      }),
    );
    return answer.ok ? { ok: true, value: `On the card as revision ${answer.value}. "undo" takes it back.` } : answer;
  }
  if (line.kind === 'undo') {
    const answer = await asked(undoLastChange({ cardId: card.id, baseRevisionId: newest.id }));
    return answer.ok ? { ok: true, value: `Undone, as revision ${answer.value}.` } : answer;
  }
  if (line.kind !== 'alc') return { ok: false, message: '' };
  if (!over) return { ok: false, message: 'A reading belongs to an over, and this card has none in view. Add a recording first.' };
  const answer = await asked(saveOverNote({ overId: over.id, alcReading: line.reading, note: over.note, base: { note: over.note } }));
  return answer.ok ? { ok: true, value: `Noted on over ${over.id}.` } : answer;
}
