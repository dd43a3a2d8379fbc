/** Everything the Bench shows of one card. */
import { type HeardOver, levelChangeDb, levelDropText, type SpreadOver } from '@/core/advice/index.ts';
import type { CurvePoint } from '@/core/curve/index.ts';
import { type MeasurementKind, RADIO_KINDS } from '@/core/measure/index.ts';
import { effective, responseOf } from '@/core/rig/index.ts';
import { listCards } from '../cards/cardList.ts';
import { type CardView, loadCard } from '../cards/cards.ts';
import { type TrailEntry, trail } from '../cards/revisions.ts';
import { targetFor } from '../cards/targets.ts';
import { judgedOver, listOvers, newestMeasured, type OverSummary } from '../overs/overs.ts';
import { oversLike } from '../overs/oversLike.ts';
import { capturesOfOvers, loadOvers, type OverView } from '../overs/overView.ts';
import { spreadsOf } from '../overs/spreads.ts';
import { type VoiceSource, voiceFor } from '../overs/voice.ts';
import { listReadings, type ReadingView } from '../readings/readings.ts';
import { listReports, type ReportView } from '../reports/reports.ts';
import { workingCard } from '../requests/preferences.ts';
import { type CardSchool, schoolOfCard } from '../tune/cardSchool.ts';

export interface BenchView {
  readonly card: CardView;
  /** The over the card is judged by; null when it has none. */
  readonly over: OverView | null;
  /** That over as each of its receivers heard it. */
  readonly heard: readonly OverView[];
  /** The operator's overs of which it is noted whether he heard himself. */
  readonly spreads: readonly SpreadOver[];
  /** Further overs of the same operator, microphone, use and receiver: the fit takes them all. */
  readonly others: readonly HeardOver[];
  /** What the model works with: the voice of that over, or of another card's; null when the operator has none. */
  readonly voice: VoiceSource | null;
  /** The card's newest measured I/Q recording; null when it has none. */
  readonly radio: OverView | null;
  /** The card's newest measured test sweep or curve; null when it has none. */
  readonly response: OverView | null;
  /** The card's newest overs. */
  readonly overs: readonly OverSummary[];
  readonly target: readonly CurvePoint[];
  /** What its level and compression are to be. */
  readonly school: CardSchool;
  readonly trail: readonly TrailEntry[];
  /** Said where the over came in far quieter than the one before on the same receiver. */
  readonly levelDrop: string | null;
  /** The card's newest meter readings, newest first. */
  readonly readings: readonly ReadingView[];
  /** What other stations said of the card, newest first. */
  readonly reports: readonly ReportView[];
}

const OVERS_TO_PICK = 20;
const TRAIL_ENTRIES = 40;
const READINGS = 30;
const REPORTS = 30;

/** What of a card is asked for. */
interface BenchLoading {
  /** The over it should be judged by; its newest measured one when left out. */
  readonly overId?: number;
  /** So many of the card's newest revisions. */
  readonly revisions?: number;
}

/** The card asked for, else the one this browser worked on last, else the one changed last. Null when there is none. */
export async function cardIdInWork(cardId: number | undefined): Promise<number | null> {
  for (const id of [cardId, await workingCard()]) if (id !== undefined && (await loadCard(id))) return id;
  const [newest] = await listCards({ limit: 1 });
  return newest?.id ?? null;
}

/** The same as a whole card. */
export async function cardInWork(cardId: number | undefined): Promise<CardView | null> {
  const id = await cardIdInWork(cardId);
  return id === null ? null : loadCard(id);
}

/** What the Bench shows of that card. @returns null when there is none */
export async function loadBenchOf(cardId: number | undefined, loading: BenchLoading = {}): Promise<BenchView | null> {
  const id = await cardIdInWork(cardId);
  return id === null ? null : loadBench(id, loading);
}

/** @returns null when there is no such card */
export async function loadBench(cardId: number, { overId, revisions }: BenchLoading = {}): Promise<BenchView | null> {
  const card = await loadCard(cardId, { revisions });
  if (!card) return null;
  const [over, radio, response, overs, target, school, entries, readings, reports] = await Promise.all([
    judgedOver(cardId, overId),
    newestOf(cardId, RADIO_KINDS),
    newestOf(cardId, ['response']),
    listOvers({ cardId, kind: 'voice', limit: OVERS_TO_PICK }),
    targetFor(card.purpose),
    schoolOfCard(card),
    trail(cardId, TRAIL_ENTRIES),
    listReadings(cardId, READINGS),
    listReports({ cardId, limit: REPORTS }),
  ]);
  return {
    card,
    over,
    heard: over ? await capturesOfOvers([over.id]) : [],
    spreads: await spreadsOf(card.operator.id),
    others: over ? await oversLike(over) : [],
    voice: await voiceFor(card.operator.id, over),
    radio,
    response,
    overs,
    target,
    school,
    trail: entries,
    levelDrop: over ? await levelDropOf(over, overs) : null,
    readings,
    reports,
  };
}

/** The newest recording of these kinds, whatever else was recorded of the same over. */
async function newestOf(cardId: number, kinds: readonly MeasurementKind[]): Promise<OverView | null> {
  const id = await newestMeasured(cardId, kinds);
  if (id === undefined) return null;
  return (await capturesOfOvers([id])).findLast(({ evidence }) => evidence && kinds.includes(evidence.result.kind)) ?? null;
}

/** Against the over before, of the same card, receiver and load. @param overs the card's newest, newest first */
async function levelDropOf(over: OverView, overs: readonly OverSummary[]): Promise<string | null> {
  const before = overs.find(
    (each) => each.id !== over.id && each.madeAt < over.madeAt && each.receiver === over.receiver.name && each.load === over.load,
  );
  const [earlier] = before ? await loadOvers([before.id]) : [];
  const now = over.measured;
  if (!earlier?.measured || !now || earlier.receiver.id !== over.receiver.id) return null;
  const { profile } = over.rig;
  const response = (each: OverView) => responseOf(profile, { mode: each.card.mode, values: each.revision.values });
  const [was, is] = [response(earlier), response(over)];
  const { passbandHz } = effective(profile, { mode: over.card.mode, values: over.revision.values });
  const expectedDb = levelChangeDb(
    earlier.measured.detail,
    is.map((db, i) => db - was[i]),
    passbandHz,
  );
  return levelDropText(levelOf(earlier), levelOf(over), expectedDb);
}

const levelOf = ({ id, powerW, measured }: OverView) => ({
  overId: id,
  levelDb: measured?.result.activeSpeechLevelDb ?? null,
  powerW,
});
