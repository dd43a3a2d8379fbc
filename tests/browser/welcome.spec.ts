import { readFileSync } from 'node:fs';
import { expect, test } from './support.ts';

test('the first five minutes: an empty station, set up step by step, ends in practice with a synthetic voice', async ({ page }) => {
  test.setTimeout(180_000);
  // The demo of this worker is carried out of the way, and back at the end.
  await page.goto('/station');
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export the station' }).click();
  const archive = await (await download).path();
  try {
    await page.getByRole('button', { name: 'Empty the station' }).click();
    await page.getByRole('button', { name: 'Delete everything' }).click();
    await expect(page.getByRole('heading', { name: 'Welcome to Dial Tune' })).toBeVisible();

    // Whatever page is asked for first, it is the way in.
    await page.goto('/bench');
    await expect(page.getByRole('heading', { name: 'Welcome to Dial Tune' })).toBeVisible();
    await page.getByRole('link', { name: 'Set up my station' }).click();
    const next = page.getByRole('button', { name: 'Next' });

    await expect(page.getByRole('heading', { name: 'Who talks?' })).toBeVisible();
    await page.getByLabel('Name').fill('Sanna');
    await page.getByLabel('Callsign').fill('no call');
    await expect(page.getByText('Letters, digits and /, at least three.')).toBeVisible();
    await expect(next).toBeDisabled();
    await page.getByLabel('Callsign').fill('QA5TST');
    await next.click();

    await expect(page.getByRole('heading', { name: 'Which radio?' })).toBeVisible();
    await page.getByLabel('What you call the radio').fill('Dunlin 8');
    await next.click();
    await expect(page.getByRole('heading', { name: 'Which microphone?' })).toBeVisible();
    // Who comes back later goes on where they stopped.
    await page.goto('/');
    await expect(page.getByRole('heading', { name: 'Which microphone?' })).toBeVisible();
    await page.getByLabel('Name').fill('Hand');
    await next.click();
    await expect(page.getByRole('heading', { name: 'What is the first card for?' })).toBeVisible();
    await next.click();

    await expect(page.getByRole('heading', { name: 'Can you hear yourself on another receiver?' })).toBeVisible();
    await page.getByRole('link', { name: 'Not now: practise' }).click();
    // Setting up leads into the guided run, here on a practice radio with a synthetic voice.
    await page.getByRole('button', { name: 'Begin' }).click();
    await expect(page.getByRole('heading', { name: 'Prepare' })).toBeVisible();
    await expect(page.getByText('Dunlin 8').first()).toBeVisible();
    await page.getByRole('button', { name: /^Microphone/ }).click();
    await page.getByRole('button', { name: 'Key up and talk' }).click();
    await expect(page.getByText(/ALC last read/)).toBeVisible({ timeout: 120_000 });
  } finally {
    // What is still being measured has to be done first.
    await expect(async () => {
      const answer = await page.request.post('/api/station', {
        headers: { 'x-dialtune-import': 'replace' },
        data: readFileSync(archive),
      });
      expect(answer.status(), await answer.text()).toBe(200);
    }).toPass({ timeout: 60_000, intervals: [1000] });
  }
  await page.goto('/cards');
  await expect(page.getByText('Lighthouse DX').first()).toBeVisible();
});
