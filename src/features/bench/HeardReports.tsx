/** What other stations say of the card as it stands, weighed; and the way to note another. */
import Link from 'next/link';
import type { BenchView } from '@/server/bench/bench.ts';
import { HeardOn } from '@/ui/measured/HeardOn.tsx';
import { ReportLines } from '@/ui/reports/ReportLines.tsx';
import { Verdicts } from '@/ui/reports/Verdicts.tsx';

/** The over in view as all its receivers heard it. */
export function Receivers({ bench: { heard, over } }: { bench: BenchView }) {
  return (
    <section aria-label="Receivers" style={{ marginTop: 18, maxWidth: 760 }}>
      <h2>
        <Link href={`/overs/${over?.id}`}>Over {over?.id}</Link> on {heard.length} receivers
      </h2>
      <HeardOn captures={heard} shownId={over?.capture?.id} />
    </section>
  );
}

export function HeardReports({ bench: { card, over, reports } }: { bench: BenchView }) {
  const [newest] = card.revisions;
  const now = reports.filter(({ revision }) => revision === newest.number);
  const findings = over?.revision.id === newest.id ? (over.measured?.result.findings ?? null) : null;
  return (
    <section aria-label="Reports" style={{ marginTop: 18, maxWidth: 760 }}>
      <h2>Reports</h2>
      {now.length > 0 ? (
        <>
          <Verdicts reports={now} findings={findings} />
          <ReportLines reports={now} />
        </>
      ) : (
        <p className="soft">
          {reports.length > 0
            ? `None yet with revision ${newest.number}; ${reports.length} with earlier ones.`
            : 'Nobody has reported on this card yet.'}
        </p>
      )}
      <Link href={`/reports?card=${card.id}`}>{reports.length > 0 ? 'All reports of this card, and a new one' : 'Note a report'}</Link>
    </section>
  );
}
