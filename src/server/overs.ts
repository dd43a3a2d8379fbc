/** Overs with everything they hang on: revision, card, rig, operator, mic, receiver, capture, measurement. */
import { QueryTypes } from 'sequelize';
import type { Finding, VoiceDetail, VoiceMeasurement } from '../core/measure/measurement.ts';
import type { Card, DialValues, Purpose } from '../core/station/card.ts';
import type { RigProfile } from '../core/station/rig.ts';
import { database } from './database.ts';
import type { Load, MeasurementStatus, Over, ReceiverKind } from './models.ts';
import { Refused } from './refused.ts';

/** What was noted of an over when it was made. */
interface OverNotes {
  readonly id: number;
  readonly madeAt: string;
  readonly load: Load;
  readonly powerW: number | null;
  readonly alcReading: number | null;
  readonly note: string;
}

export interface OverView extends OverNotes {
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

/** One line of the log. */
export interface OverSummary extends OverNotes {
  readonly cardId: number;
  readonly card: string;
  readonly revision: number;
  readonly operator: string;
  readonly rig: string;
  readonly receiver: string;
  readonly status: MeasurementStatus | null;
  readonly durationS: number | null;
  readonly snrDb: number | null;
  /** Worst finding first. */
  readonly findings: readonly Finding[];
}

/** As the query gives it: dates and JSON still to be read. */
interface OverRow extends Omit<OverSummary, 'madeAt' | 'durationS' | 'snrDb' | 'findings'> {
  madeAt: Date;
  result: string | null;
}

/** The newest overs first. @param cardId only those of one card */
export async function listOvers({
  cardId,
  limit,
  offset = 0,
}: {
  cardId?: number;
  limit: number;
  offset?: number;
}): Promise<OverSummary[]> {
  const rows = await database().sequelize.query<OverRow>(
    `SELECT o.id, o.created_at AS madeAt, o.\`load\`, o.power_w AS powerW, o.alc_reading AS alcReading, o.note,
       c.id AS cardId, c.name AS card, r.number AS revision, p.name AS operator, g.name AS rig, v.name AS receiver,
       m.status, m.result
     FROM overs o
     JOIN card_revisions r ON r.id = o.card_revision_id JOIN cards c ON c.id = r.card_id
     JOIN operators p ON p.id = c.operator_id JOIN rigs g ON g.id = c.rig_id JOIN receivers v ON v.id = o.receiver_id
     LEFT JOIN measurements m ON m.id = (SELECT MAX(x.id) FROM measurements x JOIN captures k ON k.id = x.capture_id WHERE k.over_id = o.id)
     ${cardId === undefined ? '' : 'WHERE r.card_id = :cardId'}
     ORDER BY o.created_at DESC, o.id DESC LIMIT :limit OFFSET :offset`,
    { type: QueryTypes.SELECT, replacements: { cardId, limit, offset } },
  );
  return rows.map(({ result, madeAt, ...row }) => {
    const measured: VoiceMeasurement | null = result === null ? null : JSON.parse(result);
    return {
      ...row,
      madeAt: new Date(madeAt).toISOString(),
      durationS: measured?.durationS ?? null,
      snrDb: measured?.snrDb ?? null,
      findings: measured?.findings ?? [],
    };
  });
}

export const countOvers = (): Promise<number> => database().models.overs.count();

/** The over a card is judged by: the one asked for, else its newest measured one. */
export async function judgedOver(cardId: number, overId?: number): Promise<OverView | null> {
  if (overId !== undefined) {
    const over = await loadOver(overId);
    if (over?.card.id === cardId) return over;
  }
  const overs = await listOvers({ cardId, limit: 20 });
  const newest = overs.find(({ status }) => status === 'done') ?? overs[0];
  return newest ? loadOver(newest.id) : null;
}

/** Keeps what was noted of an over. @throws Refused when there is no such over */
export async function noteOver(id: number, values: { alcReading: number | null; note: string }): Promise<void> {
  const over = await database().models.overs.findByPk(id);
  if (!over) throw new Refused('This over does not exist.', 404);
  await over.update(values);
}

/** Deletes an over with its evidence; moves keep standing but lose what they were compared with. */
export async function deleteOver(id: number): Promise<void> {
  const { sequelize, models } = database();
  await sequelize.transaction(async (transaction) => {
    const over = await models.overs.findByPk(id, { transaction });
    if (!over) throw new Refused('This over does not exist.', 404);
    const captures = await models.captures.findAll({ where: { overId: id }, transaction });
    const captureId = captures.map((capture) => capture.id);
    await models.measurements.destroy({ where: { captureId }, transaction });
    await models.captureChunks.destroy({ where: { captureId }, transaction });
    await models.captures.destroy({ where: { id: captureId }, transaction });
    await models.moves.update({ overId: null }, { where: { overId: id }, transaction });
    await over.destroy({ transaction });
  });
}
