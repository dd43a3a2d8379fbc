/** The names that a rig's own dials give to the words of a line. */
import { type Card, type Dial, effective, type RigProfile } from '../rig/index.ts';
import { type Names, simple } from './clause.ts';
import { dialsOf } from './dialNamed.ts';

const menuKey = (menu: string): string => menu.toLowerCase().replace(/^0+(?=\d)/, '');
/** The dial of a menu address, however it is spelled. */
export const addressed = (rig: RigProfile, menu: string): Dial | undefined =>
  rig.dials.find((dial) => dial.menu !== '' && menuKey(dial.menu) === menuKey(menu));

/** Words of labels that name nothing alone. */
const COMMON = /^(?:transmit|tx|level|gain|mic|slider|band|hz|on|off|n|p|a|b|the|ssb|mode|\d+)$/;

/** The names of a rig with a card's settings: of two dials of one label the one that works. */
export function namesOf(rig: RigProfile, card: Card): Names {
  const labels = new Map(rig.dials.map((dial) => [simple(dial.label), dial]));
  const dead = new Set(effective(rig, card).dials.flatMap(({ dial, dead: why }) => (why ? [dial.id] : [])));
  return {
    labelled: (words) => {
      const key = simple(words);
      if (key === '') return undefined;
      const same = rig.dials.filter((dial) => simple(dial.label) === key);
      return same.find(({ id }) => !dead.has(id)) ?? labels.get(key);
    },
    hinted: (word) => {
      if (COMMON.test(word) || word.length < 3) return undefined;
      const found = rig.dials.filter((dial) => simple(dial.label).split(' ').includes(word));
      const live = found.filter(({ id }) => !dead.has(id));
      return live.length === 1 ? live[0] : found.length === 1 ? found[0] : undefined;
    },
    addressed: (menu) => addressed(rig, menu),
    banks: rig.equalizer.kind === 'parametric' ? rig.equalizer.banks.map(({ name }) => name.toLowerCase()) : [],
    options: (target) => {
      const dials = target.kind === 'dial' ? [target.dial] : target.kind === 'place' ? dialsOf(rig, card, target.place) : [];
      return dials.flatMap(({ scale }) => (scale.kind === 'options' ? scale.options : []));
    },
  };
}
