/** What several stations said, weighed by the way each heard it, and held against what is measured. */
import type { Finding } from '../findings/index.ts';
import { REMARK_LABELS, type Remark, type RemarkCode } from '../language/index.ts';
import { PATH_LABELS, PATH_WEIGHT, type ReportPath } from './reportPaths.ts';

/** A report as it is weighed. */
export interface HeardReport {
  readonly station: string;
  readonly path: ReportPath;
  readonly remarks: readonly Remark[];
}

/** One thing that is said, with all who say it and all who don't. */
export interface Verdict {
  readonly code: RemarkCode;
  readonly text: string;
  /** It holds: heard well enough, and not outweighed. */
  readonly holds: boolean;
}

export interface WeighedReports {
  readonly verdicts: readonly Verdict[];
  /** What to do where the reports can't decide. */
  readonly askAgain: string | null;
}

const DEGREE = { slight: 0.6, plain: 1, strong: 1.3 } as const;
/** From here on a verdict stands by itself: one good local report. */
const ENOUGH = 0.5;
/** What can't be both. */
const OPPOSITE: Partial<Record<RemarkCode, RemarkCode>> = {
  muffled: 'harsh',
  harsh: 'muffled',
  boomy: 'thin',
  thin: 'boomy',
  'low-audio': 'loud',
  loud: 'low-audio',
};
const COUNTS = ['no one', 'One', 'Two', 'Three', 'Four', 'Five', 'Six', 'Seven', 'Eight', 'Nine'];

const weight = ({ path }: HeardReport, { degree }: Remark): number => PATH_WEIGHT[path] * DEGREE[degree];
const says = (count: number): string => `${COUNTS[count] ?? count} ${count === 1 ? 'says' : 'say'}`;

interface Sides {
  readonly yes: { readonly report: HeardReport; readonly remark: Remark }[];
  readonly no: { readonly report: HeardReport; readonly remark: Remark }[];
}

/**
 * @param reports  of one card as it stands
 * @param findings of its newest measured voice recording; null where nothing is measured
 */
export function weighReports(reports: readonly HeardReport[], findings: readonly Finding[] | null): WeighedReports {
  const all = reports.flatMap((report) =>
    report.remarks.filter(({ about }) => about === 'signal' || about === 'room').map((remark) => ({ report, remark })),
  );
  const codes = [...new Set(all.filter(({ remark }) => remark.sense !== 'is-not').map(({ remark }) => remark.code))];
  const verdicts = codes.map((code): Verdict => {
    const sides: Sides = {
      yes: all.filter(({ remark }) => remark.code === code && (remark.sense === 'is' || remark.sense === 'more')),
      no: all.filter(
        ({ remark }) =>
          (remark.code === code && (remark.sense === 'is-not' || remark.sense === 'less')) ||
          (remark.code === OPPOSITE[code] && remark.sense === 'is'),
      ),
    };
    return verdictOf(code, sides, findings);
  });
  const ranked = verdicts.sort((a, b) => Number(b.holds) - Number(a.holds));
  return { verdicts: ranked, askAgain: askAgain(reports, ranked) };
}

const sum = (side: Sides['yes']): number => side.reduce((total, { report, remark }) => total + weight(report, remark), 0);
const paths = (side: Sides['yes']): string => [...new Set(side.map(({ report }) => PATH_LABELS[report.path]))].join('; ');

function verdictOf(code: RemarkCode, { yes, no }: Sides, findings: readonly Finding[] | null): Verdict {
  const label = REMARK_LABELS[code];
  if (yes.length === 0) return { code, text: `${says(no.length)} it is less ${label} than before.`, holds: false };
  const [pro, contra] = [sum(yes), sum(no)];
  const found = findings?.find((finding) => finding.code === code);
  const measured = found
    ? `, and it measures so: ${found.evidence}`
    : findings && code !== 'good' && isMeasurable(code)
      ? ', but nothing of it is measured'
      : '';
  const against =
    no.length === 0
      ? ''
      : ` ${says(no.length)} otherwise (${paths(no)}): ${contra > pro ? 'that counts more' : contra === pro ? 'it stands even' : 'that counts less'}.`;
  return { code, text: `${says(yes.length)} ${label} (${paths(yes)})${measured}.${against}`, holds: pro >= ENOUGH && pro > contra };
}

/** What a recording would show. */
const isMeasurable = (code: RemarkCode): boolean =>
  ['muffled', 'boomy', 'thin', 'harsh', 'hum', 'plosives', 'sibilance', 'clipping', 'flat-tops'].includes(code);

function askAgain(reports: readonly HeardReport[], verdicts: readonly Verdict[]): string | null {
  if (reports.length === 0) return null;
  const best = Math.max(...reports.map(({ path }) => PATH_WEIGHT[path]));
  if (best < ENOUGH) return 'All of it came over a weak or fading path: ask again when it is steadier, or ask several at once.';
  const isTorn = verdicts.some(({ holds, text }) => !holds && text.includes('otherwise'));
  return isTorn && !verdicts.some(({ holds, code }) => holds && code !== 'good')
    ? 'They contradict each other: ask again, and ask a local station first.'
    : null;
}
