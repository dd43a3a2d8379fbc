import { expect, openBench, press, test } from './support.ts';

const openCard = async (page: import('@playwright/test').Page, card: string) => {
  await page.goto(`/cards?search=${encodeURIComponent(card)}`);
  await page.getByRole('link', { name: card, exact: true }).click();
  await expect(page.getByRole('heading', { name: card })).toBeVisible();
};

test('the mistakes of the demo are found and named', async ({ page }) => {
  for (const [card, words] of [
    ['Club round', 'dead bank'],
    ['Rare square', 'switch off'],
    ['Two hour sprint', 'outside passband'],
    ['Harbour watch', 'narrow FM'],
  ]) {
    await page.goto(`/cards?search=${encodeURIComponent(card)}`);
    await expect(page.getByRole('row', { name: new RegExp(`^${card}`) })).toContainText(words);
  }
  await openCard(page, 'Club round');
  const found = page.getByRole('list', { name: 'Possibly overlooked' });
  await expect(found).toContainText('bank N is the one in use, and it is flat');
  await expect(found).toContainText('Works while Processor (2.01) is on');
});

test('setting the switch right takes the mistake away, before anything is saved', async ({ page }) => {
  await openCard(page, 'Rare square');
  await expect(page.getByRole('list', { name: 'Possibly overlooked' })).toContainText('Transmit equalizer (30) is off');
  await page
    .getByRole('row', { name: /Transmit equalizer/ })
    .getByRole('button')
    .click();
  await page.getByRole('option', { name: 'on', exact: true }).click();
  await expect(page.getByRole('list', { name: 'Possibly overlooked' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('list', { name: 'Possibly overlooked' })).toBeVisible();
});

test('a dial out of its range is refused at the field; a dead one is struck through with what enables it', async ({ page }) => {
  await openCard(page, 'Supper talk');
  const gain = page.getByRole('textbox', { name: 'Mic gain', exact: true });
  await gain.fill('150');
  await gain.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: '0 to 100' })).toBeVisible();
  await gain.press('Escape');
  await expect(page.getByText('Mic equalizer (4.01) is off. Works while Mic equalizer (4.01) is on.')).toBeVisible();
});

test('duplicate, rename, find, retire and restore', async ({ page }) => {
  const copy = `Twin ${Math.random().toString(36).slice(2, 7)}`;
  await openCard(page, 'Beach net');
  await page.getByRole('button', { name: 'Duplicate' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('as Beach net, revision 1')).toBeVisible();
  await dialog.getByLabel('Name').fill(copy);
  await dialog.getByRole('button', { name: 'Create card' }).click();
  await expect(page.getByRole('heading', { name: copy })).toBeVisible();
  await page.getByRole('button', { name: 'Rename' }).click();
  await page.getByRole('dialog').getByLabel('Name').fill(`${copy} B`);
  await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('heading', { name: `${copy} B` })).toBeVisible();
  await page.goto('/cards');
  await page.getByRole('searchbox', { name: 'Find' }).fill(copy);
  await expect(page.getByText('1 card', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: `${copy} B`, exact: true }).click();
  await page.getByRole('button', { name: 'Retire' }).click();
  await expect(page.locator('main').getByText('(retired)')).toBeVisible();
  await page.goto(`/cards?search=${encodeURIComponent(copy)}`);
  await expect(page.getByText(/No card, operator or rig/)).toBeVisible();
  await page.goto('/cards?retired=1');
  await page.getByRole('button', { name: `Restore ${copy} B` }).click();
  await expect(page.getByRole('button', { name: `Restore ${copy} B` })).toHaveCount(0);
});

test('a card file goes out and comes in again; a foreign one is refused in words', async ({ page }) => {
  await openCard(page, 'Summit pile-up');
  const href = await page.getByRole('link', { name: 'Card file' }).getAttribute('href');
  const file = await (await page.request.get(href ?? '')).json();
  expect(file).toMatchObject({ format: 'dialtune-card', rig: 'Knot 5', operator: 'Q0BRA', purpose: 'pile-up' });
  await page.goto('/cards');
  const choose = async (content: string) => {
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Import a card' }).click();
    await (await chooser).setFiles({ name: 'card.json', mimeType: 'application/json', buffer: Buffer.from(content) });
  };
  await choose(JSON.stringify({ ...file, rig: 'Somewhere 9' }));
  await expect(page.locator('main').getByRole('alert')).toContainText('no rig named Somewhere 9');
  await choose(JSON.stringify({ ...file, values: { ...file.values, bass: 40 } }));
  await expect(page.locator('main').getByRole('alert')).toContainText("Transmit bass can't be 40; it goes -6 to 6");
  const name = `Imported ${Math.random().toString(36).slice(2, 7)}`;
  await choose(JSON.stringify({ ...file, name }));
  await expect(page.getByRole('dialog').getByLabel('Name')).toHaveValue(name);
  await page.getByRole('dialog').getByRole('button', { name: 'Create card' }).click();
  await expect(page.getByText('from a card file')).toBeVisible();
  const again = await page.getByRole('link', { name: 'Card file' }).getAttribute('href');
  expect((await (await page.request.get(again ?? '')).json()).values).toEqual(file.values);
});

test('a card is copied to another rig with what remains, as a curve and a sentence', async ({ page }) => {
  await openCard(page, 'Rare square');
  await page.getByRole('link', { name: 'Copy to another rig' }).click();
  await page.getByRole('button', { name: /^.*To$/ }).click();
  await page.getByRole('option', { name: /Knot 5/ }).click();
  await expect(page.getByText(/Knot 5 (can sound the same|comes within)/).first()).toBeVisible({ timeout: 20_000 });
  await expect(page.getByText('gain numbers mean nothing across radios')).toBeVisible();
  await expect(page.getByRole('img', { name: /what remains between them/ })).toBeVisible();
  await page.getByRole('button', { name: 'Make this card' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill(`Rare square on Knot ${Math.random().toString(36).slice(2, 6)}`);
  await dialog.getByRole('button', { name: 'Create card' }).click();
  await expect(page.getByText(/copied from Rare square on Fulmar 8, within/)).toBeVisible();
});

test('two revisions are compared; the microphone used otherwise is a revision', async ({ page }) => {
  await openCard(page, 'Lighthouse DX');
  await page.getByText('Compare two revisions').click();
  await page.getByRole('button', { name: /First revision/ }).click();
  await page.getByRole('option', { name: /^1/ }).click();
  const revisions = page.getByRole('region', { name: 'Revisions' });
  await expect(revisions.getByText(/their equalizers differ by up to \d+\.\d dB/)).toBeVisible();
  await expect(revisions.getByRole('row', { name: /Mic gain/ })).toContainText('40');
  await openCard(page, 'Contest run');
  await page.getByText('foam windscreen').click();
  await page.getByLabel('Talking distance, cm').fill('4');
  await page.getByRole('button', { name: 'Save as revision 2' }).click();
  await expect(page.getByText('microphone flat, 6 cm → flat, foam windscreen, 4 cm')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('undone: as in revision 1')).toBeVisible();
});

test('the dial line: explained before Enter, on the card and in the trail after it, undone, recalled', async ({ page }) => {
  await openBench(page, 'Two hour sprint');
  await page.keyboard.press('/');
  const line = page.getByRole('region', { name: 'Dial line' });
  const input = line.getByRole('textbox');
  await expect(input).toBeFocused();
  await page.keyboard.type('2500 -');
  await page.keyboard.type('3');
  await expect(line).toContainText('The slider nearest to 2500 Hz is 2400 Hz.');
  await expect(line).toContainText('Slider 2400 Hz (37): +4 dB → +1 dB.');
  await page.keyboard.press('Enter');
  await expect(line.getByRole('status')).toContainText('On the card as revision 2');
  await expect(page.getByRole('region', { name: 'Trail' })).toContainText('Slider 2400 Hz +4 → +1 dB');
  await page.keyboard.press('ArrowUp');
  await expect(input).toHaveValue('2500 -3');
  await input.fill('mic 200');
  await expect(line).toContainText("Mic gain can't be 200; it goes 0 to 100 % in steps of 5.");
  await page.keyboard.press('Enter');
  await input.fill('bw 200-29');
  await expect(line).toContainText('the lower first');
  await input.fill('alc .4');
  await page.keyboard.press('Enter');
  await expect(line).toContainText('Noted with revision 2.');
  await input.fill('un');
  await line.getByRole('button', { name: /^undo/ }).click();
  await expect(input).toHaveValue('undo');
  await input.press('Enter');
  await expect(line.getByRole('status')).toContainText('Undone, as revision 3');
  await expect(page.getByRole('region', { name: 'Trail' })).toContainText('Slider 2400 Hz +1 → +4 dB');
});

test('walk me through: one dial at a time, large, by the space bar', async ({ page }) => {
  await openCard(page, 'Morning walk');
  await page.getByRole('link', { name: 'Dial sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Dial sheet: Morning walk' })).toBeVisible();
  await page.keyboard.press('w');
  const walk = page.getByRole('dialog');
  const total = Number(/of (\d+)/.exec((await walk.getByText(/^1 of \d+/).textContent()) ?? '')?.[1]);
  expect(total).toBeGreaterThan(3);
  expect(Number.parseFloat(await walk.locator('.menu').evaluate((element) => getComputedStyle(element).fontSize))).toBeGreaterThan(80);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowLeft');
  for (let i = 0; i < total; i++) {
    await expect(walk.getByText(`${i + 1} of ${total}`)).toBeVisible();
    await page.keyboard.press('Space');
  }
  await expect(walk.getByRole('heading', { name: 'All set' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('status')).toContainText(`${total} of ${total} ticked off`);
  // The radio is known to hold this card now; the one it held before is a sheet away.
  await openCard(page, 'Evening net');
  await page.getByRole('link', { name: 'Dial sheet' }).click();
  await expect(page.getByText('what was last ticked off').first()).toBeVisible();
  await expect(page.locator('tbody tr').first()).toBeVisible();
});

test('an unknown width number is shown both ways until somebody knows', async ({ page }) => {
  const profile = await (await page.request.get('/api/rigs/1')).json();
  const name = `Tern ${Math.random().toString(36).slice(2, 7)}`;
  await page.goto('/station');
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a rig' }).click();
  const unknown = { ...profile, name, equalizer: { ...profile.equalizer, width: { meaning: 'unknown' } } };
  await (await chooser).setFiles({ name: 'rig.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(unknown)) });
  await expect(page.getByRole('row', { name: new RegExp(name) })).toContainText('width number unknown');
  await page.goto('/cards');
  const dialog = page.getByRole('dialog');
  await press(page, 'c', dialog);
  await dialog.getByLabel('Name').fill(`Card of ${name}`);
  await dialog.getByRole('button', { name: /^.*Rig$/ }).click();
  await page.getByRole('option', { name }).click();
  await dialog.getByRole('button', { name: 'Create card' }).click();
  await page
    .getByRole('row', { name: /Mic equalizer/ })
    .getByRole('button')
    .click();
  await page.getByRole('option', { name: 'on', exact: true }).click();
  const readings = page.getByRole('region', { name: 'Width number' });
  await expect(readings).toContainText('5.0 octaves wide if the number is octaves, 0.29 octaves if it is Q');
  await expect(readings).toContainText('They differ by up to');
  await expect(readings).toContainText('To find out');
  await expect(readings.getByRole('img', { name: /Width 5 at/ })).toBeVisible();
});

test('the station as an archive: out, in again, and a foreign one refused', async ({ page, request }) => {
  test.slow();
  const archive = await (await request.get('/api/station')).body();
  expect(archive.subarray(0, 2).toString()).toBe('PK');
  await page.goto('/station');
  const backup = page.getByRole('region', { name: 'Backup and move' });
  const choose = async (buffer: Buffer) => {
    const chooser = page.waitForEvent('filechooser');
    await backup.getByRole('button', { name: 'Import a station' }).click();
    await (await chooser).setFiles({ name: 'station.zip', mimeType: 'application/zip', buffer });
    await page.getByRole('button', { name: 'Replace the station' }).click();
  };
  await choose(Buffer.from('not a zip'));
  await expect(backup.getByRole('alert')).toContainText('no ZIP file');
  await choose(archive);
  await expect(backup.getByRole('status')).toContainText(/The station is the one of the archive now: \d+ cards, \d+ overs/, {
    timeout: 60_000,
  });
  const without = await request.post('/api/station', { data: archive });
  expect(without.status()).toBe(400);
  await page.goto('/overs');
  await expect(page.getByText(/\d+ overs; times in UTC/)).toBeVisible();
});
