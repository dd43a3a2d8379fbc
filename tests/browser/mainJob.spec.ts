import { expect, fitShown, freshOver, openBench, test } from './support.ts';

test('by mouse: drop a recording, see why, put the fit on the card, find it on the sheet', async ({ page }) => {
  await openBench(page, 'Bram calling CQ');
  const { buffer } = freshOver('08-bram-muffled.wav');
  const transfer = await page.evaluateHandle((bytes) => {
    const data = new DataTransfer();
    data.items.add(new File([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))], 'muffled.wav', { type: 'audio/wav' }));
    return data;
  }, buffer.toString('base64'));
  await page.dispatchEvent('body', 'dragover', { dataTransfer: transfer });
  await expect(page.getByText('Drop recordings, I/Q files, curves or traces here')).toBeVisible();
  await page.dispatchEvent('body', 'drop', { dataTransfer: transfer });

  const sheet = page.getByRole('dialog');
  await expect(sheet.getByText('muffled.wav')).toBeVisible();
  await expect(sheet.getByRole('combobox', { name: 'Made with card' })).toHaveValue(/^Bram calling CQ, rev/);
  await sheet.getByLabel('ALC reading').fill('1.5');
  await expect(sheet.getByRole('button', { name: 'Measure' })).toBeDisabled();
  await sheet.getByLabel('ALC reading').fill('0.45');
  await sheet.getByRole('button', { name: 'Measure' }).click();
  await sheet.getByRole('link', { name: 'See it on the Bench' }).click();
  await expect(page).toHaveURL(/\/bench\?card=\d+&over=\d+/);
  await expect(sheet).toHaveCount(0);

  await fitShown(page);
  const stages = page.getByRole('navigation', { name: 'Transmit path' });
  await expect(stages.getByRole('button', { name: /^ALC/ })).toContainText('0.45');
  await expect(page.getByRole('img', { name: /Tone balance/ })).toBeVisible();
  const card = page.getByRole('combobox', { name: 'Card' });
  const revision = Number(/rev\. (\d+)/.exec(await card.inputValue())?.[1]);
  const level = page.getByRole('textbox', { name: 'High band N, level, set to' });
  await expect(level).toBeVisible();
  await page
    .getByRole('row', { name: /High band N, level/ })
    .getByRole('button', { name: /down$/ })
    .click();
  await expect(page.getByText('with your values')).toBeVisible();
  const wanted = await level.inputValue();
  await page.getByRole('button', { name: 'Put these on the card' }).click();
  await expect(card).toHaveValue(`Bram calling CQ, rev. ${revision + 1}`);
  await expect(stages.getByRole('button', { name: /^ALC/ })).toContainText('read it again');

  await page.reload();
  await expect(card).toHaveValue(`Bram calling CQ, rev. ${revision + 1}`);
  await page.getByRole('link', { name: 'all revisions' }).click();
  await expect(page.getByRole('heading', { name: 'Bram calling CQ' })).toBeVisible();
  await page.getByRole('link', { name: 'Dial sheet' }).click();
  const row = page.getByRole('row', { name: /4\.18/ });
  await expect(row).toContainText(wanted);
  const tick = row.getByRole('checkbox', { name: /done/ });
  await tick.focus();
  await page.keyboard.press('Space');
  await expect(tick).toBeChecked();
  // Knobs on the front have no address and come first.
  const menus = (await page.locator('tbody tr td:nth-child(2)').allTextContents()).map((menu) => menu.replace('front', ''));
  expect(menus).toEqual([...menus].sort((a, b) => a.localeCompare(b, 'en', { numeric: true })));
});

test('by keyboard: stages, next move, a dial, put on the card', async ({ page }) => {
  await openBench(page, 'Lighthouse DX');
  await fitShown(page);
  await page.keyboard.press('1');
  await expect(page.getByRole('heading', { name: 'Voice' })).toBeVisible();
  await page.keyboard.press('7');
  await expect(page.getByRole('heading', { name: 'ALC' })).toBeVisible();
  await page.keyboard.press('4');
  await fitShown(page);
  await page.keyboard.press('n');
  await expect(page.locator('aside h3')).toBeFocused();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  // Gone from the page, not only out of sight: single keys rest while a sheet is open.
  await expect(page.locator('[role="dialog"]')).toHaveCount(0);

  // Chromium now and then grants a synthetic key no file chooser: then it is pressed again.
  const chooser = page.waitForEvent('filechooser');
  await expect(async () => {
    await page.keyboard.press('u');
    expect(
      await Promise.race([
        chooser.then(() => true),
        page.waitForEvent('filechooser', { timeout: 2000 }).then(
          () => true,
          () => false,
        ),
      ]),
    ).toBe(true);
  }).toPass({ timeout: 30_000 });
  await (await chooser).setFiles(freshOver('12-runa-thin.wav'));
  await page.getByRole('dialog').getByRole('button', { name: 'Measure' }).focus();
  await page.keyboard.press('Enter');
  const link = page.getByRole('link', { name: 'See it on the Bench' });
  await expect(link).toBeVisible({ timeout: 20_000 });
  await link.focus();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/bench\?card=\d+&over=\d+/);
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await fitShown(page);

  const level = page.getByRole('textbox', { name: 'Mid band P, level, set to' });
  await level.focus();
  const before = await level.inputValue();
  await page.keyboard.press('ArrowUp');
  await expect(level).not.toHaveValue(before);
  await page.keyboard.press('Escape');
  await level.fill('999');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: '-20 to 20 dB' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Put these on the card' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Nothing to put on the card' })).toBeVisible({ timeout: 20_000 });
});

test('the next move alone goes on the card, and the trail keeps what it should do', async ({ page }) => {
  await openBench(page, 'Evening net');
  await fitShown(page);
  // Somebody has turned the highs down.
  const line = page.getByRole('textbox', { name: 'Dial line: type it as you are told' });
  await line.fill('2400 = -8');
  await line.press('Enter');
  await expect(page.locator('aside h3')).toContainText('Slider 2400 Hz');
  const title = await page.locator('aside h3').textContent();
  await expect(page.locator('aside')).toContainText('Expect');
  await page.getByRole('button', { name: 'Not this' }).click();
  await expect(page.locator('aside h3')).not.toHaveText(title ?? '');
  await page.getByRole('button', { name: 'Show skipped moves' }).click();
  await expect(page.locator('aside h3')).toHaveText(title ?? '');
  await page.getByRole('button', { name: 'Put it on the card' }).click();
  const newest = page.getByRole('region', { name: 'Trail' }).getByRole('listitem').nth(1);
  await expect(newest).toContainText('not checked yet');
  await expect(newest).toContainText((title ?? '').split(',')[0].trim());
});

test('before and after are heard, switched by key, level-matched', async ({ page }) => {
  await openBench(page, 'Hilltop portable');
  await fitShown(page);
  await page.keyboard.press('l');
  const listening = page.getByRole('radiogroup', { name: 'Listen to' });
  await expect(listening).toBeVisible({ timeout: 20_000 });
  await expect(listening.getByRole('radio', { name: 'A before' })).toBeChecked();
  await page.keyboard.press('b');
  await expect(listening.getByRole('radio', { name: 'B after' })).toBeChecked();
  await page
    .getByRole('row', { name: /Transmit treble/ })
    .getByRole('button', { name: /down$/ })
    .click();
  await expect(listening).toBeVisible();
  await page.keyboard.press('l');
  await expect(listening).toBeHidden();
});

test('the target can be bent and put back', async ({ page }) => {
  await openBench(page, 'Hilltop portable');
  await fitShown(page);
  const verdict = page.getByText('Off target by');
  const before = await verdict.textContent();
  await page.getByRole('button', { name: 'Edit the target' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('2 kHz').fill('x');
  await expect(dialog.getByRole('button', { name: 'Save target' })).toBeDisabled();
  await dialog.getByLabel('2 kHz').fill('−20');
  await dialog.getByRole('button', { name: 'Save target' }).click();
  await expect(verdict).not.toHaveText(before ?? '', { timeout: 20_000 });
  await page.getByRole('button', { name: 'Edit the target' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Back to the built-in target' }).click();
  await expect(verdict).toHaveText(before ?? '', { timeout: 20_000 });
});
