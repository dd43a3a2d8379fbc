/** A card's overs and readings as the advice engine takes them. */
import { type SeenOver, type StoredOver, seenHistory, type Tap } from '@/core/advice/index.ts';
import type { SsbMeasurement, VoiceDetail } from '@/core/measure/index.ts';
import type { ReceiverKind } from '../db/models.ts';
import { listReadings } from '../readings/readings.ts';
import { capturesOfOvers, listOvers, loadOvers, type OverView } from './overs.ts';

/** More of them say nothing new of a radio, and cost time at every answer. */
const MOST_OVERS = 12;
const MOST_READINGS = 24;
const TAPS: Readonly<Record<ReceiverKind, Tap>> = { monitor: 'monitor', 'in-line': 'tap', local: 'second', remote: 'remote' };

/** Oldest first. */
export async function historyOf({ id, mode }: { id: number; mode: OverView['card']['mode'] }): Promise<SeenOver[]> {
  const ids = (await listOvers({ cardId: id, limit: MOST_OVERS })).map((over) => over.id);
  const [overs, captures, readings] = await Promise.all([loadOvers(ids), capturesOfOvers(ids), listReadings(id, MOST_READINGS)]);
  return seenHistory(
    overs.map((over) =>
      storedOver(
        over,
        captures.filter((each) => each.id === over.id),
      ),
    ),
    readings
      .filter(({ said }) => said !== null)
      .map(({ overId, revision, takenAt, alc, compressionDb, swr }) => ({
        overId,
        revision: revision.number,
        card: { mode, values: revision.values, use: revision.use },
        takenAt,
        alc,
        compressionDb,
        swr,
      })),
  );
}

function storedOver({ id, revision, card, madeAt, alcReading }: OverView, captures: readonly OverView[]): StoredOver {
  return {
    id,
    revision: revision.number,
    card: { mode: card.mode, values: revision.values, use: revision.use },
    madeAt,
    alc: alcReading,
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
  };
}
