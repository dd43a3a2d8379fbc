'use client';
/** Slots of a rig's voice memories: what is in each, whether it is stale, and how to record it again. */
import Link from 'next/link';
import { useState } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import { useDraft } from '@/client/useDraft.ts';
import { MODE_LABELS, microphoneUseText, PURPOSE_LABELS, type RigProfile, type SoundChange, valueText } from '@/core/rig/index.ts';
import { type DistanceUnit, fixed } from '@/core/units/index.ts';
import type { CardSummary } from '@/server/cards/cardList.ts';
import { clearMemory, recordMemory } from '@/server/station/actions.ts';
import type { VoiceMemoryView } from '@/server/station/voiceMemories.ts';
import { useDistance } from '@/ui/distance.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { EditSheet } from '@/ui/shell/EditSheet.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { utc } from '@/ui/utc.ts';

const State = styled.span`display: inline-flex; gap: 8px; align-items: baseline;`;
const Steps = styled.ol`list-style: none; margin: 10px 0; padding: 0; display: grid; gap: 9px;`;

interface Rig {
  readonly id: number;
  readonly name: string;
  readonly profile: RigProfile;
}

export function MemoriesPage({ rig, memories, cards }: { rig: Rig; memories: readonly VoiceMemoryView[]; cards: readonly CardSummary[] }) {
  const [slot, setSlot] = useState<number | null>(null);
  const [message, setMessage] = useState<string | null>(null);
  const [gone, setGone] = useState<VoiceMemoryView | null>(null);
  const forget = async (memory: VoiceMemoryView) => {
    const answer = await asked(clearMemory({ rigId: rig.id, slot: memory.slot }));
    setMessage(answer.ok ? null : answer.message);
    setGone(answer.ok ? memory : null);
  };
  const bringBack = async ({ slot: number, words, card, revision, recordedAt }: VoiceMemoryView) => {
    const answer = await asked(recordMemory({ rigId: rig.id, slot: number, words, cardId: card.id, revision, recordedAt }));
    setMessage(answer.ok ? null : answer.message);
    setGone(null);
  };
  const slots = Array.from({ length: rig.profile.voiceMemories ?? 0 }, (_, i) => i + 1);
  return (
    <Shell>
      <Page>
        <h1>Voice memories of {rig.name}</h1>
        <p className="soft">A recording keeps the sound of the card it was made with. When that card's sound changes, it is stale.</p>
        {message && <Notice tone="fault">{message}</Notice>}
        {gone && (
          <Notice>
            Memory {gone.slot} is cleared here; the radio still has it.
            <Button onPress={() => void bringBack(gone)}>Undo</Button>
          </Notice>
        )}
        {slots.length === 0 ? (
          <p>
            {rig.name} has none. If it has, say how many in <Link href={`/station/rigs/${rig.id}`}>its profile</Link>.
          </p>
        ) : (
          <SlotTable slots={slots} memories={memories} onRecord={setSlot} onForget={forget} />
        )}
        <Bar>
          <ButtonLink href="/station">Back to the station</ButtonLink>
        </Bar>
        {slot !== null && (
          <RecordSheet
            rig={rig}
            slot={slot}
            memory={memories.find((each) => each.slot === slot)}
            cards={cards}
            onClose={() => setSlot(null)}
          />
        )}
      </Page>
    </Shell>
  );
}

interface SlotTableProps {
  readonly slots: readonly number[];
  readonly memories: readonly VoiceMemoryView[];
  readonly onRecord: (slot: number) => void;
  readonly onForget: (memory: VoiceMemoryView) => Promise<void>;
}

function SlotTable({ slots, memories, onRecord, onForget }: SlotTableProps) {
  return (
    <Scroll>
      <Table>
        <TableHead columns={['slot', 'words', 'card', 'recorded (UTC)', 'state', { unseen: 'change' }]} />
        <tbody>
          {slots.map((number) => {
            const memory = memories.find((each) => each.slot === number);
            return (
              <tr key={number}>
                <td className="mono">{number}</td>
                <td>{memory?.words ?? <span className="soft">empty</span>}</td>
                <td>
                  {memory && (
                    <>
                      <Link href={`/cards/${memory.card.id}`}>{memory.card.name}</Link>, rev. {memory.revision}
                    </>
                  )}
                </td>
                <td className="mono whole">{memory && utc(memory.recordedAt)}</td>
                <td>{memory && <StateText memory={memory} />}</td>
                <td className="whole">
                  <Button aria-label={`Record memory ${number}`} onPress={() => onRecord(number)}>
                    {memory ? 'Record again' : 'Record'}
                  </Button>{' '}
                  {memory && (
                    <Button aria-label={`Forget memory ${number}`} onPress={() => onForget(memory)}>
                      Forget
                    </Button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
    </Scroll>
  );
}

function StateText({ memory: { change, newestRevision } }: { memory: VoiceMemoryView }) {
  if (!change) {
    return (
      <State>
        <StateMark state="ok" hidden /> matches revision {newestRevision}
      </State>
    );
  }
  return (
    <State>
      <StateMark state="stale" hidden />
      <span>
        <b>stale:</b> {changeWords(change)} since
      </span>
    </State>
  );
}

/** What changed, shortly: the curve first, then the dials. */
function changeWords({ dials, equalizerDb, isMicrophoneMoved }: SoundChange): string {
  const told = dials
    .filter(({ dial }) => dial.stage !== 'equalizer')
    .map(({ dial, to }) => `${dial.label} ${to === null ? 'out of use' : valueText(dial, to)}`);
  return [
    ...(equalizerDb > 0.1 ? [`equalizer up to ${fixed(equalizerDb, 1)} dB different`] : []),
    ...told.slice(0, 3),
    ...(told.length > 3 ? [`${told.length - 3} more dials`] : []),
    ...(isMicrophoneMoved ? ['microphone used otherwise'] : []),
  ].join(', ');
}

interface RecordSheetProps {
  readonly rig: Rig;
  readonly slot: number;
  readonly memory?: VoiceMemoryView;
  readonly cards: readonly CardSummary[];
  readonly onClose: () => void;
}

/** The checklist for recording a memory: mode, microphone, switches and processor as the card has them. */
function RecordSheet({ rig, slot, memory, cards, onClose }: RecordSheetProps) {
  const distance = useDistance();
  const draft = useDraft(`memory ${rig.id} ${slot}`, {
    cardId: String(memory?.card.id ?? cards[0]?.id ?? ''),
    words: memory?.words ?? '',
  });
  const { cardId, words } = draft.value;
  const [done, setDone] = useState<readonly string[]>([]);
  const card = cards.find(({ id }) => String(id) === cardId);
  if (!card) {
    return (
      <Dialog title={`Memory ${slot} of ${rig.name}`} isOpen onClose={onClose}>
        <p>There is no card for {rig.name} yet: a recording belongs to one.</p>
        <Bar>
          <ButtonLink $primary href="/cards">
            Make a card
          </ButtonLink>
        </Bar>
      </Dialog>
    );
  }
  const steps = [
    ...checklist(rig.profile, card, memory, distance.unit),
    `Say: “${words.trim() || '...'}”, into a dummy load, and store it in memory ${slot}.`,
  ];
  return (
    <EditSheet
      title={`Memory ${slot} of ${rig.name}`}
      draft={draft}
      isReady={words.trim() !== ''}
      save={() => recordMemory({ rigId: rig.id, slot, words, cardId: card.id })}
      saveWords="It is recorded"
      beside={<ButtonLink href={`/cards/${card.id}/sheet`}>Dial sheet of the card</ButtonLink>}
      onClose={onClose}
    >
      <Picker
        label="With card"
        choices={cards.map(({ id, name, operator, mode }) => ({ id: String(id), text: name, note: `${operator}, ${MODE_LABELS[mode]}` }))}
        value={cardId}
        onChange={(id) => {
          draft.set({ cardId: id });
          setDone([]);
        }}
      />
      <Field label="Words" value={words} onChange={(text) => draft.set({ words: text })} maxLength={300} />
      <Steps>
        {steps.map((step) => (
          <li key={step}>
            <Check
              isSelected={done.includes(step)}
              onChange={(isOn) => setDone(isOn ? [...done, step] : done.filter((each) => each !== step))}
            >
              {step}
            </Check>
          </li>
        ))}
      </Steps>
    </EditSheet>
  );
}

function checklist(rig: RigProfile, card: CardSummary, memory: VoiceMemoryView | undefined, unit: DistanceUnit): string[] {
  const settings = card.switches;
  const use = memory && memory.card.id === card.id ? memory.use : null;
  return [
    `Set the radio to ${MODE_LABELS[card.mode]} (${PURPOSE_LABELS[card.purpose]}).`,
    ...(use ? [`Microphone: ${microphoneUseText(use, unit)}.`] : []),
    ...settings.map(({ label, value }) => `${label}: ${value}.`),
    `The other dials of ${rig.name} as the card's sheet has them.`,
    'ALC on speech peaks inside its zone.',
  ];
}
