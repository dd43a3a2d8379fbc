import { expect, openBench, saved, test } from './support.ts';

test('readings without a recording: typed at the ALC stage and in the dial line, stale after a move, with the next gain', async ({
  page,
}) => {
  await openBench(page, 'Beach net');
  await page.getByRole('navigation', { name: 'Transmit path' }).getByRole('button', { name: /^ALC/ }).click();
  const readings = page.getByRole('region', { name: 'Meter readings' });
  await readings.getByLabel(/^ALC, 0 to/).fill('999');
  await expect(readings.getByRole('button', { name: 'Save reading' })).toBeDisabled();
  const most = Number((await readings.getByText(/^ALC, 0 to/).textContent())?.match(/to ([\d.]+)/)?.[1]);
  await readings.getByLabel(/^ALC, 0 to/).fill(String(0.9 * most));
  await saved(page, () => readings.getByRole('button', { name: 'Save reading' }).click());
  await expect(readings.getByText(/^Saved with revision/)).toBeVisible();
  await expect(readings.getByText(/→ .*, expect about/)).toBeVisible();
  await saved(page, () => readings.getByRole('button', { name: /^Put .* on the card$/ }).click());
  await expect(readings.getByText('Stale:')).toBeVisible();

  const line = page.getByRole('textbox', { name: /Dial line/ });
  await line.fill('alc is at 40 percent now');
  await expect(page.getByText('on speech peaks: below the zone')).toBeVisible();
  await saved(page, () => line.press('Enter'));
  await expect(page.getByText(/^Noted with revision/)).toBeVisible();
  await expect(readings.getByText('Stale:')).toBeHidden();
});

test('reports on a live net: typed one after another, weighed, deleted and put back', async ({ page }) => {
  await openBench(page, 'Supper talk');
  await page.goto('/reports');
  const form = page.getByRole('form', { name: 'New report' });
  const say = async (station: string, path: string, text: string) => {
    await form.getByLabel('From (callsign or name)').fill(station);
    await form.getByRole('button', { name: /Path/ }).click();
    await page.getByRole('option', { name: path, exact: true }).click();
    await form.getByLabel('As they say it; Enter saves').fill(text);
    await form.getByLabel('As they say it; Enter saves').press('Enter');
    await expect(form.getByText(`Saved: ${station} on Supper talk`)).toBeVisible();
  };
  await form.getByLabel('As they say it; Enter saves').fill("You're 5 and 7, a bit muffled, try 3 more at 2400");
  await expect(form.getByText('readability 5, S7, muffled (slight). Advice for the dial line: 2400 +3')).toBeVisible();
  await say('Q1ONE', 'local', 'a bit muffled');
  await expect(form.getByLabel('From (callsign or name)')).toBeFocused();
  await say('Q2TWO', 'fading', '55 with QSB, not muffled here');
  await expect(page.getByText(/One says muffled \(local\).*One says otherwise \(fading\): that counts less\./)).toBeVisible();

  const list = page.getByRole('list', { name: 'Reports' });
  await list.getByRole('button', { name: 'Delete the report of Q2TWO' }).click();
  await expect(list.getByText('Q2TWO')).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(list.getByText('Q2TWO')).toBeVisible();

  // What was typed outlives a followed link.
  await form.getByLabel('As they say it; Enter saves').fill('half a sentence');
  await page.getByRole('link', { name: 'Overs', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Overs' })).toBeVisible();
  await page.goBack();
  await expect(form.getByLabel('As they say it; Enter saves')).toHaveValue('half a sentence');
});
