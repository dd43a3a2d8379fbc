'use client';
/** One dial of a profile as a row of fields. */
import { ArrowDownNarrowWide, X } from 'lucide-react';
import { memo, useState } from 'react';
import { Button as AriaButton, Input, TextField } from 'react-aria-components';
import styled from 'styled-components';
import { type Dial, nearestOn, parseDialText, parseScaleText, restOf, ScaleProblem, scaleText } from '@/core/rig/index.ts';
import type { RigAction } from './rigDraft.ts';

const Quiet = styled(AriaButton)`
  border: 0; background: none; padding: 4px 6px; cursor: pointer; color: var(--signal); text-align: left; font-size: 13.5px;
  text-decoration: underline; text-underline-offset: 3px;`;
const Wrong = styled.div`color: var(--fault); font-size: 13px; max-width: 230px;`;

/** A field of the table: takes what was typed when it is left, and says what is wrong with it. */
function Cell({ label, value, take }: { label: string; value: string; take: (text: string) => string | null }) {
  const [typed, setTyped] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const leave = () => {
    if (typed === null) return;
    const refusal = typed === value ? null : take(typed);
    setProblem(refusal);
    if (refusal === null) setTyped(null);
  };
  return (
    <TextField
      aria-label={label}
      value={typed ?? value}
      onChange={setTyped}
      onBlur={leave}
      isInvalid={problem !== null}
      onKeyDown={(event) => {
        if (event.key === 'Enter') leave();
        if (event.key === 'Escape') {
          setTyped(null);
          setProblem(null);
        }
      }}
    >
      <Input autoComplete="off" />
      {problem && <Wrong role="alert">{problem}</Wrong>}
    </TextField>
  );
}

/** Redrawn only when its own dial changes: a radio may have two hundred. @param when when it works, in words */
export const DialRowEditor = memo(function DialRowEditor({
  dial,
  when,
  isWrong,
  act,
  onWhen,
}: {
  dial: Dial;
  when: string;
  isWrong: boolean;
  act: (action: RigAction) => void;
  onWhen: (id: string) => void;
}) {
  const change = (part: Partial<Dial>) => act({ kind: 'dial', id: dial.id, change: part });
  const takeScale = (text: string): string | null => {
    try {
      const scale = parseScaleText(text);
      change({ scale, rest: nearestOn({ scale, rest: restOf(scale) }, dial.rest) });
      return null;
    } catch (error) {
      if (error instanceof ScaleProblem) return error.message;
      throw error;
    }
  };
  const takeRest = (text: string): string | null => {
    const rest = parseDialText(dial.scale, text);
    if (rest === null) return `Not on the scale ${scaleText(dial.scale)}.`;
    change({ rest });
    return null;
  };
  const takeText = (key: 'menu' | 'label' | 'unit', most: number) => (text: string) => {
    if (text.trim().length > most) return `At most ${most} characters.`;
    if (key === 'label' && text.trim() === '') return 'It needs a label.';
    change({ [key]: text.trim() });
    return null;
  };
  return (
    <tr className={isWrong ? 'wrong' : undefined}>
      <td>
        <Cell label={`Menu address of ${dial.label}`} value={dial.menu} take={takeText('menu', 20)} />
      </td>
      <td>
        <Cell label={`Label of ${dial.label}`} value={dial.label} take={takeText('label', 60)} />
      </td>
      <td>
        <Cell label={`Range of ${dial.label}`} value={scaleText(dial.scale)} take={takeScale} />
      </td>
      <td>
        <Cell label={`Unit of ${dial.label}`} value={dial.unit} take={takeText('unit', 8)} />
      </td>
      <td>
        <Cell label={`Factory value of ${dial.label}`} value={String(dial.rest)} take={takeRest} />
      </td>
      <td>
        <Quiet aria-label={`When ${dial.label} works`} onPress={() => onWhen(dial.id)}>
          {when}
        </Quiet>
      </td>
      <td style={{ whiteSpace: 'nowrap', textAlign: 'right' }}>
        {/\d$/.test(dial.menu) && (
          <Quiet
            aria-label={`Number the dials after ${dial.label} from ${dial.menu} on`}
            onPress={() => act({ kind: 'numberFrom', id: dial.id })}
          >
            <ArrowDownNarrowWide size={15} aria-hidden />
          </Quiet>
        )}
        <Quiet aria-label={`Remove ${dial.label}`} onPress={() => act({ kind: 'removeDial', id: dial.id })}>
          <X size={15} aria-hidden />
        </Quiet>
      </td>
    </tr>
  );
});
