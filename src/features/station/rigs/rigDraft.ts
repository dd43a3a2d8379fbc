/** A rig profile being written: every change an action, every action undoable. */
import { type Dial, dialIdFor, type Equalizer, equalizerBands, equalizerOf, type RigProfile, type Shape } from '@/core/rig/index.ts';

export interface RigDraft {
  readonly profile: RigProfile;
  /** Earlier states, newest last. */
  readonly past: readonly RigProfile[];
}

export type RigAction =
  | { readonly kind: 'set'; readonly change: Partial<RigProfile> }
  /** All of it, as from an earlier visit. */
  | { readonly kind: 'replace'; readonly profile: RigProfile }
  | { readonly kind: 'dial'; readonly id: string; readonly change: Partial<Dial> }
  | { readonly kind: 'addDials'; readonly dials: readonly Dial[] }
  | { readonly kind: 'removeDial'; readonly id: string }
  /** Gives the dials after this one, in its stage, the menu addresses that follow its own. */
  | { readonly kind: 'numberFrom'; readonly id: string }
  /** Another kind of equalizer, with dials of its own in place of the old one's. */
  | { readonly kind: 'equalizer'; readonly shape: Shape; readonly bands: number; readonly hasTwoBanks: boolean }
  | { readonly kind: 'addBand'; readonly bank: number }
  | { readonly kind: 'removeBand'; readonly bank: number; readonly band: number }
  | { readonly kind: 'undo' };

const MOST_PAST = 200;

export function rigReducer(draft: RigDraft, action: RigAction): RigDraft {
  if (action.kind === 'undo') {
    const last = draft.past.at(-1);
    return last ? { profile: last, past: draft.past.slice(0, -1) } : draft;
  }
  const profile = changed(draft.profile, action);
  return profile === draft.profile ? draft : { profile, past: [...draft.past, draft.profile].slice(-MOST_PAST) };
}

function changed(profile: RigProfile, action: Exclude<RigAction, { kind: 'undo' }>): RigProfile {
  switch (action.kind) {
    case 'set':
      return { ...profile, ...action.change };
    case 'replace':
      return action.profile;
    case 'dial':
      return { ...profile, dials: profile.dials.map((dial) => (dial.id === action.id ? tidied({ ...dial, ...action.change }) : dial)) };
    case 'addDials':
      return { ...profile, dials: [...profile.dials, ...action.dials] };
    case 'removeDial':
      return {
        ...profile,
        dials: profile.dials
          .filter(({ id }) => id !== action.id)
          .map((dial) => tidied({ ...dial, needs: dial.needs?.filter((need) => need.dial !== action.id) })),
      };
    case 'numberFrom':
      return numbered(profile, action.id);
    case 'equalizer':
      return withEqualizer(profile, action);
    case 'addBand':
      return withBand(profile, action.bank);
    case 'removeBand':
      return withoutBand(profile, action.bank, action.band);
  }
}

/** Optional parts that say nothing are left out, so that a profile stays as its file is. */
function tidied({ modes, needs, role, ...dial }: Dial): Dial {
  return {
    ...dial,
    ...(role ? { role } : {}),
    ...(modes && modes.length > 0 ? { modes } : {}),
    ...(needs && needs.length > 0 ? { needs } : {}),
  };
}

function numbered(profile: RigProfile, id: string): RigProfile {
  const first = profile.dials.find((dial) => dial.id === id);
  const parts = /^(.*?)(\d+)$/.exec(first?.menu ?? '');
  if (!first || !parts) return profile;
  const [, prefix, digits] = parts;
  const row = profile.dials.filter(({ stage }) => stage === first.stage);
  const after = row.slice(row.indexOf(first) + 1).map((dial) => dial.id);
  const address = (i: number) => prefix + String(Number(digits) + 1 + i).padStart(digits.length, '0');
  return {
    ...profile,
    dials: profile.dials.map((dial) => (after.includes(dial.id) ? { ...dial, menu: address(after.indexOf(dial.id)) } : dial)),
  };
}

function withEqualizer(profile: RigProfile, { shape, bands, hasTwoBanks }: Extract<RigAction, { kind: 'equalizer' }>): RigProfile {
  const old = equalizerBands(profile).flatMap((band) => [band.centre, band.level, band.width]);
  const kept = profile.dials.filter(({ id }) => !old.includes(id));
  const made = equalizerOf(shape, bands, hasTwoBanks);
  const added = made.dials.filter(({ id }) => !kept.some((dial) => dial.id === id));
  // A bank can only follow a processor that is there.
  const known = new Set([...kept, ...added].map(({ id }) => id));
  const dials = [...kept, ...added].map((dial) => tidied({ ...dial, needs: dial.needs?.filter((need) => known.has(need.dial)) }));
  return { ...profile, dials, equalizer: made.equalizer };
}

/** A dial to be filled in. */
export function blankDial(stage: Dial['stage'], taken: readonly string[]): Dial {
  return {
    id: dialIdFor('new dial', taken),
    label: 'New dial',
    menu: '',
    stage,
    unit: '',
    scale: { kind: 'steps', min: 0, max: 10, step: 1 },
    rest: 0,
  };
}

/** One more band, with its dials made like those of the band before it. */
function withBand(profile: RigProfile, bank: number): RigProfile {
  const { equalizer } = profile;
  const taken = profile.dials.map(({ id }) => id);
  const copyOf = (id: string | undefined, label: string, fallback: Partial<Dial>): Dial => {
    const model = profile.dials.find((dial) => dial.id === id);
    const made = { ...blankDial('equalizer', taken), ...fallback, ...model, label, menu: '', id: dialIdFor(label, taken) };
    taken.push(made.id);
    return made;
  };
  if (equalizer.kind === 'graphic') {
    const last = equalizer.bands.at(-1);
    const hz = last ? Math.min(20000, last.hz * 2) : 1000;
    const level = copyOf(last?.level, `Slider ${hz} Hz`, { unit: 'dB', scale: { kind: 'steps', min: -12, max: 12, step: 1 } });
    return {
      ...profile,
      dials: [...profile.dials, level],
      equalizer: { ...equalizer, bands: [...equalizer.bands, { hz, level: level.id }] },
    };
  }
  if (equalizer.kind !== 'parametric') return profile;
  const { name, bands } = equalizer.banks[bank];
  const last = bands.at(-1);
  const title = `Band ${bands.length + 1}${equalizer.banks.length > 1 ? ` ${name}` : ''}`;
  const idOf = (part: string | number | undefined) => (typeof part === 'string' ? part : undefined);
  const parts = [
    copyOf(idOf(last?.centre), `${title}, centre`, { unit: 'Hz', scale: { kind: 'steps', min: 100, max: 3000, step: 100 }, rest: 1000 }),
    copyOf(last?.level, `${title}, level`, { unit: 'dB', scale: { kind: 'steps', min: -10, max: 10, step: 1 } }),
    copyOf(idOf(last?.width), `${title}, width`, { scale: { kind: 'steps', min: 1, max: 10, step: 1 }, rest: 5 }),
  ];
  const band = { centre: parts[0].id, level: parts[1].id, width: parts[2].id };
  return {
    ...profile,
    dials: [...profile.dials, ...parts],
    equalizer: { ...equalizer, banks: equalizer.banks.map((each, b) => (b === bank ? { ...each, bands: [...each.bands, band] } : each)) },
  };
}

/** Takes a band away, and the dials that only it used. */
function withoutBand(profile: RigProfile, bank: number, at: number): RigProfile {
  const { equalizer } = profile;
  if (equalizer.kind === 'graphic') {
    const gone = equalizer.bands[at];
    return without(profile, [gone.level], { ...equalizer, bands: equalizer.bands.filter((_, i) => i !== at) });
  }
  if (equalizer.kind !== 'parametric') return profile;
  const gone = equalizer.banks[bank].bands[at];
  return without(profile, [gone.centre, gone.level, gone.width], {
    ...equalizer,
    banks: equalizer.banks.map((each, b) => (b === bank ? { ...each, bands: each.bands.filter((_, i) => i !== at) } : each)),
  });
}

const without = (profile: RigProfile, parts: readonly (string | number)[], equalizer: Equalizer): RigProfile => ({
  ...profile,
  dials: profile.dials.filter(({ id }) => !parts.includes(id)),
  equalizer,
});
