/** Pictures of the main views from the demo data, for docs/screenshots: npm run screenshots. */
import { expect, fitShown, openBench, test } from '../browser/support.ts';

const shoot = (name: string) => ({ path: `docs/screenshots/${name}.png` });

test('Bench: equalizer, voice, night', async ({ page }) => {
  await openBench(page, 'Lighthouse DX');
  await fitShown(page);
  await page.screenshot(shoot('bench-equalizer'));
  await page.keyboard.press('1');
  await expect(page.getByText('talk over noise')).toBeVisible();
  await page.screenshot(shoot('bench-voice'));
  await page.getByRole('button', { name: 'Day or night' }).click();
  await page.keyboard.press('4');
  await fitShown(page);
  await page.screenshot(shoot('bench-night'));
});

test('Bench: ALC, hearing before and after', async ({ page }) => {
  await openBench(page, 'Bram calling CQ');
  await fitShown(page);
  await page.keyboard.press('7');
  await page.screenshot(shoot('bench-alc'));
});

test('overs, over, cards, card, sheet, station', async ({ page }) => {
  for (const [path, name, words] of [
    ['/overs', 'overs', 'times in UTC'],
    ['/overs/6', 'over', 'SHA-256'],
    ['/cards', 'cards', 'New card'],
    ['/cards/3', 'card', 'Revisions'],
    ['/cards/3/sheet', 'sheet', 'in menu order'],
    ['/station', 'station', 'Who talks'],
  ]) {
    await page.goto(path);
    await expect(page.getByText(words).first()).toBeVisible();
    await page.waitForTimeout(500);
    await page.screenshot(shoot(name));
  }
});

test('adding a recording', async ({ page }) => {
  await page.goto('/overs');
  await page.locator('input[type=file]').setInputFiles('demo/overs/08-bram-muffled.wav');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.waitForTimeout(300);
  await page.screenshot(shoot('add-recording'));
});
