import { expect, fitShown, freshOver, openBench, saved, test } from './support.ts';

test('an over: its note is kept, its recording comes back, and it goes when asked twice', async ({ page }) => {
  await page.goto('/overs');
  const fresh = freshOver('14-runa-gain.wav');
  await page.locator('input[type=file]').setInputFiles(fresh);
  await page.getByRole('dialog').getByRole('button', { name: 'Measure' }).click();
  await page.getByRole('link', { name: /^over \d+$/ }).click({ timeout: 20_000 });
  await page.getByRole('textbox', { name: 'Note', exact: true }).fill('rain on the roof');
  await page.getByLabel('ALC reading').fill('0.42');
  await page.getByRole('button', { name: 'Save note' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Note', exact: true })).toHaveValue('rain on the roof');
  await expect(page.getByLabel('ALC reading')).toHaveValue('0.42');

  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save the recording' }).click();
  const saved = await (await download).createReadStream();
  const parts: Buffer[] = [];
  for await (const part of saved) parts.push(part as Buffer);
  expect(Buffer.compare(Buffer.concat(parts), fresh.buffer)).toBe(0);
  expect((await download).suggestedFilename()).toBe('14-runa-gain.wav');

  await page.getByRole('button', { name: 'Delete' }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('heading', { name: /^Over \d+$/ })).toBeVisible();
  const address = page.url();
  await page.getByRole('button', { name: 'Delete' }).click();
  await page.getByRole('button', { name: 'Delete the evidence' }).click();
  await expect(page.getByRole('heading', { name: 'Overs' })).toBeVisible();
  await page.goto(address);
  await expect(page.getByRole('heading', { name: 'Nothing here' })).toBeVisible();
});

test('a card: a dial changed by hand, why, and back again', async ({ page }) => {
  await page.goto('/cards?search=Liaison');
  await page.getByRole('link', { name: 'Liaison repeater', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'No unsaved changes' })).toBeVisible();
  await page
    .getByRole('row', { name: /Mic level/ })
    .getByRole('button')
    .click();
  await page.getByRole('option', { name: 'high' }).click();
  await expect(page.getByText('was mid')).toBeVisible();
  await page.getByLabel(/Why/).fill('the boat could not hear me');
  await page.getByRole('button', { name: 'Save as revision 2' }).click();
  const history = page.getByRole('region', { name: 'Revisions' });
  await expect(history).toContainText('the boat could not hear me');
  await expect(history).toContainText('Mic level mid → high');
  await page.getByRole('link', { name: 'Dial sheet' }).click();
  await expect(page.getByRole('heading', { name: /^Dial sheet/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /Mic level \(8\)/ })).toContainText('high');
  await page.goBack();
  await history.getByRole('button', { name: 'Go back to it' }).click();
  await expect(history).toContainText('back to revision 1');
  await expect(page.getByRole('row', { name: /Mic level \(8\)/ }).getByRole('button')).toContainText('mid');
});

test('a spoilt recording is told before any dial, and can be used anyway', async ({ page }) => {
  await openBench(page, 'Lighthouse DX');
  await page.getByRole('button', { name: /Measured from/ }).click();
  const clipped = page.getByRole('option').filter({ hasText: 'Shack second receiver' }).last();
  await clipped.click();
  // The card is driven too hard as well: what is set aside of that makes room for what is wrong with this over.
  const title = page.locator('aside h3');
  await expect(page.locator('aside')).toContainText('driven too hard');
  await saved(page, () => page.getByRole('button', { name: 'Not this' }).click());
  await expect(page.locator('aside')).toContainText('The ALC read');
  await saved(page, () => page.getByRole('button', { name: 'Not this' }).click());
  await expect(title).toHaveText('Record this over again');
  await expect(page.locator('aside')).toContainText('clipped');
  await page.getByRole('button', { name: 'Use it anyway' }).click();
  await expect(title).not.toHaveText('Record this over again');
  await saved(page, () => page.getByRole('button', { name: 'Show skipped moves' }).click());
});

test('a tone is not taken for talk', async ({ page }) => {
  const { sine, wavBytes } = await import('../support/signals.ts');
  const tone = Buffer.from(wavBytes(8000, [sine(8000, 440 + Math.random(), 3, 0.3)]));
  await openBench(page, 'Hilltop portable');
  await page.locator('input[type=file]').setInputFiles({ name: 'tone.wav', mimeType: 'audio/wav', buffer: tone });
  await page.getByRole('dialog').getByRole('button', { name: 'Measure' }).click();
  await page.getByRole('link', { name: 'See it on the Bench' }).click({ timeout: 20_000 });
  await expect(page.locator('aside')).toContainText('Too little of the voice', { timeout: 20_000 });
  await expect(page.getByRole('button', { name: 'Put these on the card' })).toHaveCount(0);
  // Other tests judge this card by its own talk.
  await page.goto(`/overs/${new URL(page.url()).searchParams.get('over')}`);
  await page.getByRole('button', { name: 'Delete' }).click();
  await page.getByRole('button', { name: 'Delete the evidence' }).click();
  await expect(page.getByRole('heading', { name: 'Overs' })).toBeVisible();
});

test('a radio without equalizer says so and offers nothing that does nothing', async ({ page }) => {
  await openBench(page, 'Liaison repeater');
  // It has nothing to see there: the Bench opens at what there is to turn.
  await expect(page.getByRole('region', { name: 'Deviation against mic gain' })).toBeVisible();
  await expect(page.getByLabel('Power, W')).toBeVisible();
  await expect(page.getByLabel(/^ALC/)).toHaveCount(0);
  await page.keyboard.press('4');
  await expect(page.getByText('Dunlin FM has no equalizer.').first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Put these on the card' })).toHaveCount(0);
  await page.keyboard.press('3');
  await expect(page.getByRole('row', { name: /Mic level \(8\)/ })).toBeVisible();
});

test('the sentence leads from card to card; the purpose changes the target', async ({ page }) => {
  await openBench(page, 'Bram calling CQ');
  await fitShown(page);
  const chart = page.getByRole('img', { name: /Tone balance/ });
  await expect(chart).toHaveAttribute('aria-label', /for DX and pile-ups/);
  await page.getByRole('button', { name: /Purpose/ }).click();
  await page.getByRole('option', { name: 'rag chew' }).click();
  await expect(chart).toHaveAttribute('aria-label', /for rag chew/, { timeout: 20_000 });
  await page.getByRole('button', { name: /Purpose/ }).click();
  await page.getByRole('option', { name: 'DX and pile-ups' }).click();
  await expect(chart).toHaveAttribute('aria-label', /for DX and pile-ups/, { timeout: 20_000 });
  await page
    .getByRole('button', { name: /^Runa|Operator/ })
    .first()
    .click();
  await page.getByRole('option', { name: 'Tilo' }).click();
  await expect(page.getByRole('button', { name: /Operator/ })).toContainText('Tilo');
  await page.getByRole('combobox', { name: 'Card' }).fill('hilltop');
  await page.getByRole('option', { name: /Hilltop portable/ }).click();
  await expect(page.getByRole('combobox', { name: 'Card' })).toHaveValue(/^Hilltop portable, rev\. \d+$/);
  await expect(page.locator('header')).toContainText('Knot 5');
});

test('audio that a browser can play is decoded in the page and kept as WAV', async ({ page }) => {
  const { execFileSync } = await import('node:child_process');
  const ogg = execFileSync('ffmpeg', ['-v', 'error', '-i', 'demo/overs/14-runa-gain.wav', '-c:a', 'flac', '-f', 'flac', '-']);
  await page.goto('/overs');
  await page.locator('input[type=file]').setInputFiles({ name: 'over.flac', mimeType: 'audio/flac', buffer: ogg });
  await page.getByRole('dialog').getByRole('button', { name: 'Measure' }).click();
  await page.getByRole('link', { name: /^over \d+$/ }).click({ timeout: 20_000 });
  await expect(page.getByText('48 kHz')).toBeVisible();
  const recording = await page.getByRole('link', { name: 'Save the recording' }).getAttribute('href');
  const bytes = await (await page.request.get(recording ?? '')).body();
  expect(bytes.subarray(0, 4).toString()).toBe('RIFF');
});
