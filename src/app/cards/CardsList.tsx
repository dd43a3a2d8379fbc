'use client';
/** The cards of the station, and the sheet for a new one. */
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import styled from 'styled-components';
import { MODE_LABELS, PURPOSE_LABELS, PURPOSES, type Purpose } from '@/core/station/card.ts';
import type { Mode } from '@/core/station/rig.ts';
import type { CardSummary } from '@/server/cards.ts';
import type { Station } from '@/server/station.ts';
import { utc } from '@/ui/format.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { makeCard } from '../actions.ts';
import { Page, Shell } from '../shell/Shell.tsx';

const Grid = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: 12px 16px; margin: 12px 0; button { width: 100%; }`;

export function CardsList({ cards, station }: { cards: readonly CardSummary[]; station: Station }) {
  const [isMaking, setIsMaking] = useState(false);
  return (
    <Shell>
      <Page>
        <h1>Cards</h1>
        <p className="soft">A card holds the numbers of every dial of one rig, for one operator, mic, mode and purpose.</p>
        {cards.length === 0 ? (
          <p>No card yet.</p>
        ) : (
          <Scroll>
            <Table>
              <thead>
                <tr>
                  <th>card</th>
                  <th>operator</th>
                  <th>rig</th>
                  <th>mode</th>
                  <th>for</th>
                  <th className="num">revision</th>
                  <th>changed (UTC)</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {cards.map((card) => (
                  <tr key={card.id}>
                    <td>
                      <Link href={`/cards/${card.id}`}>{card.name}</Link>
                    </td>
                    <td>{card.operator}</td>
                    <td>{card.rig}</td>
                    <td>{MODE_LABELS[card.mode]}</td>
                    <td>{PURPOSE_LABELS[card.purpose]}</td>
                    <td className="num">{card.revision}</td>
                    <td className="mono">{utc(card.changedAt)}</td>
                    <td>
                      <Link href={`/bench?card=${card.id}`} aria-label={`${card.name} at the Bench`}>
                        Bench
                      </Link>
                    </td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </Scroll>
        )}
        <Bar>
          <Button primary onPress={() => setIsMaking(true)}>
            New card
          </Button>
        </Bar>
        {isMaking && <NewCard station={station} onClose={() => setIsMaking(false)} />}
      </Page>
    </Shell>
  );
}

const asChoices = (rows: readonly { id: number; name: string }[]) => rows.map(({ id, name }) => ({ id: String(id), text: name }));

function NewCard({ station: { operators, rigs, microphones }, onClose }: { station: Station; onClose: () => void }) {
  const router = useRouter();
  const [name, setName] = useState('');
  const [operator, setOperator] = useState(String(operators[0]?.id ?? ''));
  const [rigId, setRigId] = useState(String(rigs[0]?.id ?? ''));
  const [microphone, setMicrophone] = useState(String(microphones[0]?.id ?? ''));
  const [purpose, setPurpose] = useState<Purpose>('balanced');
  const rig = rigs.find(({ id }) => String(id) === rigId);
  const [wantedMode, setMode] = useState<Mode | null>(null);
  const mode = wantedMode && rig?.profile.modes.includes(wantedMode) ? wantedMode : rig?.profile.modes[0];
  const [message, setMessage] = useState<string | null>(null);
  const [isSaving, start] = useTransition();
  const lacks = [
    ['an operator', operators],
    ['a rig', rigs],
    ['a microphone', microphones],
  ].filter(([, rows]) => rows.length === 0);
  if (lacks.length > 0 || !mode) {
    return (
      <Dialog title="New card" isOpen onClose={onClose}>
        <p>A card needs {lacks.map(([what]) => what).join(' and ')} first.</p>
        <Bar>
          <ButtonLink $primary href="/station">
            Describe the station
          </ButtonLink>
        </Bar>
      </Dialog>
    );
  }
  const save = () =>
    start(async () => {
      const answer = await makeCard({
        name,
        operatorId: Number(operator),
        rigId: Number(rigId),
        microphoneId: Number(microphone),
        mode,
        purpose,
      });
      if (answer.ok) router.push(`/cards/${answer.value}`);
      else setMessage(answer.message);
    });
  return (
    <Dialog title="New card" isOpen onClose={onClose}>
      <Field label="Name, for example Evening net" value={name} onChange={setName} maxLength={80} autoFocus />
      <Grid>
        <Picker label="Operator" choices={asChoices(operators)} value={operator} onChange={setOperator} />
        <Picker label="Microphone" choices={asChoices(microphones)} value={microphone} onChange={setMicrophone} />
        <Picker label="Rig" choices={asChoices(rigs)} value={rigId} onChange={setRigId} />
        <Picker
          label="Mode"
          choices={(rig?.profile.modes ?? []).map((id) => ({ id, text: MODE_LABELS[id] }))}
          value={mode}
          onChange={(id) => setMode(id as Mode)}
        />
        <Picker
          label="For"
          choices={PURPOSES.map((id) => ({ id, text: PURPOSE_LABELS[id] }))}
          value={purpose}
          onChange={(id) => setPurpose(id as Purpose)}
        />
      </Grid>
      <p className="soft">It starts with the radio's factory values; copy what your radio shows into it next.</p>
      {message && <Notice tone="fault">{message}</Notice>}
      <Bar>
        <Button primary isDisabled={isSaving || name.trim() === ''} onPress={save}>
          Make the card
        </Button>
        <Button onPress={onClose}>Leave it</Button>
      </Bar>
    </Dialog>
  );
}
