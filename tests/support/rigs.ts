/** Small invented rigs for tests. */
import type { Dial, RigProfile } from '../../src/core/rig/rig.ts';
import { parseRig } from '../../src/core/rig/validate.ts';

export const steps = (id: string, min: number, max: number, step: number, extra: Partial<Dial> = {}): Dial => ({
  id,
  label: id,
  menu: '',
  stage: 'equalizer',
  unit: 'dB',
  scale: { kind: 'steps', min, max, step },
  rest: 0,
  ...extra,
});
export const values = (id: string, list: number[], rest: number, extra: Partial<Dial> = {}): Dial => ({
  ...steps(id, 0, 0, 1, extra),
  unit: 'Hz',
  scale: { kind: 'values', values: list },
  rest,
  ...extra,
});
export const options = (id: string, list: string[], rest: string, extra: Partial<Dial> = {}): Dial => ({
  ...steps(id, 0, 0, 1),
  unit: '',
  scale: { kind: 'options', options: list },
  rest,
  ...extra,
});

type Parts = Partial<RigProfile> & Pick<RigProfile, 'dials' | 'equalizer'>;

/** A checked profile. */
export const rigOf = (parts: Parts): RigProfile =>
  parseRig({
    format: 'dialtune-rig',
    version: 1,
    name: 'Test rig',
    modes: ['usb'],
    passbands: [{ kind: 'fixed', modes: ['usb'], edges: [300, 2700] }],
    alc: { zone: [0.3, 0.5] },
    ...parts,
  });

/** Parametric bands p1 .. pn with the given grids. */
export function parametricRig(
  bands: number,
  {
    centres = [300, 700, 1500, 2300],
    levels = [-12, 12, 3],
    widths = [1, 2],
  }: { centres?: number[]; levels?: [number, number, number]; widths?: number[] } = {},
  extra: Partial<RigProfile> = {},
): RigProfile {
  const names = Array.from({ length: bands }, (_, i) => `p${i + 1}`);
  return rigOf({
    dials: names.flatMap((name, i) => [
      values(`${name}-centre`, centres, centres[i % centres.length], { menu: `${i + 1}.1` }),
      steps(`${name}-level`, ...levels, { menu: `${i + 1}.2` }),
      values(`${name}-width`, widths, widths[0], { menu: `${i + 1}.3`, unit: '' }),
    ]),
    equalizer: {
      kind: 'parametric',
      width: { meaning: 'octaves' },
      banks: [{ name: 'A', bands: names.map((name) => ({ centre: `${name}-centre`, level: `${name}-level`, width: `${name}-width` })) }],
    },
    ...extra,
  });
}

export function graphicRig(hz: number[], extra: Partial<RigProfile> = {}): RigProfile {
  return rigOf({
    dials: hz.map((each, i) => steps(`g${each}`, -12, 12, 1, { menu: String(30 + i) })),
    equalizer: { kind: 'graphic', octaves: 1, bands: hz.map((each) => ({ hz: each, level: `g${each}` })) },
    ...extra,
  });
}

export const toneRig = (extra: Partial<RigProfile> = {}): RigProfile =>
  rigOf({
    dials: [steps('bass', -6, 6, 1, { menu: '6' }), steps('treble', -6, 6, 1, { menu: '7' })],
    equalizer: { kind: 'tone', bass: { hz: 400, level: 'bass' }, treble: { hz: 1600, level: 'treble' } },
    ...extra,
  });

/** Two banks: N while the processor is off, P while it is on; a master switch; no processor in AM. */
export const twoBankRig = (): RigProfile => {
  const bank = (name: string, processor: string) => [
    values(`${name}-centre`, [100, 500, 1000, 3000], 500, {
      needs: [
        { dial: 'processor', is: [processor] },
        { dial: 'eq', is: ['on'] },
      ],
    }),
    steps(`${name}-level`, -10, 10, 1, {
      needs: [
        { dial: 'processor', is: [processor] },
        { dial: 'eq', is: ['on'] },
      ],
    }),
  ];
  return rigOf({
    modes: ['usb', 'am'],
    dials: [
      steps('mic', 0, 100, 1, { stage: 'gain', unit: '', rest: 40 }),
      options('processor', ['off', 'on'], 'off', { stage: 'compressor', modes: ['usb'] }),
      options('eq', ['off', 'on'], 'off', { menu: '4.10' }),
      ...bank('n', 'off'),
      ...bank('p', 'on'),
    ],
    passbands: [{ kind: 'fixed', modes: ['usb', 'am'], edges: [300, 2700] }],
    equalizer: {
      kind: 'parametric',
      width: { meaning: 'q' },
      banks: [
        { name: 'N', bands: [{ centre: 'n-centre', level: 'n-level', width: 2 }] },
        { name: 'P', bands: [{ centre: 'p-centre', level: 'p-level', width: 2 }] },
      ],
    },
  });
};
