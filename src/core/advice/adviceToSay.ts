/**
 * Advice as it is spoken to another station: relative to what the dials show there, so that it holds wherever they
 * stand; at most three dials at a time, and what is no dial first.
 */
import type { Finding, FindingCode } from '../findings/index.ts';
import { type Dial, dialInRole, type Mode, type RigProfile, valueText } from '../rig/index.ts';
import { frequency, hertz } from '../units/index.ts';
import type { FittedMove } from './fitEqualizer.ts';

/** What is known of the other station. */
export interface ToSay {
  readonly rig: RigProfile;
  readonly mode: Mode;
  /** What to turn; null while nothing is measured. */
  readonly moves: readonly FittedMove[] | null;
  /** RMS error against the target, in dB, where it is measured. */
  readonly errorDb: number | null;
  readonly findings: readonly Finding[];
  /** Dials of which they have said where they stand. */
  readonly told: ReadonlySet<string>;
  /** Their ALC, as a fraction of the scale, and whether a dial moved since; null before they read it out. */
  readonly alc: { readonly reading: number; readonly isStale: boolean } | null;
}

/** So many dials can be turned between two overs. */
const MOST_DIALS = 3;
/** Nobody is sent farther on one dial at once, whatever the fit says: what it does is heard first. */
const MOST_STEPS = 6;
/** Nearer to the target than this, nobody hears a difference. */
const GOOD_DB = 1.5;

/** Said before any tone: faults that no equalizer mends. */
const FAULTS: Partial<Record<FindingCode, string>> = {
  overdrive: 'You are overdriving: your signal spreads when you speak up. Turn the mic gain down a little, and the processor if it is on.',
  splatter: 'You splatter into the next channel on peaks. Turn the mic gain down a little.',
  'receiver-overload': 'My receiver is overloaded by you: let me turn it down before I judge.',
  distortion: 'You sound distorted. Turn the mic gain down a little and talk again.',
  'flat-tops': 'Your peaks are cut off. Turn the mic gain down a little and talk again.',
};
/** Said with the tone: about the microphone and the room. */
const ROOM: Partial<Record<FindingCode, string>> = {
  plosives: 'Your P and B pop. Speak past the microphone, or put a windscreen on it.',
  hum: 'There is hum on your signal: look at the microphone cable and its ground.',
  'room-noise': 'I hear your room. Come nearer to the microphone and turn the mic gain down to match; a fan off helps as well.',
  sibilance: 'Your S is sharp. Turn the microphone a little to the side.',
};
const WIDTH: Partial<Record<FindingCode, string>> = {
  wide: 'You are wider than a voice needs: choose a narrower transmit filter if you have one.',
  narrow: 'You are narrow: choose a wider transmit filter if you have one.',
};

/** What to say next, a sentence a line; the most urgent first. Never empty. */
export function adviceToSay(heard: ToSay): readonly string[] {
  const { moves, errorDb, findings, alc } = heard;
  const judged = findings.filter(({ severity }) => severity !== 'ok');
  const of = (words: Partial<Record<FindingCode, string>>) => judged.flatMap(({ code }) => words[code] ?? []);
  const faults = of(FAULTS);
  if (faults.length > 0) return [...faults, 'Then talk for ten seconds, about anything.'];
  const level = levelWords(heard);
  const room = [...of(ROOM), ...of(WIDTH)];
  if (moves === null) {
    return [
      ...(level ?? []),
      ...room,
      'Please talk for fifteen seconds about anything; the antenna will do.',
      ...(alc === null ? ['And tell me what your ALC shows on peaks.'] : []),
    ];
  }
  if (level && alc && !alc.isStale) return [...level, ...room];
  const tone = mostHelpful(moves).map((move) => moveWords(move, heard.told));
  const isGood = tone.length === 0 || (errorDb !== null && errorDb <= GOOD_DB);
  if (isGood && room.length === 0 && level === null)
    return ['You sound good here: leave the dials as they are, and write the numbers down.'];
  return [
    ...room,
    ...(isGood ? [] : tone),
    ...(level ?? []),
    ...(isGood ? [] : ['Any of these moves the level: look at the ALC again, then talk for fifteen seconds.']),
  ];
}

/** The farthest first, a band's centre and width with its level; told in their own order. */
function mostHelpful(moves: readonly FittedMove[]): FittedMove[] {
  const bandOf = ({ dial }: FittedMove) => dial.id.replace(/-(?:centre|level|width)$/, '');
  const weight = new Map<string, number>();
  for (const move of moves) {
    const by = move.dial.unit === 'dB' ? Math.abs(Number(move.to) - Number(move.from)) : 0;
    weight.set(bandOf(move), Math.max(weight.get(bandOf(move)) ?? 0, by));
  }
  const far = moves.toSorted((a, b) => (weight.get(bandOf(b)) ?? 0) - (weight.get(bandOf(a)) ?? 0)).slice(0, MOST_DIALS);
  return moves.filter((move) => far.includes(move));
}

/** What is to be said of the ALC; null where it is in its zone. */
function levelWords({ rig, mode, alc }: ToSay): string[] | null {
  if (!dialInRole(rig, 'mic-gain', mode)) return null;
  if (alc === null) return ['What does your ALC show on speech peaks?'];
  if (alc.isStale) return ['Dials have moved since: what does your ALC show now?'];
  const [low, high] = rig.alc.zone;
  if (alc.reading > high) return ['Your ALC is above the zone: turn the mic gain down a little, and read it again.'];
  if (alc.reading < low) return ['Your ALC is below the zone: turn the mic gain up a little, and read it again.'];
  return null;
}

/** "Three more at 2.4 kHz than you have now", and where that ends if it was told where it stands. */
function moveWords({ dial, from, to }: FittedMove, told: ReadonlySet<string>): string {
  if (typeof from !== 'number' || typeof to !== 'number') return `Set ${labelOf(dial)} to ${valueText(dial, to)}.`;
  // A centre or a width is where it stands; only levels are told as a difference.
  if (dial.unit !== 'dB') return `Set ${labelOf(dial)} to ${dial.unit === 'Hz' ? hertz(to) : valueText(dial, to)}.`;
  const by = Math.max(-MOST_STEPS, Math.min(MOST_STEPS, to - from));
  const where = `${by > 0 ? 'more' : 'less'} ${placeOf(dial)} than you have now`;
  return `${inWords(Math.abs(by))} ${where}${told.has(dial.id) ? `: that makes ${spokenValue(from + by)}` : ''}.`;
}

const NUMBERS = ['No', 'One', 'Two', 'Three', 'Four', 'Five', 'Six', 'Seven', 'Eight', 'Nine', 'Ten', 'Eleven', 'Twelve'];
const inWords = (by: number): string => NUMBERS[by] ?? String(by);
const spokenValue = (value: number): string =>
  value === 0 ? 'zero' : `${value < 0 ? 'minus' : 'plus'} ${(NUMBERS[Math.abs(value)] ?? String(Math.abs(value))).toLowerCase()}`;
const labelOf = (dial: Dial): string => `the ${dial.label[0].toLowerCase()}${dial.label.slice(1)}`;

/** "at 2.4 kHz" for a slider, "on the treble" for a knob or a band. */
function placeOf(dial: Dial): string {
  const hz = /^eq-(\d+)$/.exec(dial.id)?.[1];
  return hz === undefined ? `on ${labelOf(dial).replace(', level', '')}` : `at ${frequency(Number(hz))}`;
}
