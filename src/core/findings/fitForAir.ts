/**
 * Is a transmitter fit for the air? Every mode by the newest recordings of it, what harms others before what is only weak,
 * and the receiver excluded first. An answer for the bench: the licence and local rules decide.
 */
import { type Finding, type FindingCode, named } from './finding.ts';
import { worstFirst } from './judging.ts';
import type { State } from './state.ts';

/** Modes as an answer has them. */
export const AIR_MODES = ['SSB', 'AM', 'FM'] as const;
export type AirMode = (typeof AIR_MODES)[number];

/** Kinds of recording that tell of a mode. */
const KINDS = { ssb: 'SSB', 'two-tone': 'SSB', am: 'AM', fm: 'FM' } as const;
export type AirKind = keyof typeof KINDS;

/** What one recording of the transmitter showed. */
export interface AirTest {
  /** The caller's own number for it. */
  readonly id: number;
  readonly kind: AirKind;
  readonly findings: readonly Finding[];
}

/** The mode that a kind of evidence tells of; null for those that tell of none. */
export const airModeOf = (kind: string): AirMode | null => (KINDS as Readonly<Record<string, AirMode>>)[kind] ?? null;

export interface AirRow {
  readonly mode: AirMode;
  /** `stale` is not used: a recording does not go stale. */
  readonly state: Exclude<State, 'stale'>;
  readonly text: string;
  /** What the text rests on, worst first. */
  readonly findings: readonly Finding[];
  /** The recordings that it rests on. */
  readonly ids: readonly number[];
}

export interface AirAnswer {
  readonly state: AirRow['state'];
  readonly text: string;
  readonly rows: readonly AirRow[];
}

/** What disturbs others, or leaves the channel. */
const HARMFUL: readonly FindingCode[] = [
  'splatter',
  'overdrive',
  'wide',
  'opposite-sideband',
  'carrier-leak',
  'over-modulated',
  'over-deviation',
  'off-frequency',
  'distortion',
];
/** What is only hard to hear. */
const WEAK: readonly FindingCode[] = ['under-modulated', 'narrow-deviation', 'narrow', 'hum'];
/** With one of these in the recording nothing is said of the transmitter; and what to do about it. */
const RECEIVER: Readonly<Partial<Record<FindingCode, string>>> = {
  'receiver-overload': 'Record again with less receiver gain, or with a short whip near the dummy load instead of a cable.',
  clipping: 'Record again at a lower level.',
  'wrong-sideband': 'Measure it again on the other sideband, or with I and Q swapped.',
};

const isSuspect = ({ findings }: AirTest): boolean => findings.some(({ code, severity }) => RECEIVER[code] && severity !== 'ok');

/** @param tests of this mode, newest first */
function rowOf(mode: AirMode, tests: readonly AirTest[]): AirRow {
  if (tests.length === 0)
    return { mode, state: 'unknown', text: 'Not measured: an I/Q recording of it, into a dummy load, is missing.', findings: [], ids: [] };
  // What was mended since counts no more: of each kind the newest that can be trusted.
  const newest = (Object.keys(KINDS) as AirKind[]).flatMap((kind) => tests.find((test) => test.kind === kind && !isSuspect(test)) ?? []);
  if (newest.length === 0) {
    const receiver = tests[0].findings.filter(({ code }) => RECEIVER[code]);
    return {
      mode,
      state: 'unknown',
      text: `Nothing can be said of the transmitter: ${named(receiver)} in the recording. ${RECEIVER[receiver[0].code]}`,
      findings: receiver,
      ids: [tests[0].id],
    };
  }
  const all = newest.flatMap(({ findings }) => findings);
  const among = (codes: readonly FindingCode[]) =>
    worstFirst(all.filter(({ code, severity }) => codes.includes(code) && severity !== 'ok'));
  const [harmful, weak] = [among(HARMFUL), among(WEAK)];
  const faults = harmful.filter(({ severity }) => severity === 'fault');
  const row = { mode, findings: [...harmful, ...weak], ids: newest.map(({ id }) => id) };
  if (faults.length > 0) return { ...row, state: 'fault', text: `Not fit for the air: ${named(faults)}.` };
  if (harmful.length > 0) return { ...row, state: 'watch', text: `Fit, with a look at: ${named(harmful)}.` };
  const isLimited = all.some(({ code }) => code === 'noise-limited');
  const aside = weak.length > 0 ? `; it harms nobody, but is hard to hear: ${named(weak)}` : '';
  const limit = isLimited ? ', as far as the noise in the recording shows' : '';
  return { ...row, state: weak.length > 0 || isLimited ? 'watch' : 'ok', text: `Fit for the air${aside}${limit}.` };
}

/**
 * @param modes those that the transmitter has
 * @param tests recordings, newest first
 */
export function fitForAir(modes: readonly AirMode[], tests: readonly AirTest[]): AirAnswer {
  const rows = AIR_MODES.filter((mode) => modes.includes(mode)).map((mode) =>
    rowOf(
      mode,
      tests.filter(({ kind }) => KINDS[kind] === mode),
    ),
  );
  const those = (state: AirRow['state']) => rows.filter((row) => row.state === state).map(({ mode }) => mode);
  const [faults, watched, good, open] = [those('fault'), those('watch'), those('ok'), those('unknown')];
  const parts = [
    faults.length > 0 && `not fit in ${faults.join(' and ')}`,
    good.length > 0 && `fit in ${good.join(' and ')}`,
    watched.length > 0 && `worth a look in ${watched.join(' and ')}`,
    open.length > 0 && `open in ${open.join(' and ')}`,
  ].filter((part) => part !== false);
  const text = parts.join('; ');
  return {
    state: faults.length > 0 ? 'fault' : watched.length > 0 ? 'watch' : good.length > 0 && open.length === 0 ? 'ok' : 'unknown',
    text: text === '' ? 'This radio has no mode that can be judged.' : `${text[0].toUpperCase()}${text.slice(1)}.`,
    rows,
  };
}
