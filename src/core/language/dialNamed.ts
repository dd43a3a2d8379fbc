/** Which dial the words name: a frequency, a band number, a place in the path, a menu address, a label. */
import {
  bandCentre,
  type Card,
  type Dial,
  type DialValue,
  dialInRole,
  dialOf,
  type EqualizerBand,
  effective,
  enableEqualizer,
  equalizerBands,
  positionsOf,
  type RigProfile,
  valueOn,
} from '../rig/index.ts';
import { type Hertz, octavesAbove } from '../units/index.ts';

/** A dial to move, and what else has to be set with it. */
export interface NamedDial {
  readonly dial: Dial;
  readonly also: readonly { readonly dial: Dial; readonly to: DialValue }[];
  /** How the words were understood, where that needs saying. */
  readonly remark: string;
}

/** Why the words name nothing on this rig, in one sentence. */
export class NotUnderstood extends Error {
  override name = 'NotUnderstood';
}

/** A slider or band farther from the frequency than this is not meant by it. */
const FARTHEST_OCTAVES = 0.6;
/** A band in use this near the frequency is the one to turn. */
const SAME_OCTAVES = 0.34;

/** Bands in use with these switches; with the equalizer off, as if it were on. */
export function liveBands(rig: RigProfile, card: Card): readonly EqualizerBand[] {
  return effective(rig, enableEqualizer(rig, card)).bands;
}

const distance = (a: Hertz, b: Hertz) => Math.abs(octavesAbove(a, b));

/** The band that acts at a frequency. @throws NotUnderstood */
export function dialAt(rig: RigProfile, card: Card, hz: Hertz): NamedDial {
  const bands = liveBands(rig, card);
  if (bands.length === 0) throw new NotUnderstood(`${rig.name} has no equalizer band that works here.`);
  const values = effective(rig, enableEqualizer(rig, card)).values;
  if (bands[0].shape !== 'bell') {
    const [bass, treble] = bands;
    const middle = Math.sqrt(bandCentre(bass, values) * bandCentre(treble, values));
    const band = hz < middle ? bass : treble;
    const dial = dialOf(rig, band.level);
    return { dial, also: [], remark: `${rig.name} has only tone knobs: ${dial.label} is the one for ${hz} Hz.` };
  }
  const ranked = [...bands].sort((a, b) => distance(bandCentre(a, values), hz) - distance(bandCentre(b, values), hz));
  const [nearest] = ranked;
  const centre = bandCentre(nearest, values);
  if (typeof nearest.centre === 'number') {
    if (distance(centre, hz) > FARTHEST_OCTAVES) throw new NotUnderstood(`No slider near ${hz} Hz; the nearest is ${centre} Hz.`);
    return { dial: dialOf(rig, nearest.level), also: [], remark: centre === hz ? '' : `The slider nearest to ${hz} Hz is ${centre} Hz.` };
  }
  if (distance(centre, hz) < SAME_OCTAVES && Number(values[nearest.level]) !== 0) {
    return { dial: dialOf(rig, nearest.level), also: [], remark: centre === hz ? '' : `The band at ${centre} Hz is the one for ${hz} Hz.` };
  }
  // A band that does nothing yet can be brought to the frequency.
  const idle = ranked
    .filter((band) => Number(values[band.level]) === 0 && typeof band.centre === 'string')
    .map((band) => ({ band, dial: dialOf(rig, String(band.centre)) }))
    .map(({ band, dial }) => ({ band, dial, to: nearestTo(dial, hz) }))
    .filter(({ to }) => distance(Number(to), hz) < SAME_OCTAVES / 2)
    .sort((a, b) => distance(Number(a.to), hz) - distance(Number(b.to), hz))[0];
  if (idle) {
    const level = dialOf(rig, idle.band.level);
    const isThere = valueOn(card, idle.dial) === idle.to;
    return { dial: level, also: isThere ? [] : [{ dial: idle.dial, to: idle.to }], remark: '' };
  }
  if (distance(centre, hz) <= FARTHEST_OCTAVES) {
    return { dial: dialOf(rig, nearest.level), also: [], remark: `No free band reaches ${hz} Hz; the one at ${centre} Hz is turned.` };
  }
  throw new NotUnderstood(`No band is free for ${hz} Hz; the nearest stands at ${centre} Hz and is in use.`);
}

const nearestTo = (dial: Dial, hz: Hertz): DialValue =>
  positionsOf(dial.scale).reduce((best, each) => (distance(Number(each), hz) < distance(Number(best), hz) ? each : best));

const PLACES: readonly { readonly words: RegExp; readonly find: (rig: RigProfile, card: Card, value: string) => Dial | undefined }[] = [
  { words: /^(mic|mike|mic gain|gain|mg)$/, find: (rig, { mode }) => dialInRole(rig, 'mic-gain', mode) ?? only(rig, 'gain') },
  {
    words: /^(comp|compression|compressor|proc|processor|speech|pr)$/,
    find: (rig, { mode }, value) => {
      const processor = dialInRole(rig, 'processor', mode);
      const amount = dialInRole(rig, 'compression', mode);
      const isSwitch = processor?.scale.kind === 'options' && processor.scale.options.some((each) => each.toLowerCase() === value);
      return (isSwitch ? processor : amount) ?? processor ?? only(rig, 'compressor');
    },
  },
  { words: /^(carrier|offset|carrier offset|bfo)$/, find: (rig, { mode }) => dialInRole(rig, 'carrier-offset', mode) },
  { words: /^(fm width|fm|deviation)$/, find: (rig, { mode }) => dialInRole(rig, 'fm-width', mode) },
  { words: /^(power|pwr|drive)$/, find: (rig, { mode }) => dialInRole(rig, 'power', mode) },
  { words: /^(eq|equalizer|mic eq)$/, find: (rig) => equalizerSwitch(rig) },
  { words: /^(bass|lows?)$/, find: (rig) => (rig.equalizer.kind === 'tone' ? dialOf(rig, rig.equalizer.bass.level) : undefined) },
  { words: /^(treble|highs?)$/, find: (rig) => (rig.equalizer.kind === 'tone' ? dialOf(rig, rig.equalizer.treble.level) : undefined) },
];

const only = (rig: RigProfile, stage: Dial['stage']): Dial | undefined => rig.dials.find((dial) => dial.stage === stage);

/** The switch that all bands wait for. */
export function equalizerSwitch(rig: RigProfile): Dial | undefined {
  const [band] = equalizerBands(rig);
  const need = band && dialOf(rig, band.level).needs?.find(({ dial }) => dialOf(rig, dial).stage === 'equalizer');
  return need && dialOf(rig, need.dial);
}

/** A dial by what people call it. @param value what it is to become: "off" picks the processor's switch. */
export function dialNamed(rig: RigProfile, card: Card, words: string, value: string): NamedDial {
  const plain = (dial: Dial): NamedDial => ({ dial, also: [], remark: '' });
  const band = /^(?:eq|band) ?(\d+)(?: (centre|center|freq|frequency|level|gain|width|q|bw))?$/.exec(words);
  if (band) return plain(bandDial(rig, card, Number(band[1]), band[2] ?? 'level'));
  const menu = /^(?:menu |#)(.+)$/.exec(words)?.[1] ?? words;
  const addressed = rig.dials.find((dial) => dial.menu !== '' && dial.menu.toLowerCase() === menu);
  if (addressed && (menu !== words || parseableOnlyAsMenu(words))) return plain(addressed);
  for (const place of PLACES) {
    if (!place.words.test(words)) continue;
    const dial = place.find(rig, card, value);
    if (dial) return plain(dial);
  }
  const labelled = rig.dials.filter((dial) => simple(dial.label) === simple(words));
  const found =
    labelled.length > 0 ? labelled : rig.dials.filter((dial) => simple(dial.label).includes(simple(words)) || dial.id === words);
  const live = found.filter((dial) => !effective(rig, card).dials.find((state) => state.dial.id === dial.id)?.dead);
  if (found.length === 1) return plain(found[0]);
  if (live.length === 1) return plain(live[0]);
  if (found.length > 1) {
    throw new NotUnderstood(
      `"${words}" could be ${found
        .slice(0, 4)
        .map(({ label }) => label)
        .join(' or ')}.`,
    );
  }
  throw new NotUnderstood(`${rig.name} has no dial called "${words}".`);
}

/** "4.12" is a menu address; "300" is a frequency, whatever the menu has there. */
const parseableOnlyAsMenu = (words: string): boolean => !/^\d+$/.test(words) || Number(words) < 50;

const simple = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

function bandDial(rig: RigProfile, card: Card, number: number, part: string): Dial {
  const bands = liveBands(rig, card);
  const band = bands[number - 1];
  if (!band) throw new NotUnderstood(`There is no band ${number}: ${bands.length === 0 ? 'no band works here' : `1 to ${bands.length}`}.`);
  const which = /^(centre|center|freq)/.test(part) ? band.centre : /^(width|q|bw)$/.test(part) ? band.width : band.level;
  if (typeof which !== 'string') throw new NotUnderstood(`Band ${number} has no dial for that.`);
  return dialOf(rig, which);
}
