/** Short versions of npm run chaos and npm run storm. */
import { expect, it } from 'vitest';
// @ts-expect-error plain JavaScript
import { chaos } from './chaos.mjs';
// @ts-expect-error plain JavaScript
import { storm } from './storm.mjs';

it('kills of database, server and start lose nothing that was acknowledged, and everything comes back', async () => {
  expect(await chaos({ kills: 5, seed: 3, firstStarts: 1 })).toEqual([]);
});

it('exports, stalled transfers and many visitors at once block nothing', async () => {
  expect(await storm({ seconds: 4 })).toEqual([]);
});
