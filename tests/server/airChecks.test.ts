/** Air checks against a real, throw-away MariaDB. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addCheckLine,
  endAirCheck,
  listAirChecks,
  loadAirCheck,
  startAirCheck,
  undoCheckLine,
} from '../../src/server/aircheck/airChecks.ts';
import { checkAdif, checkCsv } from '../../src/server/aircheck/checkLog.ts';
import { checkGuest } from '../../src/server/aircheck/guests.ts';
import { listCards } from '../../src/server/cards/cardList.ts';
import { loadCard } from '../../src/server/cards/cards.ts';
import { addRevision } from '../../src/server/cards/revisions.ts';
import { database } from '../../src/server/db/database.ts';
import { loadDemo } from '../../src/server/demo/demo.ts';
import { listReadings } from '../../src/server/readings/readings.ts';
import { listReports } from '../../src/server/reports/reports.ts';
import { readRequest } from '../../src/server/requests/requests.ts';

let cardId = 0;
const newest = async () => {
  const card = await loadCard(cardId);
  if (!card) throw new Error('no card');
  return card.revisions[0];
};
const begin = () => startAirCheck({ cardId, station: 'Q6CHK', path: 'local' });
const say = async (airCheckId: number, ...texts: string[]) => {
  for (const text of texts) await addCheckLine({ airCheckId, text, clientKey: '' });
};

beforeAll(async () => {
  await loadDemo('demo', new Date('2026-06-08T12:00:00Z'));
  cardId = (await listCards({ limit: 100 })).find(({ name }) => name === 'Evening net')?.id ?? 0;
}, 300_000);

afterAll(async () => {
  await database().sequelize.close();
});

describe('an air check', () => {
  it('ends as one revision; readings and remarks go to the card that was heard', async () => {
    const base = await newest();
    const id = await begin();
    await say(id, 'a bit muffled', 'alc .6', 'mic gain 7 less', '2400 +3', 'undo', 'alc .4', 'sounds great now');
    const number = await endAirCheck(id, undefined);
    const now = await newest();
    expect(now.number).toBe(number);
    expect(now.number).toBe(base.number + 1);
    expect(now.reason).toBe('air check with Q6CHK');
    const readings = await listReadings(cardId, 2);
    expect(readings.map(({ alc, revision }) => [alc, revision.id])).toEqual(
      expect.arrayContaining([
        [0.4, now.id],
        [0.6, base.id],
      ]),
    );
    const reports = (await listReports({ cardId, limit: 10 })).filter(({ station }) => station === 'Q6CHK');
    expect(Object.fromEntries(reports.map(({ text, revisionId }) => [text, revisionId]))).toEqual({
      'a bit muffled': base.id,
      'sounds great now': now.id,
    });
    expect((await listAirChecks(1))[0]).toMatchObject({ station: 'Q6CHK', lines: 7, revision: base.number, endedRevision: now.number });
    await expect(say(id, '2400 +1')).rejects.toThrow('has ended');
  });

  it('without a moved dial makes no revision, and keeps what was said', async () => {
    const base = await newest();
    const id = await begin();
    await say(id, 'five nine, no complaints');
    expect(await endAirCheck(id, undefined)).toBeNull();
    expect((await newest()).id).toBe(base.id);
    expect((await listReports({ cardId, limit: 1 }))[0]).toMatchObject({ revisionId: base.id, signal: { readability: 5, strength: 9 } });
  });

  it('a line that is sent twice is kept once; two tabs add to one check', async () => {
    const id = await begin();
    const key = '0b0e8a3c-1111-2222-3333-444455556666';
    await Promise.all([1, 2].map(() => addCheckLine({ airCheckId: id, text: '2400 +1', clientKey: key })));
    await Promise.all(['400 -1', '200 -1'].map((text, k) => addCheckLine({ airCheckId: id, text, clientKey: `tab-${k}` })));
    expect((await loadAirCheck(id))?.lines).toHaveLength(3);
    const [line] = (await loadAirCheck(id))?.lines ?? [];
    await undoCheckLine({ airCheckId: id, lineId: line.id, isUndone: true });
    await undoCheckLine({ airCheckId: id, lineId: line.id, isUndone: true });
    expect((await loadAirCheck(id))?.lines[0].isUndone).toBe(true);
    await expect(undoCheckLine({ airCheckId: id, lineId: 4e9, isUndone: true })).rejects.toThrow('does not exist');
  });

  it('a card changed elsewhere meanwhile stops the end, and nothing of it is lost', async () => {
    const id = await begin();
    await say(id, 'mic gain 3 more', 'alc .5', 'muffled');
    const at = await newest();
    await addRevision({ cardId, baseRevisionId: at.id, values: { 'mic-gain': Number(at.values['mic-gain']) + 5 }, reason: 'another tab' });
    const before = [await listReadings(cardId, 100), await listReports({ cardId, limit: 100 })].map(({ length }) => length);
    await expect(endAirCheck(id, undefined)).rejects.toThrow('changed meanwhile');
    expect((await loadAirCheck(id))?.endedAt).toBeNull();
    expect([await listReadings(cardId, 100), await listReports({ cardId, limit: 100 })].map(({ length }) => length)).toEqual(before);
  });

  it('refuses what makes no sense', async () => {
    await expect(startAirCheck({ cardId: 4e9, station: 'Q6CHK', path: 'local' })).rejects.toThrow('does not exist');
    await expect(say(4e9, 'hello')).rejects.toThrow('does not exist');
    expect(() => readRequest('checkLine', { airCheckId: 1, text: 'x'.repeat(2001), clientKey: '' })).toThrow('text');
    expect(() => readRequest('airCheck', { cardId: 1, station: '', path: 'local' })).toThrow('station');
    expect(await loadAirCheck(4e9)).toBeNull();
  });
});

describe('checking another station', () => {
  const guest = { callsign: 'q4hlm', name: 'Helm', path: 'local' as const, mode: 'usb' as const, bands: 3, reach: 12 };
  const sliders = { ...guest, shape: 'graphic' as const, frequencies: '63 125 250 500 1k 2k 4k' };

  it('what they tell stands on a card of theirs at once; a line taken back goes back; the log has it all; the guest is put away', async () => {
    const id = await checkGuest(sliders);
    await say(id, '500 is at plus 9', '2k is at minus 2', 'alc is at a half', 'a bit boomy', 'you are 5 9');
    const open = await loadAirCheck(id);
    // Nowhere to be chosen by mistake, not while it goes on either.
    expect((await listCards({ limit: 200 })).map(({ name }) => name)).not.toContain('Q4HLM on the air');
    expect(open).toMatchObject({ side: 'checking', station: 'Q4HLM' });
    const now = await loadCard(open?.card.id ?? 0);
    expect(now?.revisions[0].values).toMatchObject({ 'eq-500': 9, 'eq-2000': -2 });
    expect(now?.revisions[0].number).toBe(3);
    await undoCheckLine({ airCheckId: id, lineId: open?.lines[1].id ?? 0, isUndone: true });
    expect((await loadCard(open?.card.id ?? 0))?.revisions[0].values['eq-2000']).toBe(0);

    expect(await endAirCheck(id, 'Runa')).toBe(4);
    const ended = await loadAirCheck(id);
    if (!ended) throw new Error('gone');
    const csv = [...checkCsv(ended)].join('');
    expect(csv).toContain('500 is at plus 9');
    expect(csv).toContain('taken back');
    // Where it stood before it was told is not known, and not made up.
    expect(csv).toMatch(/dial,Slider 500 Hz,'\+9 dB\r\n/);
    const adif = [...checkAdif(ended)].join('');
    expect(adif).toContain('<CALL:5>Q4HLM');
    expect(adif).toContain('<RST_SENT:2>59');
    const [report] = await listReports({ cardId: ended.card.id, limit: 10 });
    expect(report.station).toBe('Runa');
  });

  it('comes back with another radio under the same call', async () => {
    const first = await checkGuest(sliders);
    const again = await checkGuest({ ...guest, shape: 'tone', frequencies: '' });
    const [one, two] = [await loadAirCheck(first), await loadAirCheck(again)];
    expect(two?.card.operator.id).toBe(one?.card.operator.id);
    expect(two?.card.rig.id).not.toBe(one?.card.rig.id);
  });

  it('an operator of this station who is checked as a guest is not put away', async () => {
    const { operator } = (await loadCard(cardId)) ?? {};
    const id = await checkGuest({ ...sliders, callsign: operator?.callsign ?? '' });
    expect((await loadAirCheck(id))?.card.operator.id).toBe(operator?.id);
    await endAirCheck(id, undefined);
    expect((await database().models.operators.findByPk(operator?.id))?.retiredAt).toBeNull();
  });

  it('refuses sliders nobody can read, and leaves nothing behind', async () => {
    const before = await database().models.operators.count();
    await expect(checkGuest({ ...sliders, callsign: 'Q9NEW', frequencies: 'the usual ones' })).rejects.toThrow('frequencies are needed');
    expect(await database().models.operators.count()).toBe(before);
    expect(() => readRequest('guestCheck', { ...sliders, callsign: 'not a call!' })).toThrow();
  });
});
