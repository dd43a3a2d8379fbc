/** What was found out of a practice radio beside what it hides. */
import { driveOf, type Learned, type SeenOver } from '../advice/index.ts';
import { dialInRole, positionsOf, type RigProfile } from '../rig/index.ts';
import { type HiddenRadio, hiddenTruths } from '../simulate/index.ts';
import { type Decibels, decibels, type Fraction, fixed, percent } from '../units/index.ts';

/** One thing that the radio hides. */
export interface ScoreLine {
  readonly what: string;
  readonly is: string;
  /** What the evidence says; null where it says nothing yet. */
  readonly found: string | null;
  /** Whether that is right; null where nothing was found, or it can't be told. */
  readonly isRight: boolean | null;
}

/** A measured level is right within this; what both say is far down is right too. */
const LEVEL_DB: Decibels = 3;
const FAR_DOWN_DB: Decibels = -45;
/** Noise of the room is right within this. */
const ROOM_DB: Decibels = 6;
/** A meter that never showed so much, or leaves more than such a factor open, settles nothing of the processor. */
const LEAST_SHOWN_DB: Decibels = 6;
const MOST_APART = 1.5;
/** Nor does a decibel that may be so much more or less. */
const MOST_CLICK_APART: Decibels = 0.3;
/** A probability that settles what a width number means, or what a band is. */
const SETTLED = 0.8;

type Found = Pick<ScoreLine, 'found' | 'isRight'>;
const NOTHING: Found = { found: null, isRight: null };

/**
 * @param history overs of the radio, oldest first
 * @param learned what the engine made of them; null before the first over
 */
export function practiceScore(rig: RigProfile, hidden: HiddenRadio, history: readonly SeenOver[], learned: Learned | null): ScoreLine[] {
  const found: Readonly<Record<string, () => Found>> = {
    'One decibel on an equalizer dial': () => clickFound(hidden, learned),
    'Width numbers mean': () => widthFound(hidden, learned),
    'Parametric bands are': () => bellsFound(hidden, learned),
    Processor: () => processorFound(rig, hidden, history, learned),
    'Amplifier saturates': () => amplifierFound(learned),
    Room: () => roomFound(hidden.room, history),
    'Opposite sideband': () => sidebandFound(hidden.radio.balance.oppositeDb, lowest(history.filter(isClean), 'oppositeSidebandDb')),
    Carrier: () => levelFound(hidden.radio.balance.carrierDb, lowest(history.filter(isDriven), 'carrierPepDb')),
    Antenna: () => swrFound(hidden.swr, history),
  };
  return hiddenTruths(rig, hidden).map((truth) => ({ ...truth, ...(found[truth.what]?.() ?? NOTHING) }));
}

/** The carrier stands still: against a smaller PEP it seems larger, so only overs with the ALC at work tell. */
const DRIVEN: Fraction = 0.05;
/** An overdriven amplifier fills the opposite sideband by itself. */
const isClean = (over: SeenOver): boolean => driveOf(over) === 'ok';
const isDriven = ({ alc }: SeenOver): boolean => alc !== null && alc >= DRIVEN;

/** Overdrive adds to it, so the lowest says most. */
function lowest(history: readonly SeenOver[], key: 'oppositeSidebandDb' | 'carrierPepDb'): Decibels | null {
  const all = history.flatMap(({ radios }) => radios.map((radio) => radio[key])).filter((db): db is Decibels => db !== null);
  return all.length === 0 ? null : Math.min(...all);
}

function levelFound(is: Decibels | null, db: Decibels | null): Found {
  if (db === null) return NOTHING;
  const isRight = is === null ? null : Math.abs(db - is) <= LEVEL_DB || Math.max(db, is) <= FAR_DOWN_DB;
  return { found: decibels(db), isRight };
}

/** More than the filter leaks may be the amplifier's: that can't be told apart here. */
function sidebandFound(is: Decibels | null, db: Decibels | null): Found {
  const found = levelFound(is, db);
  return found.isRight === false && is !== null && db !== null && db > is ? { ...found, isRight: null } : found;
}

function clickFound({ radio }: HiddenRadio, learned: Learned | null): Found {
  if (!learned?.equalizer) return NOTHING;
  const [low, likely, high] = learned.equalizer.clickDb;
  const is = radio.equalizerScale ?? 1;
  // As wide as what is believed beforehand.
  if (high - low > MOST_CLICK_APART) return { found: 'not settled yet', isRight: null };
  // The ends are rounded as the radio's own is told.
  const isRight = is >= low - 0.05 && is <= high + 0.05;
  return { found: `${fixed(likely, 2)} dB (${fixed(low, 2)} to ${fixed(high, 2)})`, isRight };
}

function widthFound({ trueRig }: HiddenRadio, learned: Learned | null): Found {
  if (trueRig.equalizer.kind !== 'parametric') return NOTHING;
  const { meaning } = trueRig.equalizer.width;
  return eitherFound(learned?.equalizer?.octaves ?? null, [meaning === 'octaves', 'octaves'], [meaning === 'q', 'Q']);
}

function bellsFound({ trueRig }: HiddenRadio, learned: Learned | null): Found {
  if (trueRig.equalizer.kind !== 'parametric') return NOTHING;
  const isResonance = trueRig.equalizer.bells === 'resonance';
  return eitherFound(learned?.equalizer?.resonance ?? null, [isResonance, 'resonances'], [!isResonance, 'mirrored bells']);
}

type Way = readonly [isRight: boolean, name: string];

/** Which of two it is. @param chance of the first; null where nothing was heard of it */
function eitherFound(chance: number | null, first: Way, second: Way): Found {
  if (chance === null) return NOTHING;
  const surely = Math.max(chance, 1 - chance);
  if (surely < SETTLED) return { found: 'not settled yet', isRight: null };
  const [isRight, name] = chance >= 0.5 ? first : second;
  return { found: `${name}, ${percent(surely)} sure`, isRight };
}

/** By its own meter: what it would show with its dial all the way up. Which kind it is no meter tells. */
function processorFound(rig: RigProfile, { radio }: HiddenRadio, history: readonly SeenOver[], learned: Learned | null): Found {
  const mode = history.at(-1)?.card.mode;
  const dial = mode && dialInRole(rig, 'compression', mode);
  if (!dial || !learned?.compression) return NOTHING;
  const steps = Math.max(1, positionsOf(dial.scale).length - 1);
  const [low, likely, high] = learned.compression.perStepDb.map((db) => steps * db);
  const most = Math.max(0, ...history.map(({ compressionDb }) => compressionDb ?? 0));
  if (most < LEAST_SHOWN_DB || high > MOST_APART * low) return { found: 'not settled yet', isRight: null };
  const isRight = radio.processor.mostDb >= low - 1 && radio.processor.mostDb <= high + 1;
  return { found: `up to ${decibels(likely, 0)} (${fixed(low, 0)} to ${fixed(high, 0)})`, isRight };
}

/** What it leaves in the next channel is all that shows of it. */
function amplifierFound(learned: Learned | null): Found {
  const level = learned?.drive?.nextChannelDb ?? null;
  return level === null ? NOTHING : { found: `next channel about ${decibels(level[1], 0)}`, isRight: null };
}

/** Receivers add noise of their own, and compression lifts it: the quietest pauses say most, and only a near agreement tells. */
function roomFound({ noiseDb, humDb }: HiddenRadio['room'], history: readonly SeenOver[]): Found {
  const voices = history.flatMap((over) => over.voices.filter(({ tap }) => tap !== 'monitor').map(({ result }) => result));
  const snrs = voices.map(({ snrDb }) => snrDb).filter((db): db is Decibels => db !== null);
  if (snrs.length === 0) return NOTHING;
  const noise = -Math.max(...snrs);
  const isHum = voices.some(({ findings }) => findings.some(({ code, severity }) => code === 'hum' && severity !== 'ok'));
  const isNear = noiseDb !== null && Math.abs(noise - noiseDb) <= ROOM_DB;
  const isRight = isHum && humDb === null ? false : isNear && isHum === (humDb !== null) ? true : null;
  return { found: `noise ${decibels(noise, 0)} re the voice${isHum ? ', hum' : ''}`, isRight };
}

/** Into a dummy load it is 1, whatever the antenna has. */
function swrFound(is: number, history: readonly SeenOver[]): Found {
  const swr = history.findLast((over) => over.swr !== null && over.swr > 1.05)?.swr ?? null;
  return swr === null ? NOTHING : { found: `SWR ${fixed(swr, 1)}`, isRight: Math.abs(swr - is) < 0.15 };
}
