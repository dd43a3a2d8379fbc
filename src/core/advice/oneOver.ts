/** One over heard on several receivers: what they all hear is the transmitter's, what one hears is its own path. */
import { median } from '../dsp/index.ts';
import { FINDING_LABELS, type FindingCode, spoiltBy } from '../findings/index.ts';
import type { ReceiverKind, VoiceMeasurement } from '../measure/index.ts';
import { type Decibels, dbToPower, decibels, type Hertz, powerToDb } from '../units/index.ts';

/** An over as one receiver heard it. */
export interface Hearing {
  readonly name: string;
  readonly kind: ReceiverKind;
  readonly measurement: Pick<VoiceMeasurement, 'snrDb' | 'thirdOctaveDb' | 'findings'>;
}

/** Whose a thing is: the transmitter's, the receiver's own path, or not to be told from these. */
export type Whose = 'yours' | 'path' | 'open';

/** One thing that was found somewhere, with whose it is. */
export interface SharedFinding {
  readonly code: FindingCode;
  readonly whose: Whose;
  readonly text: string;
}

/** The comparison; `lines` in the order of the hearings. */
export interface OneOver {
  readonly lines: readonly { readonly name: string; readonly counts: boolean; readonly text: string }[];
  readonly shared: readonly SharedFinding[];
  /** All of it in a sentence or two. */
  readonly sentence: string;
}

/** What a transmitter may cause and a voice recording shows; the rest is the recorder's. */
const TRANSMITTED: readonly FindingCode[] = [
  'muffled',
  'boomy',
  'thin',
  'harsh',
  'hum',
  'plosives',
  'sibilance',
  'room-noise',
  'narrow',
  'flat-tops',
  'distortion',
];
/** Below this a path is too weak to judge tone by (common practice). */
const LEAST_SNR_DB: Decibels = 12;
/** Receivers alike differ by less than this in the balance of highs or lows. */
const UNLIKE_DB: Decibels = 3;
const LOWS: readonly [Hertz, Hertz] = [200, 500];
const MIDS: readonly [Hertz, Hertz] = [500, 1600];
const HIGHS: readonly [Hertz, Hertz] = [1600, 2700];
const COUNTS = ['None', 'One', 'Two', 'Three', 'Four', 'Five', 'Six'];
const count = (n: number): string => COUNTS[n] ?? String(n);

/** Why a receiver's word does not count for tone; null where it does. */
function doubt({ kind, measurement: { snrDb, findings } }: Hearing): string | null {
  if (kind === 'monitor') return 'taps the audio early: it is not the transmitted signal';
  if (kind === 'in-line') return 'taps the line: it can’t show faults of the antenna or the path';
  const spoilt = spoiltBy(findings);
  if (spoilt) return `its recording is spoilt (${FINDING_LABELS[spoilt.code]})`;
  if (snrDb !== null && snrDb < LEAST_SNR_DB) return `only ${snrDb.toFixed(0)} dB above the noise: do not judge tone by it`;
  return null;
}

const has = ({ measurement }: Hearing, code: FindingCode): boolean =>
  measurement.findings.some((finding) => finding.code === code && finding.severity !== 'ok');

/** @param hearings of one over, in any order */
export function oneOver(hearings: readonly Hearing[]): OneOver {
  const judges = hearings.filter((each) => doubt(each) === null);
  const codes = TRANSMITTED.filter((code) => hearings.some((each) => has(each, code)));
  const shared = codes.map((code) => sharedFinding(code, hearings, judges));
  const lines = hearings.map((each) => {
    const why = doubt(each);
    const words = [why, ...(judges.includes(each) ? unlikeness(each, judges) : [])].filter((word) => word !== null);
    return { name: each.name, counts: why === null, text: words.join('; ') };
  });
  return { lines, shared, sentence: sentenceOf(judges, shared) };
}

function sharedFinding(code: FindingCode, hearings: readonly Hearing[], judges: readonly Hearing[]): SharedFinding {
  const label = FINDING_LABELS[code];
  const yes = judges.filter((each) => has(each, code));
  const tap = hearings.find(({ kind }) => kind === 'in-line');
  const names = yes.map(({ name }) => name).join(' and ');
  if (yes.length === 0) {
    const where = hearings.filter((each) => has(each, code)).map(({ name }) => name);
    const off = judges.length > 0 ? 'no receiver that counts hears it' : 'no receiver here counts';
    return { code, whose: judges.length > 0 ? 'path' : 'open', text: `${label} only on ${where.join(' and ')}: ${off}.` };
  }
  if (judges.length === 1)
    return { code, whose: 'open', text: `${label} on ${names}, the only one that counts: hear it on another before you turn a dial.` };
  if (yes.length === judges.length) {
    const after = tap && !has(tap, code) ? ` The tap in the line (${tap.name}) does not hear it: look behind the tap as well.` : '';
    return { code, whose: 'yours', text: `${label} on all ${judges.length} that count: that is yours.${after}` };
  }
  if (yes.length === 1)
    return { code, whose: 'path', text: `${label} on ${names} alone, not on the other ${judges.length - 1}: its path or its filter.` };
  return { code, whose: 'open', text: `${label} on ${yes.length} of ${judges.length}: ask again, and listen yourself.` };
}

function sentenceOf(judges: readonly Hearing[], shared: readonly SharedFinding[]): string {
  if (judges.length === 0) return 'No receiver here can be trusted for tone: record it on a second receiver with its own small antenna.';
  const named = (whose: Whose) => shared.filter((each) => each.whose === whose).map(({ code }) => FINDING_LABELS[code]);
  const [yours, open] = [named('yours'), named('open')];
  if (judges.length === 1 && open.length === 0) return `Only ${judges[0].name} counts for tone, and nothing stands out there.`;
  if (judges.length === 1) return `Only ${judges[0].name} counts for tone: ${open.join(', ')} there may be the path as well.`;
  const parts = [
    yours.length > 0
      ? `${count(judges.length)} receivers agree: ${yours.join(', ')}. That is yours.`
      : `${count(judges.length)} receivers agree on no fault of yours.`,
    ...shared.filter(({ whose }) => whose === 'path').map(({ text }) => capital(text)),
    ...(open.length > 0 ? [`They differ on ${open.join(', ')}: ask again.`] : []),
  ];
  return parts.join(' ');
}

const capital = (text: string): string => text[0].toUpperCase() + text.slice(1);

/** Mean level in a band; null where it reaches none of its third octaves. */
function bandDb({ measurement }: Hearing, [low, high]: readonly [Hertz, Hertz]): Decibels | null {
  const inside = measurement.thirdOctaveDb.flatMap(([hz, db]) => (db !== null && hz >= low && hz <= high ? [dbToPower(db)] : []));
  return inside.length === 0 ? null : powerToDb(inside.reduce((sum, power) => sum + power, 0) / inside.length);
}

/** Where its balance differs from that of the others that count. */
function unlikeness(one: Hearing, judges: readonly Hearing[]): string[] {
  const others = judges.filter((each) => each !== one);
  if (others.length === 0) return [];
  return (
    [
      ['highs', HIGHS],
      ['lows', LOWS],
    ] as const
  ).flatMap(([name, band]) => {
    const balance = (each: Hearing) => {
      const [there, mids] = [bandDb(each, band), bandDb(each, MIDS)];
      return there === null || mids === null ? [] : [there - mids];
    };
    const [own] = balance(one);
    // Two stand against each other; of more the middle one is the measure.
    const rest = (others.length === 1 ? others : judges).flatMap(balance);
    if (own === undefined || rest.length === 0) return [];
    const by = own - median(rest);
    if (Math.abs(by) < UNLIKE_DB) return [];
    return [`${decibels(Math.abs(by), 0)} ${by < 0 ? 'fewer' : 'more'} ${name} than ${others.length === 1 ? 'the other' : 'the others'}`];
  });
}
