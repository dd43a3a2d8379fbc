/** The ribbon: each stage of the transmit path with its present value and state. Pure; the drawing is in Ribbon. */
import { FINDING_LABELS, type Finding, type State, standsOut } from '../findings/index.ts';
import { canJudge, type JudgedCard } from '../intelligibility/index.ts';
import {
  type Card,
  type DIAL_STAGES,
  type EffectiveSettings,
  effective,
  equalizerBands,
  hasAlc,
  type MicrophoneUse,
  MODE_LABELS,
  microphoneUseText,
  type RigProfile,
  readingText,
  type StageKey,
  valueText,
} from '../rig/index.ts';
import { type Decibels, type DistanceUnit, decibels, fixed, signed } from '../units/index.ts';
import type { RadioGain } from './advisors/gainTurn.ts';
import { CLEAN_DB } from './next/drive.ts';

/** One stage as the ribbon shows it. */
export interface StageView {
  readonly key: StageKey;
  readonly value: string;
  readonly note: string;
  readonly state: State;
}

/** What the ribbon is drawn from. */
export interface RibbonInput {
  readonly rig: RigProfile;
  readonly card: Card;
  readonly microphone: { readonly name: string; readonly use: MicrophoneUse };
  readonly distanceUnit?: DistanceUnit;
  readonly voice: { readonly pitchHz: number | null; readonly findings: readonly Finding[] } | null;
  /** The newest I/Q measurement of the card. */
  readonly radio: { readonly headline: string; readonly findings: readonly Finding[]; readonly isOld: boolean } | null;
  /** Next channel of the card as it stands, read off an analyser; null where nobody did. */
  readonly analyserDb: Decibels | null;
  /** What the depth of AM, or the deviation of FM, measured with the card as it stands, says of the gain; null where none was. */
  readonly radioGain: RadioGain | null;
  /** Dials that the fit would move; null while it is not known. */
  readonly movesLeft: number | null;
  readonly alcReading: number | null;
  /** What the readings so far let expect of the card as it stands; null where there are none: then the model's is told. */
  readonly alcExpected: number | null;
  /** The card has changed since the over that the ALC was read on. */
  readonly isChangedSince: boolean;
  /** What the model expects of the card; null while it is not known. */
  readonly model: JudgedCard | null;
  /** The model is at work on it. */
  readonly isModelling: boolean;
}

const NOT_YET = 'not measured yet';
const WORKING = 'calculating';
const NOT_HERE = 'not in this mode';

/** The nine stages of the path, each with its value, a note and its state. */
export function ribbon(input: RibbonInput): StageView[] {
  const settings = effective(input.rig, input.card);
  return [
    voiceStage(input),
    {
      key: 'mic',
      value: input.microphone.name,
      note: microphoneUseText(input.microphone.use, input.distanceUnit),
      state: 'unknown',
    },
    gainStage(input, settings),
    equalizerStage(input, settings),
    compressorStage(input, settings),
    passbandStage(input, settings),
    alcStage(input),
    onAirStage(input, settings),
    heardStage(input),
  ];
}

/** Common practice: a low voice speaks under 130 Hz, a high one over 180 Hz. */
const voiceWord = (pitchHz: number): string => (pitchHz < 130 ? 'low' : pitchHz < 180 ? 'middle' : 'high');

function voiceStage({ voice }: RibbonInput): StageView {
  if (!voice) return { key: 'voice', value: 'no recording', note: NOT_YET, state: 'unknown' };
  const [worst] = voice.findings;
  return {
    key: 'voice',
    value: voice.pitchHz === null ? 'pitch unclear' : `${voiceWord(voice.pitchHz)}, ${Math.round(voice.pitchHz)} Hz`,
    note: standsOut(voice.findings),
    state: worst?.severity ?? 'ok',
  };
}

function equalizerStage({ rig, movesLeft }: RibbonInput, settings: EffectiveSettings): StageView {
  const key = 'equalizer';
  if (rig.equalizer.kind === 'none') return { key, value: 'none', note: 'not on this radio', state: 'unknown' };
  const [live] = settings.bands;
  const sleeping = settings.dials.find(({ dial }) => dial.id === equalizerBands(rig)[0].level)?.dead;
  const value = live ? (live.bank === null ? 'on' : `bank ${live.bank} on`) : sleeping?.kind === 'mode' ? 'not in this mode' : 'off';
  if (movesLeft === null) return { key, value, note: NOT_YET, state: 'unknown' };
  if (movesLeft === 0) return { key, value, note: 'nothing to gain', state: 'ok' };
  return { key, value, note: `${movesLeft} ${movesLeft === 1 ? 'dial' : 'dials'} off target`, state: 'watch' };
}

function alcStage({ rig, card, alcReading, isChangedSince, radioGain }: RibbonInput): StageView {
  const key = 'alc';
  if (!hasAlc(card)) return { key, value: 'none', note: 'FM is set by its deviation', state: 'unknown' };
  if (alcReading === null) return { key, value: 'no reading', note: NOT_YET, state: 'unknown' };
  const value = readingText(rig.alc, alcReading);
  if (isChangedSince) return { key, value, note: 'read it again', state: 'stale' };
  const [low, high] = rig.alc.zone;
  if (alcReading > high) return { key, value, note: 'above the zone', state: 'watch' };
  if (alcReading < low && radioGain) return { key, value, note: 'in AM the depth decides', state: 'unknown' };
  return alcReading < low ? { key, value, note: 'below the zone', state: 'watch' } : { key, value, note: 'in the zone', state: 'ok' };
}

function onAirStage({ radio, analyserDb }: RibbonInput, settings: EffectiveSettings): StageView {
  const key = 'on-air';
  const dials = dialsText(settings, key);
  if (!radio && analyserDb === null) return { key, value: dials, note: NOT_YET, state: 'unknown' };
  if (!radio || (radio.isOld && analyserDb !== null)) {
    const level = analyserDb ?? 0;
    return { key, value: decibels(level, 0), note: 'next channel, by an analyser', state: level > CLEAN_DB ? 'fault' : 'ok' };
  }
  const worst = radio.findings.find(({ severity }) => severity !== 'ok');
  const note = worst ? FINDING_LABELS[worst.code] : 'clean';
  return {
    key,
    value: radio.headline,
    note: radio.isOld ? `${note}, before the change` : note,
    state: radio.isOld ? 'stale' : (worst?.severity ?? 'ok'),
  };
}

/** A stage that shows its dials, and a word of the model. */
function dialStage(settings: EffectiveSettings, key: 'gain' | 'compressor', headline: { note: string; state: State }): StageView {
  const value = dialsText(settings, key);
  if (value === '') return { key, value: 'none', note: 'not on this radio', state: 'unknown' };
  return value === NOT_HERE ? { key, value, note: '', state: 'unknown' } : { key, value, ...headline };
}

/** What a modelled stage says while the model has no answer. */
function waiting({ card, isModelling }: RibbonInput) {
  const note = canJudge(card) ? (isModelling ? WORKING : NOT_YET) : `not calculated for ${MODE_LABELS[card.mode]}`;
  return { note, state: 'unknown' as const };
}

/** The reading itself belongs to the ALC stage; here stands what it is expected to be. AM and FM have a level of their own. */
function gainStage(input: RibbonInput, settings: EffectiveSettings): StageView {
  const { rig, model, alcReading, isChangedSince, radioGain } = input;
  if (radioGain) {
    const state = radioGain.isRight ? 'ok' : radioGain.isHarmful ? 'fault' : 'watch';
    return dialStage(settings, 'gain', { note: radioGain.note, state });
  }
  // With the card as it stands it was read, and nobody has to expect it.
  const read = isChangedSince ? null : alcReading;
  const reading = read ?? input.alcExpected ?? model?.alc.usual ?? null;
  if (reading === null) return dialStage(settings, 'gain', canJudge(input.card) ? waiting(input) : { note: NOT_YET, state: 'unknown' });
  const [low, high] = rig.alc.zone;
  const isIn = reading >= low && reading <= high;
  return dialStage(settings, 'gain', {
    note: read === null ? `ALC about ${readingText(rig.alc, reading)} expected` : `ALC read ${readingText(rig.alc, read)}`,
    state: isIn ? 'ok' : 'watch',
  });
}

function compressorStage(input: RibbonInput, settings: EffectiveSettings): StageView {
  const { model } = input;
  return dialStage(
    settings,
    'compressor',
    model === null ? waiting(input) : { note: `peaks ${fixed(model.peakToAverageDb, 0)} dB over average`, state: 'ok' },
  );
}

function passbandStage({ radio }: RibbonInput, { passbandHz }: EffectiveSettings): StageView {
  return {
    key: 'passband',
    value: passbandHz.join('–'),
    note: radio ? 'as the dials say' : 'as the dials say, not measured',
    state: 'unknown',
  };
}

/** Under this score a voice is somebody else's. Common practice has no number: this project's own. */
const STRANGE_SCORE = 35;

function heardStage(input: RibbonInput): StageView {
  const { model } = input;
  const key = 'heard';
  if (!model) return { key, value: '', ...waiting(input) };
  const { reachDb } = model.reach;
  const score = Math.round(model.naturalness.score);
  if (reachDb === null) return { key, value: 'not readable', note: `naturalness ${score}`, state: 'fault' };
  return {
    key,
    value: `reach ${signed(reachDb, 1)} dB`,
    note: `naturalness ${score}, expected`,
    state: reachDb < -1 || score < STRANGE_SCORE ? 'watch' : 'ok',
  };
}

/** Values of a stage's live dials, short. */
function dialsText({ dials }: EffectiveSettings, stage: (typeof DIAL_STAGES)[number]): string {
  const own = dials.filter(({ dial }) => dial.stage === stage);
  const live = own.filter(({ dead }) => !dead);
  if (own.length > 0 && live.length === 0) return NOT_HERE;
  return live.map(({ dial, value }) => valueText(dial, value)).join(', ');
}
