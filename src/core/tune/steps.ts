/**
 * The steps of a Tune run in words: why now, what to do, what is good enough and whether it is. Order and habits are
 * common practice; whether something is good enough comes from readings, recordings and the card.
 */
import {
  type AlcStanding,
  AM_ZONE,
  amGain,
  type CarrierBracket,
  COMPRESSION_SCHOOLS,
  fmGain,
  fmWidthOn,
  type GoalState,
  isBaseline,
  MOST_SWR,
  type Modulation,
  type Purposed,
} from '../advice/index.ts';
import { type Finding, type FindingCode, named, type State, spoiltBy } from '../findings/index.ts';
import { type Card, dialInRole, effective, enableEqualizer, type Mode, type RigProfile, readingText, valueOn } from '../rig/index.ts';
import { type Decibels, decibels, fixed, frequency, type Hertz, percent } from '../units/index.ts';
import { saidBy, type TuneRun, type TuneStepKey, wishOf } from './run.ts';

/** What is known of the card as it stands. */
export interface TuneEvidence {
  readonly rig: RigProfile;
  readonly card: Card;
  readonly standing: AlcStanding;
  /** How things stand by the engine; null while it is worked out, or before the first over. */
  readonly goal: GoalState | null;
  /** Carrier offsets that were heard; null on radios that have no such dial. */
  readonly bracket: CarrierBracket | null;
  readonly swr: number | null;
  /** Findings on the best recording made with the card as it stands; null where there is none. */
  readonly heard: { readonly findings: readonly Finding[]; readonly isMonitor: boolean } | null;
  /** Why an I/Q recording of the card as it stands shows too much drive, in a sentence; null where none does. */
  readonly tooMuchDrive: string | null;
  /** How many stations have said something of the card. */
  readonly reports: number;
  /** Usual peak deviation of the newest FM over with the card as it stands; null where there is none. */
  readonly deviationHz: Hertz | null;
  /** How deep the newest AM over with the card as it stands was modulated; null where none tells. */
  readonly modulation: Modulation | null;
}

/** Something to do, to be ticked off. */
export interface TuneTask {
  readonly id: string;
  readonly text: string;
  /** Somebody or something can be hurt. */
  readonly isSafety?: boolean;
}

/** Whether it is good enough. */
export interface Enough {
  readonly state: State;
  readonly text: string;
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
const good = (text: string): Enough => ({ state: 'ok', text });
const notYet = (text: string): Enough => ({ state: 'watch', text });
const wrong = (text: string): Enough => ({ state: 'fault', text });
const unknown = (text: string): Enough => ({ state: 'unknown', text });
const stale = (text: string): Enough => ({ state: 'stale', text });

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
  return scope?.length === 0 && depthOf(evidence)?.isRight === false ? null : scope;
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

const MICROPHONE_FAULTS: readonly FindingCode[] = ['clipping', 'flat-tops', 'low-level', 'hum', 'room-noise', 'plosives', 'sibilance'];
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
    enough: levelEnough(run, evidence),
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
    enough: depthEnough(run, evidence),
  }),
};
const OWN_STEPS: Readonly<Partial<Record<Mode, typeof FM_STEPS>>> = { am: AM_STEPS, fm: FM_STEPS };

const depthOf = ({ rig, card, modulation }: TuneEvidence) => modulation && amGain(rig, card, modulation);

const depthGoal = (run: TuneRun, rig: RigProfile): string =>
  `${zoneWords(run, rig)}, modulation ${percent(AM_ZONE[0])} to ${percent(AM_ZONE[1])} on speech peaks, never to zero.`;

function wrongDepth(evidence: TuneEvidence): Enough | null {
  const depth = depthOf(evidence);
  if (!depth || depth.isRight) return null;
  return evidence.modulation?.isCutOff ? wrong(depth.text) : notYet(depth.text);
}

/** The depth where it was measured, and the ALC. */
function depthEnough(run: TuneRun, evidence: TuneEvidence): Enough {
  const isWrong = wrongDepth(evidence);
  if (isWrong) return isWrong;
  const level = levelEnough(run, evidence);
  const depth = depthOf(evidence);
  return { state: level.state, text: `${level.text} ${depth ? depth.text : 'The depth was not measured: record the I/Q of an over.'}` };
}

function deviationGoal({ rig, card }: TuneEvidence): string {
  return fmWidthOn(rig, card) === 'wide' ? 'Wide: 4 to 5 kHz on speech peaks.' : 'Narrow: 2 to 2.5 kHz on speech peaks.';
}

function deviationEnough({ rig, card, deviationHz }: TuneEvidence): Enough {
  const advice = deviationHz === null ? null : fmGain(rig, card, deviationHz);
  if (!advice) return unknown('Not measured with the card as it stands.');
  return advice.isRight ? good(advice.text) : notYet(advice.text);
}

function zoneWords(run: TuneRun, rig: RigProfile): string {
  const [low, high] = wishOf(run, rig).alcZone;
  return `ALC between ${readingText(rig.alc, low)} and ${readingText(rig.alc, high)}`;
}

function microphoneEnough({ ears }: TuneRun, heard: TuneEvidence['heard']): Enough {
  if (!heard)
    return ears === 'none' ? unknown('Without a recording, your own ears on headphones have to judge.') : notYet('No recording yet.');
  const found = heard.findings.find(({ code, severity }) => severity !== 'ok' && MICROPHONE_FAULTS.includes(code));
  return found ? { state: found.severity, text: found.text } : good('Level, breath and room are in order.');
}

function baselineEnough({ ears }: TuneRun, rig: RigProfile, card: Card, heard: TuneEvidence['heard']): Enough {
  if (!isBaseline(rig, card)) return notYet('The card is not flat and uncompressed.');
  const spoilt = heard && spoiltBy(heard.findings);
  if (spoilt) return wrong(spoilt.text);
  if (heard) return good('Your flat voice is known.');
  return ears === 'none' ? good('Flat and uncompressed.') : notYet('No recording with this card yet.');
}

function levelEnough(run: TuneRun, { rig, standing: { newest, gain }, goal, tooMuchDrive }: TuneEvidence): Enough {
  if (tooMuchDrive) return { state: 'fault', text: tooMuchDrive };
  if (goal?.drive === 'high') return wrong('The next channel is full: less gain first.');
  if (!newest) return notYet('The ALC was not read yet.');
  if (newest.changed.length > 0) return stale(`Stale: since it was read, ${newest.changed.join(', ')} changed.`);
  const [low, high] = wishOf(run, rig).alcZone;
  const read = readingText(rig.alc, newest.alc);
  if (newest.alc < low) return notYet(`${read} is below the zone.`);
  if (newest.alc > high) return notYet(`${read} is above the zone.`);
  // The engine has the last word; until it has spoken the readings alone do.
  const fits = goal ? goal.alc === 'ok' : !gain || gain.now.chance >= 0.5;
  return fits ? good(`${read} is inside the zone.`) : unknown(`${read} fits, but the readings before it do not: read it once more.`);
}

/** On a simple radio the carrier offset is the passband: chosen is what was heard on either side of it. */
function passbandEnough({ ears }: TuneRun, { rig, card, bracket }: TuneEvidence): Enough {
  const [low, high] = effective(rig, card).passbandHz;
  const text = `It is ${frequency(low)} to ${frequency(high)}`;
  if (!bracket) return good(`${text}.`);
  const line = lineNow(card, bracket);
  if (!line)
    return ears === 'none'
      ? unknown('The carrier offset decides it, and without a recording only other stations’ words tell: ask for sharp or mellow.')
      : notYet('The carrier offset decides it, and no over was heard with the one on the card.');
  if (line.side === 'balanced') return good(`${text}, and sounds balanced.`);
  if (bracket.next) return notYet(`With this carrier offset the voice sounds ${line.side}: bracket it first.`);
  return good(`${text}: the ${line.side} one of the two candidates.`);
}

const lineNow = (card: Card, { dial, lines }: CarrierBracket) => lines.find(({ offset }) => offset === Number(valueOn(card, dial)));

const TONE_CODES: readonly FindingCode[] = ['thin', 'harsh', 'muffled', 'boomy', 'narrow'];

/** That the carrier offset comes before the tone; null where it is bracketed or balanced, or there is none. */
function offsetAside({ card, bracket }: Pick<TuneEvidence, 'card' | 'bracket'>): string | null {
  const line = bracket && lineNow(card, bracket);
  return bracket?.next && line && line.side !== 'balanced' ? 'The carrier offset comes first: go back to the passband step.' : null;
}

function compressionEnough(goal: GoalState | null): Enough {
  switch (goal?.compression) {
    case 'ok':
      return good('It is as your school has it.');
    case 'low':
      return notYet('Less than your school has.');
    case 'high':
      return notYet('More than your school has.');
    default:
      return unknown(goal ? 'Read the compression meter on peaks.' : 'Not known before the first over.');
  }
}

/** So far from the best is still good (the goal of a run). */
const NEAR_DB: Decibels = 1;
/** What no equalizer comes nearer to than this is for the passband to mend. */
const FAR_DB: Decibels = 4;

function toneEnough({ ears }: TuneRun, { goal, ...evidence }: TuneEvidence): Enough {
  const { toneErrorDb = null, bestToneErrorDb = null } = goal ?? {};
  if (toneErrorDb === null || bestToneErrorDb === null)
    return unknown(
      ears === 'none'
        ? 'Without a recording only reports tell.'
        : 'Not judged yet: the level first, then a clean recording on a second receiver.',
    );
  const text = `${decibels(toneErrorDb, 1)} off target; these dials can reach ${decibels(bestToneErrorDb, 1)}.`;
  const aside = offsetAside(evidence);
  if (aside !== null && bestToneErrorDb > FAR_DB) return notYet(`${text} ${aside}`);
  return toneErrorDb - bestToneErrorDb <= NEAR_DB ? good(text) : notYet(text);
}

function verifyEnough(run: TuneRun, evidence: TuneEvidence): Enough {
  const { ears } = run;
  const { heard, tooMuchDrive, card, standing } = evidence;
  if (!heard) return ears === 'none' ? unknown('Without a receiver only reports tell.') : notYet('No recording of the card as it stands.');
  if (heard.isMonitor) return notYet('Only the monitor has heard it.');
  const found = heard.findings.find(({ severity }) => severity === 'fault');
  const aside = found && TONE_CODES.includes(found.code) ? offsetAside(evidence) : null;
  if (found) return wrong(aside === null ? found.text : `${found.text} ${aside}`);
  if (tooMuchDrive) return wrong(tooMuchDrive);
  const isWrong = wrongDepth(evidence);
  if (isWrong) return isWrong;
  const level = card.mode === 'fm' || !standing.newest ? null : levelEnough(run, evidence);
  if (level?.state === 'watch') return notYet(`Heard off the air with nothing wrong in it, but the ALC is not right: ${level.text}`);
  const odd = named(heard.findings.filter(({ severity }) => severity === 'watch'));
  return good(odd === '' ? 'Heard off the air, and nothing is wrong.' : `Heard off the air, with no fault in it. Worth a look: ${odd}.`);
}
