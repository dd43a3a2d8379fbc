/** A card's overs, readings and reports as the advice engine takes them. */
import { type SeenOver, type StoredOver, type StoredReport, seenHistory, type Tap, type TestMeasurement } from '@/core/advice/index.ts';
import type { SsbMeasurement, VoiceDetail } from '@/core/measure/index.ts';
import { type CardView, loadCard } from '../cards/cards.ts';
import type { ReceiverKind } from '../db/models.ts';
import { listOvers } from '../overs/overs.ts';
import { capturesOfOvers, loadOvers, type OverView } from '../overs/overView.ts';
import { listReadings } from '../readings/readings.ts';
import { listReports } from '../reports/reports.ts';

/** More of them say nothing new of a radio, and cost time at every answer. */
const MOST_OVERS = 12;
const MOST_READINGS = 24;
const MOST_REPORTS = 40;
const MOST_REVISIONS = 200;
const TAPS: Readonly<Record<ReceiverKind, Tap>> = { monitor: 'monitor', 'in-line': 'tap', local: 'second', remote: 'remote' };
const TESTS: ReadonlySet<string> = new Set<TestMeasurement['kind']>(['two-tone', 'response', 'power']);

/** Oldest first. */
export async function historyOf({ id, mode }: Pick<CardView, 'id' | 'mode'>): Promise<SeenOver[]> {
  const ids = (await listOvers({ cardId: id, limit: MOST_OVERS })).map((over) => over.id);
  const [overs, captures, readings, reports] = await Promise.all([
    loadOvers(ids),
    capturesOfOvers(ids),
    listReadings(id, MOST_READINGS),
    reportsOf({ id, mode }),
  ]);
  return seenHistory(
    overs.map((over) =>
      storedOver(
        over,
        captures.filter((each) => each.id === over.id),
      ),
    ),
    readings
      .filter(({ said }) => said !== null)
      .map(({ overId, revision, takenAt, alc, compressionDb, powerW, swr, adjacentDb }) => ({
        overId,
        revision: revision.number,
        card: { mode, values: revision.values, use: revision.use },
        takenAt,
        alc,
        compressionDb,
        powerW,
        swr,
        adjacentDb,
      })),
    reports,
  );
}

/** Each with the dials it was said of, oldest revision first. */
async function reportsOf({ id, mode }: Pick<CardView, 'id' | 'mode'>): Promise<StoredReport[]> {
  const [reports, card] = await Promise.all([
    listReports({ cardId: id, limit: MOST_REPORTS }),
    loadCard(id, { revisions: MOST_REVISIONS }),
  ]);
  const revisions = new Map(card?.revisions.map((revision) => [revision.id, revision]));
  return reports
    .flatMap(({ revisionId, remarks, station, path, madeAt }): StoredReport[] => {
      const then = revisions.get(revisionId);
      if (!then) return [];
      return [{ revision: then.number, card: { mode, values: then.values, use: then.use }, madeAt, report: { station, path, remarks } }];
    })
    .sort((a, b) => a.revision - b.revision || a.madeAt.localeCompare(b.madeAt));
}

function storedOver({ id, revision, card, madeAt, alcReading, powerW }: OverView, captures: readonly OverView[]): StoredOver {
  return {
    id,
    revision: revision.number,
    card: { mode: card.mode, values: revision.values, use: revision.use },
    madeAt,
    alc: alcReading,
    powerW,
    voices: captures.flatMap(({ receiver, evidence }) =>
      evidence?.result.kind === 'voice' && evidence.detail
        ? [
            {
              tap: TAPS[receiver.kind],
              passbandHz: [receiver.lowHz, receiver.highHz] as const,
              result: evidence.result,
              detail: evidence.detail as VoiceDetail,
            },
          ]
        : [],
    ),
    radios: captures.flatMap(({ evidence }) => (evidence?.result.kind === 'ssb' ? [evidence.result as SsbMeasurement] : [])),
    tests: captures.flatMap(({ evidence }) => (evidence && TESTS.has(evidence.result.kind) ? [evidence.result as TestMeasurement] : [])),
  };
}
