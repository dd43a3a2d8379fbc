import { gzipSync } from 'node:zlib';
import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, fitShown, openBench, test } from './support.ts';

const SCREENS: readonly (readonly [string, string, RegExp | string])[] = [
  ['Bench, equalizer', '/bench?card=1', 'Off target by'],
  ['Bench, voice', '/bench?card=1&stage=voice', 'signal-to-noise (speech)'],
  ['Bench, mic', '/bench?card=1&stage=mic', 'Talking distance'],
  ['Bench, ALC', '/bench?card=1&stage=alc', 'Speech peaks belong'],
  ['Bench, passband', '/bench?card=1&stage=passband', 'The nominal edges'],
  ['Bench, gain', '/bench?card=1&stage=gain', 'What to expect'],
  ['Bench, heard', '/bench?card=1&stage=heard', 'Hear it there'],
  ['Reach plane', '/cards/reach', 'Compare two'],
  ['Practice', '/practice', 'Show what it hides'],
  ['Tune', '/tune', 'New run'],
  ['Tune, a run', '/tune/1', 'Good enough'],
  ['Overs', '/overs', 'times in UTC'],
  ['Over', '/overs/1', 'SHA-256'],
  ['Over, SSB', '/overs/14', 'driven too hard'],
  ['Over, FM', '/overs/17', 'This is wide FM'],
  ['Over, response', '/overs/21', 'The radio is dull'],
  ['Over, scope trace', '/overs/22', 'PEP over mean'],
  ['Side by side', '/overs/compare?overs=13,14,15', 'not driven equally'],
  ['Live', '/live', 'Third octaves against the target'],
  ['Test bench', '/testbench', 'Pad in front of an input'],
  ['Limits', '/station/limits', 'Measure all overs again'],
  ['Reports', '/reports', 'As they say it'],
  ['Air check', '/aircheck', 'Who checks you'],
  ['Air check, being checked', '/aircheck/1', 'The card now'],
  ['Air check of a guest', '/aircheck/2', 'Their dials, as told'],
  ['Over, four receivers', '/overs/23', 'Two receivers agree'],
  ['Cards', '/cards', 'New card'],
  ['Card', '/cards/1', 'Revisions'],
  ['Sheet', '/cards/1/sheet', 'in menu order'],
  ['Copy', '/cards/1/copy', 'what is not at its factory value'],
  ['Station', '/station', 'Who talks'],
  ['Rig', '/station/rigs/1', 'The path in'],
  ['New radio', '/station/rigs/new', 'Its equalizer'],
  ['Microphone', '/station/microphones/1', 'As it is used'],
  ['Fit for the air', '/station/rigs/3/air', 'What these recordings cannot tell'],
  ['Voice memories', '/station/rigs/1/memories', 'recorded (UTC)'],
  ['Welcome', '/welcome', 'Ready to tune'],
  ['Nothing here', '/nowhere', 'does not exist'],
];

const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];
/** There are no frames of others and no styles to load: the page is looked at as it stands, and only what is wrong is told. */
const axeOn = (page: Page) => new AxeBuilder({ page }).options({ preload: false, resultTypes: ['violations'] }).setLegacyMode(true);

/** A phone, a tablet, a desk. Colours are the same at every width, by night only they are others, and a tablet has the desk's parts. */
const WIDTHS = [
  { width: 390, height: 844, looks: ['light'] },
  { width: 820, height: 1180, looks: [] },
  { width: 1280, height: 800, looks: ['light', 'dark'] },
] as const;

test.describe('nothing leads past the edge at three widths, and axe finds nothing by day and by night', () => {
  for (const [name, path, words] of SCREENS) {
    test(name, async ({ page }) => {
      await page.goto(path);
      await expect(page.getByText(words).first()).toBeVisible({ timeout: 20_000 });
      for (const { width, height, looks } of WIDTHS) {
        await page.setViewportSize({ width, height });
        const reach = () => page.evaluate(() => document.documentElement.scrollWidth);
        await expect.poll(reach, { message: `${width} px: nothing leads past the right edge` }).toBeLessThanOrEqual(width);
        for (const colorScheme of looks) {
          await page.emulateMedia({ colorScheme });
          const axe = axeOn(page);
          if (colorScheme === 'dark') axe.withRules(['color-contrast']);
          else axe.withTags(TAGS);
          if (width !== 1280) axe.disableRules(['color-contrast']);
          const { violations } = await axe.analyze();
          expect(
            violations.map(({ id, nodes }) => `${width} ${colorScheme} ${id}: ${nodes.map(({ target }) => target).join(' | ')}`),
          ).toEqual([]);
        }
      }
    });
  }
});

/** Scripts of a page beside those that every page loads, gzipped. */
test('pages load no more script than they need', async ({ request }) => {
  const sizes = new Map<string, number>();
  const scriptsOf = async (path: string) => {
    const html = await (await request.get(path)).text();
    const scripts = [...new Set([...html.matchAll(/\/_next\/static\/[^"'\\]+?\.js/g)].map(([script]) => script))];
    for (const script of scripts) if (!sizes.has(script)) sizes.set(script, gzipSync(await (await request.get(script)).body()).length);
    return scripts;
  };
  const pages = new Map<string, string[]>();
  for (const [, path] of SCREENS) pages.set(path, await scriptsOf(path));
  const all = [...pages.values()];
  const common = all[0].filter((script) => all.every((scripts) => scripts.includes(script)));
  const kilobytes = (scripts: readonly string[]) => scripts.reduce((sum, script) => sum + (sizes.get(script) ?? 0), 0) / 1000;
  // React, Next.js, React Aria, styled-components and the frame of every page.
  expect(kilobytes(common)).toBeLessThan(330);
  for (const [path, scripts] of pages) {
    const own = kilobytes(scripts.filter((script) => !common.includes(script)));
    expect(own, path).toBeLessThan(path.startsWith('/bench') ? 200 : 120);
  }
});

test('sheets over the page pass axe too', async ({ page }) => {
  for (const [path, name] of [
    ['/station', 'Add an operator'],
    ['/station', 'Add a receiver'],
    ['/cards', 'New card'],
    ['/station/rigs/1', 'Paste rows'],
    ['/station/rigs/1', 'When Mic gain works'],
    ['/station/rigs/1/memories', 'Record memory 3'],
    ['/cards/1/sheet?from=factory', 'Walk me through'],
  ]) {
    await page.goto(path);
    await page.getByRole('button', { name }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    const { violations } = await axeOn(page).analyze();
    expect(violations.filter(({ impact }) => impact === 'serious' || impact === 'critical').map(({ id }) => id)).toEqual([]);
    await page.keyboard.press('Escape');
  }
});

test('nothing is fetched from elsewhere, and the fonts are the app’s own', async ({ page }) => {
  const foreign: string[] = [];
  page.on('request', (request) => {
    const { protocol, hostname } = new URL(request.url());
    if (protocol.startsWith('http') && hostname !== '127.0.0.1') foreign.push(request.url());
  });
  await page.goto('/bench?card=1');
  await fitShown(page);
  expect(foreign).toEqual([]);
  const isLoaded = await page.evaluate(() => document.fonts.check("15px 'Atkinson Hyperlegible Next Variable'"));
  expect(isLoaded).toBe(true);
});

test('the theme stays chosen', async ({ page }) => {
  await page.goto('/overs');
  await page.getByRole('button', { name: 'Day or night' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'night');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'night');
});

test('a station from nothing: operator, mic, receiver, rig, card', async ({ page }) => {
  await page.goto('/station');
  await page.getByRole('button', { name: 'Add an operator' }).click();
  await page.getByLabel('Name').fill('Enna');
  await page.getByLabel('Callsign').fill('q2enn');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('cell', { name: 'Q2ENN' })).toBeVisible();
  const profile = JSON.parse(await (await page.request.get('/api/rigs/3')).text());
  const choose = async (content: string) => {
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Import a rig' }).click();
    await (await chooser).setFiles({ name: 'rig.json', mimeType: 'application/json', buffer: Buffer.from(content) });
  };
  await choose('{ not json');
  await expect(page.locator('main').getByRole('alert')).toContainText('not valid JSON');
  await choose(JSON.stringify({ ...profile, name: 'Avocet 7', dials: [] }));
  await expect(page.locator('main').getByRole('alert')).toContainText('not a valid rig profile');
  await choose(JSON.stringify({ ...profile, name: 'Avocet 7' }));
  await expect(page.getByRole('cell', { name: 'Avocet 7', exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Make a card of these' }).click();
  await page.getByRole('button', { name: 'New card' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Trial');
  await dialog.getByRole('button', { name: /^.*Rig/ }).click();
  await page.getByRole('option', { name: 'Avocet 7' }).click();
  await dialog.getByRole('button', { name: 'Create card' }).click();
  await expect(page.getByRole('heading', { name: 'Trial' })).toBeVisible();
  await openBench(page, 'Trial');
  await expect(page.getByText('No over with this card yet')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Record an over with this card' })).toBeVisible();
});

test('two tabs on one card: the later save is told', async ({ page, context }) => {
  await page.goto('/cards/2');
  const other = await context.newPage();
  await other.goto('/cards/2');
  for (const [tab, slider] of [
    [page, 'Slider 100 Hz'],
    [other, 'Slider 200 Hz'],
  ] as const) {
    await tab.getByRole('row', { name: slider }).getByRole('button', { name: /up$/ }).click();
    await tab.getByLabel(/Why/).fill('two tabs');
  }
  await page.getByRole('button', { name: /Save as revision/ }).click();
  await expect(page.getByText('two tabs').first()).toBeVisible();
  await other.getByRole('button', { name: /Save as revision/ }).click();
  await expect(other.locator('main').getByRole('alert')).toContainText('changed meanwhile');
  // Nothing is lost: the newer revision comes in under the changes, which can be saved on top.
  await other.getByRole('button', { name: 'Show it, keep my changes' }).click();
  await expect(other.getByRole('heading', { name: /1 change/ })).toBeVisible();
  await expect(other.getByLabel(/Why/)).toHaveValue('two tabs');
  await expect(other.getByRole('region', { name: 'Revisions' })).toContainText('two tabs');
  await other.getByRole('button', { name: /Save as revision/ }).click();
  await expect(other.getByRole('heading', { name: 'No unsaved changes' })).toBeVisible();
  await expect(other.getByRole('textbox', { name: /Slider 200 Hz/ })).not.toHaveValue('0 dB');
});
