/** Live audio with Chromium's fake capture device, fed from a file. */
import { resolve } from 'node:path';
import { expect, test } from './support.ts';

const FAKE = ['--use-fake-device-for-media-stream', `--use-file-for-fake-audio-capture=${resolve('demo/overs/10-bram-clear.wav')}`];

test.use({ launchOptions: async ({ launchOptions }, use) => use({ ...launchOptions, args: [...(launchOptions.args ?? []), ...FAKE] }) });

test.describe('with a device and leave to listen', () => {
  test.use({ permissions: ['microphone'] });

  test('level, spectrum and tone move; ten seconds become an over', async ({ page }) => {
    await page.goto('/live');
    await page.getByRole('button', { name: 'Listen' }).click();
    await expect(page.getByText(/^level −\d/)).toBeVisible({ timeout: 20_000 });
    await expect(page.getByRole('img', { name: /^Live spectrum/ }).getByText('peak hold')).toBeVisible({ timeout: 20_000 });
    await expect(page.getByRole('img', { name: /^Tone of your voice/ }).getByText('your voice')).toBeVisible({ timeout: 20_000 });
    await expect(page.getByRole('button', { name: 'Grab the last 4 s' })).toBeVisible({ timeout: 20_000 });
    await page.getByRole('button', { name: /^Grab the last/ }).click();
    const sheet = page.getByRole('dialog');
    await expect(sheet.getByRole('button', { name: /Type of recording/ })).toContainText('audio');
    await sheet.getByRole('button', { name: 'Measure', exact: true }).click();
    await expect(sheet.getByRole('link', { name: /^over \d+$/ })).toBeVisible({ timeout: 30_000 });
    await sheet.getByRole('button', { name: 'Close' }).click();
    // A device that goes away: its track ends.
    await page.getByRole('button', { name: 'Stop' }).click();
    await expect(page.getByRole('button', { name: 'Listen' })).toBeEnabled();
  });

  test('a device that is lost is told, and can be opened again', async ({ page }) => {
    await page.addInitScript(() => {
      const original = navigator.mediaDevices.getUserMedia.bind(navigator.mediaDevices);
      navigator.mediaDevices.getUserMedia = async (wanted) => {
        const stream = await original(wanted);
        Object.assign(window, { pullOut: () => stream.getAudioTracks()[0].dispatchEvent(new Event('ended')) });
        return stream;
      };
    });
    await page.goto('/live');
    await page.getByRole('button', { name: 'Listen' }).click();
    await expect(page.getByText(/^level −\d/)).toBeVisible({ timeout: 20_000 });
    await page.evaluate(() => (window as unknown as { pullOut: () => void }).pullOut());
    await expect(page.locator('main').getByRole('alert')).toContainText('went away');
    await page.getByRole('button', { name: 'Listen' }).click();
    await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible({ timeout: 20_000 });
  });
});

test('without leave to listen it says how to give it', async ({ page }) => {
  await page.goto('/live');
  await page.getByRole('button', { name: 'Listen' }).click();
  await expect(page.locator('main').getByRole('alert')).toContainText('allow the microphone');
});

test('without any input it says so', async ({ page }) => {
  await page.addInitScript(() => {
    navigator.mediaDevices.getUserMedia = () => Promise.reject(new DOMException('none', 'NotFoundError'));
  });
  await page.goto('/live');
  await page.getByRole('button', { name: 'Listen' }).click();
  await expect(page.locator('main').getByRole('alert')).toContainText('no sound input');
});
