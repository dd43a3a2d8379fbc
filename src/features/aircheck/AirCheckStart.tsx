'use client';
/** Begins an air check with the card in work; the ones before. */
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import styled from 'styled-components';
import { useDraft } from '@/client/useDraft.ts';
import { useForm } from '@/client/useForm.ts';
import { PATH_LABELS, REPORT_PATHS, type ReportPath } from '@/core/advice/index.ts';
import { beginAirCheck } from '@/server/aircheck/actions.ts';
import type { AirCheckSummary } from '@/server/aircheck/airChecks.ts';
import type { CardSummary } from '@/server/cards/cardList.ts';
import { Button } from '@/ui/parts/Button.tsx';
import { RefusalNotice } from '@/ui/parts/DraftNotice.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { utc } from '@/ui/utc.ts';
import { GuestForm } from './GuestForm.tsx';

const Row = styled.form`display: flex; flex-wrap: wrap; gap: 12px 16px; align-items: end; margin: 12px 0 18px;`;

interface AirCheckStartProps {
  readonly cards: readonly CardSummary[];
  readonly cardId: number | null;
  readonly checks: readonly AirCheckSummary[];
}

export function AirCheckStart({ cards, cardId, checks }: AirCheckStartProps) {
  return (
    <Shell>
      <Page>
        <h1>Air check</h1>
        <p className="soft">On the air: listen first, ask whether the frequency is in use, and identify as your licence requires.</p>
        <h2>I am being checked</h2>
        <p className="soft">
          Another station listens and advises, and you turn the dials. Type what you hear; at the end it is one revision of the card, with
          the readings and the reports.
        </p>
        {cardId === null ? (
          <p>
            An air check works on a card, and there is none yet. <Link href="/cards">Make a card</Link> first.
          </p>
        ) : (
          <Begin cards={cards} cardId={cardId} />
        )}
        <GuestForm />
        {checks.length > 0 && <Before checks={checks} />}
      </Page>
    </Shell>
  );
}

function Begin({ cards, cardId }: { cards: readonly CardSummary[]; cardId: number }) {
  const router = useRouter();
  const form = useDraft('new air check', { station: '', path: 'unknown' as ReportPath, card: String(cardId) });
  const { station, path, card } = form.value;
  const chosen = cards.find(({ id }) => String(id) === card) ?? cards.find(({ id }) => id === cardId);
  const { refusal, isSaving, submit } = useForm(
    form,
    async () => beginAirCheck({ cardId: chosen?.id ?? cardId, station: station.trim(), path }),
    (id) => {
      form.discard();
      router.push(`/aircheck/${id}`);
    },
  );
  return (
    <Row
      aria-label="New air check"
      onSubmit={(event) => {
        event.preventDefault();
        if (station.trim() !== '') submit();
      }}
    >
      <Field label="Who checks you" value={station} onChange={(words) => form.set({ station: words })} maxLength={60} autoFocus />
      <Picker
        label="Path"
        choices={REPORT_PATHS.map((id) => ({ id, text: PATH_LABELS[id] }))}
        value={path}
        onChange={(id) => form.set({ path: id as ReportPath })}
      />
      <Picker
        label="With card"
        choices={cards.map(({ id, name, operator, rig }) => ({ id: String(id), text: name, note: `${operator} on ${rig}` }))}
        value={String(chosen?.id ?? cardId)}
        onChange={(id) => form.set({ card: id })}
      />
      <Button type="submit" primary isDisabled={station.trim() === '' || isSaving}>
        Begin
      </Button>
      <RefusalNotice refusal={refusal} onForce={submit} />
    </Row>
  );
}

function outcome({ side, endedAt, endedRevision }: AirCheckSummary): string {
  if (endedAt === null) return 'still going on';
  if (side === 'checking') return endedRevision === null ? 'nothing told of the dials' : 'their dials noted';
  return endedRevision === null ? 'no dial moved' : `revision ${endedRevision}`;
}

function Before({ checks }: { checks: readonly AirCheckSummary[] }) {
  return (
    <Scroll>
      <Table aria-label="Air checks before">
        <TableHead columns={['begun (UTC)', 'side', 'with', 'card', { number: 'lines' }, 'came to']} />
        <tbody>
          {checks.map((check) => {
            const { id, startedAt, side, station, card, operator, revision, lines } = check;
            return (
              <tr key={id}>
                <td className="mono whole">
                  <Link href={`/aircheck/${id}`}>{utc(startedAt)}</Link>
                </td>
                <td className="whole">{side === 'checking' ? 'I checked' : 'checked by'}</td>
                <td>{station}</td>
                <td>
                  {operator}, <Link href={`/cards/${card.id}`}>{card.name}</Link> rev. {revision}
                </td>
                <td className="num">{lines}</td>
                <td>{outcome(check)}</td>
              </tr>
            );
          })}
        </tbody>
      </Table>
    </Scroll>
  );
}
