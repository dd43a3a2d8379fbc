/** The tables as Sequelize models. Columns and keys are made by the migrations; this only names them. */
import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type ModelAttributeColumnOptions,
  type NonAttribute,
  type Sequelize,
} from 'sequelize';
import type { CheckSide, Expectation, ReportPath, Said } from '@/core/advice/index.ts';
import type { CurvePoint } from '@/core/curve/index.ts';
import type { Finding, LimitName } from '@/core/findings/index.ts';
import type { RemarkAbout, RemarkCode, RemarkDegree, RemarkSense } from '@/core/language/index.ts';
import type { Measurement as Measured, MeasurementDetail, MeasurementKind, MeasureSettings } from '@/core/measure/index.ts';
import type { Card, DialValue, DialValues, Microphone, MicrophoneUse, Purpose, RigProfile } from '@/core/rig/index.ts';
import type { TuneRun } from '@/core/tune/index.ts';

/** What a move did, found on a later over. */
export interface Outcome {
  readonly overId: number;
  /** Change where the move was expected to show, as heard. */
  readonly changeDb: number;
  /** The same as the model has it for all that changed between the two overs. */
  readonly expectedDb: number;
}

export type ReceiverKind = 'monitor' | 'in-line' | 'local' | 'remote';
export type Trust = 'low' | 'medium' | 'high';
export type Load = 'dummy load' | 'antenna';
export type MeasurementStatus = 'queued' | 'running' | 'done' | 'failed';

type Row<M extends Model> = Model<InferAttributes<M>, InferCreationAttributes<M>>;
/** The columns that every table has. */
interface Common {
  id: CreationOptional<number>;
  createdAt: CreationOptional<Date>;
}

/** What can be put away without being lost. */
interface Retirable {
  retiredAt: CreationOptional<Date | null>;
}

export interface Operator extends Row<Operator>, Common, Retirable {
  name: string;
  callsign: string;
  note: string;
}
export interface MicrophoneRow extends Row<MicrophoneRow>, Common, Retirable {
  name: string;
  profile: Microphone;
}
export interface Rig extends Row<Rig>, Common, Retirable {
  name: string;
  profile: RigProfile;
}
export interface Receiver extends Row<Receiver>, Common, Retirable {
  name: string;
  kind: ReceiverKind;
  lowHz: number;
  highHz: number;
  agc: CreationOptional<string>;
  path: CreationOptional<string>;
  trust: CreationOptional<Trust>;
  note: string;
}
export interface CardRow extends Row<CardRow>, Common, Retirable {
  changedAt: CreationOptional<Date>;
  name: string;
  operatorId: number;
  rigId: number;
  microphoneId: number;
  mode: Card['mode'];
  purpose: Purpose;
  /** Number of the practice radio that it is for; null on cards of real radios. */
  practiceRadio: CreationOptional<number | null>;
  /** The card that it began as. */
  practiceOf: CreationOptional<number | null>;
  /** Moves and findings that the operator has set aside; null for none. */
  setAside: CreationOptional<readonly string[] | null>;
  /** Only where the query asked for them. */
  rig?: NonAttribute<Rig>;
  microphone?: NonAttribute<MicrophoneRow>;
}
export interface CardRevision extends Row<CardRevision>, Common {
  cardId: number;
  number: number;
  values: DialValues;
  /** How the microphone is used; null on cards from before it was noted. */
  microphoneUse: CreationOptional<MicrophoneUse | null>;
  reason: string;
  /** Who made it. */
  madeBy: CreationOptional<string>;
  card?: NonAttribute<CardRow>;
}
export interface Over extends Row<Over>, Common {
  cardRevisionId: number;
  receiverId: number;
  load: Load;
  powerW: number | null;
  alcReading: number | null;
  note: string;
  /** Whether the operator heard himself on headphones; null where it was not noted. */
  hasMonitor: CreationOptional<boolean | null>;
  revision?: NonAttribute<CardRevision>;
}
export interface Capture extends Row<Capture>, Common {
  overId: number;
  /** Null: the over's own. */
  receiverId: CreationOptional<number | null>;
  fileName: string;
  bytes: number;
  sha256: string;
  kind: CreationOptional<MeasurementKind>;
  settings: CreationOptional<CaptureSettings>;
  over?: NonAttribute<Over>;
}
/** How a capture is measured. */
export interface CaptureSettings extends MeasureSettings {
  /** Another capture that it is compared with: the voice at the mic, or the signal that was sent. */
  readonly referenceCaptureId?: number;
  /** response: the curve of the card's microphone is taken off, or that of another measured response. */
  readonly subtractsMicrophone?: boolean;
  readonly subtractCaptureId?: number;
  /** What the recording's centre was tuned to, where its file told. */
  readonly tunedHz?: number;
  /** Somebody said what the recording is: it is not taken for anything else. */
  readonly isChosen?: boolean;
  /** What was odd about the file before it was stored. */
  readonly remark?: string;
}
export interface CaptureChunk extends Row<CaptureChunk> {
  captureId: number;
  position: number;
  bytes: Buffer;
}
export interface Measurement extends Row<Measurement>, Common {
  captureId: number;
  status: MeasurementStatus;
  coreVersion: string;
  result: Measured | null;
  headline: CreationOptional<string | null>;
  durationS: CreationOptional<number | null>;
  findings: CreationOptional<readonly Finding[] | null>;
  detail: MeasurementDetail | null;
  error: string | null;
}
export interface MoveRow extends Row<MoveRow>, Common {
  cardRevisionId: number;
  fromRevisionId: number;
  overId: number | null;
  dialId: string;
  fromValue: DialValue;
  toValue: DialValue;
  reason: string;
  expected: Expectation | null;
  outcome: Outcome | null;
}
/** What the meters showed with a card revision. Never changed, never deleted: a later look is another row. */
export interface ReadingRow extends Row<ReadingRow>, Common {
  cardRevisionId: number;
  overId: CreationOptional<number | null>;
  said: Said;
  alc: number | null;
  compressionDb: number | null;
  powerW: number | null;
  swr: number | null;
}
/** What another station said of a card revision or an over. */
export interface ReportRow extends Row<ReportRow>, Common {
  cardRevisionId: number;
  overId: CreationOptional<number | null>;
  station: string;
  place: string;
  receiver: string;
  path: ReportPath;
  readability: number | null;
  strength: number | null;
  overS9Db: number | null;
  text: string;
}
/** One thing of it, as core/language reads it. */
export interface RemarkRow extends Row<RemarkRow>, Common {
  reportId: number;
  code: RemarkCode;
  sense: RemarkSense;
  degree: RemarkDegree;
  about: RemarkAbout;
  text: string;
}
/** A sitting on the air in which another station listens and advises; lines are kept as they were typed. */
export interface AirCheckRow extends Row<AirCheckRow>, Common {
  /** The card as the check began. */
  cardRevisionId: number;
  /** The revision that came of it; null while it goes on, and where no dial moved. */
  endedRevisionId: CreationOptional<number | null>;
  /** This station is checked, or checks the other: then the card is the guest's. */
  side: CreationOptional<CheckSide>;
  station: string;
  path: ReportPath;
  endedAt: CreationOptional<Date | null>;
}
export interface AirCheckLine extends Row<AirCheckLine>, Common {
  airCheckId: number;
  text: string;
  isUndone: CreationOptional<boolean>;
  /** Made by the page: a line that is sent twice is kept once. */
  clientKey: string;
}
/** A guided run over a card, resumable. */
export interface TuneRunRow extends Row<TuneRunRow>, Common {
  /** The revision it began with. */
  cardRevisionId: number;
  state: TuneRun;
  endedAt: CreationOptional<Date | null>;
  changedAt: CreationOptional<Date>;
}
/** One dial set on the radio itself, ticked off a sheet. The newest of a dial is what the radio holds. */
export interface RigTick extends Row<RigTick>, Common {
  rigId: number;
  dialId: string;
  dialValue: DialValue;
  cardRevisionId: number | null;
}
export interface VoiceMemory extends Row<VoiceMemory>, Common {
  rigId: number;
  slot: number;
  words: string;
  cardRevisionId: number;
}
/** Whether the demo was loaded: "loading" when that was broken off. */
export interface DemoRow extends Row<DemoRow> {
  state: 'loading' | 'done';
}
export interface TargetRow extends Row<TargetRow> {
  purpose: Purpose;
  points: CurvePoint[];
}

/** A limit for findings that the station has set itself. */
export interface LimitRow extends Row<LimitRow> {
  name: LimitName;
  watch: number | null;
  fault: number | null;
}

/** A value kept as JSON text; MariaDB's JSON type is text as well, and drivers disagree on who parses it. */
const json = (name: string): ModelAttributeColumnOptions => ({
  type: DataTypes.TEXT('long'),
  get(this: Model) {
    const text = this.getDataValue(name as never) as unknown as string | null;
    return text === null || text === undefined ? null : JSON.parse(text);
  },
  set(this: Model, value: unknown) {
    this.setDataValue(name as never, (value === null ? null : JSON.stringify(value)) as never);
  },
});

const id = { type: DataTypes.INTEGER.UNSIGNED, autoIncrement: true, primaryKey: true };
const reference = { type: DataTypes.INTEGER.UNSIGNED, allowNull: false };
const words = { type: DataTypes.STRING, allowNull: false, defaultValue: '' };
const number = { type: DataTypes.DOUBLE, allowNull: true };
const time = { type: DataTypes.DATE(3), allowNull: true };

/** Defines all models on a connection. */
export function defineModels(sequelize: Sequelize) {
  // The library writes into the column descriptions it is given: each table gets copies.
  const table = <M extends Model>(tableName: string, columns: Record<string, ModelAttributeColumnOptions>) => {
    const own = Object.fromEntries(Object.entries({ id, ...columns }).map(([name, column]) => [name, { ...column }]));
    return sequelize.define<M>(tableName, own as never, { tableName, underscored: true, updatedAt: false });
  };
  const operators = table<Operator>('operators', { name: words, callsign: words, note: words, retiredAt: time });
  const microphones = table<MicrophoneRow>('microphones', { name: words, profile: json('profile'), retiredAt: time });
  const rigs = table<Rig>('rigs', { name: words, profile: json('profile'), retiredAt: time });
  const receivers = table<Receiver>('receivers', {
    name: words,
    kind: words,
    lowHz: number,
    highHz: number,
    agc: words,
    path: words,
    trust: { ...words, defaultValue: 'medium' },
    note: words,
    retiredAt: time,
  });
  const cards = table<CardRow>('cards', {
    name: words,
    operatorId: reference,
    rigId: reference,
    microphoneId: reference,
    mode: words,
    purpose: words,
    practiceRadio: { ...reference, allowNull: true },
    practiceOf: { ...reference, allowNull: true },
    setAside: { ...json('setAside'), allowNull: true },
    retiredAt: time,
    changedAt: { ...time, defaultValue: DataTypes.NOW },
  });
  const cardRevisions = table<CardRevision>('card_revisions', {
    cardId: reference,
    number: reference,
    values: { ...json('values'), field: 'dial_values' },
    microphoneUse: json('microphoneUse'),
    reason: words,
    madeBy: words,
  });
  const overs = table<Over>('overs', {
    cardRevisionId: reference,
    receiverId: reference,
    load: words,
    powerW: number,
    alcReading: number,
    note: words,
    hasMonitor: { type: DataTypes.BOOLEAN, allowNull: true },
  });
  const captures = table<Capture>('captures', {
    overId: reference,
    receiverId: { ...reference, allowNull: true },
    fileName: words,
    bytes: {
      type: DataTypes.BIGINT.UNSIGNED,
      get(this: Model) {
        return Number(this.getDataValue('bytes' as never));
      },
    },
    sha256: words,
    kind: { ...words, defaultValue: 'voice' },
    // The default is kept as it is stored: as text.
    settings: { ...json('settings'), defaultValue: '{}' },
  });
  const captureChunks = sequelize.define<CaptureChunk>(
    'capture_chunks',
    {
      captureId: { ...reference, primaryKey: true },
      position: { ...reference, primaryKey: true },
      bytes: { type: DataTypes.BLOB('medium'), allowNull: false },
    },
    { tableName: 'capture_chunks', underscored: true, timestamps: false },
  );
  const measurements = table<Measurement>('measurements', {
    captureId: reference,
    status: words,
    coreVersion: words,
    result: json('result'),
    headline: { type: DataTypes.STRING, allowNull: true },
    durationS: number,
    findings: json('findings'),
    detail: json('detail'),
    error: { type: DataTypes.TEXT, allowNull: true },
  });
  const moves = table<MoveRow>('moves', {
    cardRevisionId: reference,
    fromRevisionId: reference,
    overId: { ...reference, allowNull: true },
    dialId: words,
    fromValue: json('fromValue'),
    toValue: json('toValue'),
    reason: words,
    expected: json('expected'),
    outcome: json('outcome'),
  });
  const ofRevision = { cardRevisionId: reference, overId: { ...reference, allowNull: true } };
  const readings = table<ReadingRow>('readings', {
    ...ofRevision,
    said: { ...words, defaultValue: 'talk' },
    alc: number,
    compressionDb: number,
    powerW: number,
    swr: number,
    adjacentDb: number,
  });
  const reports = table<ReportRow>('reports', {
    ...ofRevision,
    station: words,
    place: words,
    receiver: words,
    path: words,
    readability: { ...reference, allowNull: true },
    strength: { ...reference, allowNull: true },
    overS9Db: number,
    text: { type: DataTypes.TEXT, allowNull: false },
  });
  const remarks = table<RemarkRow>('remarks', { reportId: reference, code: words, sense: words, degree: words, about: words, text: words });
  const airChecks = table<AirCheckRow>('air_checks', {
    cardRevisionId: reference,
    endedRevisionId: { ...reference, allowNull: true },
    side: { ...words, defaultValue: 'checked' },
    station: words,
    path: words,
    endedAt: time,
  });
  const airCheckLines = table<AirCheckLine>('air_check_lines', {
    airCheckId: reference,
    text: { type: DataTypes.TEXT, allowNull: false },
    isUndone: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
    clientKey: words,
  });
  const tuneRuns = table<TuneRunRow>('tune_runs', {
    cardRevisionId: reference,
    state: json('state'),
    endedAt: time,
    changedAt: { ...time, defaultValue: DataTypes.NOW },
  });
  const rigTicks = table<RigTick>('rig_ticks', {
    rigId: reference,
    dialId: words,
    dialValue: json('dialValue'),
    cardRevisionId: { ...reference, allowNull: true },
  });
  const voiceMemories = table<VoiceMemory>('voice_memories', {
    rigId: reference,
    slot: reference,
    words,
    cardRevisionId: reference,
  });
  const targets = sequelize.define<TargetRow>(
    'targets',
    { purpose: { type: DataTypes.STRING, primaryKey: true }, points: json('points') } as never,
    { tableName: 'targets', underscored: true, timestamps: false },
  );
  const limits = sequelize.define<LimitRow>(
    'limits',
    { name: { type: DataTypes.STRING, primaryKey: true }, watch: { ...number }, fault: { ...number } },
    { tableName: 'limits', underscored: true, timestamps: false },
  );
  const demo = sequelize.define<DemoRow>(
    'demo',
    { state: { type: DataTypes.STRING, primaryKey: true } },
    { tableName: 'demo', underscored: true, timestamps: false },
  );
  cardRevisions.belongsTo(cards, { foreignKey: 'cardId', as: 'card' });
  cards.belongsTo(rigs, { foreignKey: 'rigId', as: 'rig' });
  cards.belongsTo(microphones, { foreignKey: 'microphoneId', as: 'microphone' });
  overs.belongsTo(cardRevisions, { foreignKey: 'cardRevisionId', as: 'revision' });
  captures.belongsTo(overs, { foreignKey: 'overId', as: 'over' });
  return {
    operators,
    microphones,
    rigs,
    receivers,
    cards,
    cardRevisions,
    overs,
    captures,
    captureChunks,
    measurements,
    moves,
    readings,
    reports,
    remarks,
    airChecks,
    airCheckLines,
    tuneRuns,
    rigTicks,
    voiceMemories,
    targets,
    limits,
    demo,
  };
}

export type Models = ReturnType<typeof defineModels>;
