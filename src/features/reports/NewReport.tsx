'use client';
/** A report typed while it is given: who, by which path, and the words; what is read in them stands under it. */
import { useMemo, useState } from 'react';
import styled from 'styled-components';
import { useDraft } from '@/client/useDraft.ts';
import { useForm } from '@/client/useForm.ts';
import { PATH_LABELS, REPORT_PATHS, type ReportPath } from '@/core/advice/index.ts';
import { LONGEST_REPORT, readReport } from '@/core/language/index.ts';
import type { CardSummary } from '@/server/cards/cardList.ts';
import { saveReport } from '@/server/reports/actions.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { RefusalNotice, RestoredNotice } from '@/ui/parts/DraftNotice.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { TextArea } from '@/ui/parts/TextArea.tsx';
import { readText } from '@/ui/reports/ReportLines.tsx';

const Sheet = styled.form`
  display: grid; grid-template-columns: repeat(4, minmax(0, 1fr)); gap: 10px 14px; border: 1px solid var(--line); border-radius: 4px;
  background: var(--sheet); padding: 12px 14px; margin: 10px 0 16px;
  .wide { grid-column: 1 / -1; } button[aria-haspopup] { width: 100%; }
  @media (max-width: 820px) { grid-template-columns: repeat(2, minmax(0, 1fr)); }`;

const EMPTY = { station: '', place: '', receiver: '', path: 'unknown' as ReportPath, text: '' };
const NOTHING = { readability: null, strength: null, overS9Db: null };

interface NewReportProps {
  readonly cards: readonly CardSummary[];
  readonly cardId: number;
  readonly overId?: number;
}

export function NewReport({ cards, cardId, overId }: NewReportProps) {
  const [chosen, setChosen] = useState(String(cardId));
  const card = cards.find(({ id }) => String(id) === chosen) ?? cards[0];
  const form = useDraft(`report ${card.id} ${overId ?? ''}`, EMPTY);
  const [kept, setKept] = useState<string | null>(null);
  /** A new one after each report: the next station's name has the focus. */
  const [round, setRound] = useState(0);
  const { station, place, receiver, path, text } = form.value;
  const read = useMemo(() => readReport(text.slice(0, LONGEST_REPORT)), [text]);
  const isGood = station.trim() !== '' && text.trim() !== '' && text.length <= LONGEST_REPORT;
  const { refusal, isSaving, submit } = useForm(
    form,
    async () =>
      saveReport({
        cardRevisionId: card.revisionId,
        ...(overId !== undefined && card.id === cardId && { overId }),
        station: station.trim(),
        place: place.trim(),
        receiver: receiver.trim(),
        path,
        text: text.trim(),
      }),
    () => {
      form.discard();
      setRound(round + 1);
      setKept(`Saved: ${station.trim()} on ${card.name}, revision ${card.revision}.`);
    },
  );
  const set = (change: Partial<typeof EMPTY>) => {
    setKept(null);
    form.set(change);
  };
  const send = () => isGood && !isSaving && submit();
  return (
    <Sheet
      aria-label="New report"
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
      onKeyDown={(event) => {
        // Enter sends, as on a net there is no time for a button; Shift and Enter is a new line.
        if (event.key !== 'Enter' || event.shiftKey || !(event.target instanceof HTMLTextAreaElement)) return;
        event.preventDefault();
        send();
      }}
    >
      <Field
        key={round}
        label="From (callsign or name)"
        value={station}
        onChange={(words) => set({ station: words })}
        maxLength={60}
        autoFocus
      />
      <Picker
        label="Path"
        choices={REPORT_PATHS.map((id) => ({ id, text: PATH_LABELS[id] }))}
        value={path}
        onChange={(id) => set({ path: id as ReportPath })}
      />
      <Field label="Where" value={place} onChange={(words) => set({ place: words })} maxLength={120} />
      <Field
        label="Their receiver (noise reduction, AGC ...)"
        value={receiver}
        onChange={(words) => set({ receiver: words })}
        maxLength={200}
      />
      <div className="wide">
        <TextArea
          label="As they say it; Enter saves"
          value={text}
          onChange={(words) => set({ text: words })}
          rows={2}
          error={text.length > LONGEST_REPORT ? `At most ${LONGEST_REPORT} characters.` : undefined}
        />
        <p className="soft" aria-live="polite" style={{ margin: '4px 0 0' }}>
          {text.trim() !== '' && readText(read.signal ?? NOTHING, read.remarks)}
          {read.advice.length > 0 && `. Advice for the dial line: ${read.advice.map(({ line }) => line).join('; ')}`}
        </p>
      </div>
      <div className="wide">
        <Bar style={{ margin: 0 }}>
          <Picker
            label="On card"
            choices={cards.map(({ id, name, operator, rig }) => ({ id: String(id), text: name, note: `${operator} on ${rig}` }))}
            value={String(card.id)}
            onChange={setChosen}
          />
          <Button type="submit" primary isDisabled={!isGood || isSaving}>
            Save report
          </Button>
          <ButtonLink href={`/bench?card=${card.id}`}>To the Bench</ButtonLink>
          {kept && <span role="status">{kept}</span>}
        </Bar>
        <RestoredNotice at={form.isChanged ? form.restoredAt : null} onDiscard={form.discard} />
        <RefusalNotice refusal={refusal} onForce={submit} />
      </div>
    </Sheet>
  );
}
