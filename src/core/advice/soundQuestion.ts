/**
 * Mic, mixer or equalizer? What each way to a better sound is worth for one voice: the switch and the distance of the
 * microphone there is, the radio's own equalizer, an outboard one, another kind of microphone. Each is set as well as it
 * can be, then judged by tone, reach, naturalness and room. The order of spending is common practice: what is there
 * first, then the microphone, the rack last.
 */
import { type CurvePoint, curveAt } from '../curve/index.ts';
import { TWELFTH_CENTRES } from '../dsp/index.ts';
import { bytesInMemory, openWav, writeWav } from '../files/index.ts';
import { CardJudge } from '../intelligibility/index.ts';
import { measureVoice } from '../measure/index.ts';
import {
  type Card,
  type DialValues,
  effective,
  type Microphone,
  type MicrophoneUse,
  microphoneUseText,
  responseOf,
  valueText,
} from '../rig/index.ts';
import { calibrateDrive, hearCard, microphoneResponseDb, QUIET_ROOM, type StationSetting, type Voice } from '../simulate/index.ts';
import { type Decibels, decibels } from '../units/index.ts';
import { FitImpossible, fitEqualizer } from './fitEqualizer.ts';
import { OUTBOARD } from './outboard.ts';
import { MICROPHONE_KINDS, microphoneOfKind } from './questions.ts';

/** A way to a better sound, in the order in which it costs money. */
export type Way = 'as it is' | 'radio' | 'use' | 'outboard' | 'microphone';

/** What one way is worth for the voice, and what it cannot fix. */
export interface SoundAnswer {
  readonly way: Way;
  readonly name: string;
  /** Off target, with the best settings of what is tried; null where nothing can be fitted. */
  readonly errorDb: Decibels | null;
  readonly reachDb: Decibels | null;
  readonly naturalness: number;
  /** Noise of the room behind it all, re the voice. */
  readonly noiseDb: Decibels;
  /** How to set it, in words; empty for what stands already. */
  readonly settings: string;
  /** What it does not mend. */
  readonly cannot: string;
}

interface Trial {
  readonly way: Way;
  readonly name: string;
  readonly microphone: Microphone;
  readonly use: MicrophoneUse;
  /** Noise of the room that comes with it; null: as recorded. */
  readonly roomDb: Decibels | null;
  readonly fits: 'nothing' | 'radio' | number;
  readonly cannot: string;
}

const NO_EQUALIZER = TWELFTH_CENTRES.map(() => 0);
const DISTANCES_CM: readonly number[] = [5, 10];
const CANNOT = {
  'as it is': '',
  radio: 'the room, pops and hum; what lies outside the passband',
  use: 'a loud room; nearer means more pops and more lows',
  outboard: 'the room, pops and hum; what lies outside the passband',
  microphone: 'the passband; a loud room',
} as const satisfies Record<Way, string>;

/** A microphone whose response nobody has put down: the voice that was recorded has it in it. */
export const isUnknown = ({ positions }: Microphone): boolean => positions.length === 0;

function trialsOf({ microphone, use }: { microphone: Microphone; use: MicrophoneUse }): Trial[] {
  const trial = (way: Way, name: string, fits: Trial['fits'], change: Partial<Trial> = {}): Trial => ({
    way,
    name,
    microphone,
    use,
    roomDb: null,
    fits,
    cannot: CANNOT[way],
    ...change,
  });
  const uses = [
    ...microphone.positions.filter(({ name }) => name !== use.position).map(({ name }) => ({ ...use, position: name })),
    ...DISTANCES_CM.filter((cm) => Math.abs(cm / use.distanceCm - 1) > 0.2).map((distanceCm) => ({ ...use, distanceCm })),
  ];
  const others = isUnknown(microphone) ? [] : MICROPHONE_KINDS;
  return [
    trial('as it is', 'as the card stands', 'nothing'),
    trial('radio', 'the radio’s equalizer', 'radio'),
    ...uses.map((each) =>
      trial('use', `the same microphone, ${microphoneUseText(each)}, and the radio’s equalizer`, 'radio', { use: each }),
    ),
    ...OUTBOARD.map((_, k) => trial('outboard', '', k)),
    ...others.map((kind) =>
      trial('microphone', `${kind.name}, and the radio’s equalizer`, 'radio', { ...microphoneOfKind(kind), roomDb: kind.noiseDb }),
    ),
  ];
}

/** Whose voice, on what, toward which target. */
export interface SoundQuestion {
  /** The voice without microphone and equalizer, as far as they are known. */
  readonly voice: Voice;
  readonly station: StationSetting;
  readonly microphone: Microphone;
  readonly use: MicrophoneUse;
  readonly card: Card;
  readonly target: readonly CurvePoint[];
}

/** Tries every way; the first answer is the card as it stands. @param onProgress told the share done */
export async function answerSoundQuestion(question: SoundQuestion, onProgress: (share: number) => void = () => {}): Promise<SoundAnswer[]> {
  const trials = trialsOf(question);
  const answers: SoundAnswer[] = [];
  for (const trial of trials) {
    answers.push(await tried(question, trial));
    onProgress(answers.length / trials.length);
  }
  return answers;
}

async function tried({ voice, station, card, target }: SoundQuestion, trial: Trial): Promise<SoundAnswer> {
  const { microphone, use, roomDb, fits } = trial;
  const { rig } = station;
  const setting: StationSetting = { ...station, microphone: { microphone, use, room: { ...QUIET_ROOM, noiseDb: roomDb }, seed: 1 } };
  const plain = hearCard(voice, setting, card, 'mic');
  const file = writeWav({ sampleRateHz: plain.rateHz, channels: 1, bits: 32, encoding: 'float' }, [plain.samples]);
  const { detail } = await measureVoice(await openWav(bytesInMemory(file)));
  // What stands at the mic socket has gone through no equalizer yet.
  const heard = { voice: detail, target, heardResponseDb: NO_EQUALIZER };
  let name = trial.name;
  let values: DialValues = card.values;
  let errorDb: Decibels | null = null;
  let settings = '';
  let used = setting;
  try {
    if (typeof fits === 'number') {
      const { passbandHz } = effective(rig, card);
      const outboard = OUTBOARD[fits]({ modes: rig.modes, alc: rig.alc, passbandHz });
      const flat: Card = { mode: card.mode, values: Object.fromEntries(outboard.dials.map(({ id, rest }) => [id, rest])) };
      const { best } = fitEqualizer({ rig: outboard, card: flat, ...heard });
      name = `${outboard.name}, the radio’s equalizer flat`;
      errorDb = best.errorDb;
      settings = best.moves.map(({ dial, to }) => `${dial.label} ${valueText(dial, to)}`).join(', ') || 'flat';
      values = flatEqualizer(rig, card);
      const response = responseOf(outboard, { mode: card.mode, values: best.values });
      used = { ...setting, microphone: { ...setting.microphone, ...behind(microphone, use, response) } };
    } else {
      const fit = fitEqualizer({ rig, card, ...heard });
      errorDb = fits === 'nothing' ? fit.errorBeforeDb : fit.best.errorDb;
      if (fits === 'radio') {
        values = { ...values, ...fit.best.values };
        settings = dialsText(fit.best.moves.length);
      }
    }
  } catch (error) {
    if (!(error instanceof FitImpossible)) throw error;
  }
  // Every way gets the gain it needs: the ALC in the middle of its zone.
  const [low, high] = rig.alc.zone;
  const fitted = { mode: card.mode, values };
  const radio = calibrateDrive(voice, used, fitted, (low + high) / 2);
  const judged = new CardJudge(voice, { ...used, radio }).judge(fitted);
  return {
    way: trial.way,
    name,
    errorDb,
    reachDb: judged.reach.reachDb,
    naturalness: judged.naturalness.score,
    noiseDb: judged.reach.noiseDb,
    settings,
    cannot: trial.cannot,
  };
}

function flatEqualizer(rig: StationSetting['rig'], card: Card): DialValues {
  const values = { ...card.values };
  for (const { level } of effective(rig, card).bands) values[level] = 0;
  return values;
}

/** A microphone with an equalizer behind it, as one microphone. */
function behind(microphone: Microphone, use: MicrophoneUse, response: readonly Decibels[]): { microphone: Microphone; use: MicrophoneUse } {
  const added = TWELFTH_CENTRES.map((hz, i): CurvePoint => [hz, response[i]]);
  const own = microphoneResponseDb(microphone, use, TWELFTH_CENTRES);
  const away = microphoneResponseDb({ ...microphone, positions: [], accessories: [] }, use, TWELFTH_CENTRES);
  const curve = TWELFTH_CENTRES.map((hz, i): [number, number] => [hz, own[i] - away[i] + curveAt(added, hz)]);
  const name = 'with the equalizer';
  // Proximity is counted by the model itself, and is not in the curve.
  const { curveDistanceCm: _, ...rest } = microphone;
  return {
    microphone: { ...rest, positions: [{ name, curve }], accessories: [] },
    use: { position: name, accessories: [], distanceCm: use.distanceCm },
  };
}

/** What is worth a hand or money shows in a decibel of tone or reach. */
const WORTH_DB: Decibels = 1;
/** Noise that comes up by this is heard. */
const NOISE_DB: Decibels = 6;

const gainOver = (before: SoundAnswer, after: SoundAnswer): { tone: Decibels; reach: Decibels } => ({
  tone: (before.errorDb ?? 0) - (after.errorDb ?? before.errorDb ?? 0),
  reach: (after.reachDb ?? -99) - (before.reachDb ?? -99),
});

const gainWords = (before: SoundAnswer, after: SoundAnswer): string => {
  const { tone, reach } = gainOver(before, after);
  const noise = after.noiseDb - before.noiseDb;
  const parts = [tone >= reach ? `${decibels(tone)} nearer to the target` : `${decibels(reach)} of reach`];
  if (noise >= NOISE_DB) parts.push(`with the room ${decibels(noise)} louder`);
  return parts.join(', ');
};

/** The answer in a few sentences. @param unknownMic the microphone's name where its response is not known */
export function soundWords(answers: readonly SoundAnswer[], unknownMic: string | null): string[] {
  const [now] = answers;
  const best = (way: Way): SoundAnswer | undefined =>
    answers
      .filter((each) => each.way === way)
      .sort((a, b) => Math.max(...Object.values(gainOver(now, b))) - Math.max(...Object.values(gainOver(now, a))))[0];
  const isWorth = (before: SoundAnswer, after: SoundAnswer | undefined): after is SoundAnswer =>
    after !== undefined && Math.max(...Object.values(gainOver(before, after))) >= WORTH_DB;
  const sentences: string[] = [];
  const radio = best('radio');
  const base = isWorth(now, radio) ? radio : now;
  sentences.push(
    base === now
      ? 'The radio’s equalizer as it stands is about as good as this radio gets for this voice.'
      : `First, and free: the radio’s equalizer, ${gainWords(now, base)}.`,
  );
  const use = best('use');
  if (isWorth(base, use)) sentences.push(`Also free: ${use.name}, ${gainWords(base, use)} beyond that.`);
  if (unknownMic) {
    sentences.push(
      `Another microphone: cannot tell yet. What ${unknownMic} does to your voice is not known, and is taken for your voice. To find out, play the sweep once by cable into the mic socket and once from a loudspeaker into the microphone, and compare the two: the difference is the microphone. Put its curve on the microphone’s page, and ask again.`,
    );
  } else {
    const other = best('microphone');
    sentences.push(
      isWorth(base, other)
        ? `A microphone of another kind: ${other.name}, ${gainWords(base, other)} beyond that.`
        : 'Another kind of microphone gains less than a decibel beyond that, in tone and in reach.',
    );
  }
  const rack = best('outboard');
  sentences.push(
    isWorth(base, rack)
      ? `An outboard equalizer: ${rack.name}, ${gainWords(base, rack)} beyond the radio’s own.`
      : 'An outboard equalizer gains less than a decibel over the radio’s own.',
  );
  return sentences;
}

const dialsText = (count: number): string => (count === 0 ? 'as it stands' : count === 1 ? '1 dial' : `${count} dials`);
