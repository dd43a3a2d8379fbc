/** Overs with everything they hang on: revision, card, rig, operator, mic, receiver, capture, measurement. */
import { QueryTypes } from 'sequelize';
import {
  type Measurement,
  type MeasurementDetail,
  type MeasurementKind,
  RECEIVER_KINDS,
  type VoiceDetail,
  type VoiceMeasurement,
} from '@/core/measure/index.ts';
import type { Card, DialValues, MicrophoneUse, Purpose, RigProfile } from '@/core/rig/index.ts';
import { database } from '../db/database.ts';
import type { CaptureSettings, Load, MeasurementStatus, ReceiverKind, Trust } from '../db/models.ts';

/** What was noted of an over when it was made. */
export interface OverNotes {
  readonly id: number;
  readonly madeAt: string;
  readonly load: Load;
  readonly powerW: number | null;
  readonly alcReading: number | null;
  readonly note: string;
  /** Whether the operator heard himself on headphones; null where it was not noted. */
  readonly hasMonitor: boolean | null;
}

/** An over with one of its captures: the best one for judging, unless another was asked for. */
export interface OverView extends OverNotes {
  readonly revision: {
    readonly id: number;
    readonly number: number;
    readonly values: DialValues;
    readonly use: MicrophoneUse | null;
  };
  readonly card: {
    readonly id: number;
    readonly name: string;
    readonly mode: Card['mode'];
    readonly purpose: Purpose;
    /** Number of the practice radio that it is for; null on cards of real radios. */
    readonly practiceRadio: number | null;
  };
  readonly rig: { readonly id: number; readonly name: string; readonly profile: RigProfile };
  readonly operator: { readonly id: number; readonly name: string; readonly callsign: string };
  readonly receiver: {
    readonly id: number;
    readonly name: string;
    readonly kind: ReceiverKind;
    readonly lowHz: number;
    readonly highHz: number;
    readonly trust: Trust;
  };
  readonly capture: {
    readonly id: number;
    readonly fileName: string;
    readonly bytes: number;
    readonly sha256: string;
    readonly kind: MeasurementKind;
    readonly settings: CaptureSettings;
  } | null;
  readonly measurement: {
    readonly id: number;
    readonly status: MeasurementStatus;
    readonly coreVersion: string;
    readonly error: string | null;
  } | null;
  /** What was measured, of whatever kind. */
  readonly evidence: { readonly result: Measurement; readonly detail: MeasurementDetail | null } | null;
  /** The same where it is a voice, which advice is worked out from. */
  readonly measured: { readonly result: VoiceMeasurement; readonly detail: VoiceDetail } | null;
}

/** An over whose measurement is done. */
export type MeasuredOver = OverView & { readonly measured: NonNullable<OverView['measured']> };

/** As the query gives it: dates and JSON still to be read. */
interface OverViewRow {
  id: number;
  madeAt: Date;
  load: Load;
  powerW: number | null;
  alcReading: number | null;
  note: string;
  hasMonitor: number | null;
  revisionId: number;
  revision: number;
  dialValues: string;
  microphoneUse: string | null;
  cardId: number;
  card: string;
  mode: Card['mode'];
  purpose: Purpose;
  practiceRadio: number | null;
  rigId: number;
  rig: string;
  profile: string;
  operatorId: number;
  operator: string;
  callsign: string;
  receiverId: number;
  receiver: string;
  receiverKind: ReceiverKind;
  lowHz: number;
  highHz: number;
  trust: Trust;
  captureId: number | null;
  fileName: string;
  bytes: number;
  sha256: string;
  kind: MeasurementKind;
  settings: string;
  measurementId: number | null;
  status: MeasurementStatus;
  coreVersion: string;
  error: string | null;
  result: string | null;
  detail: string | null;
}

/** An over is judged by its audio as it left the antenna: the order of RECEIVER_KINDS, then how far a receiver is trusted. */
export const BEST_CAPTURE = `(SELECT x.id FROM captures x FORCE INDEX (of_over) JOIN receivers w ON w.id = COALESCE(x.receiver_id, o.receiver_id)
    WHERE x.over_id = o.id ORDER BY x.kind <> 'voice', FIELD(w.kind, ${RECEIVER_KINDS.map(({ id }) => `'${id}'`).join(', ')}),
      FIELD(w.trust, 'high', 'medium', 'low'), x.id LIMIT 1)`;
export const NEWEST_MEASUREMENT = '(SELECT MAX(x.id) FROM measurements x FORCE INDEX (of_capture) WHERE x.capture_id = k.id)';

/** @param from overs `o`, with captures `k` as the caller joins them */
const viewSql = (
  from: string,
): string => `SELECT o.id, o.created_at AS madeAt, o.\`load\`, o.power_w AS powerW, o.alc_reading AS alcReading, o.note,
    o.has_monitor AS hasMonitor,
    r.id AS revisionId, r.number AS revision, r.dial_values AS dialValues, r.microphone_use AS microphoneUse,
    c.id AS cardId, c.name AS card, c.mode, c.purpose, c.practice_radio AS practiceRadio, g.id AS rigId, g.name AS rig, g.profile,
    p.id AS operatorId, p.name AS operator, p.callsign,
    v.id AS receiverId, v.name AS receiver, v.kind AS receiverKind, v.low_hz AS lowHz, v.high_hz AS highHz, v.trust,
    k.id AS captureId, k.file_name AS fileName, CAST(k.bytes AS DOUBLE) AS bytes, k.sha256, k.kind, k.settings,
    m.id AS measurementId, m.status, m.core_version AS coreVersion, m.error, m.result, m.detail
  FROM ${from} STRAIGHT_JOIN card_revisions r ON r.id = o.card_revision_id STRAIGHT_JOIN cards c ON c.id = r.card_id
    STRAIGHT_JOIN rigs g ON g.id = c.rig_id STRAIGHT_JOIN operators p ON p.id = c.operator_id
    STRAIGHT_JOIN receivers v ON v.id = COALESCE(k.receiver_id, o.receiver_id)
    LEFT JOIN measurements m ON m.id = ${NEWEST_MEASUREMENT}`;
const OVERS_SQL = `${viewSql(`overs o LEFT JOIN captures k ON k.id = ${BEST_CAPTURE}`)} WHERE o.id IN (:ids)`;
const CAPTURES_SQL = `${viewSql('captures k STRAIGHT_JOIN overs o ON o.id = k.over_id')} WHERE`;

/** Overs of these numbers, in this order, in one question to the database; those that are not there are left out. */
export async function loadOvers(ids: readonly number[]): Promise<OverView[]> {
  if (ids.length === 0) return [];
  const rows = await database().sequelize.query<OverViewRow>(OVERS_SQL, { type: QueryTypes.SELECT, replacements: { ids: [...ids] } });
  const views = new Map(rows.map((row) => [row.id, viewOf(row)]));
  return ids.flatMap((id) => views.get(id) ?? []);
}

/** Captures of these numbers, in this order, each with its over; those that are not there are left out. */
export async function loadCaptures(ids: readonly number[]): Promise<OverView[]> {
  if (ids.length === 0) return [];
  const rows = await database().sequelize.query<OverViewRow>(`${CAPTURES_SQL} k.id IN (:ids)`, {
    type: QueryTypes.SELECT,
    replacements: { ids: [...ids] },
  });
  const views = new Map(rows.map((row) => [row.captureId, viewOf(row)]));
  return ids.flatMap((id) => views.get(id) ?? []);
}

/** All captures of overs, as they came in. */
export async function capturesOfOvers(overIds: readonly number[]): Promise<OverView[]> {
  if (overIds.length === 0) return [];
  const rows = await database().sequelize.query<OverViewRow>(`${CAPTURES_SQL} k.over_id IN (:overIds) ORDER BY k.id`, {
    type: QueryTypes.SELECT,
    replacements: { overIds: [...overIds] },
  });
  return rows.map(viewOf);
}

export const booleanOf = (value: number | boolean | null): boolean | null => (value === null ? null : Boolean(value));
export const parsed = <T>(text: string | null): T | null => (text === null ? null : JSON.parse(text));

function viewOf(row: OverViewRow): OverView {
  const result = parsed<Measurement>(row.result);
  const detail = parsed<MeasurementDetail>(row.detail);
  return {
    id: row.id,
    madeAt: new Date(row.madeAt).toISOString(),
    load: row.load,
    powerW: row.powerW,
    alcReading: row.alcReading,
    note: row.note,
    hasMonitor: booleanOf(row.hasMonitor),
    revision: { id: row.revisionId, number: row.revision, values: JSON.parse(row.dialValues), use: parsed(row.microphoneUse) },
    card: { id: row.cardId, name: row.card, mode: row.mode, purpose: row.purpose, practiceRadio: row.practiceRadio },
    rig: { id: row.rigId, name: row.rig, profile: JSON.parse(row.profile) },
    operator: { id: row.operatorId, name: row.operator, callsign: row.callsign },
    receiver: {
      id: row.receiverId,
      name: row.receiver,
      kind: row.receiverKind,
      lowHz: row.lowHz,
      highHz: row.highHz,
      trust: row.trust,
    },
    capture:
      row.captureId === null
        ? null
        : {
            id: row.captureId,
            fileName: row.fileName,
            bytes: Number(row.bytes),
            sha256: row.sha256,
            kind: row.kind,
            settings: JSON.parse(row.settings),
          },
    measurement:
      row.measurementId === null ? null : { id: row.measurementId, status: row.status, coreVersion: row.coreVersion, error: row.error },
    evidence: result && { result, detail },
    measured: result?.kind === 'voice' && detail ? { result, detail: detail as VoiceDetail } : null,
  };
}

/** One over; null when there is none of that number. */
export const loadOver = async (id: number): Promise<OverView | null> => (await loadOvers([id]))[0] ?? null;
