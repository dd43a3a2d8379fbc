/** What of the history counts: the over that tells of the drive, the voice that the tone is judged by, and those it is compared with. */
import { type Finding, spoiltBy } from '../../findings/index.ts';
import { effective, type RigProfile, valueOn } from '../../rig/index.ts';
import type { Decibels, Fraction } from '../../units/index.ts';
import { type Driven, driveOf } from './drive.ts';
import { type ComparableOver, deadUpTo } from './equalizerBelief.ts';
import { cardOf, type Learned, type NextInput, type SeenOver, type SeenVoice, TAPS } from './seen.ts';

/** A reading this near the end of the scale is a bound. */
const SATURATED: Fraction = 0.95;
/** Fainter receivers are no judges of tone. */
const LEAST_SNR_DB: Decibels = 8;
/** So many overs with as much noise are the path's or the room's usual, and what stands over it has to tell: down to so little. */
const USUALLY_NOISY = 2;
const LEAST_SNR_NOISY_DB: Decibels = 4;
/** What an over at the end of the ALC's scale tells of the voice, beside one inside it. */
const SATURATED_WEIGHT = 0.4;

/** Whether the ALC stood at the end of its scale where the school has it lower: then the sound behind it tells less of the tone. */
export const isSaturated = ({ alc }: SeenOver, [, high]: readonly [Fraction, Fraction]): boolean =>
  alc !== null && alc >= SATURATED && high < SATURATED;

/** The newest over with the card as it stands that tells of its drive. */
export function driven({ overs, rig }: NextInput): Driven {
  const last = overs[overs.length - 1];
  return overs.findLast((over) => driveOf(over) !== 'unknown' && isSameCard(rig, over, last)) ?? { radios: [] };
}

/** How often the card as it stands was looked at last, one over after another. */
export function looksAt({ overs, rig }: NextInput): number {
  const last = overs[overs.length - 1];
  return overs.length - 1 - overs.findLastIndex((over) => !isSameCard(rig, over, last));
}

const isSameCard = (rig: RigProfile, a: SeenOver, b: SeenOver): boolean =>
  rig.dials.every((dial) => valueOn(cardOf(a), dial) === valueOn(cardOf(b), dial));

/** Edges of the filter by the newest sweep that was sent with the present passband. */
export function edgesOf({ overs, rig }: NextInput): Learned['filterEdgesHz'] {
  const [low, high] = effective(rig, cardOf(overs[overs.length - 1])).passbandHz;
  const sweeps = overs.flatMap((over) => {
    const [from, to] = effective(rig, cardOf(over)).passbandHz;
    const sweep = over.tests?.findLast((test) => test.kind === 'response');
    return from === low && to === high && sweep?.kind === 'response' && sweep.passbandHz ? [sweep.passbandHz] : [];
  });
  return sweeps.at(-1) ?? null;
}

/** Overs that the same receiver heard well, and which of them had no equalizer in the path. */
export function comparableOvers(input: NextInput, last: SeenOver, voice: SeenVoice): { comparable: ComparableOver[]; dead: number } {
  const { overs, rig, school } = input;
  const found = overs.flatMap((over): Omit<ComparableOver, 'isDead'>[] => {
    if (over === last) return [{ over, voice, weight: 1 }];
    const same = over.voices.find((each) => each.tap === voice.tap && !spoiltIn(input, each));
    const isUsable = same && driveOf(over) !== 'high';
    return isUsable ? [{ over, voice: same, weight: isSaturated(over, school.alcZone) ? SATURATED_WEIGHT : 1 }] : [];
  });
  const { cut, now } = deadUpTo(rig, found);
  return { comparable: found.map((each, k) => ({ ...each, isDead: k <= cut })), dead: now };
}

/** The dials of the equalizer that were turned in vain. */
export function movedEqualizerDials({ overs, rig }: NextInput): string[] {
  const [first, last] = [overs[0], overs[overs.length - 1]].map(cardOf);
  const moved = rig.dials.filter((dial) => dial.stage === 'equalizer' && valueOn(first, dial) !== valueOn(last, dial));
  const switches = moved.filter(({ scale }) => scale.kind === 'options');
  const levels = moved.filter(({ unit }) => unit === 'dB');
  return [...switches, ...levels].map(({ label }) => label);
}

export function bestVoice(input: NextInput, { voices }: SeenOver): { voice: SeenVoice | null; noVoice: string } {
  const ranked = TAPS.flatMap((tap) => voices.filter((each) => each.tap === tap));
  const judges = ranked.filter(({ tap }) => tap !== 'monitor');
  const [first] = judges;
  if (!first) return { voice: null, noVoice: ranked.length > 0 ? 'the monitor is not the transmitted signal' : 'no voice was recorded' };
  const clean = judges.find((each) => {
    const { snrDb } = each.result;
    return !spoiltIn(input, each) && (snrDb === null || snrDb >= (isUsuallyNoisy(input, each) ? LEAST_SNR_NOISY_DB : LEAST_SNR_DB));
  });
  if (clean) return { voice: clean, noVoice: '' };
  const spoilt = spoiltBy(first.result.findings);
  return { voice: null, noVoice: spoilt ? spoilt.text : 'the voice was hardly above the noise' };
}

/** How many of the newest overs in a row were recorded and tell nothing of the tone. */
export function heardInVain(input: NextInput): number {
  const isInVain = (over: SeenOver) => over.voices.length > 0 && bestVoice(input, over).voice === null;
  return input.overs.length - 1 - input.overs.findLastIndex((over) => !isInVain(over));
}

/** What spoils a recording for the tone: noise that other overs of this receiver have as well does not. */
const spoiltIn = (input: NextInput, voice: SeenVoice): Finding | undefined =>
  spoiltBy(isUsuallyNoisy(input, voice) ? voice.result.findings.filter((finding) => !isNoise(finding)) : voice.result.findings);

const isNoise = ({ code }: Finding): boolean => code === 'room-noise';

const isUsuallyNoisy = ({ overs }: NextInput, { tap }: SeenVoice): boolean =>
  overs.filter(({ voices }) => voices.some((each) => each.tap === tap && spoiltBy(each.result.findings.filter(isNoise)) !== undefined))
    .length >= USUALLY_NOISY;
