/** Meter readings and reports against a real, throw-away MariaDB. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parseAdif } from '../../src/core/files/index.ts';
import { rowProblem } from '../../src/server/backup/tables.ts';
import { loadBench } from '../../src/server/bench/bench.ts';
import { listCards } from '../../src/server/cards/cardList.ts';
import { loadCard } from '../../src/server/cards/cards.ts';
import { addRevision } from '../../src/server/cards/revisions.ts';
import { database } from '../../src/server/db/database.ts';
import { migrate } from '../../src/server/db/migrate.ts';
import { loadDemo } from '../../src/server/demo/demo.ts';
import { deleteOver, listOvers } from '../../src/server/overs/overs.ts';
import { loadOver } from '../../src/server/overs/overView.ts';
import { addReading, listReadings } from '../../src/server/readings/readings.ts';
import { importAdif, reportsAdif, reportsCsv } from '../../src/server/reports/reportLog.ts';
import { addReport, countReports, deleteReport, listReports } from '../../src/server/reports/reports.ts';
import { readRequest } from '../../src/server/requests/requests.ts';
import { loadStation } from '../../src/server/station/station.ts';

const NO_METER = { alc: null, compressionDb: null, powerW: null, swr: null };
let cardId = 0;
let revisionId = 0;
const newest = async () => {
  const card = await loadCard(cardId);
  if (!card) throw new Error('no card');
  return card.revisions[0];
};
const report = (changes: object = {}) => ({
  cardRevisionId: revisionId,
  station: 'Q3TST',
  place: 'north',
  receiver: 'AGC fast',
  path: 'local' as const,
  text: "You're 5 and 7, a bit muffled",
  ...changes,
});
const whole = async (lines: AsyncGenerator<string>) => {
  let text = '';
  for await (const line of lines) text += line;
  return text;
};

beforeAll(async () => {
  await loadDemo('demo', new Date('2026-06-08T12:00:00Z'));
  cardId = (await listCards({ limit: 100 })).find(({ name }) => name === 'Lighthouse DX')?.id ?? 0;
  revisionId = (await newest()).id;
}, 300_000);

afterAll(async () => {
  await database().sequelize.close();
});

describe('meter readings', () => {
  it('belong to a revision, with or without an over; a new one leaves the old one as it was', async () => {
    const before = await listReadings(cardId, 100);
    await addReading({ cardRevisionId: revisionId, said: 'counting', ...NO_METER, alc: 0.6 });
    await addReading({ cardRevisionId: revisionId, said: 'sustained', ...NO_METER, alc: 0.45, swr: 1.2 });
    const after = await listReadings(cardId, 100);
    expect(after).toHaveLength(before.length + 2);
    expect(after[0]).toMatchObject({ said: 'sustained', alc: 0.45, swr: 1.2, overId: null, revision: { id: revisionId } });
    expect(after[1]).toMatchObject({ said: 'counting', alc: 0.6 });
    expect(after.slice(2)).toEqual(before);
    // Those noted with overs stand in the same list.
    expect(before.every(({ key, overId }) => key === `over ${overId}`)).toBe(true);
    const bench = await loadBench(cardId);
    expect(bench?.readings[0].alc).toBe(0.45);
  });

  it('keep to the revision they were read on when the card goes on', async () => {
    const at = await newest();
    await addRevision({ cardId, baseRevisionId: at.id, values: { 'mic-gain': Number(at.values['mic-gain']) - 3 }, reason: 'test' });
    const [first] = await listReadings(cardId, 1);
    expect(first.revision.id).toBe(at.id);
    revisionId = (await newest()).id;
  });

  it('refuse nothing, what is not there, and an over of another revision', async () => {
    await addReading({ cardRevisionId: revisionId, said: 'talk', ...NO_METER, adjacentDb: -41.5 });
    expect((await listReadings(cardId, 1))[0]).toMatchObject({ alc: null, adjacentDb: -41.5 });
    await expect(addReading({ cardRevisionId: revisionId, said: 'talk', ...NO_METER })).rejects.toThrow('at least one number');
    await expect(addReading({ cardRevisionId: 4e9, said: 'talk', ...NO_METER, alc: 0.4 })).rejects.toThrow('does not exist');
    const other = (await listOvers({ limit: 100 })).find((over) => over.cardId !== cardId);
    await expect(addReading({ cardRevisionId: revisionId, overId: other?.id, said: 'talk', ...NO_METER, alc: 0.4 })).rejects.toThrow(
      'not made with this card',
    );
    expect(() => readRequest('reading', { cardRevisionId: 1, said: 'talk', ...NO_METER, alc: 1.4 })).toThrow('alc');
    expect(() => readRequest('reading', { cardRevisionId: 1, said: 'shouting', ...NO_METER })).toThrow('said');
  });
});

describe('reports', () => {
  it('are kept as they were said, with readability, strength and remarks read', async () => {
    const id = await addReport(report());
    const [first] = await listReports({ cardId, limit: 1 });
    expect(first).toMatchObject({
      id,
      station: 'Q3TST',
      text: "You're 5 and 7, a bit muffled",
      signal: { readability: 5, strength: 7, overS9Db: null },
      remarks: [{ code: 'muffled', sense: 'is', degree: 'slight', about: 'signal' }],
    });
    expect(await countReports({ search: 'muffled' })).toBeGreaterThan(0);
    expect(await countReports({ search: '100%' })).toBe(0);
    await deleteReport(id);
    await expect(deleteReport(id)).rejects.toThrow('gone already');
    expect(await database().models.remarks.count({ where: { reportId: id } })).toBe(0);
  });

  it('another language, emoji and five thousand characters are kept whole, and accuse nobody', async () => {
    const texts = ['Muy buena señal, audio precioso 👍📻', 'ä'.repeat(5000)];
    for (const text of texts) {
      const id = await addReport(report({ text }));
      const [kept] = await listReports({ cardId, limit: 1 });
      expect(kept).toMatchObject({ id, text, remarks: [] });
      await deleteReport(id);
    }
    expect(() => readRequest('report', report({ text: 'x'.repeat(5001) }))).toThrow('text');
    expect(() => readRequest('report', report({ path: 'tin can' }))).toThrow('path');
  });

  it('stay when their over is deleted', async () => {
    const [receiver] = (await loadStation()).receivers;
    const made = {
      cardRevisionId: revisionId,
      receiverId: receiver.id,
      load: 'antenna' as const,
      powerW: null,
      alcReading: null,
      note: '',
    };
    const over = await loadOver((await database().models.overs.create(made)).id);
    if (!over) throw new Error('no over');
    const id = await addReport(report({ cardRevisionId: over.revision.id, overId: over.id }));
    expect(await listReports({ overId: over.id, limit: 5 })).toHaveLength(1);
    await deleteOver(over.id);
    const kept = (await listReports({ cardId, limit: 50 })).find((each) => each.id === id);
    expect(kept?.overId).toBeNull();
    await deleteReport(id);
  });

  it('go out as ADIF and come back, once', async () => {
    const at = new Date('2026-06-01T10:20:30.000Z');
    await addReport({ ...report({ text: 'Très bien, 59, no hum' }), at });
    // A log has no parts of a second.
    await addReport({ ...report({ station: 'Q8SEC', text: 'loud' }), at: new Date('2026-06-01T10:30:00.480Z') });
    const log = await whole(reportsAdif());
    const record = parseAdif(log).find(({ CALL }) => CALL === 'Q3TST');
    expect(record).toMatchObject({ QSO_DATE: '20260601', TIME_ON: '102030', MODE: 'SSB', RST_RCVD: '59', QTH: 'north' });
    expect(record?.COMMENT_INTL).toContain('Très bien');
    const count = await countReports({});
    await importAdif(revisionId, log);
    expect(await countReports({})).toBe(count);
    await importAdif(revisionId, '<CALL:5>Q4NEW<QSO_DATE:8>20260602<TIME_ON:4>0800<RST_RCVD:2>57<COMMENT:13>a bit muffled<EOR>');
    const [found] = await listReports({ search: 'Q4NEW', limit: 1 });
    expect(found).toMatchObject({
      madeAt: '2026-06-02T08:00:00.000Z',
      signal: { readability: 5, strength: 7 },
      remarks: [{ code: 'muffled' }],
    });
    await expect(importAdif(revisionId, '<CALL:5>Q4NEW<EOR>')).rejects.toThrow('No record');
    await expect(importAdif(revisionId, 'nonsense')).rejects.toThrow('no ADIF log');
    expect((await whole(reportsCsv())).split('\r\n')[0]).toContain('readability');
  });

  it('rows of an archive are looked at closely; the migration can be run again', async () => {
    const row = {
      id: 1,
      createdAt: '2026-06-01T10:20:30.000Z',
      reportId: 1,
      code: 'muffled',
      sense: 'is',
      degree: 'plain',
      about: 'signal',
      text: 'muffled',
    };
    expect(rowProblem('remarks', row)).toBeNull();
    expect(rowProblem('remarks', { ...row, code: 'haunted' })).toContain('code');
    await migrate(database().sequelize);
    await database().sequelize.query("DELETE FROM migrations WHERE name = '05-readings-and-reports'");
    await migrate(database().sequelize);
    expect(await countReports({})).toBeGreaterThan(0);
  });
});
