import { expect, freshOver, saved, test } from './support.ts';

const SAID = [
  'meter peaks at two thirds on the long vowel',
  'a bit muffled, try 3 more at 2400',
  'same again on the two hundred',
  'still honky in the middle, wants some body',
  'another two on that low one',
  'flurb the gizmo',
  'mic gain down to 40',
  'alc is at point four now',
  "your P's thump a bit",
  'both far receivers have you 5 and 9, full and clear',
];

test('an air check: typed as fast as it is said, taken back, ended as one revision with readings, reports and a sheet', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await page.goto('/cards?search=Bram+calling');
  await page.getByRole('link', { name: 'Bram calling CQ', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Bram calling CQ' })).toBeVisible();
  const before = Number(
    (
      await page
        .getByText(/Revision \d+\./)
        .first()
        .textContent()
    )?.match(/Revision (\d+)/)?.[1],
  );
  await page.getByRole('link', { name: 'Air check' }).click();
  await expect(page.getByRole('button', { name: /With card/ })).toContainText('Bram calling CQ');
  await page.getByLabel('Who checks you').fill('Q4HLM');
  await page.getByRole('form', { name: 'New air check' }).getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText('Nothing said yet.')).toBeVisible();
  const line = page.getByRole('textbox', { name: /Type what you hear/ });
  await expect(line).toBeFocused();

  // Thirty lines without waiting for the server, as a person speaks.
  for (let k = 0; k < 3; k++) {
    for (const text of SAID) {
      await page.keyboard.insertText(
        k === 0
          ? text
          : text.replace('a bit muffled, try 3 more at 2400', '2400 +0').replace('same again', 'down 1').replace('another two', 'up 1'),
      );
      await page.keyboard.press('Enter');
    }
  }
  const log = page.getByRole('region', { name: 'As it is said' });
  await expect(log.getByRole('button', { name: /^Take back/ })).toHaveCount(30, { timeout: 30_000 });
  // What was just said can be seen: above the line, which would cover it.
  const newest = log.getByRole('row').last();
  await expect(newest).toBeInViewport({ ratio: 1 });
  const ends = async (of: typeof newest) => (await of.boundingBox()) ?? { y: 0, height: 0 };
  const row = await ends(newest);
  expect(row.y + row.height).toBeLessThanOrEqual((await ends(line)).y);
  await expect(log.getByText('"flurb", "gizmo" are not understood.').first()).toBeVisible();
  await expect(log.getByText('mid-rangey, thin (slight)').first()).toBeVisible();
  const now = page.getByRole('table', { name: 'Dials moved in this check' });
  await expect(now.getByRole('row', { name: /Mic gain/ })).toContainText('40');

  // What is taken back counts for nothing, and can be put in again.
  const rows = await now.getByRole('row').count();
  const gainLines = log.getByRole('button', { name: 'Take back: mic gain down to 40' });
  for (const left of [2, 1, 0]) {
    await gainLines.first().click();
    await expect(gainLines).toHaveCount(left);
  }
  await expect(now.getByRole('row', { name: /Mic gain/ })).toHaveCount(0);
  await saved(page, () => log.getByRole('button', { name: 'Put in again: mic gain down to 40' }).last().click());
  await expect(now.getByRole('row')).toHaveCount(rows);

  await line.fill('alc .4');
  await expect(page.getByText('on speech peaks: in the zone').last()).toBeVisible();
  await line.press('Enter');
  await expect(log.getByRole('button', { name: /^Take back/ })).toHaveCount(29);
  await page.getByRole('button', { name: 'Finish: save card and log' }).click();
  await expect(page.getByText(`Saved as revision ${before + 1}.`)).toBeVisible();
  await page.getByRole('link', { name: 'Dial sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Dial sheet: Bram calling CQ' })).toBeVisible();
  await page.goto('/reports');
  await expect(page.getByText('“both far receivers have you 5 and 9, full and clear”').first()).toBeVisible();
});

test.describe('without the server', () => {
  test.use({ mayFailLoads: true });
  test('a line typed while it is away is kept and sent once', async ({ page }) => {
    await page.goto('/aircheck');
    await page.getByLabel('Who checks you').fill('Q8OFF');
    await page.getByRole('form', { name: 'New air check' }).getByRole('button', { name: 'Begin' }).click();
    const line = page.getByRole('textbox', { name: /Type what you hear/ });
    await expect(line).toBeFocused();
    await page.context().setOffline(true);
    await line.fill('a bit muffled');
    await line.press('Enter');
    await expect(page.getByText(/1 line is kept here\./)).toBeVisible({ timeout: 20_000 });
    await page.context().setOffline(false);
    // The page itself may go meanwhile.
    await page.reload();
    await expect(page.getByText(/1 line is kept here\./)).toBeVisible();
    await page.getByRole('button', { name: 'Send again' }).click();
    await expect(page.getByRole('button', { name: /^Take back/ })).toHaveCount(1, { timeout: 20_000 });
    await page.reload();
    await expect(page.getByRole('button', { name: /^Take back/ })).toHaveCount(1);
  });
});

test('checking another station: added in seconds, its dials as told, four receivers sorted, the advice spoken, the log saved', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await page.goto('/aircheck');
  const form = page.getByRole('form', { name: 'Check another station' });
  await form.getByLabel('Their call').fill('no call!');
  await expect(form.getByRole('button', { name: 'Begin' })).toBeDisabled();
  await form.getByLabel('Their call').fill('Q9GST');
  await form.getByLabel('Slider frequencies').fill('low mid high');
  await expect(form.getByRole('button', { name: 'Begin' })).toBeDisabled();
  await form.getByLabel('Slider frequencies').fill('100 200 400 600 800 1k 1.5k 2k 2.4k 3k');
  await form.getByRole('button', { name: 'Begin' }).click();
  const line = page.getByRole('textbox', { name: /Type what they tell you/ });
  await expect(line).toBeFocused();
  for (const text of ['400 is at plus 2', 'alc is at point four', 'a bit muffled']) {
    await line.fill(text);
    await line.press('Enter');
  }
  await expect(page.getByRole('button', { name: /^Take back/ })).toHaveCount(3, { timeout: 20_000 });
  await expect(page.getByRole('table', { name: 'Dials moved in this check' })).toContainText('+2 dB');

  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Add recordings' }).click();
  const names = ['shack second.wav', 'hill.wav', 'mainland.wav', 'somewhere.wav'];
  await (await chooser).setFiles(names.map((name) => ({ ...freshOver('08-bram-muffled.wav'), name })));
  const dialog = page.getByRole('dialog');
  // Three of them speak of a receiver, each of another: they were made at once.
  await expect(dialog.getByRole('checkbox', { name: 'One over, heard on 4 receivers at once' })).toBeChecked();
  await expect(dialog.getByRole('button', { name: /Receiver of hill/ })).toContainText('Hill remote');
  // A file whose name fits no receiver has to be sorted by hand.
  await expect(dialog.getByRole('button', { name: 'Measure' })).toBeDisabled();
  await dialog.getByRole('button', { name: /Receiver of somewhere/ }).click();
  await page.getByRole('option', { name: /Monitor of the radio/ }).click();
  await dialog.getByRole('button', { name: 'Measure' }).click();
  await expect(dialog.getByRole('link', { name: 'What all receivers heard' })).toBeVisible({ timeout: 60_000 });
  await dialog.getByRole('button', { name: 'Close' }).click();

  const receivers = page.getByRole('table', { name: 'Receivers of this over' });
  await expect(receivers.getByRole('row')).toHaveCount(5, { timeout: 20_000 });
  await expect(receivers).toContainText('taps the audio early: it is not the transmitted signal');
  await expect(page.getByText('Three receivers agree: muffled. That is yours.')).toBeVisible();
  const spoken = page.getByRole('list', { name: 'To be spoken' });
  await expect(spoken).toContainText(/more at (2|2\.4|3) kHz than you have now/, { timeout: 20_000 });
  // Where they told where it stands, the advice says where it ends.
  await expect(spoken).not.toContainText('undefined');

  await page.getByRole('button', { name: 'Finish: save the log' }).click();
  await expect(page.getByText('Ended; their dials are in the log.')).toBeVisible();
  const csv = await page.request.get((await page.getByRole('link', { name: 'CSV' }).getAttribute('href')) ?? '');
  expect(await csv.text()).toContain('400 is at plus 2');
  // A guest is nobody to choose for one's own cards.
  await page.goto('/cards?search=Q9GST');
  await expect(page.getByText(/No card, operator or rig/)).toBeVisible();
});
