/**
 * Practice radios: what a simulated transceiver hides, drawn from a seed. The same number is the same radio every time.
 * Ranges are this project's own choice of what radios of the trade show.
 */
import { seededRandom } from '../../dsp/index.ts';
import type { RigProfile } from '../../rig/index.ts';
import { type Decibels, decibels, hertz } from '../../units/index.ts';
import { CLEAR_PATH } from '../path/path.ts';
import { FAST_AGC } from '../receiver/agc.ts';
import { GOOD_RECEIVER } from '../receiver/receiver.ts';
import { QUIET_ROOM, type Room } from '../transmitter/microphoneStage.ts';
import { type RadioTruth, USUAL_RADIO } from '../transmitter/parameters.ts';
import type { SimulatedReceiver } from './stationFile.ts';

/** A practice radio, with what it hides. */
export interface HiddenRadio {
  readonly number: number;
  /** The rig with its width numbers and its bands being what they really are. */
  readonly trueRig: RigProfile;
  readonly radio: RadioTruth;
  readonly room: Room;
  /** Standing wave ratio of its antenna; a dummy load has 1. */
  readonly swr: number;
}

/** So many of them. */
export const PRACTICE_RADIOS = 6;

/** The practice radio of a number: the same faults every time. @param number from 1 */
export function hiddenRadio(rig: RigProfile, number: number): HiddenRadio {
  const random = seededRandom(7919 * number);
  // The first numbers of neighbouring seeds are alike.
  for (let k = 0; k < 10; k++) random();
  const between = (low: number, high: number, digits = 0) => Number((low + (high - low) * random()).toFixed(digits));
  const { equalizer } = rig;
  const meaning = random() < 0.5 ? ('octaves' as const) : ('q' as const);
  const inside: Omit<HiddenRadio, 'trueRig'> = {
    number,
    radio: {
      ...USUAL_RADIO,
      micGain: { middleDb: between(12, 22), spanDb: between(30, 46) },
      processor: { kind: random() < 0.5 ? 'rf' : 'audio', mostDb: between(14, 24), ceilingDb: between(3, 5, 1) },
      passband: { errorHz: [between(-40, 60), between(-150, 60)], transitionHz: between(150, 400) },
      amplifier: { saturationDb: between(0.4, 3, 1), smoothness: between(1.5, 4, 1), mostTurn: between(0, 0.2, 2) },
      balance: { carrierDb: between(-60, -38), oppositeDb: between(-65, -35) },
      deviationHz: { wide: between(4200, 5400), narrow: between(2000, 2700) },
      equalizerScale: between(0.8, 1.15, 2),
    },
    room: {
      ...QUIET_ROOM,
      noiseDb: between(-52, -30),
      humDb: random() < 0.4 ? between(-45, -25) : null,
      plosivesPerMinute: random() < 0.4 ? 12 : 0,
    },
    swr: between(1, 2.2, 1),
  };
  const bells = random() < 0.4 ? ('resonance' as const) : ('mirrored' as const);
  return { ...inside, trueRig: equalizer.kind === 'parametric' ? { ...rig, equalizer: { ...equalizer, width: { meaning }, bells } } : rig };
}

const remote = (
  name: string,
  snrDb: Decibels,
  rest: Partial<SimulatedReceiver['path']>,
  receiver: Partial<SimulatedReceiver['receiver']> = {},
) => ({
  name,
  receiver: { ...GOOD_RECEIVER, passbandHz: [200, 2900] as const, ...receiver },
  path: { ...CLEAR_PATH, snrDb, ...rest },
});

/** Who listens: next door, in the line, and three far away with paths of their own. */
export const PRACTICE_RECEIVERS: readonly SimulatedReceiver[] = [
  { name: 'second receiver, next door', receiver: GOOD_RECEIVER, path: { ...CLEAR_PATH, snrDb: 58, seed: 11 } },
  { name: 'in-line tap', receiver: { ...GOOD_RECEIVER, agc: null }, path: { ...CLEAR_PATH, snrDb: 75, seed: 21 } },
  remote('remote, one hop', 32, { fading: 'good', seed: 31 }),
  remote('remote, far', 22, { fading: 'moderate', seed: 41 }, { agc: FAST_AGC, mistuneHz: 20 }),
  remote(
    'remote, weak and noisy',
    16,
    { fading: 'poor', impulses: { perSecond: 4, peakDb: 6 }, seed: 51 },
    { agc: FAST_AGC, noiseReduction: 0.7 },
  ),
];

/** Where the receivers stand, in the same order. */
const KINDS = ['local', 'in-line', 'remote', 'remote', 'remote'] as const;
/** What kind of receiver it is. @param index into PRACTICE_RECEIVERS */
export const practiceReceiverKind = (index: number): (typeof KINDS)[number] => KINDS[index];

/** What the radio hid, in the operator's words. */
export function hiddenTruths(
  rig: RigProfile,
  { radio, trueRig, room, swr }: HiddenRadio,
): { readonly what: string; readonly is: string }[] {
  const [low, high] = radio.passband.errorHz;
  const off = (hz: number) => `${hz < 0 ? '' : '+'}${hertz(hz)}`;
  const parametric = trueRig.equalizer.kind === 'parametric' ? trueRig.equalizer : null;
  return [
    { what: 'Filter edges against what the dials say', is: `${off(low)} at the low end, ${off(high)} at the high end` },
    ...(rig.equalizer.kind === 'none' ? [] : [{ what: 'One decibel on an equalizer dial', is: `${radio.equalizerScale.toFixed(2)} dB` }]),
    ...(parametric === null
      ? []
      : [
          { what: 'Width numbers mean', is: parametric.width.meaning === 'q' ? 'Q: larger is narrower' : 'octaves: larger is wider' },
          {
            what: 'Parametric bands are',
            is:
              parametric.bells === 'resonance'
                ? 'resonances: lifts wider, cuts narrower than the number says'
                : 'mirrored bells: a cut is the image of a lift',
          },
        ]),
    {
      what: 'Processor',
      is: `${radio.processor.kind === 'rf' ? 'clips the signal at radio frequency' : 'compresses the audio'}, up to ${radio.processor.mostDb} dB`,
    },
    {
      what: 'Amplifier saturates',
      is: `${radio.amplifier.saturationDb} dB over full drive, ${radio.amplifier.smoothness < 2.5 ? 'softly' : 'hard'}`,
    },
    {
      what: 'Opposite sideband',
      is: `${decibels(radio.balance.oppositeDb ?? 0)} re the wanted one`,
    },
    { what: 'Carrier', is: `${decibels(radio.balance.carrierDb ?? 0)} re PEP at full drive` },
    {
      what: 'Room',
      is: `fan at ${decibels(room.noiseDb ?? 0)}${room.humDb === null ? '' : ` and hum at ${decibels(room.humDb)}`} re the voice${room.plosivesPerMinute > 0 ? ', breath pops' : ''}`,
    },
    { what: 'Antenna', is: `SWR ${swr.toFixed(1)}` },
  ];
}
