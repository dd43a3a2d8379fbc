/**
 * Whether a step of a Tune run is good enough, by readings, recordings and the card, in a sentence. Limits are common practice
 * where nothing else is said.
 */
import {
  type AlcStanding,
  AM_ZONE,
  type CarrierBracket,
  canWait,
  FAR_DB,
  fmWidthOn,
  type GoalState,
  isBaseline,
  type RadioGain,
} from '../advice/index.ts';
import { type Finding, type FindingCode, named, type State, spoiltBy } from '../findings/index.ts';
import { type Card, effective, type RigProfile, readingText, valueOn, valueText } from '../rig/index.ts';
import { type Decibels, decibels, frequency, percent } from '../units/index.ts';
import { type TuneRun, wishOf } from './run.ts';

/** What is known of the card as it stands. */
export interface TuneEvidence {
  readonly rig: RigProfile;
  readonly card: Card;
  readonly standing: AlcStanding;
  /** How things stand by the engine; null while it is worked out, or before the first over. */
  readonly goal: GoalState | null;
  /** Whether the engine wants to hear the card once more, with nothing turned. */
  readonly asksAgain: boolean;
  /** Carrier offsets that were heard; null on radios that have no such dial. */
  readonly bracket: CarrierBracket | null;
  readonly swr: number | null;
  /** Findings on the best recording made with the card as it stands; null where there is none. */
  readonly heard: { readonly findings: readonly Finding[]; readonly isMonitor: boolean } | null;
  /** Why an I/Q recording of the card as it stands shows too much drive, in a sentence; null where none does. */
  readonly tooMuchDrive: string | null;
  /** How many stations have said something of the card. */
  readonly reports: number;
  /** What the depth of AM, or the deviation of FM, of the newest over with the card as it stands says of the gain; null where none tells. */
  readonly radioGain: RadioGain | null;
}

/** Whether it is good enough. */
export interface Enough {
  readonly state: State;
  readonly text: string;
}

export const good = (text: string): Enough => ({ state: 'ok', text });
export const notYet = (text: string): Enough => ({ state: 'watch', text });
export const wrong = (text: string): Enough => ({ state: 'fault', text });
const unknown = (text: string): Enough => ({ state: 'unknown', text });
const stale = (text: string): Enough => ({ state: 'stale', text });

export const depthGoal = (run: TuneRun, rig: RigProfile): string =>
  `Modulation ${percent(AM_ZONE[0])} to ${percent(AM_ZONE[1])} on speech peaks, never to zero; without an I/Q recording, ${zoneWords(run, rig)}.`;

function wrongDepth(evidence: TuneEvidence): Enough | null {
  const { radioGain: depth } = evidence;
  if (!depth || depth.isRight) return null;
  return depth.isHarmful ? wrong(depth.text) : notYet(depth.text);
}

/** The depth where it was measured; else the ALC, as `judge` has it. */
export function depthEnough(run: TuneRun, evidence: TuneEvidence, judge = levelEnough): Enough {
  const isWrong = wrongDepth(evidence);
  if (isWrong) return isWrong;
  const { radioGain: depth, tooMuchDrive, standing, rig } = evidence;
  if (!depth) {
    const { state, text } = judge(run, evidence);
    return { state, text: `${text} The depth was not measured: record the I/Q of an over.` };
  }
  if (tooMuchDrive) return wrong(tooMuchDrive);
  const [, high] = wishOf(run, rig).alcZone;
  const read = standing.newest?.changed.length === 0 ? standing.newest.alc : null;
  // The voice is as deep as it should be: what is too much is the carrier.
  return read !== null && read > high
    ? notYet(`${depth.text} The ALC reads ${readingText(rig.alc, read)}, above the zone: take it out of the RF power, not of the gain.`)
    : good(depth.text);
}

export function deviationGoal({ rig, card }: TuneEvidence): string {
  return fmWidthOn(rig, card) === 'wide' ? 'Wide: 4 to 5 kHz on speech peaks.' : 'Narrow: 2 to 2.5 kHz on speech peaks.';
}

export function deviationEnough({ radioGain: advice }: TuneEvidence): Enough {
  if (!advice) return unknown('Not measured with the card as it stands.');
  return advice.isRight ? good(advice.text) : notYet(advice.text);
}

export function zoneWords(run: TuneRun, rig: RigProfile): string {
  const [low, high] = wishOf(run, rig).alcZone;
  return `ALC between ${readingText(rig.alc, low)} and ${readingText(rig.alc, high)}`;
}

const MICROPHONE_FAULTS: readonly FindingCode[] = ['clipping', 'flat-tops', 'low-level', 'hum', 'room-noise', 'plosives', 'sibilance'];

export function microphoneEnough({ ears }: TuneRun, heard: TuneEvidence['heard']): Enough {
  if (!heard)
    return ears === 'none' ? unknown('Without a recording, your own ears on headphones have to judge.') : notYet('No recording yet.');
  const found = heard.findings.find(({ code, severity }) => severity !== 'ok' && MICROPHONE_FAULTS.includes(code));
  return found ? { state: found.severity, text: found.text } : good('Level, breath and room are in order.');
}

export function baselineEnough({ ears }: TuneRun, rig: RigProfile, card: Card, heard: TuneEvidence['heard']): Enough {
  if (!isBaseline(rig, card)) return notYet('The card is not flat and uncompressed.');
  const spoilt = heard && spoiltBy(heard.findings);
  if (spoilt) return wrong(spoilt.text);
  if (heard) return good('Your flat voice is known.');
  return ears === 'none' ? good('Flat and uncompressed.') : notYet('No recording with this card yet.');
}

export function levelEnough(run: TuneRun, { rig, standing: { newest, gain }, goal, tooMuchDrive }: TuneEvidence): Enough {
  if (tooMuchDrive) return { state: 'fault', text: tooMuchDrive };
  if (goal?.drive === 'high') return wrong('The next channel is full.');
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

/** The last look at the level: one reading inside the zone is luck too often. */
export function levelSettled(run: TuneRun, evidence: TuneEvidence): Enough {
  const level = levelEnough(run, evidence);
  if (level.state !== 'ok' || !evidence.asksAgain) return level;
  return unknown(`${level.text} One reading of talk may be luck: once more, with nothing turned.`);
}

/** On a simple radio the carrier offset is the passband: chosen is what was heard on either side of it. */
export function passbandEnough({ ears }: TuneRun, { rig, card, bracket }: TuneEvidence): Enough {
  const [low, high] = effective(rig, card).passbandHz;
  const text = `It is ${frequency(low)} to ${frequency(high)}`;
  if (!bracket) return good(`${text}.`);
  const line = lineNow(card, bracket);
  if (!line)
    return ears === 'none'
      ? unknown('The carrier offset decides it, and without a recording only other stations’ words tell: ask for sharp or mellow.')
      : notYet('The carrier offset decides it, and no over was heard with the one on the card.');
  if (line.side === 'balanced') return good(`${text}, and sounds balanced.`);
  if (canWait(rig, bracket, line))
    return good(`${text}, where the factory put it. It sounds ${line.side}: tone dials come first, and the offset if they leave it so.`);
  if (bracket.next) return notYet(`With this carrier offset the voice sounds ${line.side}: bracket it first.`);
  const candidate = bracket[line.side];
  if (candidate && candidate.offset !== line.offset)
    return notYet(
      `With this carrier offset the voice sounds ${line.side}: ${valueText(bracket.dial, candidate.offset)} is the ${line.side} candidate.`,
    );
  return good(
    bracket.sharp && bracket.mellow ? `${text}: the ${line.side} one of the two candidates.` : `${text}, as near as the dial comes.`,
  );
}

const lineNow = (card: Card, { dial, lines }: CarrierBracket) => lines.find(({ offset }) => offset === Number(valueOn(card, dial)));

const TONE_CODES: readonly FindingCode[] = ['thin', 'harsh', 'muffled', 'boomy', 'narrow'];

/** What a run that ends with a tone nobody wants leads back to. */
const TONE_ASIDE = 'Go back to the equalizer; where it has nothing left to gain, it is the microphone.';

/** That the carrier offset comes before the tone; null where it is bracketed or balanced, or there is none. */
function offsetAside({ card, bracket }: Pick<TuneEvidence, 'card' | 'bracket'>): string | null {
  const line = bracket && lineNow(card, bracket);
  return bracket?.next && line && line.side !== 'balanced' ? 'The carrier offset comes first: go back to the passband step.' : null;
}

export function compressionEnough(goal: GoalState | null): Enough {
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

export function toneEnough({ ears }: TuneRun, { goal, ...evidence }: TuneEvidence): Enough {
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

export function verifyEnough(run: TuneRun, evidence: TuneEvidence): Enough {
  const { ears } = run;
  const { heard, tooMuchDrive, card, standing } = evidence;
  if (!heard) return ears === 'none' ? unknown('Without a receiver only reports tell.') : notYet('No recording of the card as it stands.');
  if (heard.isMonitor) return notYet('Only the monitor has heard it.');
  const found = heard.findings.find(({ severity }) => severity === 'fault');
  if (found) return wrong(TONE_CODES.includes(found.code) ? `${found.text} ${offsetAside(evidence) ?? TONE_ASIDE}` : found.text);
  if (tooMuchDrive) return wrong(tooMuchDrive);
  const isWrong = wrongDepth(evidence);
  if (isWrong) return isWrong;
  const hasLevel = card.mode === 'fm' || evidence.radioGain !== null || !standing.newest;
  const level = hasLevel ? null : levelEnough(run, evidence);
  if (level?.state === 'watch') return notYet(`Heard off the air with nothing wrong in it, but the ALC is not right: ${level.text}`);
  const odd = named(heard.findings.filter(({ severity }) => severity === 'watch'));
  return good(odd === '' ? 'Heard off the air, and nothing is wrong.' : `Heard off the air, with no fault in it. Worth a look: ${odd}.`);
}
