'use client';
import { useQueries } from '@tanstack/react-query';
/** Settings to choose from: what each is worth to this voice by the model, to hear against the card as it stands, and to set. */
import { useState } from 'react';
import styled from 'styled-components';
import { elsewhereOf, type Judged, judgement, modelVoiceOf } from '@/client/useJudged.ts';
import { useSave } from '@/client/useSave.ts';
import { modelWork } from '@/client/workers/coreWork.ts';
import type { ModelVoice } from '@/client/workers/model.worker.ts';
import type { JudgedCard } from '@/core/intelligibility/index.ts';
import type { Card, DialValues } from '@/core/rig/index.ts';
import { PATHS, RECEIVERS } from '@/core/simulate/index.ts';
import { fixed, signed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { Hear } from '../listen/Hear.tsx';
import { Bar, Button } from '../parts/Button.tsx';
import { Picker } from '../parts/Picker.tsx';
import { Scroll, Table } from '../parts/Table.tsx';
import { TableHead } from '../parts/TableHead.tsx';
import { SaveNotice } from '../shell/SaveNotice.tsx';

const Choices = styled(
  Table,
)`margin-top: 8px; small { display: block; color: var(--soft); font-size: 13px; } td:last-child { text-align: right; white-space: nowrap; } button { min-height: 28px; padding: 2px 10px; }`;

export interface Choice {
  readonly name: string;
  readonly note: string;
  /** Beside its name, as the radio shows it. */
  readonly value?: string;
  readonly values: DialValues;
  readonly isNow: boolean;
  /** The voice that was recorded can't tell what it is worth. */
  readonly isBeyond?: boolean;
}

interface JudgedChoicesProps {
  readonly label: string;
  readonly bench: BenchView;
  readonly choices: readonly Choice[];
  /** What a choice is called on the card's trail. */
  readonly reason: (choice: Choice) => string;
  /** What the numbers say in a sentence, once all that can be told are known. */
  readonly words?: (answers: readonly { readonly name: string; readonly judged: JudgedCard }[]) => string;
}

export function JudgedChoices({ label, bench, choices, reason, words }: JudgedChoicesProps) {
  const { card } = bench;
  const voice = modelVoiceOf(bench);
  const elsewhere = elsewhereOf(bench, card);
  const { save, isSaving, refusal, forget } = useSave({ card, over: null });
  /** What is listened to, and how often that was asked for. */
  const [heard, setHeard] = useState({ name: '', times: 0 });
  const now = { mode: card.mode, values: card.revisions[0].values };
  const cardOf = ({ values }: Choice): Card => ({ ...now, values: { ...now.values, ...values } });
  const answers = useQueries({
    queries: choices.map((choice) => judgement(choice.isBeyond ? null : voice, cardOf(choice), { elsewhere })),
  }).map(({ data }) => data);
  const judged = answers.map((answer, k): Judged => {
    if (!voice || choices[k].isBeyond) return { kind: 'none' };
    if (answer === undefined) return { kind: 'working' };
    return typeof answer === 'string' ? { kind: 'impossible', why: answer } : { kind: 'done', judged: answer };
  });
  const known = choices.flatMap(({ name }, k) => {
    const each = judged[k];
    return each.kind === 'done' ? [{ name, judged: each.judged }] : [];
  });
  const why = judged.find((each) => each.kind === 'impossible');
  const chosen = choices.find(({ name, isNow }) => name === heard.name && !isNow) ?? choices.find(({ isNow }) => !isNow);
  return (
    <>
      <Scroll>
        <Choices aria-label={label}>
          <TableHead
            columns={[label, { number: 'reach' }, { number: 'naturalness' }, { number: 'peak over average' }, { unseen: 'choose' }]}
          />
          <tbody>
            {choices.map((choice, k) => (
              <ChoiceRow
                key={choice.name}
                choice={choice}
                judged={judged[k]}
                onSet={isSaving ? null : () => save({ values: choice.values, reason: reason(choice) })}
                onHear={voice && (() => setHeard({ name: choice.name, times: heard.times + 1 }))}
              />
            ))}
          </tbody>
        </Choices>
      </Scroll>
      <SaveNotice refusal={refusal} forget={forget} />
      <div aria-live="polite" style={{ marginTop: 6 }}>
        {why?.kind === 'impossible' && <p className="soft">{why.why}</p>}
        {!voice && <p className="soft">With a recording of your voice, each gets its numbers here, and can be heard.</p>}
        {words && voice && known.length === choices.filter(({ isBeyond }) => !isBeyond).length && <p>{words(known)}</p>}
      </div>
      {voice && chosen && <Listen voice={voice} bench={bench} now={now} chosen={chosen} card={cardOf(chosen)} begin={heard.times} />}
    </>
  );
}

interface ChoiceRowProps {
  readonly choice: Choice;
  readonly judged: Judged;
  readonly onSet: (() => void) | null;
  /** Null where there is no voice. */
  readonly onHear: (() => void) | null;
}

function ChoiceRow({ choice, judged, onSet, onHear }: ChoiceRowProps) {
  const { name, note, value, isNow } = choice;
  const is = judged.kind === 'done' ? judged.judged : null;
  const waiting = judged.kind === 'working' ? '…' : '–';
  return (
    <tr>
      <td>
        {isNow ? <b>{name}</b> : name}
        {value && <span className="mono soft"> {value}</span>}
        <small>{note}</small>
      </td>
      <td className="num">{is ? reachText(is) : waiting}</td>
      <td className="num">{is ? Math.round(is.naturalness.score) : waiting}</td>
      <td className="num">{is ? `${fixed(is.peakToAverageDb, 1)} dB` : waiting}</td>
      <td>
        {isNow ? (
          <span className="whole">on the card</span>
        ) : (
          <>
            {onHear && (
              <Button aria-label={`Hear ${name}`} onPress={onHear}>
                Hear
              </Button>
            )}{' '}
            <Button aria-label={`Put ${name} on the card`} isDisabled={onSet === null} onPress={() => onSet?.()}>
              Set
            </Button>
          </>
        )}
      </td>
    </tr>
  );
}

const reachText = ({ reach: { reachDb, uncertaintyDb } }: JudgedCard): string =>
  reachDb === null ? 'not readable' : `${signed(reachDb, 1)} ± ${fixed(uncertaintyDb ?? 0, 1)} dB`;

interface ListenProps {
  readonly voice: ModelVoice;
  readonly bench: BenchView;
  readonly now: Card;
  readonly chosen: Choice;
  readonly card: Card;
  /** Counts how often it was asked for. */
  readonly begin: number;
}

/** The card as it stands and a choice, on a good path or where it matters: in the noise. */
function Listen({ voice, bench, now, chosen, card, begin }: ListenProps) {
  const [path, setPath] = useState('clear');
  const elsewhere = elsewhereOf(bench, bench.card);
  const render = async () => {
    const cards = [now, card].map((each) => ({ card: each, elsewhere, at: 'heard' as const }));
    const { sounds, rateHz } = await modelWork().hear(voice, cards, { path: PATHS[path].path, receiver: RECEIVERS.good.receiver });
    return { before: { samples: sounds[0], rateHz }, after: { samples: sounds[1], rateHz } };
  };
  return (
    <Bar style={{ alignItems: 'end' }}>
      <Picker label="Path" value={path} choices={Object.entries(PATHS).map(([id, { text }]) => ({ id, text }))} onChange={setPath} />
      <Hear
        render={render}
        renderKey={JSON.stringify([now.values, card.values, path])}
        labels={{ before: 'A as on the card', after: `B ${chosen.name.toLowerCase()}` }}
        text={`Hear ${chosen.name.toLowerCase()} against the card`}
        begin={begin}
        hasNoKeys
      />
    </Bar>
  );
}
