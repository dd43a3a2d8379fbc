/** The guided run: by the meters alone, resumed, and the next move that follows from what was read. */
import { expect, openBench, saved, test } from './support.ts';

const SLOW = { timeout: 60_000 };

test('a run by the meters alone: ticked, read, turned, and gone on with another day', async ({ page }) => {
  await page.goto('/cards?search=Rare square');
  const bench = await page.getByRole('link', { name: 'Rare square at the Bench' }).first().getAttribute('href');
  const card = /card=(\d+)/.exec(bench ?? '')?.[1];
  await page.goto(`/tune?card=${card}&ears=none`);
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name: 'Prepare' })).toBeVisible();

  // Safety first: nothing is good enough before it is ticked.
  const boxes = page.getByRole('checkbox');
  await expect(page.getByText('5 of 5 left to tick.')).toBeVisible();
  for (let k = 0; k < 5; k++) await saved(page, () => boxes.nth(k).check({ force: true }));
  await expect(page.getByText('Ready to transmit.')).toBeVisible();
  await saved(page, () => page.getByRole('button', { name: 'Done, next step' }).click());
  await expect(page.getByRole('heading', { name: 'Microphone', level: 1 })).toBeVisible();
  const run = page.url();

  // Any step can be looked at; another day the run stands where it was left.
  await saved(page, () => page.getByRole('button', { name: /Mic gain and ALC/ }).click());
  await page.goto('/tune');
  await page.getByRole('link', { name: /^Go on with/ }).click();
  await expect(page).toHaveURL(run);
  await expect(page.getByRole('heading', { name: 'Mic gain and ALC', level: 1 })).toBeVisible();
  await expect(
    page
      .getByText('Make the first over')
      .or(page.getByRole('region', { name: 'Next move' }))
      .first(),
  ).toBeVisible();

  // A reading far below the zone: more gain, by how much, and what to expect.
  await page.getByLabel(/^ALC, 0 to/).fill('0');
  await saved(page, () => page.getByRole('button', { name: 'Save reading' }).click());
  await expect(page.getByText(/is below the zone/)).toBeVisible(SLOW);
  const move = page.getByRole('region', { name: 'Next move' });
  await expect(move.getByText(/^Expect ALC about/)).toBeVisible(SLOW);
  await expect(move.getByText('The ALC was below the zone.')).toBeVisible();
  await saved(page, () => move.getByRole('button', { name: /^Put it on the card/ }).click());
  await expect(move.getByText('Set these on the radio, and talk again')).toBeVisible(SLOW);
  await expect(page.getByText(/^Stale: since it was read/)).toBeVisible();

  // Read again: it is told whether it came true.
  await page.getByLabel(/^ALC, 0 to/).fill('.4');
  await saved(page, () => page.getByRole('button', { name: 'Save reading' }).click());
  await expect(move.getByText(/ALC: expected .* got 0\.4/)).toBeVisible(SLOW);
  await expect(page.getByText(/is inside the zone\./)).toBeVisible();
});

test('a whole run on a practice radio with a carrier offset ends with a card to trust', async ({ page }) => {
  test.setTimeout(400_000);
  await page.goto('/cards?search=Beach net');
  const bench = await page.getByRole('link', { name: 'Beach net at the Bench' }).first().getAttribute('href');
  await page.goto(`/tune?card=${/card=(\d+)/.exec(bench ?? '')?.[1]}&ears=practice`);
  await page.getByRole('button', { name: 'Begin' }).click();
  const title = page.getByRole('heading', { level: 1 });
  await expect(title).toHaveText('Prepare');
  const [done, put, count] = [
    page.getByRole('button', { name: 'Done, next step' }),
    page.getByRole('button', { name: /^Put (it|them|.* Hz) on the card/ }).first(),
    page.getByText(/^\d+ overs?, \d+ changes? of the card/),
  ];
  const visited: string[] = [];
  for (let overs = 0; overs <= 12; ) {
    await page.waitForTimeout(500);
    await expect(page.getByText(/Calculating|Measuring|Talking/)).toHaveCount(0, SLOW);
    const step = await title.innerText();
    if (visited.at(-1) !== step) visited.push(step);
    if (step === 'Prepare' || step === 'Finish')
      for (const box of await page.getByRole('checkbox').all())
        if (!(await box.isChecked())) await saved(page, () => box.check({ force: true }));
    if (step === 'Finish') break;
    // Nobody is asked on a practice radio.
    const onward = step === 'Reports' ? page.getByRole('button', { name: 'Skip' }) : done;
    if (step === 'Prepare') await expect(done).toBeVisible(SLOW);
    if (await onward.isVisible()) {
      await saved(page, () => onward.click());
      await expect(title).not.toHaveText(step, SLOW);
      continue;
    }
    if (await put.isVisible()) await saved(page, () => put.click());
    const before = await count.innerText();
    await page.getByRole('button', { name: 'Key up and talk' }).click();
    overs++;
    await expect(count).not.toHaveText(before, { timeout: 90_000 });
  }
  expect(visited.at(-1)).toBe('Finish');
  expect(visited.slice(0, 4)).toEqual(['Prepare', 'Microphone', 'Baseline', 'Passband']);
  await expect(page.getByText('The card is yours to trust.')).toBeVisible(SLOW);
  // The voice sounds sharp, and this radio's carrier is where it belongs: the tone dials mend it.
  await expect(page.getByRole('complementary').getByText('Transmit treble').first()).toBeVisible();
  await expect(page.getByRole('complementary').getByText('Carrier offset')).toHaveCount(0);
});

test('"Not this" is remembered with the card', async ({ page }) => {
  await openBench(page, 'Lighthouse DX');
  const move = page.getByRole('region', { name: 'Next move' });
  // Far too much gain for what was read before.
  const line = page.getByRole('textbox', { name: /^Dial line/ });
  await line.fill('mic 95');
  await saved(page, () => line.press('Enter'));
  await expect(move.getByRole('heading', { level: 3 })).toContainText('Mic gain', SLOW);
  await saved(page, () => move.getByRole('button', { name: 'Not this' }).click());
  await expect(move.getByRole('button', { name: 'Show skipped moves' })).toBeVisible();
  await page.reload();
  await expect(move.getByRole('button', { name: 'Show skipped moves' })).toBeVisible(SLOW);
  await saved(page, () => move.getByRole('button', { name: 'Show skipped moves' }).click());
  await expect(move.getByRole('button', { name: 'Show skipped moves' })).toBeHidden();
});

test('a carrier offset is bracketed from the passband step on', async ({ page }) => {
  await page.goto('/cards?search=Hilltop');
  const bench = await page.getByRole('link', { name: 'Hilltop portable at the Bench' }).getAttribute('href');
  await page.goto(`${bench}&stage=passband`);
  const part = page.getByRole('region', { name: 'Carrier offset' });
  await expect(part).toBeVisible(SLOW);
  await expect(part.getByRole('table', { name: /^Offsets that were tried/ }).getByRole('row')).not.toHaveCount(1);
  await expect(part.getByText(/→|Make an over at|Bracketed/)).toBeVisible();
});

test('drive by an analyser and the power meter: the table, the knee, and what to turn first', async ({ page }) => {
  await openBench(page, 'Rare square');
  const at = page.url();
  const note = async (numbers: Record<string, string>) => {
    await page.goto(`${at}&stage=alc`);
    const save = page.getByRole('button', { name: 'Save reading' });
    for (const [label, text] of Object.entries(numbers)) await page.getByLabel(label, { exact: true }).fill(text);
    await saved(page, () => save.click());
    await expect(page.getByText(/^Saved with revision/)).toBeVisible(SLOW);
  };
  await page.goto(`${at}&stage=alc`);
  const nextChannel = page.getByLabel('Next channel, dB', { exact: true });
  await nextChannel.fill('loud');
  await expect(page.getByText('−120 to 0 dB re the voice, by an analyser.')).toBeVisible(SLOW);
  // What was typed is there again; a field is not typed into while that comes.
  await page.reload();
  await expect(nextChannel).toHaveValue('loud', SLOW);
  await nextChannel.fill('');
  await expect(page.getByText('−120 to 0 dB re the voice, by an analyser.')).toBeHidden(SLOW);
  await note({ 'Next channel, dB': '-31', 'Power, W': '90' });
  await expect(page.getByRole('cell', { name: '90 W, next channel −31 dB' })).toBeVisible();
  await page.goto(`${at}&stage=on-air`);
  const drives = page.getByRole('table', { name: 'Drives that were tried' });
  const row = drives.getByRole('row').last();
  await expect(row).toContainText('−31 dB', SLOW);
  await expect(row).toContainText('90 W');
  await expect(row).toContainText('too much');
  await expect(page.getByRole('region', { name: 'Next move' }).getByText(/next channel is not clean/)).toBeVisible(SLOW);
  // Whatever the sign was, it lies below the voice; the newest reading counts.
  await note({ 'Next channel, dB': '48' });
  await page.goto(`${at}&stage=on-air`);
  await expect(drives.getByRole('row').last()).toContainText('−48 dB', SLOW);
  await expect(page.getByRole('region', { name: 'Next move' }).getByText(/next channel is not clean/)).toBeHidden(SLOW);
});

test('FM through a repeater: both widths are heard with the loss left in', async ({ page }) => {
  await page.goto('/cards?search=repeater');
  const bench = await page
    .getByRole('link', { name: / at the Bench$/ })
    .first()
    .getAttribute('href');
  await page.goto(`${bench}&stage=on-air`);
  const part = page.getByRole('region', { name: 'Deviation against mic gain' });
  await expect(part.getByRole('heading', { name: 'Through a repeater' })).toBeVisible(SLOW);
  await expect(part.getByText(/comes out at ±?0 dB and .* at −6 dB/)).toBeVisible();
  // The Bench leads by what was measured of the deviation.
  await expect(page.getByRole('region', { name: 'Next move' }).getByText(/^Peaks usually deviate .* kHz; wide wants/)).toBeVisible(SLOW);
  await part.getByRole('button', { name: 'Hear both' }).click();
  await expect(part.getByRole('radio', { name: /^A / })).toBeVisible(SLOW);
  await expect(part.getByRole('radio', { name: /^B / })).toBeVisible();
});
