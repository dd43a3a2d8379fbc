/** Reports as they were given, newest first. */
import Link from 'next/link';
import styled from 'styled-components';
import { PATH_LABELS } from '@/core/advice/index.ts';
import { REMARK_LABELS, type Remark, type SignalReport } from '@/core/language/index.ts';
import type { ReportView } from '@/server/reports/reports.ts';
import { utc } from '../utc.ts';

const List = styled.ol`
  list-style: none; margin: 8px 0; padding: 0;
  li { border-bottom: 1px dotted var(--line); overflow-wrap: anywhere; }
  li { padding: 6px 0 7px; }
  .said, .read { margin: 1px 0; }
  .read { color: var(--soft); font-size: 13.5px; }
  .do { float: right; }`;

interface ReportLinesProps {
  readonly reports: readonly ReportView[];
  /** Whether to say which card each is of. */
  readonly withCard?: boolean;
  readonly actions?: (report: ReportView) => React.ReactNode;
}

export function ReportLines({ reports, withCard = false, actions }: ReportLinesProps) {
  return (
    <List aria-label="Reports">
      {reports.map((report) => (
        <li key={report.id}>
          {actions && <span className="do">{actions(report)}</span>}
          <b>{report.station}</b>
          {report.place && `, ${report.place}`} <span className="mono soft">{utc(report.madeAt)} UTC</span>
          <span className="soft">
            {' '}
            {PATH_LABELS[report.path]}
            {report.receiver && `, ${report.receiver}`}
            {report.overId !== null && (
              <>
                , <Link href={`/overs/${report.overId}`}>over {report.overId}</Link>
              </>
            )}
          </span>
          {withCard && (
            <span className="soft">
              , on {report.operator.name}, <Link href={`/cards/${report.card.id}`}>{report.card.name}</Link> rev. {report.revision}
            </span>
          )}
          <p className="said">“{report.text}”</p>
          <p className="read">{readText(report.signal, report.remarks)}</p>
        </li>
      ))}
    </List>
  );
}

/** What is read in a report, in a line. */
export function readText({ readability, strength, overS9Db }: SignalReport, remarks: readonly Remark[]): string {
  const signal = [
    readability !== null && `readability ${readability}`,
    strength !== null && `S${strength}${overS9Db === null ? '' : ` plus ${overS9Db} dB`}`,
  ].filter(Boolean);
  const said = remarks.map(({ code, sense, degree, about }) => {
    const how = { is: '', 'is-not': 'not ', less: 'less ', more: 'more ' }[sense];
    const much = sense === 'is' && degree !== 'plain' ? ` (${degree})` : '';
    if (code === 'good' && (sense === 'more' || sense === 'less')) return sense === 'more' ? 'better than before' : 'worse than before';
    return `${how}${REMARK_LABELS[code]}${much}${about === 'signal' ? '' : `, the ${about}`}`;
  });
  const all = [...signal, ...said];
  return all.length === 0 ? 'No remark that is known here; kept as it was said.' : all.join(', ');
}
