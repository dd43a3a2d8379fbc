/** Tune runs and cards of practice radios against a real, throw-away MariaDB. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { driveOfCard } from '../../src/client/cardStanding.ts';
import { nextAnswer } from '../../src/core/advice/index.ts';
import { TUNE_STEPS } from '../../src/core/tune/index.ts';
import { loadBench } from '../../src/server/bench/bench.ts';
import { cardEvidence } from '../../src/server/bench/cardEvidence.ts';
import { historyOf } from '../../src/server/bench/history.ts';
import { listCards } from '../../src/server/cards/cardList.ts';
import { loadCard, setAsideOn } from '../../src/server/cards/cards.ts';
import { addRevision } from '../../src/server/cards/revisions.ts';
import { database } from '../../src/server/db/database.ts';
import { loadDemo } from '../../src/server/demo/demo.ts';
import { measuringPool } from '../../src/server/measuring/measuringPool.ts';
import { listOvers, pageOfOvers } from '../../src/server/overs/overs.ts';
import { oversLike } from '../../src/server/overs/oversLike.ts';
import { loadOver } from '../../src/server/overs/overView.ts';
import { voiceFor } from '../../src/server/overs/voice.ts';
import { enginePlays } from '../../src/server/practice/practice.ts';
import { practiceCard, practiceOver } from '../../src/server/practice/practiceCards.ts';
import { addReading, listReadings } from '../../src/server/readings/readings.ts';
import { listReports } from '../../src/server/reports/reports.ts';
import { Refused } from '../../src/server/requests/refused.ts';
import { readRequest } from '../../src/server/requests/requests.ts';
import { schoolOfCard } from '../../src/server/tune/cardSchool.ts';
import { actInTuneRun, lastSchool, listTuneRuns, loadTuneRun, startTuneRun } from '../../src/server/tune/tuneRuns.ts';

let cardId = 0;
const SCHOOL = { alc: '30-50', compression: 'token', order: 'compressor-first', ears: 'files' } as const;
const begin = async (change: object = {}) => startTuneRun(readRequest('tuneStart', { cardId, ...SCHOOL, radio: null, ...change }));
const act = async (tuneRunId: number, what: object) => actInTuneRun(readRequest('tuneAct', { tuneRunId, ...what }));
const measured = async (overId: number) => {
  for (let k = 0; k < 300; k++) {
    const over = await loadOver(overId);
    if (over?.measurement?.status === 'done' || over?.measurement?.status === 'failed') return over;
    await new Promise((done) => setTimeout(done, 200));
  }
  throw new Error('it was not measured');
};

beforeAll(async () => {
  await loadDemo('demo', new Date('2026-06-08T12:00:00Z'));
  cardId = (await listCards({ search: 'Lighthouse DX', limit: 1 }))[0].id;
}, 300_000);
afterAll(async () => {
  await database().sequelize.close();
});

describe('a run', () => {
  it('goes on where it stood, whoever did the last step', async () => {
    const id = await begin();
    await act(id, { kind: 'tick', task: 'load' });
    // Two tabs at once: neither loses what the other did.
    await Promise.all([act(id, { kind: 'done', step: 'prepare' }), act(id, { kind: 'tick', task: 'power' })]);
    const run = await loadTuneRun(id);
    expect(run?.run).toMatchObject({ at: 'microphone', done: ['prepare'] });
    expect([...(run?.run.ticks ?? [])].sort()).toEqual(['load', 'power']);
    expect(run).toMatchObject({ endedAt: null, card: { id: cardId, practiceRadio: null }, mode: 'usb' });
  });

  it('ends when nothing is left, and is open again when a step is repeated', async () => {
    const id = await begin({ ears: 'none' });
    for (const step of TUNE_STEPS) await act(id, { kind: step === 'reports' ? 'skip' : 'done', step });
    expect((await loadTuneRun(id))?.endedAt).not.toBeNull();
    await act(id, { kind: 'repeat', step: 'gain' });
    expect(await loadTuneRun(id)).toMatchObject({ endedAt: null, run: { at: 'gain' } });
  });

  it('remembers how the operator tunes, and what the card is to reach', async () => {
    await begin({ alc: 'full', compression: 'none' });
    const card = await loadCard(cardId);
    expect(await lastSchool(card?.operator.id ?? 0)).toMatchObject({ alc: 'full', compression: 'none' });
    expect(card && (await schoolOfCard(card))).toEqual({ wish: { alcZone: [0.5, 0.67], compression: 'none' }, isChosen: true });
    expect((await listTuneRuns(2)).map(({ run }) => run.alc)).toEqual(['full', '30-50']);
  });

  it('is refused in words: no card, no such step, a practice run without a radio', async () => {
    await expect(begin({ cardId: 999_999 })).rejects.toThrow(Refused);
    await expect(begin({ ears: 'practice' })).rejects.toThrow('practice radio');
    await expect(act(1, { kind: 'done', step: 'nowhere' })).rejects.toThrow(Refused);
    await expect(act(1, { kind: 'done' })).rejects.toThrow('Which step?');
    await expect(act(999_999, { kind: 'done', step: 'gain' })).rejects.toThrow('no such run');
    await expect(act(1, { kind: 'tick', task: '<script>' })).rejects.toThrow(Refused);
  });
});

describe('a practice radio', () => {
  it('has a card of its own, the same one again, and the real card’s log stays real', async () => {
    const before = await listOvers({ cardId, limit: 100 });
    const copy = await practiceCard(cardId, 2);
    expect(copy).not.toBe(cardId);
    expect(await practiceCard(cardId, 2)).toBe(copy);
    expect(await practiceCard(copy, 2)).toBe(copy);
    // From one practice radio on to another: one ending, not two.
    const on = await loadCard(await practiceCard(copy, 4));
    expect(on?.name).toBe(`${(await loadCard(cardId))?.name}, practice radio 4`);
    const card = await loadCard(copy);
    const original = await loadCard(cardId);
    expect(card).toMatchObject({ practiceRadio: 2, operator: original?.operator, rig: { id: original?.rig.id } });
    expect(card?.revisions[0].values).toEqual(original?.revisions[0].values);
    await expect(practiceOver({ cardId, receiver: 0, isIq: false, load: 'dummy load' })).rejects.toThrow('real radio');

    const overId = await practiceOver({ cardId: copy, receiver: 0, isIq: true, load: 'dummy load' });
    const over = await measured(overId);
    expect(over).toMatchObject({ card: { id: copy, practiceRadio: 2 }, receiver: { kind: 'local' } });
    expect(over.measured?.result.findings.filter(({ code }) => ['clipping', 'low-level'].includes(code))).toEqual([]);
    const [reading] = await listReadings(copy, 5);
    expect(reading).toMatchObject({ overId, swr: 1 });
    expect(Number(reading.alc) * 20).toBeCloseTo(Math.round(Number(reading.alc) * 20), 9);
    // The same dials again: another take, not the same file.
    const again = await measured(await practiceOver({ cardId: copy, receiver: 0, isIq: false, load: 'antenna' }));
    expect(again.id).not.toBe(overId);
    expect((await listReadings(copy, 1))[0].swr).toBeGreaterThanOrEqual(1);
    expect(await listOvers({ cardId, limit: 100 })).toEqual(before);
  });

  it('is no evidence for the real voice, and the real one none for it', async () => {
    const copy = await practiceCard(cardId, 2);
    const bench = await loadBench(cardId);
    const voice = await voiceFor(bench?.card.operator.id ?? 0, null);
    expect(voice?.over.card.practiceRadio).toBeNull();
    const [newest] = await listOvers({ cardId: copy, limit: 1 });
    const practised = await loadOver(newest.id);
    if (!practised || !bench?.over) throw new Error('no overs');
    expect((await oversLike(practised)).length).toBeLessThan(3);
    const real = await oversLike(bench.over);
    await practiceOver({ cardId: copy, receiver: 0, isIq: true, load: 'dummy load' });
    expect((await oversLike(bench.over)).length).toBe(real.length);
  });

  it('is known to the engine by its own history, from which the next move follows', async () => {
    const copy = await practiceCard(cardId, 2);
    for (const over of await listOvers({ cardId: copy, limit: 10 })) await measured(over.id);
    const card = await loadCard(copy);
    if (!card) throw new Error('no card');
    const history = await historyOf(card);
    expect(history.length).toBeGreaterThanOrEqual(3);
    expect(history.every(({ alc, voices }) => alc !== null && voices.length === 1)).toBe(true);
    expect(history.some(({ radios }) => radios.length === 1)).toBe(true);
    const { wish: school } = await schoolOfCard(card);
    const answer = nextAnswer({ rig: card.rig.profile, mode: card.mode, purpose: card.purpose, school, overs: history });
    expect(['move', 'measure', 'done', 'stop']).toContain(answer.status);
    expect(answer.goal.drive).not.toBe('unknown');
  });

  it('is played by the engine, from the first revision on', async () => {
    const copy = await practiceCard(cardId, 2);
    const overs = await enginePlays(copy);
    expect(overs.length).toBeGreaterThan(1);
    expect(overs.length).toBeLessThanOrEqual(10);
    expect(overs.slice(0, -1).every(({ status }) => status === 'move' || status === 'measure')).toBe(true);
    await expect(enginePlays(cardId)).rejects.toThrow('real radio');
  }, 240_000);
});

it('evidence of a card: words go to the dials they were said of', async () => {
  const cards = await listCards({ search: 'Hilltop', limit: 1 });
  const card = await loadCard(cards[0].id);
  if (!card) throw new Error('no card');
  const { history } = await cardEvidence(card);
  const told = history.flatMap(({ card: then, reports = [] }) => reports.map(() => then));
  expect(told).toHaveLength((await listReports({ cardId: card.id, limit: 200 })).length);
  for (const then of told) expect(Object.keys(then.values).length).toBeGreaterThan(0);
  expect(history.every((over) => over.card.mode === card.mode)).toBe(true);
  // A single reading joins the history.
  const heardIn = (overs: typeof history) => overs.flatMap(({ voices, radios, tests = [] }) => [...voices, ...radios, ...tests]).length;
  const newly = (overs: typeof history) => overs.filter(({ alc, card: then }) => alc === 0.6 && then.values['mic-gain'] === 7);
  expect(newly(history)).toHaveLength(0);
  await addRevision({ cardId: card.id, baseRevisionId: card.revisions[0].id, values: { 'mic-gain': 7 }, reason: 'test' });
  const now = await loadCard(card.id);
  const reading = { said: 'talk', alc: 0.6, compressionDb: null, powerW: null, swr: null } as const;
  await addReading({ cardRevisionId: now?.revisions[0].id ?? 0, ...reading });
  const after = (await cardEvidence(card)).history;
  // Once, and nothing that was heard before is lost or counts twice.
  expect(newly(after)).toHaveLength(1);
  expect(heardIn(after)).toBe(heardIn(history));
  expect(after.length).toBeGreaterThan(history.length);
  expect(after.at(-1)).toMatchObject({ alc: 0.6, card: { values: { 'mic-gain': 7 } } });
});

it('what is set aside stays with the card', async () => {
  await setAsideOn(cardId, ['eq-low', 'over-7-clipping']);
  expect((await loadCard(cardId))?.setAside).toEqual(['eq-low', 'over-7-clipping']);
  await setAsideOn(cardId, []);
  expect((await loadCard(cardId))?.setAside).toEqual([]);
  expect(() => readRequest('notThis', { cardId, setAside: ['<b>'] })).toThrow(Refused);
  measuringPool();
});

describe('AM on a practice radio', () => {
  it('the depth of a recording is evidence, and the log names what it shows beside the voice', async () => {
    const am = (await listCards({ search: 'Sunday AM', limit: 20 })).find(({ practiceRadio }) => practiceRadio === null);
    const copyId = await practiceCard(am?.id ?? 0, 1, { 'mic-gain': 100 });
    const overId = await practiceOver({ cardId: copyId, receiver: 0, isIq: true, load: 'dummy load' });
    await measured(overId);
    for (let k = 0; k < 100 && (await cardEvidence({ id: copyId, mode: 'am' })).modulations.length === 0; k++) {
      await new Promise((done) => setTimeout(done, 200));
    }
    const { modulations, deviations } = await cardEvidence({ id: copyId, mode: 'am' });
    expect(modulations).toMatchObject([{ overId, modulation: { isCutOff: true } }]);
    expect(deviations).toEqual([]);
    // The Bench has the I/Q recording, not the voice of the same over, and puts the fault before any tone.
    const bench = await loadBench(copyId);
    expect(bench?.radio?.evidence?.result.kind).toBe('am');
    expect(bench && driveOfCard(bench)).toMatch(/cut off/);
    const { overs } = await pageOfOvers(undefined, 20, () => 0);
    const codes = overs.find(({ id }) => id === overId)?.findings.map(({ code }) => code);
    expect(codes?.[0]).toBe('over-modulated');
    expect(codes).not.toContain('iq-imbalance');
    // Another over keeps its own findings only.
    for (const other of overs.filter(({ captures }) => captures === 1)) {
      expect(other.findings.map(({ code }) => code)).not.toContain('over-modulated');
    }
  }, 120_000);
});
