/** A Tune run: which step it stands at, what is ticked, done and skipped. What is good enough follows from the card's evidence. */
import {
  ALC_SCHOOL_KEYS,
  ALC_SCHOOLS,
  type AlcSchoolKey,
  COMPRESSIONS,
  type CompressionWish,
  LEVEL_ORDERS,
  type LevelOrder,
  type Said,
  type SchoolWish,
} from '../advice/index.ts';
import type { RigProfile } from '../rig/index.ts';

/** The steps, in the order operators walk them. */
export const TUNE_STEPS = [
  'prepare',
  'microphone',
  'baseline',
  'passband',
  'gain',
  'compressor',
  'equalizer',
  'alc-again',
  'verify',
  'reports',
  'finish',
] as const;
/** One of them. */
export type TuneStepKey = (typeof TUNE_STEPS)[number];

/** What the run is heard by. A practice radio is a card of its own. */
export const TUNE_EARS = ['files', 'live', 'none'] as const;
/** One of them, or the practice radio. */
export type TuneEars = (typeof TUNE_EARS)[number] | 'practice';
/** The same in words. */
export const TUNE_EAR_LABELS: Readonly<Record<TuneEars, { readonly name: string; readonly note: string }>> = {
  files: { name: 'Recordings', note: 'files of a second receiver, a remote receiver or a friend' },
  live: { name: 'Sound card', note: 'a second receiver on the sound card of this computer' },
  none: { name: 'Meters only', note: 'no receiver: the meters, and what others say' },
  practice: { name: 'Practice radio', note: 'a simulated transceiver and receiver' },
};

/** A school of setting the ALC, or the zone that the rig's profile has. */
export const ALC_CHOICES = [...ALC_SCHOOL_KEYS, 'rig'] as const;
/** One of them. */
export type AlcChoice = AlcSchoolKey | 'rig';

/** How somebody tunes: chosen once, kept for the next run. */
export interface TuneSchool {
  readonly alc: AlcChoice;
  readonly compression: CompressionWish;
  readonly order: LevelOrder;
  readonly ears: TuneEars;
}

/** A run as it is stored. */
export interface TuneRun extends TuneSchool {
  readonly at: TuneStepKey;
  readonly done: readonly TuneStepKey[];
  readonly skipped: readonly TuneStepKey[];
  /** Ids of what was ticked off. */
  readonly ticks: readonly string[];
}

/** The shape of a stored run, for everything that enters. */
export const tuneRunSchema = {
  type: 'object',
  properties: {
    alc: { enum: ALC_CHOICES },
    compression: { enum: COMPRESSIONS },
    order: { enum: Object.keys(LEVEL_ORDERS) as LevelOrder[] },
    ears: { enum: [...TUNE_EARS, 'practice'] as TuneEars[] },
    at: { enum: TUNE_STEPS },
    done: { type: 'array', maxItems: TUNE_STEPS.length, uniqueItems: true, items: { enum: TUNE_STEPS } },
    skipped: { type: 'array', maxItems: TUNE_STEPS.length, uniqueItems: true, items: { enum: TUNE_STEPS } },
    ticks: { type: 'array', maxItems: 60, uniqueItems: true, items: { type: 'string', pattern: '^[a-z-]{1,30}$' } },
  },
  required: ['alc', 'compression', 'order', 'ears', 'at', 'done', 'skipped', 'ticks'],
  additionalProperties: false,
} as const;

/** A new run. */
export const beginRun = ({ alc, compression, order, ears }: TuneSchool): TuneRun => ({
  alc,
  compression,
  order,
  ears,
  at: 'prepare',
  done: [],
  skipped: [],
  ticks: [],
});

/** How somebody tunes who never chose: the zone of the rig's profile, by its school where it is one. */
export function usualSchool({ alc: { zone } }: RigProfile, ears: TuneEars): TuneSchool {
  const alc = ALC_SCHOOL_KEYS.find((key) => ALC_SCHOOLS[key].zone.every((end, k) => Math.abs(end - zone[k]) < 0.005)) ?? 'rig';
  return { alc, compression: 'token', order: 'compressor-first', ears };
}

/** What the engine is to reach. */
export const wishOf = ({ alc, compression }: Pick<TuneSchool, 'alc' | 'compression'>, rig: RigProfile): SchoolWish => ({
  alcZone: alc === 'rig' ? [rig.alc.zone[0], rig.alc.zone[1]] : ALC_SCHOOLS[alc].zone,
  compression,
});

/** What is said into the microphone while the meter is read. */
export const saidBy = ({ alc }: Pick<TuneSchool, 'alc'>): Said => (alc === 'rig' ? 'talk' : ALC_SCHOOLS[alc].said);

/** The run's steps in its own order. */
export function stepsOf({ order }: Pick<TuneRun, 'order'>): readonly TuneStepKey[] {
  if (order === 'alc-first') return TUNE_STEPS;
  return TUNE_STEPS.map((step) => (step === 'gain' ? 'compressor' : step === 'compressor' ? 'gain' : step));
}

/** What may be done with a run. */
export const TUNE_ACTS = ['done', 'skip', 'repeat', 'go', 'tick', 'untick'] as const;
/** One thing done; `step` for the first four, `id` for ticks. */
export type TuneAct =
  | { readonly kind: 'done' | 'skip' | 'repeat' | 'go'; readonly step: TuneStepKey }
  | { readonly kind: 'tick' | 'untick'; readonly id: string };

const without = <T>(all: readonly T[], one: T): T[] => all.filter((each) => each !== one);

/** The run after an act. A step done or skipped leads on to the next that is neither; the last one stays. */
export function afterAct(run: TuneRun, act: TuneAct): TuneRun {
  switch (act.kind) {
    case 'tick':
      return { ...run, ticks: [...without(run.ticks, act.id), act.id] };
    case 'untick':
      return { ...run, ticks: without(run.ticks, act.id) };
    case 'go':
      return { ...run, at: act.step };
    case 'repeat':
      return { ...run, at: act.step, done: without(run.done, act.step), skipped: without(run.skipped, act.step) };
    default: {
      const [left, other] = act.kind === 'done' ? (['done', 'skipped'] as const) : (['skipped', 'done'] as const);
      const marked = { ...run, [left]: [...without(run[left], act.step), act.step], [other]: without(run[other], act.step) };
      return { ...marked, at: nextOpen(marked, act.step) };
    }
  }
}

const isOpen = (run: TuneRun, step: TuneStepKey): boolean => !run.done.includes(step) && !run.skipped.includes(step);

function nextOpen(run: TuneRun, from: TuneStepKey): TuneStepKey {
  const steps = stepsOf(run);
  const after = steps.slice(steps.indexOf(from) + 1);
  return [...after, ...steps].find((step) => isOpen(run, step)) ?? steps[steps.length - 1];
}

/** Whether nothing is left to do. */
export const isOver = (run: TuneRun): boolean => !TUNE_STEPS.some((step) => isOpen(run, step));
