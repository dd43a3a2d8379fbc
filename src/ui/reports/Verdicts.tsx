/** What the reports of a card come to, weighed by their paths. */
import { weighReports } from '@/core/advice/index.ts';
import type { Finding } from '@/core/findings/index.ts';
import type { ReportView } from '@/server/reports/reports.ts';
import { StateMark } from '../parts/StateMark.tsx';

interface VerdictsProps {
  readonly reports: readonly ReportView[];
  /** Of the card's newest measured voice; null where nothing is measured. */
  readonly findings: readonly Finding[] | null;
}

export function Verdicts({ reports, findings }: VerdictsProps) {
  const { verdicts, askAgain } = weighReports(reports, findings);
  return (
    <>
      {verdicts.map(({ code, text, holds }) => (
        <p key={code} style={{ margin: '4px 0' }}>
          <StateMark state={!holds ? 'unknown' : code === 'good' ? 'ok' : 'watch'} hidden /> {text}
        </p>
      ))}
      {askAgain && <p>{askAgain}</p>}
    </>
  );
}
