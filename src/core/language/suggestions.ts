/** What can be typed into the dial line on this rig, for whoever is still typing. */
import {
  bandCentre,
  type Card,
  type Dial,
  dialInRole,
  dialOf,
  effective,
  hasAlc,
  nameOf,
  passbandOf,
  type RigProfile,
  valueOn,
  valueText,
} from '../rig/index.ts';
import { equalizerSwitch, liveBands } from './dialNamed.ts';

/** Words that go on, and what they do. */
export interface Suggestion {
  /** What to put on the line; a value is still to follow when it ends in a space. */
  readonly text: string;
  /** What it is about, and where it stands. */
  readonly note: string;
}

/** Suggestions that begin as the text does, the path's order; all of them for an empty line. */
export function suggestionsFor(text: string, rig: RigProfile, card: Card, most = 6): Suggestion[] {
  const typed = text.toLowerCase().trimStart();
  const all = vocabulary(rig, card);
  return all.filter((each) => each.text.startsWith(typed) && each.text.trim() !== typed.trim()).slice(0, most);
}

function vocabulary(rig: RigProfile, card: Card): Suggestion[] {
  const { values } = effective(rig, card);
  const about = (dial: Dial) => `${nameOf(dial)}, now ${valueText(dial, valueOn(card, dial))}`;
  const role = (text: string, dial: Dial | undefined): Suggestion[] => (dial ? [{ text, note: about(dial) }] : []);
  const passband = rig.passbands.find((each) => each.modes.includes(card.mode));
  const [low, high] = passbandOf(rig, card.mode, values);
  const bands = liveBands(rig, card).flatMap((band, i) => {
    const dial = dialOf(rig, band.level);
    const hz = bandCentre(band, values);
    const own = [{ text: `eq${i + 1} `, note: about(dial) }];
    return band.shape === 'bell' ? [{ text: `${hz} `, note: about(dial) }, ...own] : own;
  });
  const processor = dialInRole(rig, 'processor', card.mode);
  return [
    ...role('mic ', dialInRole(rig, 'mic-gain', card.mode)),
    ...role('comp ', dialInRole(rig, 'compression', card.mode)),
    ...(processor?.scale.kind === 'options'
      ? processor.scale.options.map((option) => ({ text: `comp ${option.toLowerCase()}`, note: about(processor) }))
      : []),
    ...role('eq ', equalizerSwitch(rig)),
    ...bands,
    ...(passband && passband.kind !== 'fixed' ? [{ text: 'bw ', note: `passband, now ${low}–${high} Hz` }] : []),
    ...role('carrier ', dialInRole(rig, 'carrier-offset', card.mode)),
    ...role('fm width ', dialInRole(rig, 'fm-width', card.mode)),
    ...role('power ', dialInRole(rig, 'power', card.mode)),
    ...(hasAlc(card) ? [{ text: 'alc ', note: 'ALC reading on speech peaks' }] : []),
    { text: 'undo', note: 'the last change of this card' },
  ];
}
