/** Outboard equalizers as they are usually met, as profiles that the fit can set. Values: common practice. */
import type { Dial, RigProfile } from '../rig/index.ts';
import type { Hertz } from '../units/index.ts';

const slider = (id: string, label: string, most: number): Dial => ({
  id,
  label,
  menu: '',
  stage: 'equalizer',
  unit: 'dB',
  scale: { kind: 'steps', min: -most, max: most, step: 1 },
  rest: 0,
});

const hertzLabel = (hz: Hertz): string => (hz < 1000 ? `${hz} Hz` : `${hz / 1000} kHz`);

/** What an outboard equalizer shares with the radio that it feeds. */
export type Fed = Pick<RigProfile, 'modes' | 'alc'> & { readonly passbandHz: readonly [Hertz, Hertz] };

const profile = ({ modes, alc, passbandHz }: Fed, name: string, dials: Dial[], equalizer: RigProfile['equalizer']): RigProfile => ({
  format: 'dialtune-rig',
  version: 1,
  name,
  modes,
  dials,
  equalizer,
  passbands: [{ kind: 'fixed', modes, edges: [passbandHz[0], passbandHz[1]] }],
  alc,
});

/** A small mixer's three bands. Its outer two are shelves in truth; inside a voice's passband broad bells do the same. */
function threeBands(fed: Fed): RigProfile {
  const places: readonly (readonly [string, Hertz, number])[] = [
    ['low', 100, 2.5],
    ['mid', 2500, 1.5],
    ['high', 8000, 2.5],
  ];
  return profile(
    fed,
    'three-band mixer',
    places.map(([id, hz]) => slider(id, `${id} (${hertzLabel(hz)})`, 15)),
    {
      kind: 'parametric',
      width: { meaning: 'octaves' },
      banks: [{ name: 'mixer', bands: places.map(([level, centre, width]) => ({ centre, level, width })) }],
    },
  );
}

/** The ten-slider octave equalizer. */
function tenSliders(fed: Fed): RigProfile {
  const places: readonly Hertz[] = [31, 63, 125, 250, 500, 1000, 2000, 4000, 8000, 16000];
  return profile(
    fed,
    'ten-slider equalizer',
    places.map((hz) => slider(`s${hz}`, hertzLabel(hz), 12)),
    { kind: 'graphic', octaves: 1, bands: places.map((hz) => ({ hz, level: `s${hz}` })) },
  );
}

/** Outboard equalizers as they are usually had, as rigs of their own. Rough figures, common practice. */
export const OUTBOARD: readonly ((fed: Fed) => RigProfile)[] = [threeBands, tenSliders];
