'use client';
/** What this run has turned and seen so far, newest first. */
import { dialOf, valueText } from '@/core/rig/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { TuneRunSummary } from '@/server/tune/tuneRuns.ts';
import { Table } from '@/ui/parts/Table.tsx';

const MOST = 12;

export function SoFar({ tune, bench: { card, trail } }: { tune: TuneRunSummary; bench: BenchView }) {
  const rig = card.rig.profile;
  const moves = trail.filter(({ revision }) => revision > tune.revision).slice(0, MOST);
  const overs = `${tune.overs} ${tune.overs === 1 ? 'over' : 'overs'}`;
  const count = card.revisions[0].number - tune.revision;
  return (
    <section aria-label="This run so far">
      <h2 style={{ margin: 0 }}>This run so far</h2>
      <p className="soft">
        {overs}, {count} {count === 1 ? 'change' : 'changes'} of the card since revision {tune.revision}.
      </p>
      {moves.length > 0 && (
        <Table aria-label="Dials turned in this run">
          <tbody>
            {moves.map(({ id, revision, dialId, from, to }) => (
              <tr key={id}>
                <td className="num soft">{revision}</td>
                <td>{dialOf(rig, dialId).label}</td>
                <td className="num">{valueText(dialOf(rig, dialId), from)}</td>
                <td className="num">{valueText(dialOf(rig, dialId), to)}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </section>
  );
}
