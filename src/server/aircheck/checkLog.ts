/** An air check as a log for the other station: CSV line by line, ADIF as one contact. */
import { type AirCheck, airCheck, type CheckStep, PATH_LABELS } from '@/core/advice/index.ts';
import { adifHeader, adifRecord, adifTime, csvLine } from '@/core/files/index.ts';
import { REMARK_LABELS } from '@/core/language/index.ts';
import { CORE_VERSION } from '@/core/measure/index.ts';
import { valueText } from '@/core/rig/index.ts';
import type { AirCheckView } from './airChecks.ts';

const checkOf = ({ card, base, lines }: AirCheckView) =>
  airCheck(card.rig.profile, { mode: card.mode, values: base.values, use: base.use }, lines);

/** What a line was understood as, in a sentence. */
const understood = ({ kind, explained, remarks, signal, line }: CheckStep): string => {
  if (line.isUndone) return 'taken back';
  const rst = signal?.readability ? `${signal.readability}-${signal.strength ?? '?'}` : '';
  const words = kind === 'remark' ? [rst, ...remarks.map(({ code }) => REMARK_LABELS[code])] : [];
  return [...words.filter((word) => word !== ''), ...explained].join('; ');
};

/** Where a dial ended; from where as well, unless it is a guest's: there nobody knows. */
const endOf = ({ side }: AirCheckView, { dial, from, to }: AirCheck['changed'][number]): string =>
  side === 'checking' ? valueText(dial, to) : `${valueText(dial, from)} to ${valueText(dial, to)}`;

/** Line by line, with the dials at the end. */
export function* checkCsv(view: AirCheckView): Generator<string> {
  const check = checkOf(view);
  yield csvLine(['UTC', 'kind', 'said', 'understood']);
  for (const [k, step] of check.steps.entries()) yield csvLine([view.lines[k].saidAt, step.kind, step.line.text, understood(step)]);
  for (const change of check.changed) yield csvLine(['', 'dial', change.dial.label, endOf(view, change)]);
}

/** One contact: who, when, the last report given or got, and the dials that moved. */
export function* checkAdif(view: AirCheckView): Generator<string> {
  const check = checkOf(view);
  const { card, side, station, startedAt, endedAt, path } = view;
  const counting = check.steps.filter(({ line }) => !line.isUndone);
  const signal = counting.findLast((step) => step.signal?.readability && step.signal.strength)?.signal;
  const rst = signal ? `${signal.readability}${signal.strength}` : '';
  const isSideband = card.mode === 'usb' || card.mode === 'lsb';
  const [begun, ended] = [adifTime(new Date(startedAt)), endedAt === null ? null : adifTime(new Date(endedAt))];
  const dials = check.changed.map((change) => `${change.dial.label} ${endOf(view, change)}`);
  const said = counting.filter(({ kind }) => kind === 'remark' || kind === 'note').map(({ line }) => line.text);
  yield adifHeader(CORE_VERSION, new Date());
  yield adifRecord({
    ...begun,
    ...(ended && { QSO_DATE_OFF: ended.QSO_DATE, TIME_OFF: ended.TIME_ON }),
    ...(/\d/.test(station) && /^[A-Z0-9/]{3,20}$/i.test(station) ? { CALL: station.toUpperCase() } : { NAME: station }),
    MODE: isSideband ? 'SSB' : card.mode.toUpperCase(),
    SUBMODE: isSideband ? card.mode.toUpperCase() : '',
    // What the checking station gives is what the checked one gets.
    ...(side === 'checking' ? { RST_SENT: rst } : { RST_RCVD: rst, STATION_CALLSIGN: card.operator.callsign }),
    COMMENT: `Air check (${PATH_LABELS[path]}). ${said.join('. ')}`.slice(0, 3000),
    NOTES: dials.join('; '),
  });
}
