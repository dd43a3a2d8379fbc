/** Everything that is known of a radio and its card, worked out once for each question. */
import {
  type Card,
  type DialValue,
  type DialValues,
  dialInRole,
  positionsOf,
  type RigProfile,
  responseOf,
  shareOf,
  valueOn,
} from '../../rig/index.ts';
import type { Fraction } from '../../units/index.ts';
import type { CarrierBracket } from '../advisors/carrierBracket.ts';
import { alcStanding, type HeardWay, shiftSince } from '../alcStanding.ts';
import { type CompressorBelief, compressionAt, compressionPerStep, compressorBelief } from '../compressorLaw.ts';
import { defaultTarget } from '../targets.ts';
import { withoutBands } from './bandsAlike.ts';
import { byWords, type Worded } from './byWords.ts';
import { compressionReadings, compressionShare, compressionStanding } from './compression.ts';
import { CLEAN_DB, cleanShare, driveOf } from './drive.ts';
import { type EqualizerBelief, SUSPECTED } from './equalizerBelief.ts';
import { bestVoice, comparableOvers, driven, edgesOf, isSaturated, movedEqualizerDials } from './evidence.ts';
import { changeByTone, foreseen, giveWay, type NextChannel } from './giveWay.ts';
import { alcState, heldAt, oneSided } from './level.ts';
import { keptLevel, keptTone, wantedLevel, wantedTone } from './levelWish.ts';
import { offsetsOf } from './offsetsOf.ts';
import { withZone } from './schools.ts';
import { cardOf, type GoalState, type Learned, type NextInput, type Purposed, type SeenOver, type SeenVoice } from './seen.ts';
import { beliefOf, type ToneStanding, toneStanding, type WantedLevel, WORTH_DB } from './tone.ts';

/** Whether the question is one of this, too. */
export const turns = ({ scope }: NextInput, what: Purposed): boolean => scope?.includes(what) ?? true;

/** Everything that is worked out once. */
export interface Look {
  readonly goal: GoalState;
  readonly learned: Learned;
  readonly rig: RigProfile;
  readonly compression: ReturnType<typeof compressionStanding>;
  /** What the compression meter has shown of it; null where nobody read it with the compressor on. */
  readonly compressor: CompressorBelief | null;
  /** The voice that the tone is judged by; null where none will do, with the reason. */
  readonly voice: SeenVoice | null;
  readonly noVoice: string;
  /** The newest voice that tells of the level, with each way the equalizer may act; none where nobody was heard. */
  readonly ways: readonly HeardWay[];
  /** All overs; those whose equalizer was not in the path with its bands at 0 dB. */
  readonly overs: readonly SeenOver[];
  /** Those whose ALC readings count: where the newest ones contradict what the others say of this card, only its own. */
  readonly read: readonly SeenOver[];
  readonly tone: ToneStanding | null;
  /** Carrier offsets that were heard; null on radios that have no such dial, or where it is not asked for. */
  readonly bracket: CarrierBracket | null;
  /** The same with the level that the mic gain has no room left for; null where it has room, or the tone would lose too much. */
  readonly levelled: ToneStanding | null;
  /** A tone nearer to the target would take the level away, and the mic gain has no room left to make up for it. */
  readonly isToneKept: boolean;
  /** By other stations' words, where nobody ever recorded a voice; null otherwise. */
  readonly worded: Worded | null;
  /** The same beside recordings, which come first. */
  readonly words: Worded | null;
  /** The card with its compression set. */
  readonly base: Card;
  /** Highest share of the gain dial that keeps the next channel clean, with the card as it stands and with dials turned. */
  readonly most: Fraction;
  readonly mostWith: (values: DialValues) => Fraction;
  /** What the next channel should be inside the zone; null where nothing told. */
  readonly nextChannel: NextChannel | null;
  /** Probability that the equalizer is not in the path. */
  readonly dead: number;
  /** Probability that the card as it stands is inside the zone; null without a reading. */
  readonly chance: number | null;
  /** Where a processor or a limiter holds the ALC; null where nothing does. */
  readonly held: Fraction | null;
  /** On which side of the zone the newest readings all were; null where they were not. */
  readonly side: 'low' | 'high' | null;
  /** Share of the gain dial that puts the ALC into the zone, whatever the next channel says; null where there is no such dial. */
  readonly wanted: Fraction | null;
  /** No other position of the gain is likelier to put the ALC into the zone. */
  readonly isBestGain: boolean;
}

/** @param last the newest of the overs */
export function lookAt(input: NextInput, last: SeenOver): Look {
  // The school's zone, not the profile's.
  const rig = withZone(input.rig, input.school.alcZone);
  const card = cardOf(last);
  const isDirty = isSaturated(last, input.school.alcZone);
  const best = bestVoice(input, last);
  const heard = best.voice ? last : input.overs.findLast((over) => bestVoice(input, over).voice !== null);
  const detail = heard && bestVoice(input, heard).voice;
  const { comparable, dead: deadThen } = heard && detail ? comparableOvers(input, heard, detail) : { comparable: [], dead: 0 };
  const dead = heard === last ? deadThen : 0;
  const belief = beliefOf(input, comparable);
  const flat = new Set(comparable.filter(({ isDead }) => isDead).map(({ over }) => over));
  // What went without the equalizer is as if its bands stood at 0 dB.
  const overs = input.overs.map((over) => (flat.has(over) ? { ...over, card: { ...over.card, ...withoutBands(rig, over.card) } } : over));
  const ways = heard && detail ? waysOf(belief, overs[input.overs.indexOf(heard)], detail) : [];
  const shown = compressionReadings(rig, overs, last.card, ways);
  const compressor = shown.length === 0 ? null : compressorBelief(shown);
  const nextChannel = foreseen(rig, overs, ways, rig.alc.zone);
  const mostWith = (values: DialValues): Fraction => {
    const asked = { ...last.card, values };
    // One text that is not clean where all together are limits nothing.
    const isUsuallyClean = nextChannel !== null && nextChannel.usualDb({ mode: card.mode, values }) <= CLEAN_DB;
    return cleanShare(
      rig,
      overs,
      (over) => shiftSince(rig, over.card, asked, ways).shiftDb,
      (over) => changeByTone(rig, ways, cardOf(over), asked),
      (over) => isUsuallyClean && nextChannel.overs.includes(over),
    );
  };
  const most = mostWith(last.card.values);
  const wished = compressionStanding(rig, card, input.school.compression, last.compressionDb, compressor ?? undefined);
  const compression = turns(input, 'compression') ? wished : { ...wished, set: {} };
  const base: Card = { ...card, values: { ...card.values, ...compression.set } };
  const { voice, noVoice } = isDirty ? { voice: null, noVoice: 'the ALC was at the end of its scale' } : best;
  const free = voice && turns(input, 'tone') ? toneStanding(input, comparable, belief, base) : null;
  const cardWith = ({ values }: ToneStanding): Card => ({ ...base, values: { ...base.values, ...values } });
  const tilted = (tiltDb: number) => toneStanding(input, comparable, belief, base, { tiltDb });
  const wanted = (free && nextChannel && giveWay(free, nextChannel, cardWith, tilted)) ?? free;
  const isUnheard = turns(input, 'tone') && input.overs.every(({ voices }) => voices.length === 0);
  const words = byWords(rig, base, last.reports ?? []);
  const worded = isUnheard ? words : null;
  const side = oneSided(overs, rig.alc.zone);
  const read = side === null ? overs : overs.filter(({ card }) => isSameButGain(rig, card, last.card));
  const standing = readingsOf(read, rig, last.card, ways, 1);
  const chance = standing.newest ? (standing.gain?.now.chance ?? null) : null;
  const held = heldAt(rig, overs, ways);
  const likely = standing.newest?.expected[1] ?? null;
  const alc = input.hasOwnLevel ? 'ok' : alcState({ reading: last.alc, chance, likely, held, side }, rig.alc.zone);
  // With the ALC at its end nothing is judged by what was heard, but what the equalizer adds to the level is known all the same.
  const level = comparable.length > 0 && turns(input, 'tone') && held === null ? wantedLevel(input, last, { state: alc, likely }) : null;
  const withLevel = (level: WantedLevel) =>
    toneStanding(input, comparable, belief, base, { level, tiltDb: wanted?.tiltDb, leastDb: wanted?.bestDb });
  const levelled = level && wantedTone(level, withLevel);
  const spoilt = (tone: ToneStanding) =>
    keptLevel(input, last, shiftSince(rig, last.card, { ...last.card, values: cardWith(tone).values }, ways).shiftDb);
  const kept = wanted && alc === 'ok' && held === null ? spoilt(wanted) : null;
  const tone = wanted && kept ? (keptTone(kept, withLevel, (each) => spoilt(each) !== null) ?? { ...wanted, gainDb: 0 }) : wanted;
  return {
    rig,
    compression,
    compressor,
    base,
    voice,
    ways,
    overs,
    read,
    noVoice,
    tone,
    bracket: turns(input, 'passband') ? offsetsOf(input.rig, card, input.overs, input.target ?? defaultTarget(input.purpose)) : null,
    levelled,
    isToneKept: kept !== null && wanted !== null && wanted.gainDb >= WORTH_DB,
    worded,
    words: isUnheard ? null : words,
    mostWith,
    most,
    nextChannel,
    chance,
    held,
    side,
    wanted: standing.gain && shareOf(standing.gain.dial, standing.gain.to),
    isBestGain: standing.gain !== null && standing.gain.to === standing.gain.from,
    dead,
    goal: {
      alc,
      drive: driveOf(driven(input)),
      compression: compression.state,
      toneErrorDb: tone?.errorDb ?? null,
      bestToneErrorDb: tone?.bestDb ?? null,
    },
    learned: {
      alc: standing.newest && {
        readings: input.overs.filter(({ alc }) => alc !== null).length,
        expected: standing.newest.expected,
        law: standing.gain?.law ?? null,
      },
      equalizer: tone && { octaves: tone.belief.octaves, resonance: tone.belief.resonance, clickDb: tone.belief.clickDb },
      filterEdgesHz: edgesOf(input),
      compression: compressor && compressionLaw(rig, card, compressor, shown.length),
      drive: input.overs.every((over) => driveOf(over) === 'unknown')
        ? null
        : { mostGain: mostGainOf(rig, card, most), tiltDb: tone?.tiltDb ?? 0, nextChannelDb: nextChannel?.expectedDb(card) ?? null },
      deadChance: Number(dead.toFixed(3)),
      deadDials: dead >= SUSPECTED ? movedEqualizerDials(input) : [],
    },
  };
}

function compressionLaw(rig: RigProfile, card: Card, belief: CompressorBelief, readings: number): Learned['compression'] {
  const dial = dialInRole(rig, 'compression', card.mode);
  if (!dial) return null;
  return {
    readings,
    expectedDb: compressionAt(belief, compressionShare(rig, card)),
    perStepDb: compressionPerStep(belief, Math.max(1, positionsOf(dial.scale).length - 1)),
  };
}

/** The highest position of the mic gain up to a share of its dial; null where that is the whole of it. */
function mostGainOf(rig: RigProfile, { mode }: Card, most: Fraction): DialValue | null {
  const dial = dialInRole(rig, 'mic-gain', mode);
  if (!dial || most >= 1) return null;
  const positions = positionsOf(dial.scale);
  return positions.findLast((value) => shareOf(dial, value) <= most) ?? positions[0];
}

const isSameButGain = (rig: RigProfile, a: SeenOver['card'], b: SeenOver['card']): boolean =>
  rig.dials.every((dial) => dial.role === 'mic-gain' || valueOn(a, dial) === valueOn(b, dial));

const waysOf = ({ possible }: EqualizerBelief, over: SeenOver, { detail }: SeenVoice): HeardWay[] =>
  possible.map(({ rig, weight }) => ({ rig, weight, voice: { voice: detail, responseDb: responseOf(rig, cardOf(over)) } }));

/** What readings of overs say of a card. */
export const readingsOf = (overs: readonly SeenOver[], rig: RigProfile, now: SeenOver['card'], ways: readonly HeardWay[], most: Fraction) =>
  alcStanding(
    rig,
    now,
    overs.flatMap(({ alc, card }) => (alc === null ? [] : [{ alc, card }])),
    ways,
    most,
  );
