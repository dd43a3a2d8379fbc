/** Overs with everything they hang on: revision, card, rig, operator, mic, receiver, capture, measurement. */
import type { VoiceDetail, VoiceMeasurement } from '../core/measure/measurement.ts';
import type { Card, DialValues, Purpose } from '../core/station/card.ts';
import type { RigProfile } from '../core/station/rig.ts';
import { database } from './database.ts';
import type { Load, MeasurementStatus, Over, ReceiverKind } from './models.ts';

export interface OverView {
  readonly id: number;
  readonly madeAt: string;
  readonly load: Load;
  readonly powerW: number | null;
  readonly alcReading: number | null;
  readonly note: string;
  readonly revision: { readonly id: number; readonly number: number; readonly values: DialValues };
  readonly card: { readonly id: number; readonly name: string; readonly mode: Card['mode']; readonly purpose: Purpose };
  readonly rig: { readonly id: number; readonly name: string; readonly profile: RigProfile };
  readonly operator: { readonly id: number; readonly name: string; readonly callsign: string };
  readonly receiver: {
    readonly id: number;
    readonly name: string;
    readonly kind: ReceiverKind;
    readonly lowHz: number;
    readonly highHz: number;
  };
  readonly capture: { readonly id: number; readonly fileName: string; readonly bytes: number; readonly sha256: string } | null;
  readonly measurement: {
    readonly id: number;
    readonly status: MeasurementStatus;
    readonly coreVersion: string;
    readonly error: string | null;
  } | null;
  readonly measured: { readonly result: VoiceMeasurement; readonly detail: VoiceDetail } | null;
}

/** An over whose measurement is done. */
export type MeasuredOver = OverView & { readonly measured: NonNullable<OverView['measured']> };

async function viewOf(over: Over): Promise<OverView> {
  const { models } = database();
  const [revision, receiver, capture] = await Promise.all([
    models.cardRevisions.findByPk(over.cardRevisionId, { rejectOnEmpty: true }),
    models.receivers.findByPk(over.receiverId, { rejectOnEmpty: true }),
    models.captures.findOne({ where: { overId: over.id } }),
  ]);
  const card = await models.cards.findByPk(revision.cardId, { rejectOnEmpty: true });
  const [rig, operator, measurement] = await Promise.all([
    models.rigs.findByPk(card.rigId, { rejectOnEmpty: true }),
    models.operators.findByPk(card.operatorId, { rejectOnEmpty: true }),
    capture && models.measurements.findOne({ where: { captureId: capture.id }, order: [['id', 'DESC']] }),
  ]);
  const { result, detail } = measurement ?? { result: null, detail: null };
  return {
    id: over.id,
    madeAt: over.createdAt.toISOString(),
    load: over.load,
    powerW: over.powerW,
    alcReading: over.alcReading,
    note: over.note,
    revision: { id: revision.id, number: revision.number, values: revision.values },
    card: { id: card.id, name: card.name, mode: card.mode, purpose: card.purpose },
    rig: { id: rig.id, name: rig.name, profile: rig.profile },
    operator: { id: operator.id, name: operator.name, callsign: operator.callsign },
    receiver: { id: receiver.id, name: receiver.name, kind: receiver.kind, lowHz: receiver.lowHz, highHz: receiver.highHz },
    capture: capture && { id: capture.id, fileName: capture.fileName, bytes: capture.bytes, sha256: capture.sha256 },
    measurement: measurement && {
      id: measurement.id,
      status: measurement.status,
      coreVersion: measurement.coreVersion,
      error: measurement.error,
    },
    measured: result && detail ? { result, detail } : null,
  };
}

/** One over; null when there is none of that number. */
export async function loadOver(id: number): Promise<OverView | null> {
  const over = await database().models.overs.findByPk(id);
  return over && viewOf(over);
}

/** The newest overs first. @param cardId only those of one card */
export async function listOvers({ cardId, limit, offset = 0 }: { cardId?: number; limit: number; offset?: number }): Promise<OverView[]> {
  const { models } = database();
  const overs = await models.overs.findAll({
    include: cardId === undefined ? [] : [{ association: 'revision', where: { cardId }, required: true, attributes: [] }],
    order: [
      ['createdAt', 'DESC'],
      ['id', 'DESC'],
    ],
    limit,
    offset,
  });
  return Promise.all(overs.map(viewOf));
}

export const countOvers = (): Promise<number> => database().models.overs.count();

/** The over a card is judged by: the one asked for, else its newest measured one. */
export async function judgedOver(cardId: number, overId?: number): Promise<OverView | null> {
  if (overId !== undefined) {
    const over = await loadOver(overId);
    if (over?.card.id === cardId) return over;
  }
  const overs = await listOvers({ cardId, limit: 20 });
  return overs.find((over) => over.measured) ?? overs[0] ?? null;
}
