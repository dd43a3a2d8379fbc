'use client';
/** Every dial of a card by stage, edited in place; revisions, what each changed, and the way back. */
import { useState, useTransition } from 'react';
import styled from 'styled-components';
import { type DialValues, MODE_LABELS, PURPOSE_LABELS, valueOn } from '@/core/station/card.ts';
import { effective } from '@/core/station/effective.ts';
import { DIAL_STAGES } from '@/core/station/rig.ts';
import { sheet, valueText } from '@/core/station/sheet.ts';
import type { CardView } from '@/server/cards.ts';
import { utc } from '@/ui/format.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { DialTable } from '@/ui/parts/DialTable.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { changeText } from '@/ui/words.ts';
import { goBackToRevision } from '../../actions.ts';
import { STAGE_NAMES } from '../../bench/stages.ts';
import { Page, Shell } from '../../shell/Shell.tsx';
import { useSave } from '../useSave.ts';

const Columns = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 372px; gap: 32px; align-items: start;
  @media (max-width: 900px) { grid-template-columns: minmax(0, 1fr); }
  h2 { margin-top: 14px; }`;
const Revisions = styled.ol`
  list-style: none; margin: 0; padding: 0;
  li { padding: 8px 0; border-bottom: 1px dotted var(--line); }
  .changes { color: var(--soft); font-size: 13.5px; }
  .line { display: flex; justify-content: space-between; gap: 8px; align-items: baseline; }`;

export function CardPage({ card }: { card: CardView }) {
  const rig = card.rig.profile;
  const [draft, setDraft] = useState<DialValues>({});
  const [reason, setReason] = useState('');
  const { save, isSaving, message } = useSave({ card, over: null });
  const now = { mode: card.mode, values: card.revisions[0].values };
  const wanted = { mode: card.mode, values: { ...now.values, ...draft } };
  const { dials } = effective(rig, wanted);
  const changed = dials.filter(({ dial, value }) => valueOn(now, dial) !== value);
  return (
    <Shell>
      <Page data-card={card.id}>
        <h1>{card.name}</h1>
        <p className="soft">
          {card.operator.name} ({card.operator.callsign}) on {card.rig.name}, {card.microphone.name}, {MODE_LABELS[card.mode]}, for{' '}
          {PURPOSE_LABELS[card.purpose]}. Revision {card.revisions[0].number}.
        </p>
        <Bar>
          <ButtonLink $primary href={`/bench?card=${card.id}`}>
            Tune it at the Bench
          </ButtonLink>
          <ButtonLink href={`/cards/${card.id}/sheet`}>Dial sheet</ButtonLink>
        </Bar>
        <Columns>
          <div>
            {DIAL_STAGES.map((stage) => {
              const own = dials.filter(({ dial }) => dial.stage === stage);
              return (
                own.length > 0 && (
                  <section key={stage}>
                    <h2>{STAGE_NAMES[stage]}</h2>
                    <DialTable
                      rows={own.map((state) => ({
                        ...state,
                        now: valueOn(now, state.dial),
                        why: state.value === valueOn(now, state.dial) ? '' : `was ${valueText(state.dial, valueOn(now, state.dial))}`,
                        onChange: (value) => setDraft({ ...draft, [state.dial.id]: value }),
                      }))}
                    />
                  </section>
                )
              );
            })}
          </div>
          <div>
            <section aria-label="Save">
              <h2>{changed.length === 0 ? 'Nothing changed' : `${changed.length} ${changed.length === 1 ? 'dial' : 'dials'} changed`}</h2>
              {changed.length > 0 && (
                <>
                  <Field label="Why (kept with the revision)" value={reason} onChange={setReason} maxLength={300} />
                  <Bar>
                    <Button
                      primary
                      isDisabled={isSaving}
                      onPress={() =>
                        save({
                          values: Object.fromEntries(changed.map(({ dial, value }) => [dial.id, value])),
                          reason: reason.trim() || 'changed by hand',
                        })
                      }
                    >
                      Save as revision {card.revisions[0].number + 1}
                    </Button>
                    <Button onPress={() => setDraft({})}>Leave it as it was</Button>
                  </Bar>
                </>
              )}
              {message && <Notice tone="fault">{message}</Notice>}
            </section>
            <History card={card} />
          </div>
        </Columns>
      </Page>
    </Shell>
  );
}

function History({ card }: { card: CardView }) {
  const rig = card.rig.profile;
  const [message, setMessage] = useState<string | null>(null);
  const [isSaving, start] = useTransition();
  return (
    <section aria-label="Revisions">
      <h2>Revisions</h2>
      {message && <Notice tone="fault">{message}</Notice>}
      <Revisions>
        {card.revisions.map((revision, i) => {
          const older = card.revisions[i + 1];
          const changes = older ? sheet(rig, { mode: card.mode, values: older.values }, { mode: card.mode, values: revision.values }) : [];
          return (
            <li key={revision.id}>
              <div className="line">
                <b>Revision {revision.number}</b>
                <span className="mono soft">{utc(revision.madeAt)}</span>
              </div>
              <div>{revision.reason}</div>
              <div className="changes">{changes.map(({ dial, from, to }) => `${dial.label} ${changeText(dial, from, to)}`).join('; ')}</div>
              {i > 0 && (
                <Bar style={{ marginTop: 4 }}>
                  <Button
                    isDisabled={isSaving}
                    onPress={() =>
                      start(async () => {
                        const answer = await goBackToRevision({ cardId: card.id, revisionId: revision.id });
                        setMessage(answer.ok ? null : answer.message);
                      })
                    }
                  >
                    Go back to it
                  </Button>
                  <ButtonLink href={`/cards/${card.id}/sheet?from=${revision.number}`}>Sheet from here</ButtonLink>
                </Bar>
              )}
            </li>
          );
        })}
      </Revisions>
    </section>
  );
}
