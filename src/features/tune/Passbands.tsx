'use client';
/** Passbands to choose from, narrow to wide: what each is worth to this voice, and how it sounds. */
import { useState } from 'react';
import styled from 'styled-components';
import { elsewhereOf, modelVoiceOf, useJudged } from '@/client/useJudged.ts';
import { useSave } from '@/client/useSave.ts';
import { modelWork } from '@/client/workers/coreWork.ts';
import type { ModelVoice } from '@/client/workers/model.worker.ts';
import { narrowVoiceNote } from '@/core/advice/index.ts';
import { effective } from '@/core/rig/index.ts';
import { PATHS, RECEIVERS } from '@/core/simulate/index.ts';
import { type PassbandChoice, passbandChoices } from '@/core/tune/index.ts';
import { fixed, signed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { Hear } from '@/ui/listen/Hear.tsx';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { SaveNotice } from '@/ui/shell/SaveNotice.tsx';

const Choices = styled(
  Table,
)`margin-top: 8px; small { display: block; color: var(--soft); font-size: 13px; } td:last-child { text-align: right; } button { min-height: 28px; padding: 2px 10px; }`;

export function Passbands({ bench }: { bench: BenchView }) {
  const { card, over } = bench;
  const rig = card.rig.profile;
  const now = { mode: card.mode, values: card.revisions[0].values };
  const choices = passbandChoices(rig, now, card.purpose);
  const voice = modelVoiceOf(bench);
  const { save, isSaving, refusal, forget } = useSave({ card, over: null });
  const [heard, setHeard] = useState<string | null>(null);
  if (choices.length === 0) return <p>The transmit passband of {rig.name} can’t be changed in this mode. Nothing to do here.</p>;
  const chosen = choices.find(({ name }) => name === heard) ?? choices.find(({ isNow }) => !isNow);
  const widest: [number, number] = [
    Math.min(...choices.map(({ edgesHz }) => edgesHz[0])),
    Math.max(...choices.map(({ edgesHz }) => edgesHz[1])),
  ];
  const through = over ? effective(over.rig.profile, { mode: over.card.mode, values: over.revision.values }).passbandHz : null;
  const note = voice && through && narrowVoiceNote(through, widest);
  return (
    <>
      <Scroll>
        <Choices aria-label="Passbands">
          <TableHead columns={['Passband', { number: 'Hz' }, { number: 'reach' }, { number: 'naturalness' }, { unseen: 'choose' }]} />
          <tbody>
            {choices.map((choice) => (
              <ChoiceRow
                key={choice.name}
                choice={choice}
                bench={bench}
                voice={voice}
                onSet={isSaving ? null : () => save({ values: choice.values, reason: `passband: ${choice.name.toLowerCase()}` })}
              />
            ))}
          </tbody>
        </Choices>
      </Scroll>
      <SaveNotice refusal={refusal} forget={forget} />
      {!voice && <p className="soft">With a recording of your voice, each gets its reach and naturalness here, and can be heard.</p>}
      {note && <p className="soft">{note}</p>}
      {voice && chosen && (
        <Listen voice={voice} bench={bench} chosen={chosen} choices={choices.filter(({ isNow }) => !isNow)} onChoose={setHeard} />
      )}
    </>
  );
}

interface ChoiceRowProps {
  readonly choice: PassbandChoice;
  readonly bench: BenchView;
  readonly voice: ModelVoice | null;
  readonly onSet: (() => void) | null;
}

function ChoiceRow({ choice: { name, note, edgesHz, values, isNow, suitsPurpose }, bench, voice, onSet }: ChoiceRowProps) {
  const { card } = bench;
  const judged = useJudged(
    voice,
    { mode: card.mode, values: { ...card.revisions[0].values, ...values } },
    { elsewhere: elsewhereOf(bench, card) },
  );
  const is = judged.kind === 'done' ? judged.judged : null;
  const waiting = judged.kind === 'working' ? '…' : '–';
  return (
    <tr>
      <td>
        {isNow ? <b>{name}</b> : name}
        <small>
          {note}
          {suitsPurpose ? '; usual for this purpose' : ''}
        </small>
      </td>
      <td className="num">
        {edgesHz[0]}–{edgesHz[1]}
      </td>
      <td className="num">
        {is
          ? is.reach.reachDb === null
            ? 'not readable'
            : `${signed(is.reach.reachDb, 1)} ± ${fixed(is.reach.uncertaintyDb ?? 0, 1)} dB`
          : waiting}
      </td>
      <td className="num">{is ? Math.round(is.naturalness.score) : waiting}</td>
      <td>
        {isNow ? (
          <span className="whole">on the card</span>
        ) : (
          <Button aria-label={`Put ${name} on the card`} isDisabled={onSet === null} onPress={() => onSet?.()}>
            Set
          </Button>
        )}
      </td>
    </tr>
  );
}

interface ListenProps {
  readonly voice: ModelVoice;
  readonly bench: BenchView;
  readonly chosen: PassbandChoice;
  readonly choices: readonly PassbandChoice[];
  readonly onChoose: (name: string) => void;
}

/** The passband that stands and another, on a good path or where it matters: in the noise. */
function Listen({ voice, bench, chosen, choices, onChoose }: ListenProps) {
  const [path, setPath] = useState('clear');
  const { card } = bench;
  const now = { mode: card.mode, values: card.revisions[0].values };
  const other = { mode: card.mode, values: { ...now.values, ...chosen.values } };
  const elsewhere = elsewhereOf(bench, card);
  const render = async () => {
    const cards = [now, other].map((each) => ({ card: each, elsewhere, at: 'heard' as const }));
    const { sounds, rateHz } = await modelWork().hear(voice, cards, { path: PATHS[path].path, receiver: RECEIVERS.good.receiver });
    return { before: { samples: sounds[0], rateHz }, after: { samples: sounds[1], rateHz } };
  };
  return (
    <Bar>
      <Picker
        label="Hear"
        value={chosen.name}
        choices={choices.map(({ name, edgesHz }) => ({ id: name, text: name, note: `${edgesHz[0]} to ${edgesHz[1]} Hz` }))}
        onChange={onChoose}
      />
      <Picker label="Path" value={path} choices={Object.entries(PATHS).map(([id, { text }]) => ({ id, text }))} onChange={setPath} />
      <Hear
        render={render}
        renderKey={JSON.stringify([now.values, other.values, path])}
        labels={{ before: 'A as on the card', after: `B ${chosen.name.toLowerCase()}` }}
        text="Hear both"
      />
    </Bar>
  );
}
