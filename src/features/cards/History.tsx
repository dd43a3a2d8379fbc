'use client';
/** A card's revisions: who, when, why, what changed; any two compared; any one brought back. */
import { useState, useTransition } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import { changeText } from '@/core/advice/index.ts';
import { isSameUse, sheet, soundChange, valueText } from '@/core/rig/index.ts';
import { fixed } from '@/core/units/index.ts';
import { findOlderRevisions, goBackToRevision } from '@/server/cards/actions.ts';
import type { CardView, RevisionView } from '@/server/cards/cards.ts';
import { useDistance } from '@/ui/distance.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { utc } from '@/ui/utc.ts';

const Revisions = styled.ol`
  list-style: none; margin: 0; padding: 0; max-height: 620px; overflow: auto;
  li { padding: 8px 0; border-bottom: 1px dotted var(--line); }
  .changes { color: var(--soft); font-size: 13.5px; }
  .line { display: flex; justify-content: space-between; gap: 8px; align-items: baseline; }`;

export function History({ card: newest }: { card: CardView }) {
  // Older revisions are fetched when they are asked for.
  const [older, setOlder] = useState<readonly RevisionView[]>([]);
  const last = older.at(-1) ?? newest.revisions[newest.revisions.length - 1];
  const known = new Set(newest.revisions.map(({ id }) => id));
  const card = { ...newest, revisions: [...newest.revisions, ...older.filter(({ id }) => !known.has(id))] };
  const [message, setMessage] = useState<string | null>(null);
  const [isSaving, start] = useTransition();
  return (
    <section aria-label="Revisions">
      <h2>Revisions</h2>
      {card.revisions.length > 1 && <Comparison card={card} />}
      {message && <Notice tone="fault">{message}</Notice>}
      <Revisions tabIndex={0} aria-label="All revisions">
        {card.revisions.map((revision, i) => (
          <Revision key={revision.id} card={card} revision={revision} before={card.revisions[i + 1]} isNewest={i === 0} />
        ))}
        {last.number > 1 && (
          <li>
            <Button
              isDisabled={isSaving}
              onPress={() =>
                start(async () => {
                  const answer = await asked(findOlderRevisions({ cardId: card.id, before: last.number }));
                  setMessage(answer.ok ? null : answer.message);
                  if (answer.ok) setOlder([...older, ...answer.value]);
                })
              }
            >
              Older revisions
            </Button>
          </li>
        )}
      </Revisions>
    </section>
  );
}

interface RevisionProps {
  readonly card: CardView;
  readonly revision: RevisionView;
  readonly before?: RevisionView;
  readonly isNewest: boolean;
}

/** Who, when, why and what changed; any but the newest can be brought back. */
function Revision({ card, revision, before, isNewest }: RevisionProps) {
  const [message, setMessage] = useState<string | null>(null);
  const [isSaving, start] = useTransition();
  const changes = useChanges(card, revision, before);
  const goBack = () =>
    start(async () => {
      const answer = await asked(goBackToRevision({ cardId: card.id, revisionId: revision.id }));
      setMessage(answer.ok ? null : answer.message);
    });
  return (
    <li>
      <div className="line">
        <b>Revision {revision.number}</b>
        <span className="mono soft">{utc(revision.madeAt)}</span>
      </div>
      <div>
        {revision.reason}
        {revision.by && <span className="soft"> ({revision.by})</span>}
      </div>
      <div className="changes">{changes.join('; ')}</div>
      {message && <Notice tone="fault">{message}</Notice>}
      {!isNewest && (
        <Bar style={{ marginTop: 4 }}>
          <Button isDisabled={isSaving} onPress={goBack}>
            Go back to it
          </Button>
          <ButtonLink href={`/cards/${card.id}/sheet?from=${revision.number}`}>Sheet from here</ButtonLink>
        </Bar>
      )}
    </li>
  );
}

/** What a revision changed of the one before, in words. */
function useChanges(card: CardView, revision: RevisionView, before: RevisionView | undefined): readonly string[] {
  const distance = useDistance();
  if (!before) return [];
  const as = ({ values }: RevisionView) => ({ mode: card.mode, values });
  const dials = sheet(card.rig.profile, as(before), as(revision)).map(
    ({ dial, from, to }) => `${dial.label} ${changeText(dial, from ?? dial.rest, to)}`,
  );
  const isMoved = !isSameUse(before.use, revision.use);
  return [...dials, ...(isMoved ? [`microphone ${distance.useText(before.use)} → ${distance.useText(revision.use)}`] : [])];
}

/** Two revisions side by side: only what differs. */
function Comparison({ card }: { card: CardView }) {
  const distance = useDistance();
  const rig = card.rig.profile;
  const [a, setA] = useState(card.revisions[1].number);
  const [b, setB] = useState(card.revisions[0].number);
  const find = (number: number) => card.revisions.find((each) => each.number === number) ?? card.revisions[0];
  const [left, right] = [find(a), find(b)];
  const as = ({ values, use }: RevisionView) => ({ mode: card.mode, values, use });
  const lines = sheet(rig, as(left), as(right));
  const change = soundChange(rig, as(left), as(right));
  const choices = card.revisions.map(({ number, reason }) => ({ id: String(number), text: String(number), note: reason }));
  return (
    <details>
      <summary>Compare two revisions</summary>
      <div style={{ marginTop: 6 }}>
        Revision <Picker inline label="First revision" choices={choices} value={String(a)} onChange={(id) => setA(Number(id))} /> against{' '}
        <Picker inline label="Second revision" choices={choices} value={String(b)} onChange={(id) => setB(Number(id))} />:{' '}
        {change === null
          ? 'they sound the same.'
          : change.equalizerDb > 0.1
            ? `their equalizers differ by up to ${fixed(change.equalizerDb, 1)} dB.`
            : 'the same equalizer curve.'}
      </div>
      {lines.length > 0 && (
        <Table>
          <TableHead columns={['dial', { number: String(a) }, { number: String(b) }]} />
          <tbody>
            {lines.map(({ dial, from, to }) => (
              <tr key={dial.id}>
                <td>{dial.label}</td>
                <td className="num">{valueText(dial, from ?? dial.rest)}</td>
                <td className="num">{valueText(dial, to)}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      {!isSameUse(left.use, right.use) && (
        <p>
          Microphone: {distance.useText(left.use)} → {distance.useText(right.use)}
        </p>
      )}
    </details>
  );
}
