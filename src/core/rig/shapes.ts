/** Radios to start describing from: the usual kinds, with dials to be named and numbered as the manual has them. */
import type { Dial, Mode, RigProfile } from './rig.ts';

/** Kinds of equalizer a radio can be described from. */
export const SHAPES = ['parametric', 'graphic', 'tone', 'none', 'fm-handheld'] as const;
/** One of them. */
export type Shape = (typeof SHAPES)[number];

/** Kinds in words. */
export const SHAPE_LABELS: Record<Shape, { readonly text: string; readonly note: string }> = {
  parametric: { text: 'Parametric equalizer', note: 'bands with centre, level and width; one bank or two' },
  graphic: { text: 'Graphic equalizer', note: 'a slider for each frequency' },
  tone: { text: 'Two tone knobs', note: 'bass and treble' },
  none: { text: 'No equalizer', note: 'mic gain, processor and filter only' },
  'fm-handheld': { text: 'FM handheld', note: 'mic level and channel width' },
};

/** Kind, name, bands and banks. */
export interface ShapeChoice {
  readonly shape: Shape;
  readonly name: string;
  /** Parametric: bands of each bank. Graphic: number of sliders. */
  readonly bands: number;
  /** Parametric: two banks, one for the processor off and one for on. */
  readonly hasTwoBanks: boolean;
}

/** Bands or sliders a description may begin with. */
export const MOST_BANDS = { parametric: 10, graphic: 31 } as const;

const SIDEBAND: readonly Mode[] = ['usb', 'lsb'];
const BAND_NAMES: Record<number, readonly string[]> = {
  1: ['Band'],
  2: ['Low band', 'High band'],
  3: ['Low band', 'Mid band', 'High band'],
};

/** A profile of that kind which can be used at once; every number in it is to be corrected from the manual. */
export function startRig({ shape, name, bands, hasTwoBanks }: ShapeChoice): RigProfile {
  if (shape === 'fm-handheld') return handheld(name);
  const equalizer = equalizerOf(shape, bands, hasTwoBanks);
  return {
    format: 'dialtune-rig',
    version: 1,
    name,
    modes: ['usb', 'lsb', 'am', 'fm'],
    dials: [...pathDials(), ...equalizer.dials],
    equalizer: equalizer.equalizer,
    passbands: [
      {
        kind: 'choice',
        modes: [...SIDEBAND],
        dial: 'tx-filter',
        edges: [
          ['100–2900', 100, 2900],
          ['200–2800', 200, 2800],
          ['300–2700', 300, 2700],
        ],
      },
      { kind: 'fixed', modes: ['am'], edges: [100, 3000] },
      { kind: 'fixed', modes: ['fm'], edges: [300, 3000] },
    ],
    alc: { zone: [0.3, 0.5] },
  };
}

const numbers = (id: string, label: string, range: readonly [number, number, number], extra: Partial<Dial>): Dial => ({
  id,
  label,
  menu: '',
  stage: 'equalizer',
  unit: '',
  scale: { kind: 'steps', min: range[0], max: range[1], step: range[2] },
  rest: range[0],
  ...extra,
});
const choice = (id: string, label: string, options: string[], rest: string, extra: Partial<Dial>): Dial => ({
  id,
  label,
  menu: '',
  stage: 'equalizer',
  unit: '',
  scale: { kind: 'options', options },
  rest,
  ...extra,
});

const pathDials = (): Dial[] => [
  numbers('mic-gain', 'Mic gain', [0, 100, 1], { stage: 'gain', role: 'mic-gain', rest: 50 }),
  choice('processor', 'Processor', ['off', 'on'], 'off', { stage: 'compressor', role: 'processor', modes: [...SIDEBAND] }),
  numbers('processor-level', 'Processor level', [0, 100, 1], {
    stage: 'compressor',
    role: 'compression',
    rest: 20,
    modes: [...SIDEBAND],
    needs: [{ dial: 'processor', is: ['on'] }],
  }),
  choice('tx-filter', 'Transmit filter', ['100–2900', '200–2800', '300–2700'], '300–2700', { stage: 'passband', modes: [...SIDEBAND] }),
];

const eqSwitch = (): Dial => choice('mic-eq', 'Mic equalizer', ['off', 'on'], 'off', {});
const ON = { dial: 'mic-eq', is: ['on'] };

/** An equalizer of that kind with its dials, its switch among them; none for shapes that have none. */
export function equalizerOf(shape: Shape, bands: number, hasTwoBanks: boolean): Pick<RigProfile, 'dials' | 'equalizer'> {
  if (shape === 'graphic') {
    const centres = graphicCentres(bands);
    return {
      dials: [
        eqSwitch(),
        ...centres.map((hz) => numbers(`eq-${hz}`, `Slider ${hz} Hz`, [-12, 12, 1], { unit: 'dB', rest: 0, needs: [ON] })),
      ],
      equalizer: { kind: 'graphic', octaves: 1, bands: centres.map((hz) => ({ hz, level: `eq-${hz}` })) },
    };
  }
  if (shape === 'tone') {
    return {
      dials: [
        numbers('bass', 'Transmit bass', [-6, 6, 1], { unit: 'dB', rest: 0 }),
        numbers('treble', 'Transmit treble', [-6, 6, 1], { unit: 'dB', rest: 0 }),
      ],
      equalizer: { kind: 'tone', bass: { hz: 400, level: 'bass' }, treble: { hz: 1600, level: 'treble' } },
    };
  }
  if (shape !== 'parametric') return { dials: [], equalizer: { kind: 'none' } };
  const banks = hasTwoBanks ? ['N', 'P'] : ['A'];
  const made = banks.map((bank) => parametricBank(bank, bands, hasTwoBanks));
  return {
    dials: [eqSwitch(), ...made.flatMap((bank) => bank.dials)],
    equalizer: { kind: 'parametric', width: { meaning: 'unknown' }, banks: made.map(({ name, parts }) => ({ name, bands: parts })) },
  };
}

/** Bank N works while the processor is off, bank P while it is on. */
function parametricBank(name: string, bands: number, hasTwoBanks: boolean) {
  const needs = hasTwoBanks ? [ON, { dial: 'processor', is: [name === 'P' ? 'on' : 'off'] }] : [ON];
  const suffix = hasTwoBanks ? ` ${name}` : '';
  const prefix = hasTwoBanks ? `${name.toLowerCase()}-` : '';
  // One dial for the whole voice range, shared out evenly over log frequency.
  const parts = Array.from({ length: bands }, (_, i) => {
    const id = `${prefix}band-${i + 1}`;
    return { centre: `${id}-centre`, level: `${id}-level`, width: `${id}-width` };
  });
  const dials = parts.flatMap((part, i) => {
    const label = `${BAND_NAMES[bands]?.[i] ?? `Band ${i + 1}`}${suffix}`;
    const rest = Math.round((200 * 15 ** ((i + 0.5) / bands)) / 100) * 100;
    return [
      numbers(part.centre, `${label}, centre`, [100, 3000, 100], { unit: 'Hz', rest: Math.min(3000, rest), needs }),
      numbers(part.level, `${label}, level`, [-10, 10, 1], { unit: 'dB', rest: 0, needs }),
      numbers(part.width, `${label}, width`, [1, 10, 1], { rest: 5, needs }),
    ];
  });
  return { name, parts, dials };
}

/** So many slider frequencies from 100 to 3200 Hz, evenly over log frequency, rounded as radios mark them. */
function graphicCentres(count: number): number[] {
  const raw = Array.from({ length: count }, (_, i) => 100 * 32 ** (count === 1 ? 0.66 : i / (count - 1)));
  const centres: number[] = [];
  for (const hz of raw) {
    const grain = hz < 1000 ? 10 : 100;
    const rounded = Math.round(hz / grain) * grain;
    centres.push(Math.max(rounded, (centres.at(-1) ?? 0) + grain));
  }
  return centres;
}

/** Dials that many radios have beside the ones of a shape. */
export const USUAL_DIALS: Record<'carrier-offset' | 'fm-width' | 'power' | 'mic-gain', Dial> = {
  'carrier-offset': numbers('carrier-offset', 'Carrier offset', [-500, 500, 50], {
    stage: 'passband',
    role: 'carrier-offset',
    unit: 'Hz',
    rest: 0,
    modes: [...SIDEBAND],
  }),
  'fm-width': choice('fm-width', 'FM width', ['wide', 'narrow'], 'wide', { stage: 'on-air', role: 'fm-width', modes: ['fm'] }),
  power: numbers('power', 'Transmit power', [5, 100, 5], { stage: 'on-air', role: 'power', unit: 'W' }),
  'mic-gain': numbers('fm-mic-gain', 'FM mic gain', [0, 100, 1], { stage: 'gain', role: 'mic-gain', rest: 50, modes: ['fm'] }),
};

const handheld = (name: string): RigProfile => ({
  format: 'dialtune-rig',
  version: 1,
  name,
  modes: ['fm'],
  dials: [
    choice('mic-level', 'Mic level', ['low', 'mid', 'high'], 'mid', { stage: 'gain', role: 'mic-gain' }),
    choice('width', 'Channel width', ['wide', 'narrow'], 'wide', { stage: 'on-air', role: 'fm-width' }),
  ],
  equalizer: { kind: 'none' },
  passbands: [{ kind: 'fixed', modes: ['fm'], edges: [300, 3000] }],
  alc: { zone: [0, 1] },
});
