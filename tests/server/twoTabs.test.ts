/** Two tabs at one thing: the later one is told, what the earlier one saved stands. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { defaultTarget } from '../../src/core/advice/targets.ts';
import { listCards } from '../../src/server/cards/cardList.ts';
import { changeCard, loadCard } from '../../src/server/cards/cards.ts';
import { setTarget, targetFor } from '../../src/server/cards/targets.ts';
import { database } from '../../src/server/db/database.ts';
import { loadDemo } from '../../src/server/demo/demo.ts';
import { ownLimits, setLimit } from '../../src/server/measuring/limits.ts';
import { listOvers, noteOver } from '../../src/server/overs/overs.ts';
import { loadOver } from '../../src/server/overs/overView.ts';
import { OVERTAKEN } from '../../src/server/requests/refused.ts';
import { keepOperator, keepReceiver, loadStation } from '../../src/server/station/station.ts';

beforeAll(() => loadDemo('demo', new Date('2026-06-08T12:00:00Z')), 300_000);
afterAll(() => database().sequelize.close());

const overtaken = (work: Promise<unknown>) =>
  expect(work).rejects.toMatchObject({ status: OVERTAKEN, message: expect.stringContaining('another tab') });

it('an operator', async () => {
  const [{ id, name, callsign, note }] = (await loadStation()).operators;
  const base = { name, callsign, note };
  await keepOperator({ id, ...base, note: 'one', base });
  await overtaken(keepOperator({ id, ...base, note: 'other', base }));
  expect((await loadStation()).operators[0].note).toBe('one');
  await keepOperator({ id, ...base });
});

it('a receiver', async () => {
  const [{ id, isRetired: _, ...base }] = (await loadStation()).receivers;
  await keepReceiver({ id, ...base, agc: 'one', base });
  await overtaken(keepReceiver({ id, ...base, agc: 'other', base }));
  expect((await loadStation()).receivers.find((each) => each.id === id)?.agc).toBe('one');
  await keepReceiver({ id, ...base });
});

it('a card’s name and purpose', async () => {
  const [{ id, name, purpose }] = await listCards({ limit: 1 });
  await changeCard(id, { name: 'One', base: { name } });
  await overtaken(changeCard(id, { name: 'Other', base: { name } }));
  // Another field is another matter.
  await changeCard(id, { purpose: 'contest', base: { purpose } });
  expect(await loadCard(id)).toMatchObject({ name: 'One', purpose: 'contest' });
  await changeCard(id, { name, purpose });
});

it('a note and its reading', async () => {
  const [{ id, alcReading, note }] = await listOvers({ limit: 1 });
  await noteOver(id, { alcReading: 0.25, note: 'one', base: { alcReading, note } });
  await overtaken(noteOver(id, { alcReading, note: 'other', base: { alcReading, note } }));
  expect(await loadOver(id)).toMatchObject({ alcReading: 0.25, note: 'one' });
  await noteOver(id, { alcReading, note });
});

it('a limit, also one that was the built-in one', async () => {
  await setLimit('hum', { watch: -50, fault: null }, null);
  await overtaken(setLimit('hum', { watch: -45, fault: null }, null));
  await overtaken(setLimit('hum', null, { watch: -45, fault: null }));
  expect((await ownLimits()).hum).toEqual({ watch: -50, fault: null });
  await setLimit('hum', null, { watch: -50, fault: null });
  expect(await ownLimits()).toEqual({});
});

it('a target', async () => {
  const base = defaultTarget('natural');
  const [one, other] = [-7, -8].map((db) => base.map(([hz, level]): [number, number] => [hz, hz === 1000 ? db : level]));
  await setTarget('natural', one, base);
  await overtaken(setTarget('natural', other, base));
  expect(await targetFor('natural')).toEqual(one);
  await setTarget('natural', null, one);
  expect(await targetFor('natural')).toEqual(base);
});

it('a target has each frequency once, in rising order', async () => {
  const twice: [number, number][] = [
    [200, 0],
    [200, -3],
    [200, -6],
  ];
  await expect(setTarget('natural', twice)).rejects.toThrow('two points at 200 Hz');
  await expect(setTarget('natural', [twice[0], [100, 0]])).rejects.toThrow('100 Hz comes after 200 Hz');
});
