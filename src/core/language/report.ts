/** A report as it was said, read: readability and strength, remarks with sense and degree, and the advice in it. */
import { adviceIn, type SpokenAdvice } from './adviceIn.ts';
import { REMARKS, type RemarkAbout, type RemarkCode, type RemarkDegree, type RemarkEntry, type RemarkSense } from './remarkWords.ts';
import { type SignalReport, signalIn } from './signalReport.ts';
import { plain } from './tokens.ts';

/** One thing that was said of the signal. */
export interface Remark {
  readonly code: RemarkCode;
  readonly sense: RemarkSense;
  readonly degree: RemarkDegree;
  /** The words, in lower case. */
  readonly text: string;
  readonly about: RemarkAbout;
}

export interface ReadReport {
  readonly signal: SignalReport | null;
  readonly remarks: readonly Remark[];
  /** Advice for the dials, as lines of the dial line. */
  readonly advice: readonly SpokenAdvice[];
}

/** A longer report is refused whole, never cut. */
export const LONGEST_REPORT = 5000;

interface Found {
  readonly entry: RemarkEntry;
  readonly start: number;
  readonly end: number;
}

/** Reads a report. Words it does not know say nothing; another language gives no remarks. */
export function readReport(text: string): ReadReport {
  const spoken = plain(text)
    .replace(/\bi'?m\b/g, 'i am')
    .replace(/n't\b/g, 'nt');
  const { signal, rest } = signalIn(spoken);
  const sentences = rest.split(/[.;\n]+(?!\d)|(?<=\s),(?=\s)(?=\s*$)/).filter((each) => each.trim() !== '');
  const remarks = sentences.flatMap(remarksOf);
  return { signal, remarks: withoutRepeats(remarks), advice: sentences.flatMap(adviceIn) };
}

/** The same remark twice is one, the stronger. */
function withoutRepeats(remarks: readonly Remark[]): Remark[] {
  const order: RemarkDegree[] = ['slight', 'plain', 'strong'];
  const kept: Remark[] = [];
  for (const remark of remarks) {
    const at = kept.findIndex(({ code, sense }) => code === remark.code && sense === remark.sense);
    if (at < 0) kept.push(remark);
    else if (order.indexOf(remark.degree) > order.indexOf(kept[at].degree)) kept.splice(at, 1, remark);
  }
  return kept;
}

/** Matches of a sentence that do not lie in a longer one, in the order they are said. */
function matches(sentence: string): Found[] {
  const all = REMARKS.flatMap((entry) =>
    [...sentence.matchAll(entry.form)].map((match): Found => ({ entry, start: match.index, end: match.index + match[0].length })),
  );
  const longest = [...all].sort((a, b) => b.end - b.start - (a.end - a.start) || a.start - b.start);
  const kept: Found[] = [];
  for (const each of longest) if (!kept.some((other) => each.start < other.end && other.start < each.end)) kept.push(each);
  return kept.sort((a, b) => a.start - b.start);
}

function remarksOf(sentence: string): Remark[] {
  const found = matches(sentence);
  return found.map((each, k) => {
    const before = reach(sentence.slice(found[k - 1]?.end ?? 0, each.start));
    const after = ahead(sentence.slice(each.end, found[k + 1]?.start ?? sentence.length));
    const words = sentence.slice(each.start, each.end);
    const carried =
      k > 0 && /^\s*(?:or|nor)\b/.test(sentence.slice(found[k - 1].end, each.start))
        ? reach(sentence.slice(found[k - 2]?.end ?? 0, found[k - 1].start))
        : '';
    const context = `${carried} ${before}`;
    return {
      code: each.entry.code,
      sense: senseOf(each.entry, context, words, after),
      degree: degreeOf(each.entry, context, words, after),
      text: `${before.trim()} ${words}`.trim(),
      about: aboutOf(each.entry, `${before} ${words} ${after}`, sentence),
    };
  });
}

/** What belongs to the words after it: back to the last comma, "but" or "and". */
const reach = (text: string): string => text.split(/,|\bbut\b|\band\b|\bthough\b|\bwith\b|:/).at(-1) ?? '';
/** What belongs to the words before it. */
const ahead = (text: string): string => text.split(/,|\bbut\b|\band\b|\bthough\b|:/)[0];

const NOT =
  /\b(?:not|no|isnt|arent|wasnt|aint|never|without|dont|doesnt|didnt|cant|cannot|couldnt|hardly any|hardly|zero|none|free (?:of|from)|nothing|neither|nor)\b/;
const GONE =
  /\b(?:gone|went away|has gone|disappeared|cleaned up|cleared up|fixed|cured|is better|are better|much reduced|reduced|down from)\b/;
const NO_LONGER = /\b(?:no longer|not (?:\w+ )?any ?more|no more|used to be|lost the|got rid of|cured|fixed|cleared up)\b/;
const NOT_AS = /\b(?:less|not (?:nearly |quite |anywhere near )?as|not so|lot less|isnt as|isnt so|not quite so)\b/;
const MORE = /\b(?:more|even|getting|became|become|increasingly|worse)\b/;
const LESS_AFTER = /\b(?:any ?more|than (?:before|last time|yesterday|it was)|as (?:before|last time|it was|yesterday))\b/;

function senseOf({ sense, code }: RemarkEntry, before: string, words: string, after: string): RemarkSense {
  // "could use more top" carries its own "more"
  const isNeed = /\b(?:more|less|need|use|enough|lack|missing|much|heavy|reduce|cut)/.test(words);
  if (NO_LONGER.test(before) || GONE.test(after) || (NOT.test(before) && /\bany ?more\b/.test(after))) return 'less';
  if (sense) return NOT.test(before) ? 'is-not' : sense;
  if (code === 'good' && /^(?:not bad|not too|no |nothing|cannot|can'?t|plenty)/.test(words)) return 'is';
  if (NOT_AS.test(before)) return 'less';
  if (NOT.test(before)) return 'is-not';
  if (/\bno$/.test(before.trim())) return 'is-not';
  if (!isNeed && MORE.test(before) && (LESS_AFTER.test(after) || /\b(?:even|getting|more)\b/.test(before))) return 'more';
  return 'is';
}

const STRONG =
  /\b(?:very|really|extremely|way|terribly|badly|awful|awfully|horribly|heavily|heavy|seriously|lots?|super|so|totally|quite a lot|severe|severely|major|bad|incredibly|much too|far too|massive|massively|completely|absolutely|nothing but|all kinds of|tremendous|hugely)\b/;
const SLIGHT =
  /\b(?:a (?:bit|little|touch|tad|hint|trace|hair|shade|smidge)|bit|slight|slightly|little|touch|tad|hint|trace|somewhat|kind of|kinda|sort of|sorta|maybe|mild|mildly|minor|faint|faintly|perhaps|could use|could do with|could stand|can use|on the (?!other|opposite|wrong)\w+ side|a wee|just a|occasionally|sometimes|barely|almost|verging|leaning|some|at times)\b/;

function degreeOf({ degree }: RemarkEntry, before: string, words: string, after: string): RemarkDegree {
  if (degree) return degree;
  if (/\bnot (?:very|too|so|that|really|particularly|overly)\b/.test(`${before} ${words}`)) return 'slight';
  if (NOT.test(before)) return 'plain';
  const context = `${before} ${words} ${after.split(' ').slice(0, 5).join(' ')}`;
  if (/\b(?:a (?:bit|little|touch|tad)|slightly|could use|could do with|could stand|somewhat|kind of|kinda|sort of|sorta)\b/.test(context))
    return 'slight';
  if (STRONG.test(before) || /\bway too\b|\blots? of\b|\b(?:very|really)\b|\bat all\b/.test(`${words} ${after}`)) return 'strong';
  return SLIGHT.test(context) ? 'slight' : 'plain';
}

function aboutOf({ about, code }: RemarkEntry, near: string, sentence: string): RemarkAbout {
  if (
    /\b(?:my (?:receiver|end|rx|radio|noise reduction|noise blanker|nb|nr|agc|speakers?|headphones|side|antenna)|noise reduction|noise blanker|at this end)\b/.test(
      sentence,
    )
  )
    return 'receiver';
  if (about !== 'signal') return about;
  if (/\b(?:qsb|propagation|conditions|path|band (?:is|noise|conditions)|qrn|qrm|skip|multipath)\b/.test(near)) return 'path';
  if (code === 'hum' || code === 'echo') return about;
  return /\b(?:room|shack|behind you|in the house)\b/.test(near) ? 'room' : about;
}
