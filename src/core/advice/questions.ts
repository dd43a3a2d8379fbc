/** The quarrels that a model settles for one voice: narrow or wide, a new microphone or not. All common practice. */
import type { CurvePoint } from '../curve/index.ts';
import type { JudgedCard } from '../intelligibility/index.ts';
import type { Microphone, MicrophoneUse } from '../rig/index.ts';
import type { Decibels, Hertz } from '../units/index.ts';

/** Kinds of microphone as they are usually told apart, with the room that comes with them. Curves are rough. */
export const MICROPHONE_KINDS: readonly {
  readonly name: string;
  readonly level: Microphone['level'];
  readonly pattern: Microphone['pattern'];
  readonly distanceCm: number;
  readonly noiseDb: Decibels;
  readonly curve: readonly CurvePoint[];
}[] = [
  {
    name: 'flat studio dynamic',
    level: 'low',
    pattern: 'cardioid',
    distanceCm: 8,
    noiseDb: -48,
    curve: [
      [80, 0],
      [1000, 0],
      [3000, 1],
      [5000, 2],
    ],
  },
  {
    name: 'communications dynamic with a rise',
    level: 'medium',
    pattern: 'omni',
    distanceCm: 5,
    noiseDb: -52,
    curve: [
      [80, -14],
      [200, -7],
      [500, -2],
      [1000, 0],
      [2000, 5],
      [3000, 7],
      [4000, 3],
      [5000, -3],
    ],
  },
  {
    name: 'electret',
    level: 'high',
    pattern: 'omni',
    distanceCm: 5,
    noiseDb: -50,
    curve: [
      [80, -6],
      [200, -2],
      [1000, 0],
      [2500, 2],
      [4000, 3],
      [5000, 2],
    ],
  },
  {
    name: 'condenser in a live room',
    level: 'high',
    pattern: 'cardioid',
    distanceCm: 20,
    noiseDb: -34,
    curve: [
      [80, 1],
      [1000, 0],
      [3000, 2],
      [5000, 4],
    ],
  },
];

/** A kind as a microphone with its usual use. */
export function microphoneOfKind(kind: (typeof MICROPHONE_KINDS)[number]): { microphone: Microphone; use: MicrophoneUse } {
  const { name, level, pattern, distanceCm, curve } = kind;
  const positions = [{ name: 'usual', curve: curve.map(([hz, db]) => [hz, db] as [Hertz, Decibels]) }];
  return {
    microphone: {
      format: 'dialtune-microphone',
      version: 1,
      name,
      kind: name,
      pattern,
      level,
      distanceCm,
      curveDistanceCm: distanceCm,
      positions,
      accessories: [],
    },
    use: { position: 'usual', accessories: [], distanceCm },
  };
}

/** Nearer than this an edge is the same. */
const SAME_EDGE_HZ: Hertz = 30;

/** Whether a passband reaches beyond what a recording went through, so that it can't be rated from it. */
export const reachesBeyond = (edges: readonly [Hertz, Hertz], recorded: readonly [Hertz, Hertz]): boolean =>
  edges[0] < recorded[0] - SAME_EDGE_HZ || edges[1] > recorded[1] + SAME_EDGE_HZ;

/** What a recording through a passband can't tell of wider ones; null when it holds enough. */
export function narrowVoiceNote(recorded: readonly [Hertz, Hertz], widest: readonly [Hertz, Hertz]): string | null {
  if (!reachesBeyond(widest, recorded)) return null;
  return `The over was made through ${recorded[0]}–${recorded[1]} Hz, and what lies outside is not in it: wider passbands can't be rated fairly from it. Make an over with the filter wide open and the equalizer off to ask again.`;
}

/** What a recording at one carrier offset can't tell of two; null when it holds enough. @param at where it was made, as the radio shows it */
export function offsetVoiceNote(at: string, recorded: readonly [Hertz, Hertz], both: readonly [Hertz, Hertz]): string | null {
  if (!reachesBeyond(both, recorded)) return null;
  return `Both are rated from the over at ${at}. It holds ${Math.round(recorded[0])}–${Math.round(recorded[1])} Hz of the voice: what only the other one passes counts for nothing.`;
}

/** Scores of naturalness nearer than this sound alike. */
const ALIKE_SCORE = 3;

/** A passband with what it is worth to a voice. */
interface RatedPassband {
  readonly name: string;
  /** Null where it reaches beyond what was recorded: what it would add can't be told. */
  readonly judged: JudgedCard | null;
}

/** Of passbands, or of carrier offsets, which move one: "For this voice narrow reaches 2.0 dB further than wide; wide sounds most like you." Of those alone that the recording can rate. */
export function passbandWords(answers: readonly RatedPassband[]): string {
  const fair = answers.flatMap(({ name, judged }) => (judged ? [{ name, judged }] : []));
  if (fair.length === 0) return 'This over can rate none of them.';
  if (fair.length === 1 && answers.length > 1) return `This over can rate ${fair[0].name} alone.`;
  const known = fair.filter(({ judged }) => judged.reach.reachDb !== null);
  if (known.length < 2) return 'With so much distortion or room noise none of them is readable.';
  const reach = ({ judged }: (typeof known)[number]) => judged.reach.reachDb ?? 0;
  const far = known.reduce((best, each) => (reach(each) > reach(best) ? each : best));
  const near = known.reduce((worst, each) => (reach(each) < reach(worst) ? each : worst));
  const natural = known.reduce((best, each) => (each.judged.naturalness.score > best.judged.naturalness.score ? each : best));
  const lead = reach(far) - reach(near);
  const doubt = Math.max(0.5, ...known.map(({ judged }) => judged.reach.uncertaintyDb ?? 0));
  const whom =
    fair.length < answers.length
      ? `Of those that this over can rate, ${fair.map(({ name }) => name).join(' and ')}, all`
      : answers.length === 2
        ? 'Both'
        : 'All of them';
  if (lead < doubt) {
    const alike = `${whom} reach equally far within ${doubt.toFixed(1)} dB for this voice`;
    const scores = known.map(({ judged }) => judged.naturalness.score);
    return Math.max(...scores) - Math.min(...scores) < ALIKE_SCORE
      ? `${alike} and sound alike: no reason for another.`
      : `${alike}; ${natural.name} sounds most like you, so take it.`;
  }
  const further = `For this voice ${far.name} reaches ${lead.toFixed(1)} dB further than ${near.name}`;
  return natural === far
    ? `${further} and sounds most like you: no reason for another.`
    : `${further}; ${natural.name} sounds most like you.`;
}
