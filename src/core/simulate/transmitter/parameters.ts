/**
 * What a card makes of the model: dials through the rig's scales to parameters of the stages. Dead dials do nothing
 * here either. What no profile tells (the "truth" of a radio: its amplifier, its gain law) has usual values.
 */
import type { Biquad } from '../../dsp/index.ts';
import {
  bandCentre,
  bandFilter,
  type Card,
  type DialRole,
  type DialState,
  dialInRole,
  type EffectiveSettings,
  effective,
  isTurnedOff,
  type Mode,
  type RigProfile,
  shareOf,
} from '../../rig/index.ts';
import type { Decibels, Fraction, Hertz } from '../../units/index.ts';
import { type AlcShape, USUAL_ALC } from './alc.ts';
import { type AmplifierShape, USUAL_AMPLIFIER } from './amplifier.ts';
import { type Balance, USUAL_BALANCE } from './balance.ts';
import { type MicGainLaw, micGainDb, USUAL_MIC_GAIN } from './micGain.ts';
import { USUAL_TRANSITION_HZ } from './passband.ts';

/** What a radio is inside, beyond its profile. */
export interface RadioTruth {
  readonly micGain: MicGainLaw;
  readonly processor: {
    readonly kind: 'audio' | 'rf';
    /** Compression at the upper end of its scale. */
    readonly mostDb: Decibels;
    /** Where peaks are held, re full drive. */
    readonly ceilingDb: Decibels;
  };
  readonly passband: {
    /** By how much each edge lies off what the dial says. */
    readonly errorHz: readonly [Hertz, Hertz];
    readonly transitionHz: Hertz;
  };
  readonly alc: AlcShape;
  readonly amplifier: AmplifierShape;
  readonly balance: Balance;
  readonly deviationHz: { readonly wide: Hertz; readonly narrow: Hertz };
  /** What one decibel on an equalizer dial really is; 1 in an honest radio. */
  readonly equalizerScale: number;
}

/** An honest radio: its dials do what they say. */
export const USUAL_RADIO: RadioTruth = {
  micGain: USUAL_MIC_GAIN,
  // A ceiling of 4 dB over full drive leaves the ALC about a third of its scale to do, in the usual zone.
  processor: { kind: 'rf', mostDb: 20, ceilingDb: 4 },
  passband: { errorHz: [0, 0], transitionHz: USUAL_TRANSITION_HZ },
  alc: USUAL_ALC,
  amplifier: USUAL_AMPLIFIER,
  balance: USUAL_BALANCE,
  deviationHz: { wide: 5000, narrow: 2500 },
  equalizerScale: 1,
};

/** A card on a radio as numbers of the model. */
export interface TransmitterParameters {
  readonly mode: Mode;
  readonly rateHz: Hertz;
  readonly micGainDb: Decibels;
  readonly equalizer: readonly Biquad[];
  readonly compression: { readonly kind: 'audio' | 'rf'; readonly compressionDb: Decibels; readonly ceilingDb: Decibels };
  readonly passband: { readonly edgesHz: readonly [Hertz, Hertz]; readonly transitionHz: Hertz };
  readonly alc: AlcShape;
  /** Amplitude of full drive behind the ALC: 1 at full power, less where the power dial is turned down. */
  readonly output: number;
  readonly amplifier: AmplifierShape;
  readonly balance: Balance;
  readonly deviationHz: Hertz;
}

/** Sample rate of the model: SSB and AM fit into +-12 kHz with their fifth-order products, wide FM needs more. */
export const modelRateHz = (mode: Mode): Hertz => (mode === 'fm' ? 48000 : 24000);

/** Lowest power dial positions still give something. */
const LEAST_POWER: Fraction = 0.01;

/** @param radio what it is inside; also how its width numbers act, where the profile is wrong, through `rig` itself */
export function parametersOf(rig: RigProfile, card: Card, radio: RadioTruth = USUAL_RADIO): TransmitterParameters {
  const settings = effective(rig, card);
  const { mode } = card;
  const rateHz = modelRateHz(mode);
  const { values, passbandHz } = settings;
  const power = Math.max(LEAST_POWER, shareInRole(rig, settings, mode, 'power') ?? 1);
  const edge = (k: 0 | 1): Hertz => passbandHz[k] + radio.passband.errorHz[k];
  return {
    mode,
    rateHz,
    micGainDb: micGainDb(radio.micGain, gainShare(rig, settings, mode)),
    equalizer: filtersOf(rig, settings, radio.equalizerScale, rateHz),
    compression: {
      kind: radio.processor.kind,
      ceilingDb: radio.processor.ceilingDb,
      compressionDb: radio.processor.mostDb * (shareInRole(rig, settings, mode, 'compression') ?? 0),
    },
    passband: { edgesHz: [Math.max(20, edge(0)), Math.max(120, edge(1))], transitionHz: radio.passband.transitionHz },
    alc: radio.alc,
    output: Math.sqrt(power),
    amplifier: radio.amplifier,
    balance: radio.balance,
    deviationHz: isNarrow(rig, mode, values) ? radio.deviationHz.narrow : radio.deviationHz.wide,
  };
}

/** A bell can't be made near half the rate. */
const HIGHEST_CENTRE: Fraction = 0.45;

function filtersOf(rig: RigProfile, { bands, values }: EffectiveSettings, scale: number, rateHz: Hertz): Biquad[] {
  return bands
    .filter((band) => bandCentre(band, values) < HIGHEST_CENTRE * rateHz)
    .map((band) => bandFilter(rig, band, { ...values, [band.level]: scale * Number(values[band.level]) }, rateHz));
}

/** Where the dial of a role stands on its scale, 0 to 1; null when the rig has none that works. */
function shareInRole(rig: RigProfile, settings: EffectiveSettings, mode: Mode, role: 'compression' | 'power'): Fraction | null {
  const state = liveInRole(rig, settings, mode, role);
  return state ? shareOf(state.dial, state.value) : null;
}

/** The same of the mic gain: in the middle when there is none; null where it is turned off. */
function gainShare(rig: RigProfile, settings: EffectiveSettings, mode: Mode): Fraction | null {
  const state = liveInRole(rig, settings, mode, 'mic-gain');
  if (!state) return 0.5;
  return isTurnedOff(state.dial, state.value) ? null : shareOf(state.dial, state.value);
}

function liveInRole(rig: RigProfile, { dials }: EffectiveSettings, mode: Mode, role: DialRole): DialState | null {
  const dial = dialInRole(rig, role, mode);
  const state = dial && dials.find((each) => each.dial.id === dial.id);
  return state && !state.dead ? state : null;
}

function isNarrow(rig: RigProfile, mode: Mode, values: EffectiveSettings['values']): boolean {
  const dial = dialInRole(rig, 'fm-width', mode);
  return dial !== undefined && /^\s*n/i.test(String(values[dial.id]));
}
