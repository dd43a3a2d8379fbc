/** The demo's reports, readings, air checks and Tune run, entered through the same doors as typed ones, each at its time. */
import type { ReportPath, Said } from '@/core/advice/index.ts';
import type { TuneSchool, TuneStepKey } from '@/core/tune/index.ts';
import { addCheckLine, endAirCheck, loadAirCheck, startAirCheck } from '../aircheck/airChecks.ts';
import { checkGuest } from '../aircheck/guests.ts';
import { database } from '../db/database.ts';
import { addReading } from '../readings/readings.ts';
import { addReport } from '../reports/reports.ts';
import type { RequestOf } from '../requests/requests.ts';
import { actInTuneRun, startTuneRun } from '../tune/tuneRuns.ts';

type At = [daysBefore: number, time: string];
interface OfCard {
  readonly at: At;
  readonly card: string;
  readonly revision: number;
}
interface Sitting {
  readonly at: At;
  readonly minutes: number;
  readonly lines: readonly string[];
}

export type OnAirEvent =
  | (OfCard & {
      readonly kind: 'report';
      readonly station: string;
      readonly place: string;
      readonly path: ReportPath;
      readonly text: string;
    })
  | (OfCard & { readonly kind: 'reading'; readonly said: Said; readonly alc: number })
  | (Sitting & { readonly kind: 'airCheck'; readonly card: string; readonly station: string; readonly path: ReportPath })
  | (Pick<OfCard, 'at' | 'card'> & { readonly kind: 'tune'; readonly school: TuneSchool; readonly done: readonly TuneStepKey[] })
  | (Sitting & { readonly kind: 'guestCheck'; readonly guest: RequestOf<'guestCheck'>; readonly by: string });

/** Where the events' names lead. */
export interface DemoNames {
  readonly card: (key: string) => number;
  readonly time: (at: At) => Date;
}

export async function enterOnAir(event: OnAirEvent, { card, time }: DemoNames): Promise<void> {
  const at = time(event.at);
  if (event.kind === 'tune') {
    const id = await startTuneRun({ cardId: card(event.card), ...event.school, radio: null });
    for (const step of event.done) await actInTuneRun({ tuneRunId: id, kind: 'done', step });
    await database().models.tuneRuns.update({ createdAt: at, changedAt: at }, { where: { id } });
    return;
  }
  if (event.kind === 'report' || event.kind === 'reading') {
    const cardRevisionId = await revisionId(card(event.card), event.revision);
    if (event.kind === 'report') {
      const { station, place, path, text } = event;
      await addReport({ cardRevisionId, station, place, receiver: '', path, text, at });
      return;
    }
    const { said, alc } = event;
    await addReading({ cardRevisionId, said, alc, compressionDb: null, powerW: null, swr: null });
    await database().models.readings.update({ createdAt: at }, { where: { cardRevisionId } });
    return;
  }
  const id =
    event.kind === 'airCheck'
      ? await startAirCheck({ cardId: card(event.card), station: event.station, path: event.path })
      : await checkGuest(event.guest);
  for (const text of event.lines) await addCheckLine({ airCheckId: id, text, clientKey: '' });
  await endAirCheck(id, event.kind === 'guestCheck' ? event.by : undefined);
  await setTimes(id, at, event.minutes);
}

async function revisionId(cardId: number, number: number): Promise<number> {
  return (await database().models.cardRevisions.findOne({ where: { cardId, number }, rejectOnEmpty: true })).id;
}

/** Everything of a sitting happened then, spread evenly over its minutes. */
async function setTimes(id: number, at: Date, minutes: number): Promise<void> {
  const { models } = database();
  const check = await loadAirCheck(id);
  if (!check) throw new Error(`Air check ${id} is missing.`);
  const endedAt = new Date(at.getTime() + minutes * 60_000);
  const when = (k: number) => new Date(at.getTime() + ((k + 1) / (check.lines.length + 1)) * minutes * 60_000);
  await models.airChecks.update({ createdAt: at, endedAt }, { where: { id } });
  for (const [k, line] of check.lines.entries()) await models.airCheckLines.update({ createdAt: when(k) }, { where: { id: line.id } });
  const begun = check.base.number;
  for (const revision of check.card.revisions.filter(({ number }) => number >= begun)) {
    const made = revision.number > begun || check.side === 'checking' ? endedAt : new Date(revision.madeAt);
    const where = { cardRevisionId: revision.id };
    if (made === endedAt) await models.cardRevisions.update({ createdAt: endedAt }, { where: { id: revision.id } });
    await models.moves.update({ createdAt: endedAt }, { where });
    await models.reports.update({ createdAt: endedAt }, { where });
    await models.readings.update({ createdAt: endedAt }, { where });
  }
  await models.cards.update({ changedAt: endedAt }, { where: { id: check.card.id } });
}
