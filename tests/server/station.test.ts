/** The station's parts, cards on changed rigs, what radios hold, voice memories, long lists. */
import { QueryTypes } from 'sequelize';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cardListSql, countCards, listCards, neighboursOf } from '../../src/server/cards/cardList.ts';
import { changeCard, createCard, loadCard } from '../../src/server/cards/cards.ts';
import { addRevision, restoreRevision, undoRevision } from '../../src/server/cards/revisions.ts';
import { database } from '../../src/server/db/database.ts';
import { loadDemo } from '../../src/server/demo/demo.ts';
import { countOvers, listOvers, overListSql, pageOfOvers } from '../../src/server/overs/overs.ts';
import { RADIO_STATE_SQL, radioState, tickDials } from '../../src/server/station/radioState.ts';
import { keepRig } from '../../src/server/station/rigs.ts';
import { keepMicrophone, keepOperator, keepReceiver, loadStation, retirePart } from '../../src/server/station/station.ts';
import { clearVoiceMemory, listVoiceMemories, recordVoiceMemory, staleMemories } from '../../src/server/station/voiceMemories.ts';
import { microphone } from '../support/microphones.ts';
import { parametricRig, steps } from '../support/rigs.ts';

const MIC = microphone({
  name: 'Reed test',
  positions: [
    {
      name: 'flat',
      curve: [
        [100, 0],
        [1000, 0],
      ],
    },
    {
      name: 'cut',
      curve: [
        [100, -9],
        [1000, 0],
      ],
    },
  ],
  accessories: [
    {
      name: 'cap',
      curve: [
        [1000, 0],
        [3000, -2],
      ],
    },
  ],
});
const RIG = { ...parametricRig(1, { levels: [-12, 12, 1] }), name: 'Bench rig', voiceMemories: 2 };

let made = { operatorId: 0, rigId: 0, microphoneId: 0 };
const newCard = (changes: object = {}) => createCard({ name: 'Bench card', ...made, mode: 'usb', purpose: 'natural', ...changes });
const newest = async (cardId: number) => {
  const card = await loadCard(cardId);
  if (!card) throw new Error('no card');
  return card.revisions[0];
};
const change = async (cardId: number, values: Record<string, number>, extra: object = {}) =>
  addRevision({ cardId, baseRevisionId: (await newest(cardId)).id, values, reason: 'test', ...extra });

beforeAll(async () => {
  await loadDemo('demo', new Date('2026-06-08T12:00:00Z'));
  made = {
    operatorId: await keepOperator({ name: 'Somebody', callsign: 'q1abc', note: '' }),
    rigId: (await keepRig({ profile: RIG, by: '' })).id,
    microphoneId: await keepMicrophone({ profile: MIC }),
  };
}, 300_000);

afterAll(async () => {
  const { models } = database();
  await models.voiceMemories.destroy({ where: { rigId: made.rigId } });
  await models.rigTicks.destroy({ where: { rigId: made.rigId } });
  const cards = (await models.cards.findAll({ where: { rigId: made.rigId } })).map(({ id }) => id);
  const revisions = (await models.cardRevisions.findAll({ where: { cardId: cards } })).map(({ id }) => id);
  await models.moves.destroy({ where: { cardRevisionId: revisions } });
  await models.cardRevisions.destroy({ where: { id: revisions } });
  await models.cards.destroy({ where: { id: cards } });
  for (const [model, id] of [
    [models.rigs, made.rigId],
    [models.microphones, made.microphoneId],
    [models.operators, made.operatorId],
  ] as const) {
    await (model as typeof models.rigs).destroy({ where: { id } });
  }
  await models.receivers.destroy({ where: { name: 'Test receiver' } });
  await database().sequelize.close();
});

describe('parts of the station', () => {
  it('take each name once, and keep it when they are changed', async () => {
    await expect(keepRig({ profile: RIG, by: '' })).rejects.toThrow('already');
    await expect(keepOperator({ name: 'Other', callsign: 'Q1ABC', note: '' })).rejects.toThrow('already');
    await expect(keepMicrophone({ profile: MIC })).rejects.toThrow('already');
    expect(await keepMicrophone({ id: made.microphoneId, profile: { ...MIC, kind: 'desk mic' } })).toBe(made.microphoneId);
    await keepMicrophone({ id: made.microphoneId, profile: MIC });
    const receiver = {
      name: 'Test receiver',
      kind: 'remote' as const,
      lowHz: 100,
      highHz: 3000,
      agc: 'slow',
      path: '',
      trust: 'low' as const,
      note: '',
    };
    await keepReceiver(receiver);
    await expect(keepReceiver(receiver)).rejects.toThrow('already');
    await expect(keepReceiver({ ...receiver, name: 'Other', lowHz: 3000, highHz: 100 })).rejects.toThrow('upside down');
    await expect(keepReceiver({ ...receiver, name: 'Other', id: 99999 })).rejects.toThrow('does not exist');
  });

  it('retired ones are offered no more, stay where they are used, and come back', async () => {
    const names = async (withRetired: boolean) => (await loadStation({ withRetired })).operators.map(({ callsign }) => callsign);
    await retirePart('operator', made.operatorId, true);
    expect(await names(false)).not.toContain('Q1ABC');
    expect(await names(true)).toContain('Q1ABC');
    await retirePart('operator', made.operatorId, false);
    expect(await names(false)).toContain('Q1ABC');
    await expect(retirePart('rig', 99999, true)).rejects.toThrow('does not exist');
  });

  it('a profile that somebody else changed meanwhile is not overwritten', async () => {
    const id = made.microphoneId;
    const base = JSON.stringify(MIC);
    await keepMicrophone({ id, base, profile: { ...MIC, kind: 'hand mic' } });
    await expect(keepMicrophone({ id, base, profile: { ...MIC, kind: 'desk mic' } })).rejects.toThrow('changed meanwhile');
    await keepMicrophone({ id, profile: MIC });
  });

  it('a microphone comes back as it went in', async () => {
    const stored = (await loadStation()).microphones.find(({ id }) => id === made.microphoneId);
    expect(stored?.profile).toEqual(MIC);
  });
});

describe('cards and their revisions', () => {
  it('begin with the numbers they are given, the microphone as usual, and say who made them', async () => {
    const id = await newCard({ values: { 'p1-level': 4 }, reason: 'starting point', by: 'Runa' });
    const first = await newest(id);
    expect(first).toMatchObject({
      number: 1,
      reason: 'starting point',
      by: 'Runa',
      use: { position: 'flat', accessories: [], distanceCm: 6 },
    });
    expect(first.values).toMatchObject({ 'p1-level': 4, 'p1-width': 1 });
    await expect(newCard({ values: { 'p1-level': 99 } })).rejects.toThrow('it goes -12 to 12');
    await expect(newCard({ use: { position: 'gone', accessories: [], distanceCm: 5 } })).rejects.toThrow('no position "gone"');
    await expect(newCard({ use: { position: 'flat', accessories: ['hat'], distanceCm: 5 } })).rejects.toThrow('no accessory "hat"');
  });

  it('another use of the microphone alone is a change', async () => {
    const id = await newCard();
    const use = { position: 'cut', accessories: ['cap'], distanceCm: 4 };
    expect(await change(id, {}, { use })).toBe(2);
    expect((await newest(id)).use).toEqual(use);
    await expect(change(id, {}, { use: { ...use } })).rejects.toThrow('Nothing has changed');
  });

  it('a microphone described anew does not stand in the way of its cards', async () => {
    const id = await newCard({ use: { position: 'cut', accessories: ['cap'], distanceCm: 5 } });
    await keepMicrophone({ id: made.microphoneId, profile: { ...MIC, positions: [MIC.positions[0]], accessories: [] } });
    await change(id, { 'p1-level': 2 });
    expect((await newest(id)).use).toEqual({ position: 'flat', accessories: [], distanceCm: 5 });
    await keepMicrophone({ id: made.microphoneId, profile: MIC });
  });

  it('undo goes back step by step, and a restored revision can be undone too', async () => {
    const id = await newCard();
    await change(id, { 'p1-level': 3 });
    await change(id, { 'p1-level': 6 });
    const undo = async () => undoRevision(id, (await newest(id)).id);
    await undo();
    expect((await newest(id)).values['p1-level']).toBe(3);
    await undo();
    expect((await newest(id)).values['p1-level']).toBe(0);
    await expect(undo()).rejects.toThrow('nothing to undo');
    const third = (await loadCard(id, { revisions: 100 }))?.revisions.find(({ number }) => number === 3);
    await restoreRevision(id, third?.id ?? 0);
    expect((await newest(id)).values['p1-level']).toBe(6);
    await undo();
    expect((await newest(id)).values['p1-level']).toBe(0);
    await expect(undoRevision(id, third?.id ?? 0)).rejects.toThrow('changed meanwhile');
  });

  it('names, purposes and retiring', async () => {
    const id = await newCard();
    await changeCard(id, { name: '  Renamed ', purpose: 'contest', isRetired: true });
    expect(await loadCard(id)).toMatchObject({ name: 'Renamed', purpose: 'contest', isRetired: true });
    const found = async (withRetired: boolean) => (await listCards({ search: 'Renamed', limit: 5, withRetired })).length;
    expect([await found(false), await found(true)]).toEqual([0, 1]);
  });
});

describe('a rig profile that is changed under its cards', () => {
  it('moves their numbers to the nearest positions, as a revision', async () => {
    const id = await newCard({ name: 'Odd', values: { 'p1-level': 5 } });
    const even = {
      ...RIG,
      dials: RIG.dials.map((dial) =>
        dial.id === 'p1-level' ? { ...dial, scale: { kind: 'steps' as const, min: -12, max: 12, step: 2 } } : dial,
      ),
    };
    const { movedCards } = await keepRig({ id: made.rigId, profile: even, by: 'Runa' });
    expect(movedCards).toContain('Odd');
    expect(await newest(id)).toMatchObject({ number: 2, by: 'Runa', reason: expect.stringContaining('profile changed') });
    expect([4, 6]).toContain((await newest(id)).values['p1-level']);
    await keepRig({ id: made.rigId, profile: RIG, by: '' });
  });
  it('a dial more is at its factory value; a mode with cards can not go', async () => {
    const more = { ...RIG, dials: [...RIG.dials, steps('extra', 0, 9, 1, { rest: 3, menu: '99' })] };
    expect((await keepRig({ id: made.rigId, profile: more, by: '' })).movedCards).toEqual([]);
    await keepRig({ id: made.rigId, profile: RIG, by: '' });
    const lower = {
      ...RIG,
      modes: ['lsb' as const],
      passbands: [{ kind: 'fixed' as const, modes: ['lsb' as const], edges: [300, 2700] as [number, number] }],
    };
    await expect(keepRig({ id: made.rigId, profile: lower, by: '' })).rejects.toThrow('no longer has');
    // The profile and its cards go in together or not at all.
    expect((await loadStation()).rigs.find(({ id }) => id === made.rigId)?.profile).toEqual(RIG);
  });
});

describe('what a radio holds', () => {
  it('is what was last ticked, dial by dial', async () => {
    expect(await radioState(made.rigId)).toEqual({ values: {}, tickedAt: null });
    const tick = (dialId: string, value: number) => tickDials([{ rigId: made.rigId, dialId, value }]);
    await tick('p1-level', 3);
    await tick('p1-width', 2);
    await tick('p1-level', 6);
    const state = await radioState(made.rigId);
    expect(state.values).toEqual({ 'p1-level': 6, 'p1-width': 2 });
    expect(state.tickedAt).not.toBeNull();
    await expect(tick('p1-level', 77)).rejects.toThrow('it goes');
    await expect(tick('nope', 1)).rejects.toThrow('no such dial');
  });
  it('several ticks are kept whole or not at all', async () => {
    const ticks = [
      { rigId: made.rigId, dialId: 'p1-level', value: 1 },
      { rigId: made.rigId, dialId: 'p1-level', value: 77 },
    ];
    await expect(tickDials(ticks)).rejects.toThrow();
    expect((await radioState(made.rigId)).values['p1-level']).toBe(6);
  });
});

describe('voice memories', () => {
  it('go stale when the sound changes, not when a dead number does', async () => {
    const cardId = await newCard({ values: { 'p1-level': 4 } });
    await recordVoiceMemory({ rigId: made.rigId, slot: 1, words: ' CQ from Q1ABC ', cardId });
    const state = async () => (await listVoiceMemories(made.rigId))[0];
    expect(await state()).toMatchObject({ slot: 1, words: 'CQ from Q1ABC', revision: 1, change: null });
    await change(cardId, { 'p1-level': 6 });
    expect((await state()).change?.equalizerDb).toBeCloseTo(2, 1);
    expect((await staleMemories())[made.rigId]).toEqual([1]);
    await change(cardId, { 'p1-level': 4 });
    expect((await state()).change).toBeNull();
    await change(cardId, {}, { use: { position: 'cut', accessories: [], distanceCm: 6 } });
    expect((await state()).change?.isMicrophoneMoved).toBe(true);
    await recordVoiceMemory({ rigId: made.rigId, slot: 1, words: 'again', cardId });
    expect(await state()).toMatchObject({ words: 'again', revision: 4, change: null });
    await clearVoiceMemory(made.rigId, 1);
    expect(await listVoiceMemories(made.rigId)).toEqual([]);
  });
  it('only slots that the rig has, only cards of the rig', async () => {
    const cardId = await newCard();
    await expect(recordVoiceMemory({ rigId: made.rigId, slot: 3, words: 'x', cardId })).rejects.toThrow('memories 1 to 2');
    const [other] = await listCards({ search: 'Knot 5', limit: 1 });
    await expect(recordVoiceMemory({ rigId: made.rigId, slot: 1, words: 'x', cardId: other.id })).rejects.toThrow('not for Bench rig');
  });
  it('the demo has stale ones to find, and one in order', async () => {
    const rigs = (await loadStation()).rigs;
    const tern = rigs.find(({ name }) => name === 'Tern 100');
    const states = (await listVoiceMemories(tern?.id ?? 0)).map(({ change: found }) => found === null);
    expect(states[0]).toBe(false);
  });
});

describe('lists of a thousand cards and ten thousand overs', () => {
  const CARDS = 1000;
  const OVERS = 10_000;
  const ids = { cards: [] as number[], revisions: [] as number[] };
  beforeAll(async () => {
    const { models } = database();
    const values = { 'p1-level': 0 };
    const cards = await models.cards.bulkCreate(
      Array.from({ length: CARDS }, (_, i) => ({
        name: `Bulk ${i}`,
        ...made,
        mode: 'usb' as const,
        purpose: 'natural' as const,
        changedAt: new Date(1e12 + i * 1000),
      })),
    );
    ids.cards = (await models.cards.findAll({ where: { rigId: made.rigId } })).map(({ id }) => id).slice(-cards.length);
    await models.cardRevisions.bulkCreate(ids.cards.map((cardId) => ({ cardId, number: 1, values, reason: '' })));
    ids.revisions = (await models.cardRevisions.findAll({ where: { cardId: ids.cards } })).map(({ id }) => id);
    const [receiver] = (await loadStation()).receivers;
    for (let at = 0; at < OVERS; at += 2000) {
      await models.overs.bulkCreate(
        Array.from({ length: 2000 }, (_, i) => ({
          cardRevisionId: ids.revisions[(at + i) % ids.revisions.length],
          receiverId: receiver.id,
          load: 'dummy load' as const,
          powerW: null,
          alcReading: null,
          note: `over ${at + i}`,
          createdAt: new Date(1e12 + (at + i) * 60_000),
        })),
      );
    }
    // No ANALYZE TABLE: plans must not hang on statistics that nobody has refreshed.
  });
  afterAll(async () => {
    const { models } = database();
    await models.overs.destroy({ where: { cardRevisionId: ids.revisions } });
    await models.cardRevisions.destroy({ where: { id: ids.revisions } });
    await models.cards.destroy({ where: { id: ids.cards } });
  });

  /** What the server did to answer: one row a table, with the key and how many rows it really read. */
  const plan = (sql: string, replacements: object) =>
    database().sequelize.query<{ table: string; type: string; key: string | null; r_rows: string }>(`ANALYZE ${sql}`, {
      type: QueryTypes.SELECT,
      replacements: { limit: 25, offset: 0, ...replacements } as Record<string, unknown>,
    });
  const walked = (rows: { table: string; r_rows: string }[], table: string) =>
    Math.max(...rows.filter((row) => row.table === table).map((row) => Number(row.r_rows)));

  it('pages of overs come off the index of times: no table is read through', async () => {
    const rows = await plan(overListSql({ limit: 25 }), {});
    const first = rows.filter(({ table }) => table === 'o').find(({ key }) => key === 'newest');
    expect(first).toBeDefined();
    expect(Number(first?.r_rows)).toBeLessThanOrEqual(25);
    // Small tables (a handful of operators) are read whole; nothing that grows is.
    expect(Math.max(...rows.map(({ r_rows }) => Number(r_rows)))).toBeLessThanOrEqual(100);
  });

  it("a card's overs come off the index of its revisions", async () => {
    const rows = await plan(overListSql({ cardId: ids.cards[0], limit: 25 }), { cardId: ids.cards[0] });
    expect(walked(rows, 'o')).toBeLessThan(200);
    expect(walked(rows, 'r')).toBeLessThan(50);
  });

  it('pages of cards read each card once at most, and revisions by index', async () => {
    const rows = await plan(cardListSql({ limit: 25 }), {});
    const cards = rows.filter(({ table }) => table === 'c');
    expect(cards.every(({ key }) => key !== null)).toBe(true);
    for (const { table, key } of rows.filter(({ table: name }) => name === 'r' || name === 'x'))
      expect([table, key]).toEqual([table, expect.any(String)]);
  });

  it("a radio's state comes off the index of its dials", async () => {
    const rows = await plan(RADIO_STATE_SQL, { rigId: made.rigId });
    expect(rows.find(({ table }) => table === 'rig_ticks')?.key).toBe('rig_id');
  });

  it('pages join up, counts agree, searches find', async () => {
    expect(await countOvers()).toBeGreaterThanOrEqual(OVERS);
    const cardPages = await Promise.all([0, 25].map((offset) => listCards({ search: 'Bulk', limit: 25, offset })));
    expect(cardPages.flat().map(({ name }) => name)).toEqual(Array.from({ length: 50 }, (_, i) => `Bulk ${CARDS - 1 - i}`));
    expect(await countCards({ search: 'Bulk' })).toBe(CARDS);
    expect((await listOvers({ search: 'over 9999', limit: 5 })).map(({ note }) => note)).toEqual(['over 9999']);
    expect(await countOvers({ search: 'over 9999' })).toBe(1);
    expect(await countOvers({ search: '100%_\\' })).toBe(0);
    const at = (page: number) => (total: number) => Math.min(25 * (page - 1), Math.max(0, 25 * (Math.ceil(total / 25) - 1)));
    const second = await pageOfOvers('over 99', 25, at(2));
    expect(second.total).toBe(await countOvers({ search: 'over 99' }));
    expect(second.overs).toEqual(await listOvers({ search: 'over 99', limit: 25, offset: 25 }));
    expect(await pageOfOvers('over 99', 25, at(99))).toEqual(await pageOfOvers('over 99', 25, at(Math.ceil(second.total / 25))));
    expect(await pageOfOvers('nowhere to be found', 25, at(3))).toEqual({ overs: [], total: 0 });
    expect(await listOvers({ cardId: ids.cards[3], limit: 100 })).toHaveLength(OVERS / CARDS);
  });

  it('ways to other cards lead to the one changed last', async () => {
    const { operators, rigs, modes } = await neighboursOf(made);
    const [last] = await listCards({ operatorId: made.operatorId, limit: 1 });
    expect(operators.find(({ text }) => text === 'Somebody')?.cardId).toBe(last.id);
    expect(rigs).toEqual([{ text: 'Bench rig', cardId: last.id }]);
    expect(modes).toEqual([{ text: 'usb', cardId: last.id }]);
  });
});
