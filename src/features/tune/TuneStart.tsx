'use client';
/** Begins a guided run with the card in work; the ones before, to go on with. */
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import styled from 'styled-components';
import { useDraft } from '@/client/useDraft.ts';
import { useForm } from '@/client/useForm.ts';
import { ALC_SCHOOLS, COMPRESSION_SCHOOLS, LEVEL_ORDERS } from '@/core/advice/index.ts';
import { zoneText } from '@/core/rig/index.ts';
import { PRACTICE_RADIOS } from '@/core/simulate/index.ts';
import { ALC_CHOICES, isOver, stepName, TUNE_EAR_LABELS, TUNE_EARS, TUNE_STEPS, type TuneSchool } from '@/core/tune/index.ts';
import type { CardSummary } from '@/server/cards/cardList.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { beginTune } from '@/server/tune/actions.ts';
import type { TuneRunSummary } from '@/server/tune/tuneRuns.ts';
import { Button } from '@/ui/parts/Button.tsx';
import { RefusalNotice } from '@/ui/parts/DraftNotice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { utc } from '@/ui/utc.ts';

const Row = styled.form`display: flex; flex-wrap: wrap; gap: 12px 16px; align-items: end; margin: 12px 0 22px;`;

const Chosen = styled.dl`
  flex-basis: 100%; display: grid; grid-template-columns: max-content minmax(0, 1fr); gap: 3px 14px; margin: 4px 0 0; max-width: 760px;
  dt { color: var(--soft); } dd { margin: 0; }`;

interface TuneStartProps {
  /** The card in work. */
  readonly card: CardView;
  readonly cards: readonly CardSummary[];
  readonly runs: readonly TuneRunSummary[];
  /** How its operator tuned last. */
  readonly school: TuneSchool;
}

export function TuneStart({ card, cards, runs, school }: TuneStartProps) {
  const open = runs.find((run) => run.card.id === card.id && run.endedAt === null);
  return (
    <Shell>
      <Page>
        <h1>Tune</h1>
        <p className="soft">
          One guided run over a card, in the order operators walk it: microphone, baseline, passband, level, compressor, equalizer, level
          again, and a check by something that is not the radio. About twenty minutes; it waits for you if you stop.
        </p>
        {open && (
          <p>
            <Link href={`/tune/${open.id}`}>Go on with {card.name}</Link>: begun {utc(open.startedAt)} UTC, at step{' '}
            {stepName(open.run.at, card.mode).toLowerCase()}.
          </p>
        )}
        <h2>New run</h2>
        <Begin card={card} cards={cards} school={school} />
        {runs.length > 0 && <Before runs={runs} />}
      </Page>
    </Shell>
  );
}

function Begin({ card, cards, school }: Omit<TuneStartProps, 'runs'>) {
  const router = useRouter();
  const [choice, setChoice] = useState({
    ...school,
    ears: card.practiceRadio === null ? school.ears : ('practice' as const),
    radio: String(card.practiceRadio ?? 1),
  });
  const set = (change: Partial<typeof choice>) => setChoice({ ...choice, ...change });
  const { alc, compression, order, ears } = choice;
  const isPractice = ears === 'practice';
  const { refusal, isSaving, submit } = useForm(
    useDraft('new tune run', {}),
    async () => beginTune({ cardId: card.id, alc, compression, order, ears, radio: isPractice ? Number(choice.radio) : null }),
    (id) => router.push(`/tune/${id}`),
  );
  const { rig } = card;
  return (
    <Row
      aria-label="New run"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <Picker
        label="Card"
        value={String(card.id)}
        choices={cards.map(({ id, name, operator, rig: on }) => ({ id: String(id), text: name, note: `${operator} on ${on}` }))}
        onChange={(id) => router.push(`/tune?card=${id}`)}
      />
      <Picker
        label="Heard by"
        value={ears}
        choices={[...TUNE_EARS, 'practice' as const].map((id) => ({ id, text: TUNE_EAR_LABELS[id].name, note: TUNE_EAR_LABELS[id].note }))}
        onChange={(id) => set({ ears: id as typeof ears })}
      />
      {isPractice && (
        <Picker
          label="Practice radio"
          value={choice.radio}
          choices={Array.from({ length: PRACTICE_RADIOS }, (_, k) => ({ id: String(k + 1), text: `Number ${k + 1}` }))}
          onChange={(radio) => set({ radio })}
        />
      )}
      <Picker
        label="ALC on speech peaks"
        value={alc}
        choices={ALC_CHOICES.map((id) =>
          id === 'rig'
            ? { id, text: `As the radio is marked, ${zoneText(rig.profile.alc)}`, note: `the zone in the profile of ${rig.name}` }
            : { id, text: ALC_SCHOOLS[id].name, note: ALC_SCHOOLS[id].note },
        )}
        onChange={(id) => set({ alc: id as typeof alc })}
      />
      <Picker
        label="Compression"
        value={compression}
        choices={Object.entries(COMPRESSION_SCHOOLS).map(([id, { name, note }]) => ({ id, text: name, note }))}
        onChange={(id) => set({ compression: id as typeof compression })}
      />
      <Picker
        label="Order"
        value={order}
        choices={Object.entries(LEVEL_ORDERS).map(([id, { name, note }]) => ({ id, text: name, note }))}
        onChange={(id) => set({ order: id as typeof order })}
      />
      <Button type="submit" primary isDisabled={isSaving}>
        Begin
      </Button>
      <RefusalNotice refusal={refusal} onForce={submit} />
      <Chosen aria-label="What was chosen">
        <dt>ALC</dt>
        <dd>{alc === 'rig' ? `between ${zoneText(rig.profile.alc)} as ${rig.name} is marked` : ALC_SCHOOLS[alc].note}</dd>
        <dt>Compression</dt>
        <dd>{COMPRESSION_SCHOOLS[compression].note}</dd>
        <dt>Order</dt>
        <dd>{LEVEL_ORDERS[order].note}</dd>
        <dt>Heard by</dt>
        <dd>{TUNE_EAR_LABELS[ears].note}</dd>
      </Chosen>
    </Row>
  );
}

function Before({ runs }: { runs: readonly TuneRunSummary[] }) {
  return (
    <Scroll>
      <Table aria-label="Runs">
        <TableHead columns={['begun (UTC)', 'card', 'heard by', { number: 'overs' }, { number: 'steps' }, 'stands at']} />
        <tbody>
          {runs.map(({ id, startedAt, endedAt, run, card, mode, operator, rig, overs }) => (
            <tr key={id}>
              <td className="mono whole">
                <Link href={`/tune/${id}`}>{utc(startedAt)}</Link>
              </td>
              <td>
                {operator} on {rig}, <Link href={`/cards/${card.id}`}>{card.name}</Link>
              </td>
              <td>{TUNE_EAR_LABELS[run.ears].name}</td>
              <td className="num">{overs}</td>
              <td className="num">
                {run.done.length} of {TUNE_STEPS.length}
              </td>
              <td>{endedAt !== null && isOver(run) ? 'finished' : stepName(run.at, mode)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}
