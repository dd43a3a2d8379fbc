/**
 * The steps of a Tune run in words: why now, what to do, what is good enough and whether it is. Order and habits are
 * common practice.
 */
import { COMPRESSION_SCHOOLS, MOST_SWR, type Purposed } from '../advice/index.ts';
import { dialInRole, effective, enableEqualizer, type Mode } from '../rig/index.ts';
import { fixed } from '../units/index.ts';
import {
  baselineEnough,
  compressionEnough,
  depthEnough,
  depthGoal,
  deviationEnough,
  deviationGoal,
  type Enough,
  good,
  levelEnough,
  levelSettled,
  microphoneEnough,
  notYet,
  passbandEnough,
  type TuneEvidence,
  toneEnough,
  verifyEnough,
  wrong,
  zoneWords,
} from './enough.ts';
import { saidBy, type TuneRun, type TuneStepKey } from './run.ts';

/** Something to do, to be ticked off. */
export interface TuneTask {
  readonly id: string;
  readonly text: string;
  /** Somebody or something can be hurt. */
  readonly isSafety?: boolean;
}

/** A step as it is shown. */
export interface TuneStep {
  readonly key: TuneStepKey;
  readonly title: string;
  readonly why: string;
  readonly tasks: readonly TuneTask[];
  /** What is good enough. */
  readonly goal: string;
  readonly enough: Enough;
  /** What the engine may turn at this step, beside the mic gain; null where nothing is turned by it. */
  readonly scope: readonly Purposed[] | null;
  /** An over made at this step tells something. */
  readonly takesOvers: boolean;
}

/** Names of the steps. */
const TUNE_STEP_NAMES: Readonly<Record<TuneStepKey, string>> = {
  prepare: 'Prepare',
  microphone: 'Microphone',
  baseline: 'Baseline',
  passband: 'Passband',
  gain: 'Mic gain and ALC',
  compressor: 'Compressor',
  equalizer: 'Equalizer',
  'alc-again': 'ALC again',
  verify: 'Verify',
  reports: 'Reports',
  finish: 'Finish',
};

/** FM has no ALC to set: its level is the deviation. */
const FM_NAMES: Readonly<Partial<Record<TuneStepKey, string>>> = { gain: 'Mic gain and deviation', 'alc-again': 'Deviation again' };
/** A step's name in a mode. */
export const stepName = (key: TuneStepKey, mode: Mode): string => (mode === 'fm' ? FM_NAMES[key] : undefined) ?? TUNE_STEP_NAMES[key];

type Words = Omit<TuneStep, 'key' | 'title' | 'scope' | 'takesOvers'>;
const SCOPES: Readonly<Partial<Record<TuneStepKey, readonly Purposed[]>>> = {
  gain: [],
  compressor: ['compression'],
  equalizer: ['compression', 'tone'],
  'alc-again': [],
};
const FM_SCOPES: typeof SCOPES = { equalizer: ['tone'] };
const WITH_OVERS: readonly TuneStepKey[] = ['microphone', 'baseline', 'passband', 'gain', 'compressor', 'equalizer', 'alc-again', 'verify'];

/** A step of a run with what is known. */
export function tuneStep(run: TuneRun, key: TuneStepKey, evidence: TuneEvidence): TuneStep {
  const { mode } = evidence.card;
  return {
    key,
    title: stepName(key, mode),
    ...(OWN_STEPS[mode]?.[key] ?? STEPS[key])(run, evidence),
    scope: scopeOf(key, evidence),
    takesOvers: WITH_OVERS.includes(key),
  };
}

function scopeOf(key: TuneStepKey, evidence: TuneEvidence): TuneStep['scope'] {
  if (evidence.card.mode === 'fm') return FM_SCOPES[key] ?? null;
  const scope = SCOPES[key] ?? null;
  // In AM the depth comes before the ALC: where it is wrong it says which way the gain goes, and nothing else turns it.
  return scope?.length === 0 && evidence.radioGain?.isRight === false ? null : scope;
}

const ticked = (run: TuneRun, tasks: readonly TuneTask[], text: string): Enough => {
  const left = tasks.filter(({ id }) => !run.ticks.includes(id)).length;
  return left === 0 ? good(text) : notYet(`${left} of ${tasks.length} left to tick.`);
};

const PREPARE: readonly TuneTask[] = [
  { id: 'load', text: 'Dummy load on the antenna socket.', isSafety: true },
  { id: 'power', text: 'Power down to about 5 W. Keep overs short and watch the temperature.', isSafety: true },
  {
    id: 'frequency',
    text: 'A clear frequency all the same: listen first, and identify as your licence requires.',
    isSafety: true,
  },
  { id: 'meter', text: 'Meter to ALC, peak hold on.' },
  { id: 'headphones', text: 'Monitor on headphones, low at first; never on a speaker.', isSafety: true },
];
const PRACTICE: readonly TuneTask[] = [
  { id: 'simulated', text: 'Nothing is transmitted: radio, dummy load and receivers are simulated.' },
  { id: 'meter', text: 'On a real radio: dummy load, about 5 W, meter to ALC with peak hold, monitor on headphones.' },
];
const MICROPHONE: readonly TuneTask[] = [
  { id: 'switch', text: 'Its switch where it is to stay; cap or screen fitted, or not.' },
  { id: 'distance', text: 'A distance that you will keep: 5 to 10 cm for a boom or desk microphone, about 5 cm for a headset.' },
  { id: 'five', text: 'Talk for five seconds as you do on the air, then keep silent for two: the silence shows the room.' },
];
const FINISH: readonly TuneTask[] = [
  { id: 'swr', text: 'Meter back to SWR; antenna back on the socket.', isSafety: true },
  { id: 'memories', text: 'Voice memories recorded again, each in the mode it is used in.' },
  { id: 'sheet', text: 'Dial sheet printed or written down.' },
  { id: 'mic', text: 'On the sheet: which microphone to plug in, and where its switch stands.' },
];
const one = (id: string, text: string): readonly TuneTask[] => [{ id, text }];

const nothingToSet = (id: string): Omit<Words, 'why'> => ({
  tasks: one(id, 'Go on to the next step.'),
  goal: 'None on this radio in this mode.',
  enough: good('Nothing to set here.'),
});

const SAID_WORDS = {
  talk: 'what you usually say',
  counting: 'one to ten, quickly',
  sustained: 'one long word, the same every time',
} as const;

const STEPS: Readonly<Record<TuneStepKey, (run: TuneRun, evidence: TuneEvidence) => Words>> = {
  prepare: (run, { swr }) => {
    const tasks = run.ears === 'practice' ? PRACTICE : PREPARE;
    return {
      why: 'What is tuned into a dummy load can be repeated; what is tuned on the air disturbs others and changes with every path.',
      tasks,
      goal: 'Everything ticked, SWR below 3.',
      enough:
        swr !== null && swr > MOST_SWR
          ? wrong(`The SWR was read as ${fixed(swr, 1)}: look at the load and its cable first.`)
          : ticked(run, tasks, 'Ready to transmit.'),
    };
  },
  microphone: (run, { heard }) => ({
    why: 'It decides most of the sound. Every number after it holds for this microphone, at this distance, only.',
    tasks: MICROPHONE,
    goal: 'Level, breath and room in order in a short recording.',
    enough: microphoneEnough(run, heard),
  }),
  baseline: (run, { rig, card, heard }) => ({
    why: 'The first recording shows voice, microphone and radio alone. Everything that comes later is compared with it.',
    tasks: one('baseline', 'Equalizer flat, compressor off. Then talk for 15 seconds about anything.'),
    goal: 'One clean recording of the flat, uncompressed voice.',
    enough: baselineEnough(run, rig, card, heard),
  }),
  passband: (run, evidence) => {
    return {
      why: 'It bounds everything the equalizer can do. Narrow puts the power into less spectrum, wide sounds more like you.',
      tasks: one(
        'passband',
        'Choose it for the purpose. Listen before you decide: the difference is small at one edge and large at the other.',
      ),
      goal: 'Chosen for the purpose; nothing above 2900 Hz on a crowded band.',
      enough: passbandEnough(run, evidence),
    };
  },
  gain: (run, evidence) => ({
    why: 'Too much distorts and splatters, too little has no punch. Gain scales differ from radio to radio: only the meter tells.',
    tasks: one('said', `Read the ALC on speech peaks while you say ${SAID_WORDS[saidBy(run)]}.`),
    goal: `${zoneWords(run, evidence.rig)} on speech peaks.`,
    enough: levelEnough(run, evidence),
  }),
  compressor: (run, { goal, rig, card }) => {
    const why = 'It raises average power, the room and the breath alike. A weak signal gains by it, a strong one sounds better without.';
    if (!dialInRole(rig, 'compression', card.mode)) return { why, ...nothingToSet('compressor') };
    return {
      why,
      tasks: one('compressor', 'Set it, and read the ALC again: it moves the level.'),
      goal: `${COMPRESSION_SCHOOLS[run.compression].name}: ${COMPRESSION_SCHOOLS[run.compression].note}.`,
      enough: compressionEnough(goal),
    };
  },
  equalizer: (run, evidence) => {
    const why = 'Lows, mids and highs, a few decibels at a time. The fit says which of your dials do most for your voice.';
    const { rig, card } = evidence;
    if (effective(rig, enableEqualizer(rig, card)).bands.length === 0) return { why, ...nothingToSet('equalizer') };
    return {
      why,
      tasks: one(
        'equalizer',
        run.ears === 'none'
          ? 'Set what others advise, relative to where the dials stand.'
          : 'Set what the next move says, talk for 15 seconds about something else, and look at what came of it.',
      ),
      goal: 'Within a decibel of the best that these dials can do.',
      enough: toneEnough(run, evidence),
    };
  },
  'alc-again': (run, evidence) => ({
    why: 'Compression, equalizer and passband have all moved the level: the first reading is worth nothing now.',
    tasks: one('again', `Read it once more, saying ${SAID_WORDS[saidBy(run)]} as before.`),
    goal: `${zoneWords(run, evidence.rig)}, read with the card as it stands.`,
    enough: levelSettled(run, evidence),
  }),
  verify: (run, evidence) => ({
    why: 'The monitor taps the audio early: it is not what you transmit. A tap in the line misses the antenna.',
    tasks: one(
      'verify',
      'Record one over on something that is not the radio: a second receiver with its own antenna, a remote receiver, a friend.',
    ),
    goal: 'Heard off the air, with nothing wrong in it.',
    enough: verifyEnough(run, evidence),
  }),
  reports: (_, { reports }) => ({
    why: 'Several receivers beat one opinion. What all of them say is yours; what one of them says may be the path.',
    tasks: one('reports', 'Ask, change one thing, and ask again without saying what you changed.'),
    goal: 'Two stations or more.',
    enough:
      reports >= 2
        ? good(`${reports} stations have said something of this card.`)
        : notYet(reports === 1 ? 'One opinion so far.' : 'Nobody was asked yet.'),
  }),
  finish: (run) => ({
    why: 'What is not written down is lost, and a meter left on ALC hides a bad antenna.',
    tasks: FINISH,
    goal: 'Everything ticked.',
    enough: ticked(run, FINISH, 'The card is yours to trust.'),
  }),
};

const FM_STEPS: Readonly<Partial<Record<TuneStepKey, (run: TuneRun, evidence: TuneEvidence) => Words>>> = {
  gain: (_, evidence) => ({
    why: 'On FM the deviation is the level. Too little sounds like low power, too much is heard next door and clipped by the repeater.',
    tasks: one('said', 'Record the I/Q of an over on a second receiver while you say what you usually say.'),
    goal: deviationGoal(evidence),
    enough: deviationEnough(evidence),
  }),
  'alc-again': (_, evidence) => ({
    why: 'Equalizer and distance have moved the deviation: measure it once more.',
    tasks: one('again', 'One more over with I/Q, saying the same as before. On the repeater, ask for a report of the loudness.'),
    goal: deviationGoal(evidence),
    enough: deviationEnough(evidence),
  }),
};

const AM_STEPS: typeof FM_STEPS = {
  gain: (run, evidence) => ({
    why: 'In AM the depth of the modulation is the level: too little is much carrier and little voice, too much cuts the carrier off and splatters.',
    tasks: [
      ...one('said', `Read the ALC on speech peaks while you say ${SAID_WORDS[saidBy(run)]}.`),
      {
        id: 'depth',
        text: 'Record the I/Q of the same over on a second receiver, or watch the envelope on a scope: it must not reach zero.',
      },
    ],
    goal: depthGoal(run, evidence.rig),
    enough: depthEnough(run, evidence),
  }),
  'alc-again': (run, evidence) => ({
    why: 'Equalizer and distance have moved the depth and the level into the ALC: the first reading is worth nothing now.',
    tasks: one('again', `One more over with I/Q, saying ${SAID_WORDS[saidBy(run)]} as before.`),
    goal: depthGoal(run, evidence.rig),
    enough: depthEnough(run, evidence, levelSettled),
  }),
};
const OWN_STEPS: Readonly<Partial<Record<Mode, typeof FM_STEPS>>> = { am: AM_STEPS, fm: FM_STEPS };
