/** Overs and single meter readings of a card as one history for the engine. */
import type { Decibels, Fraction } from '../../units/index.ts';
import type { StandingCard } from '../alcStanding.ts';
import type { SeenOver } from './seen.ts';

/** What the meters showed. */
interface Meters {
  readonly alc: Fraction | null;
  readonly compressionDb: Decibels | null;
  readonly swr: number | null;
}

/** An over as it is stored. */
export interface StoredOver extends Pick<SeenOver, 'voices' | 'radios'> {
  readonly id: number;
  /** Of the card: one with the same number is the same card. */
  readonly revision: number;
  readonly card: StandingCard;
  readonly madeAt: string;
  readonly alc: Fraction | null;
}

/** A reading as it is stored, with an over or alone. */
export interface StoredReading extends Meters {
  readonly overId: number | null;
  readonly revision: number;
  readonly card: StandingCard;
  readonly takenAt: string;
}

/**
 * Readings go to their over; one that stands alone goes to an over of the same revision whose ALC nobody read, and is
 * else evidence of its own. Oldest revision first; within one, what has no voice comes before what has one, so that the
 * newest entry tells most.
 */
export function seenHistory(overs: readonly StoredOver[], readings: readonly StoredReading[]): SeenOver[] {
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
  const rest = left.map(({ card, revision, takenAt, alc, compressionDb, swr }) => ({
    revision,
    at: takenAt,
    seen: { card, alc, compressionDb, swr, voices: [], radios: [] },
  }));
  const hasVoice = ({ seen }: { seen: SeenOver }) => Number(seen.voices.length > 0);
  return [...entries, ...rest]
    .sort((a, b) => a.revision - b.revision || hasVoice(a) - hasVoice(b) || a.at.localeCompare(b.at))
    .map(({ seen }) => seen);

  /** The newest single reading of a revision. */
  function alone(revision: number): StoredReading[] {
    const newest = left.filter((each) => each.overId === null && each.revision === revision).at(-1);
    return newest ? take((each) => each === newest) : [];
  }
}

function withMeters({ card, alc, voices, radios }: StoredOver, own: readonly StoredReading[]): SeenOver {
  const newest = <K extends keyof Meters>(key: K): Meters[K] | null => own.findLast((each) => each[key] !== null)?.[key] ?? null;
  return { card, alc: newest('alc') ?? alc, compressionDb: newest('compressionDb'), swr: newest('swr'), voices, radios };
}
