/** Overs and single meter readings of a card as one history for the engine. */
import type { Decibels, Fraction } from '../../units/index.ts';
import type { StandingCard } from '../alcStanding.ts';
import type { HeardReport } from '../weighReports.ts';
import type { SeenOver } from './seen.ts';

/** What the meters showed. */
interface Meters {
  readonly alc: Fraction | null;
  readonly compressionDb: Decibels | null;
  readonly powerW: number | null;
  readonly swr: number | null;
  /** Next channel re the voice, by an analyser. */
  readonly adjacentDb: Decibels | null;
}

/** An over as it is stored. */
export interface StoredOver extends Pick<SeenOver, 'voices' | 'radios' | 'tests'> {
  readonly id: number;
  /** Of the card: one with the same number is the same card. */
  readonly revision: number;
  readonly card: StandingCard;
  readonly madeAt: string;
  readonly alc: Fraction | null;
  /** As it was noted with the over. */
  readonly powerW: number | null;
}

/** A reading as it is stored, with an over or alone. */
export interface StoredReading extends Meters {
  readonly overId: number | null;
  readonly revision: number;
  readonly card: StandingCard;
  readonly takenAt: string;
}

/** A report as it is stored. */
export interface StoredReport {
  readonly revision: number;
  readonly card: StandingCard;
  readonly madeAt: string;
  readonly report: HeardReport;
}

/**
 * Readings go to their over; one that stands alone goes to an over of the same revision whose ALC nobody read, and is
 * else evidence of its own. Oldest revision first. The newest entry speaks for the card as it stands: what it lacks it
 * takes from the entries of the same revision before it.
 */
export function seenHistory(
  overs: readonly StoredOver[],
  readings: readonly StoredReading[],
  reports: readonly StoredReport[] = [],
): SeenOver[] {
  const left = [...readings].sort((a, b) => a.takenAt.localeCompare(b.takenAt));
  const take = (isFitting: (reading: StoredReading) => boolean): StoredReading[] => {
    const taken = left.filter(isFitting);
    for (const each of taken) left.splice(left.indexOf(each), 1);
    return taken;
  };
  const placed = [...overs]
    .sort((a, b) => a.madeAt.localeCompare(b.madeAt))
    .map((over) => ({ over, own: take(({ overId }) => overId === over.id) }));
  const entries = placed.map(({ over, own }) => {
    const all = own.some(({ alc }) => alc !== null) || over.alc !== null ? own : [...own, ...alone(over.revision)];
    return { revision: over.revision, at: over.madeAt, seen: withMeters(over, all) };
  });
  const rest = left.map(({ card, revision, takenAt, alc, compressionDb, powerW, swr, adjacentDb }) => ({
    revision,
    at: takenAt,
    seen: { card, alc, compressionDb, powerW, swr, adjacentDb, voices: [], radios: [] },
  }));
  const inOrder = (x: Entry, y: Entry) => x.revision - y.revision || x.at.localeCompare(y.at);
  return withNewestWhole(withReports([...entries, ...rest].sort(inOrder), reports).sort(inOrder));

  /** The newest single reading of a revision. */
  function alone(revision: number): StoredReading[] {
    const newest = left.filter((each) => each.overId === null && each.revision === revision).at(-1);
    return newest ? take((each) => each === newest) : [];
  }
}

function withMeters({ card, alc, powerW, voices, radios, tests }: StoredOver, own: readonly StoredReading[]): SeenOver {
  const newest = <K extends keyof Meters>(key: K): Meters[K] | null => own.findLast((each) => each[key] !== null)?.[key] ?? null;
  const meters = {
    compressionDb: newest('compressionDb'),
    powerW: newest('powerW') ?? powerW,
    swr: newest('swr'),
    adjacentDb: newest('adjacentDb'),
  };
  return { card, alc: newest('alc') ?? alc, ...meters, voices, radios, tests };
}

interface Entry {
  readonly revision: number;
  readonly at: string;
  readonly seen: SeenOver;
}

/** What was said of a card joins its newest entry; of one that was neither read nor heard it stands alone. */
function withReports(ordered: readonly Entry[], reports: readonly StoredReport[]): Entry[] {
  const all = [...ordered];
  for (const { revision, card, madeAt, report } of reports) {
    const k = all.findLastIndex((entry) => entry.revision === revision);
    const nothing = { card, alc: null, compressionDb: null, swr: null, voices: [], radios: [] };
    const entry = k < 0 ? { revision, at: madeAt, seen: nothing as SeenOver } : all[k];
    const told = { ...entry, seen: { ...entry.seen, reports: [...(entry.seen.reports ?? []), report] } };
    if (k < 0) all.push(told);
    else all[k] = told;
  }
  return all;
}

/** Voice and I/Q that belong to the newest card, wherever they were recorded; no evidence counts twice. */
function withNewestWhole(ordered: readonly Entry[]): SeenOver[] {
  const seen = ordered.map((entry) => entry.seen);
  const last = ordered.at(-1);
  if (!last) return seen;
  const end = seen.length - 1;
  for (const key of ['voices', 'radios'] as const) {
    if (seen[end][key].length > 0) continue;
    const from = ordered.findLastIndex(({ revision, seen: own }) => revision === last.revision && own[key].length > 0);
    if (from < 0) continue;
    seen[end] = { ...seen[end], [key]: seen[from][key] };
    seen[from] = { ...seen[from], [key]: [] };
  }
  return seen.filter(
    (each, k) =>
      k === end ||
      each.alc !== null ||
      each.compressionDb !== null ||
      each.swr !== null ||
      each.reports !== undefined ||
      each.voices.length + each.radios.length + (each.tests?.length ?? 0) > 0,
  );
}
