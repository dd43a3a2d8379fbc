/**
 * Cards of practice radios: a copy of a real card, with overs and readings of its own. What is simulated hangs on such a
 * card and is marked by it everywhere; the real card's log stays real.
 */
import { createHash } from 'node:crypto';
import type { MeasurementKind } from '@/core/measure/index.ts';
import { asRead, type DialValues } from '@/core/rig/index.ts';
import { PRACTICE_RECEIVERS, practiceReceiverKind } from '@/core/simulate/index.ts';
import { createCard, loadCard } from '../cards/cards.ts';
import { addRevision } from '../cards/revisions.ts';
import { database } from '../db/database.ts';
import type { Load } from '../db/models.ts';
import { measuringPool } from '../measuring/measuringPool.ts';
import { listOvers } from '../overs/overs.ts';
import { storeCapture } from '../overs/storeCapture.ts';
import { addReading } from '../readings/readings.ts';
import { Refused } from '../requests/refused.ts';
import type { RequestOf } from '../requests/requests.ts';
import { transmitPractice } from './practice.ts';

const LONGEST_NAME = 80;

/**
 * The card of a practice radio that began as another card: the one that is there, else a new copy.
 * @param values where its dials are to stand; as they do when left out
 * @throws Refused when there is no such card
 */
export async function practiceCard(cardId: number, radio: number, values?: DialValues): Promise<number> {
  const card = await loadCard(cardId);
  if (!card) throw new Refused('There is no such card.', 404);
  const id = card.practiceRadio === radio ? cardId : ((await knownCopy(cardId, radio)) ?? (await newCopy(card, radio, values)));
  const copy = await loadCard(id);
  const isMoved = copy && values && Object.entries(values).some(([dial, value]) => copy.revisions[0].values[dial] !== value);
  if (isMoved) await addRevision({ cardId: id, baseRevisionId: copy.revisions[0].id, values, reason: 'set on the practice radio' });
  return id;
}

async function knownCopy(practiceOf: number, practiceRadio: number): Promise<number | undefined> {
  const where = { practiceOf, practiceRadio, retiredAt: null };
  return (await database().models.cards.findOne({ where, attributes: ['id'], order: [['id', 'DESC']] }))?.id;
}

type Original = NonNullable<Awaited<ReturnType<typeof loadCard>>>;

function newCopy(
  { id, name, operator, rig, microphone, mode, purpose, practiceRadio, revisions: [newest] }: Original,
  radio: number,
  values?: DialValues,
) {
  const ending = `, practice radio ${radio}`;
  // From one practice radio on to another: the first is not named any more.
  const own = practiceRadio === null ? name : name.replace(/, practice radio \d+$/, '');
  return createCard({
    name: `${own.slice(0, LONGEST_NAME - ending.length)}${ending}`,
    operatorId: operator.id,
    rigId: rig.id,
    microphoneId: microphone.id,
    mode,
    purpose,
    values: { ...newest.values, ...values },
    use: newest.use,
    reason: `copy of ${name.slice(0, 60)} for practice`,
    practiceRadio: radio,
    practiceOf: id,
  });
}

/** Simulated receivers are there for practice only: they stand in no list to choose from. */
async function receiverOf(index: number): Promise<number> {
  const { receivers } = database().models;
  const { name, receiver } = PRACTICE_RECEIVERS[index];
  const simulated = `simulated: ${name}`;
  const known = await receivers.findOne({ where: { name: simulated } });
  if (known) return known.id;
  const [lowHz, highHz] = receiver.passbandHz;
  const kind = practiceReceiverKind(index);
  const made = await receivers.create({ name: simulated, kind, lowHz, highHz, trust: 'medium', note: 'practice', retiredAt: new Date() });
  return made.id;
}

/**
 * One over of a practice radio with the card as it stands: heard, measured and read as a real one would be.
 * @returns the over's number
 * @throws Refused when the card is of a real radio
 */
export async function practiceOver({ cardId, receiver, isIq, load }: RequestOf<'practiceOver'>): Promise<number> {
  const card = await loadCard(cardId);
  if (!card) throw new Refused('There is no such card.', 404);
  if (card.practiceRadio === null) throw new Refused('This card is of a real radio: practice overs would mix with its log.', 409);
  const [{ id: cardRevisionId, values }] = card.revisions;
  const take = 1 + (await takesOf(cardId));
  const ask = (withIq: boolean) => transmitPractice({ cardId, values, radio: card.practiceRadio ?? 1, receiver, isIq: withIq, load }, take);
  const audio = await ask(false);
  const facts = { cardRevisionId, receiverId: await receiverOf(receiver), load: load as Load, powerW: null, alcReading: null };
  const keep = async ({ wav, fileName }: typeof audio, kind: MeasurementKind, overId?: number) => {
    const sha256 = createHash('sha256').update(wav).digest('hex');
    const settings = kind === 'ssb' ? { carrierHz: 0, sideband: card.mode === 'lsb' ? ('lsb' as const) : ('usb' as const) } : {};
    const name = `over ${take} ${fileName}`;
    const stored = await storeCapture({ ...facts, fileName: name, sha256, kind, settings, ...(overId && { overId }) }, bytesOf(wav));
    measuringPool().add(stored);
    return stored.overId;
  };
  const overId = await keep(audio, 'voice');
  if (isIq) await keep(await ask(true), card.mode === 'usb' || card.mode === 'lsb' ? 'ssb' : card.mode, overId);
  const { alc, compressionDb, swr } = audio.meters;
  // FM has no ALC to speak of.
  const usual = card.mode === 'fm' ? null : alc.usual;
  await addReading({
    cardRevisionId,
    overId,
    said: 'talk',
    alc: usual === null ? null : asRead(usual),
    compressionDb: Math.round(compressionDb),
    powerW: null,
    swr,
  });
  return overId;
}

async function takesOf(cardId: number): Promise<number> {
  return (await listOvers({ cardId, limit: 1000 })).length;
}

async function* bytesOf(wav: Uint8Array): AsyncGenerator<Uint8Array> {
  yield wav;
}
