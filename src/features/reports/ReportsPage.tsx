'use client';
/** What other stations said: entry on a live net, the list, and what it comes to. */
import Link from 'next/link';
import { useState, useTransition } from 'react';
import { FileTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import type { Finding } from '@/core/findings/index.ts';
import type { CardSummary } from '@/server/cards/cardList.ts';
import { importReports, removeReport, saveReport } from '@/server/reports/actions.ts';
import type { ReportView } from '@/server/reports/reports.ts';
import { Bar, Button, ButtonLink, FileLink } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Paging } from '@/ui/parts/Paging.tsx';
import { SearchBar } from '@/ui/parts/SearchBar.tsx';
import { ReportLines } from '@/ui/reports/ReportLines.tsx';
import { Verdicts } from '@/ui/reports/Verdicts.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { NewReport } from './NewReport.tsx';

const Tools = styled.div`display: flex; flex-wrap: wrap; gap: 8px 20px; align-items: center; margin: 0 0 6px;`;
const MOST_BYTES = 900_000;

export interface ReportsPageProps {
  readonly reports: readonly ReportView[];
  readonly cards: readonly CardSummary[];
  readonly card: CardSummary | null;
  readonly overId?: number;
  /** All reports of that card as it stands. */
  readonly ofCard: readonly ReportView[];
  readonly findings: readonly Finding[] | null;
  readonly page: number;
  readonly pages: number;
  readonly total: number;
  readonly search?: string;
  /** The list holds one card's reports only. */
  readonly isOneCard: boolean;
}

export function ReportsPage(props: ReportsPageProps) {
  const { reports, cards, card, overId, ofCard, findings, page, pages, total, search, isOneCard } = props;
  return (
    <Shell>
      <Page {...(card && { 'data-card': card.id })}>
        <h1>Reports{overId === undefined ? '' : ` on over ${overId}`}</h1>
        <p className="soft">What other stations said of your signal. How much each counts hangs on how they heard you.</p>
        {card ? (
          <NewReport key={`${card.id} ${overId}`} cards={cards} cardId={card.id} overId={overId} />
        ) : (
          <p>
            A report belongs to a card, and there is none yet. <Link href="/cards">Make a card</Link> first.
          </p>
        )}
        {card && ofCard.length > 0 && (
          <section aria-label="What they come to">
            <h2>
              {card.name}, revision {card.revision}
            </h2>
            <Verdicts reports={ofCard} findings={findings} />
          </section>
        )}
        <Tools className="no-print">
          <SearchBar label="Find" />
          <span className="soft">
            {total} {total === 1 ? 'report' : 'reports'}
          </span>
          {isOneCard && <Link href="/reports">Reports of all cards</Link>}
          {total > 0 && <FileLink href="/api/reports.adi">Save as ADIF</FileLink>}
          {total > 0 && <FileLink href="/api/reports.csv">Save as CSV</FileLink>}
          {card && <ImportLog card={card} />}
        </Tools>
        <Listed reports={reports} />
        {reports.length === 0 && (
          <p>{search ? `No report has “${search}” in it.` : 'No report yet. Ask for one on the air, and type it as it is said.'}</p>
        )}
        <Paging page={page} pages={pages} path="/reports" />
        <Bar>
          <ButtonLink href="/overs">All overs</ButtonLink>
        </Bar>
      </Page>
    </Shell>
  );
}

/** The list, from which a report can be taken out and put back. */
function Listed({ reports }: { reports: readonly ReportView[] }) {
  const [gone, setGone] = useState<ReportView | null>(null);
  const [message, setMessage] = useState<string | null>(null);
  const [isBusy, start] = useTransition();
  const remove = (report: ReportView) =>
    start(async () => {
      const answer = await asked(removeReport({ reportId: report.id }));
      setMessage(answer.ok ? null : answer.message);
      setGone(answer.ok ? report : null);
    });
  const putBack = ({ revisionId, overId, station, place, receiver, path, text, madeAt }: ReportView) =>
    start(async () => {
      const report = { cardRevisionId: revisionId, overId, station, place, receiver, path, text, madeAt };
      const answer = await asked(saveReport(report));
      setMessage(answer.ok ? null : answer.message);
      if (answer.ok) setGone(null);
    });
  return (
    <>
      {message && <Notice tone="fault">{message}</Notice>}
      {gone && (
        <Notice>
          The report of {gone.station} is deleted. <Button onPress={() => putBack(gone)}>Undo</Button>
        </Notice>
      )}
      <ReportLines
        reports={reports}
        withCard
        actions={(report) => (
          <Button isDisabled={isBusy} aria-label={`Delete the report of ${report.station}`} onPress={() => remove(report)}>
            Delete
          </Button>
        )}
      />
    </>
  );
}

function ImportLog({ card }: { card: CardSummary }) {
  const [message, setMessage] = useState<{ tone?: 'fault'; text: string } | null>(null);
  const read = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > MOST_BYTES) return setMessage({ tone: 'fault', text: `${file.name} is too large for a log of reports.` });
    const answer = await asked(importReports({ cardRevisionId: card.revisionId, text: await file.text() }));
    setMessage(answer.ok ? { text: answer.value } : { tone: 'fault', text: answer.message });
  };
  return (
    <>
      <FileTrigger acceptedFileTypes={['.adi', '.adif']} onSelect={(files) => void read(files?.[0])}>
        <Button>Import ADIF to {card.name}</Button>
      </FileTrigger>
      {message && <Notice tone={message.tone}>{message.text}</Notice>}
    </>
  );
}
