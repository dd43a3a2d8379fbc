/** A radio as another station tells it on the air, in a few words: enough to hold its numbers and to advise on them. */
import { InvalidInput } from '../schema/index.ts';
import type { Dial, RigProfile } from './rig.ts';
import { startRig } from './shapes.ts';

/** Equalizers that a guest may name. */
export const GUEST_SHAPES = ['graphic', 'parametric', 'tone', 'none'] as const;
/** One of them. */
export type GuestShape = (typeof GUEST_SHAPES)[number];
/** Shapes in words. */
export const GUEST_SHAPE_LABELS: Record<GuestShape, { readonly text: string; readonly note: string }> = {
  graphic: { text: 'Sliders', note: 'one for each frequency' },
  parametric: { text: 'Bands', note: 'each with centre, level and width' },
  tone: { text: 'Two tone knobs', note: 'bass and treble' },
  none: { text: 'No equalizer', note: 'mic gain and processor only' },
};

/** What a guest says of the radio. */
export interface GuestRadio {
  readonly name: string;
  readonly shape: GuestShape;
  /** Sliders: their frequencies as they are read out, "63 125 250 500 1k 2k". */
  readonly frequencies: string;
  /** Bands: how many. */
  readonly bands: number;
  /** Sliders, bands and knobs reach so many steps to each side. */
  readonly reach: number;
}

const MOST_SLIDERS = 31;
const [LOWEST_HZ, HIGHEST_HZ] = [20, 16_000];
/** Nobody has a slider there in hertz: it was kilohertz. */
const KILOHERTZ_BELOW = 20;

/** Frequencies as they are read out, ascending, in Hz; null where one can't be read, stands twice, or there are too many. */
export function parseFrequencies(text: string): number[] | null {
  const words = text
    .toLowerCase()
    .split(/[\s,;/]+/)
    .filter((word) => word !== '' && word !== 'hz' && word !== 'and');
  const heard = words.map((word) => {
    const match = /^(\d+(?:\.\d+)?)(k(?:hz)?|hz)?$/.exec(word);
    if (!match) return Number.NaN;
    const value = Number(match[1]);
    return match[2]?.startsWith('k') || (match[2] === undefined && value < KILOHERTZ_BELOW) ? 1000 * value : value;
  });
  const sorted = heard.map(Math.round).toSorted((a, b) => a - b);
  const isGood = sorted.every((hz, i) => hz >= LOWEST_HZ && hz <= HIGHEST_HZ && hz !== sorted[i - 1]);
  return isGood && sorted.length > 0 && sorted.length <= MOST_SLIDERS ? sorted : null;
}

/**
 * The profile of such a radio: its equalizer is on, nothing has a menu address, and widths are unknown.
 * @throws InvalidInput for frequencies that can't be read
 */
export function guestRig({ name, shape, frequencies, bands, reach }: GuestRadio): RigProfile {
  const centres = shape === 'graphic' ? parseFrequencies(frequencies) : [];
  if (centres === null)
    throw new InvalidInput([
      {
        place: 'frequencies',
        text: `The sliders' frequencies are needed, as 63 125 250 500 1k 2k: from 20 Hz to 16 kHz, each once, at most ${MOST_SLIDERS}.`,
      },
    ]);
  const rig = withAnyEdges(startRig({ shape, name, bands, hasTwoBanks: false }));
  const dials = rig.dials.filter(({ id }) => id !== 'mic-eq').map((dial) => withReach(withoutSwitch(dial), reach));
  if (shape !== 'graphic') return { ...rig, dials };
  const sliders = centres.map((hz): Dial => ({ ...slider(hz), scale: { kind: 'steps', min: -reach, max: reach, step: 1 } }));
  return {
    ...rig,
    dials: [...dials.filter(({ stage }) => stage !== 'equalizer'), ...sliders],
    equalizer: { kind: 'graphic', octaves: octavesBetween(centres), bands: centres.map((hz) => ({ hz, level: `eq-${hz}` })) },
  };
}

const slider = (hz: number): Dial => ({
  id: `eq-${hz}`,
  label: `Slider ${hz >= 1000 ? `${hz / 1000} kHz` : `${hz} Hz`}`,
  menu: '',
  stage: 'equalizer',
  unit: 'dB',
  scale: { kind: 'steps', min: -12, max: 12, step: 1 },
  rest: 0,
});

/** Nobody reads out which filters a radio has, only the edges of the one in use. */
function withAnyEdges(rig: RigProfile): RigProfile {
  const filter = rig.dials.find(({ id }) => id === 'tx-filter');
  if (!filter) return rig;
  const edge = (id: string, label: string, [min, max]: readonly [number, number], rest: number): Dial => ({
    ...filter,
    id,
    label,
    unit: 'Hz',
    scale: { kind: 'steps', min, max, step: 50 },
    rest,
  });
  const edges = [edge('low-cut', 'Transmit low cut', [50, 600], 300), edge('high-cut', 'Transmit high cut', [1800, 4000], 2700)];
  return {
    ...rig,
    dials: rig.dials.flatMap((dial) => (dial === filter ? edges : [dial])),
    passbands: rig.passbands.map((band) =>
      band.kind === 'choice' ? { kind: 'edges', modes: band.modes, low: 'low-cut', high: 'high-cut' } : band,
    ),
  };
}

function withoutSwitch(dial: Dial): Dial {
  const { needs, ...rest } = dial;
  const left = needs?.filter((need) => need.dial !== 'mic-eq') ?? [];
  return left.length === 0 ? rest : { ...rest, needs: left };
}

const withReach = (dial: Dial, reach: number): Dial =>
  dial.stage === 'equalizer' && dial.unit === 'dB' ? { ...dial, scale: { kind: 'steps', min: -reach, max: reach, step: 1 } } : dial;

/** A slider is about as wide as it is far from the next. */
function octavesBetween(centres: readonly number[]): number {
  if (centres.length < 2) return 1;
  const whole = Math.log2(centres[centres.length - 1] / centres[0]);
  return Math.min(3, Math.max(0.3, whole / (centres.length - 1)));
}
