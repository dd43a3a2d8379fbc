/** Pictures of the main views from the demo data, for docs/screenshots: npm run screenshots. */
import { resolve } from 'node:path';
import { expect, fitShown, openBench, test } from '../browser/support.ts';

test.use({
  permissions: ['microphone'],
  launchOptions: async ({ launchOptions }, use) =>
    use({
      ...launchOptions,
      args: [
        ...(launchOptions.args ?? []),
        '--use-fake-device-for-media-stream',
        `--use-file-for-fake-audio-capture=${resolve('demo/overs/10-bram-clear.wav')}`,
      ],
    }),
});

const shoot = (name: string) => ({ path: `docs/screenshots/${name}.png` });

test('Bench, Tune', async ({ page }) => {
  await openBench(page, 'Lighthouse DX');
  await fitShown(page);
  // The model of the whole path comes later than the fit.
  await expect(page.getByText('calculating', { exact: true })).toHaveCount(0, { timeout: 60_000 });
  await page.screenshot(shoot('bench-equalizer'));
  await page.goto('/tune/1');
  await page.getByRole('button', { name: /Equalizer/ }).click();
  await expect(page.getByRole('heading', { name: 'Equalizer', level: 1 })).toBeVisible();
  await expect(page.getByText('Calculating ...')).toHaveCount(0, { timeout: 60_000 });
  await page.waitForTimeout(800);
  await page.screenshot(shoot('tune'));
});

test('overs, over, reports, air checks, card, sheet, station, rig, fit for the air', async ({ page }) => {
  for (const [path, name, words] of [
    ['/overs', 'overs', 'times in UTC'],
    ['/overs/23', 'over', 'Two receivers agree'],
    ['/reports', 'reports', 'As they say it'],
    ['/aircheck/2', 'air-check-guest', 'Their dials, as told'],
    ['/cards/3', 'card', 'Revisions'],
    ['/cards/3/sheet', 'sheet', 'in menu order'],
    ['/station', 'station', 'Who talks'],
    ['/station/rigs/1', 'rig', 'The path in'],
    ['/station/rigs/3/air', 'fit-for-air', 'Not fit in SSB'],
    ['/overs/14', 'over-ssb', 'driven too hard'],
    ['/overs/compare?overs=13,14,15', 'compare', 'not driven equally'],
    ['/testbench', 'test-bench', 'Pad in front of an input'],
  ]) {
    await page.goto(path);
    await expect(page.getByText(words).first()).toBeVisible();
    // Charts are fetched late.
    await expect(page.locator('div[role=img]:visible:not(:has(svg))')).toHaveCount(0, { timeout: 20_000 });
    await page.waitForTimeout(500);
    await page.screenshot(shoot(name));
  }
});

test('an air check as it goes on', async ({ page }) => {
  await page.goto('/cards?search=Evening+net');
  await page.getByRole('link', { name: 'Evening net', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Evening net' })).toBeVisible();
  await page.getByRole('link', { name: 'Air check' }).click();
  await page.getByLabel('Who checks you').fill('Q4HLM');
  await page.getByRole('button', { name: 'Begin' }).first().click();
  const line = page.getByRole('textbox', { name: /Type what you hear/ });
  await expect(line).toBeFocused();
  const said = ['compressor in at three of ten', 'meter peaks at two thirds on the long vowel', 'still muffled, wants some body'];
  for (const text of [
    ...said,
    'mic gain down to 30',
    "your P's thump, is there foam on that mic?",
    'both far receivers have you 5 and 9',
  ]) {
    await line.fill(text);
    await line.press('Enter');
  }
  await expect(page.getByRole('button', { name: /^Take back/ })).toHaveCount(6);
  await line.fill('two less on the low one');
  await page.screenshot(shoot('air-check'));
});

test('live audio', async ({ page }) => {
  await page.goto('/live');
  await page.getByRole('button', { name: 'Listen' }).click();
  await page.waitForTimeout(6000);
  await page.screenshot(shoot('live'));
});

test('the model: heard, reach and naturalness, practice', async ({ page }) => {
  await openBench(page, 'Lighthouse DX');
  await page.keyboard.press('9');
  await expect(page.getByRole('navigation', { name: 'Transmit path' }).getByText(/^reach/)).toBeVisible({ timeout: 60_000 });
  await page.waitForTimeout(1500);
  await page.screenshot(shoot('bench-heard'));
  await page.getByRole('link', { name: 'All cards of this voice' }).click();
  await expect(page.getByText('Compare two').first()).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('progressbar')).toHaveCount(0, { timeout: 120_000 });
  await page.screenshot(shoot('reach'));
  await page.goto('/practice');
  await page.getByRole('button', { name: 'Key up and talk' }).click();
  await expect(page.getByRole('button', { name: 'Play Monitor' })).toBeVisible({ timeout: 60_000 });
  await page.waitForTimeout(500);
  await page.screenshot(shoot('practice'));
});
