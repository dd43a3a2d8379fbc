/** The transmitter model on the screen: what it expects of a card, the quarrels it settles, the practice radio. */
import { expect, openBench, test } from './support.ts';

const SLOW = { timeout: 60_000 };

test('the ribbon is live end to end, and a dial being tried shows what to expect', async ({ page }) => {
  await openBench(page, 'Lighthouse DX');
  const ribbon = page.getByRole('navigation', { name: 'Transmit path' });
  await expect(ribbon.getByText(/^reach [+−]\d/)).toBeVisible(SLOW);
  await expect(ribbon.getByText(/ALC (?:read|about) 0\.\d\d/)).toBeVisible();
  await expect(ribbon.getByText(/peaks \d+ dB over average/)).toBeVisible();
  await page.keyboard.press('3');
  const numbers = page.getByRole('table', { name: 'What the model expects' });
  await expect(numbers.getByRole('row', { name: /ALC on speech peaks/ })).toContainText('0.', SLOW);
  await expect(numbers.getByText('with these values')).toHaveCount(0);
  const gain = page
    .getByRole('textbox', { name: /Mic gain/ })
    .or(page.getByRole('spinbutton', { name: /Mic gain/ }))
    .first();
  // The processor holds the level into the ALC: it gives way only a little.
  const before = Number(
    await numbers
      .getByRole('row', { name: /ALC on speech peaks/ })
      .getByRole('cell')
      .nth(1)
      .textContent(),
  );
  await gain.fill('24');
  await gain.press('Enter');
  const trying = numbers
    .getByRole('row', { name: /ALC on speech peaks/ })
    .getByRole('cell')
    .nth(2);
  await expect(trying).toContainText('0.', SLOW);
  expect(Number(await trying.textContent())).toBeLessThan(before);
});

test('narrow or wide, and any two cards against each other', async ({ page }) => {
  await openBench(page, 'Lighthouse DX');
  await page.keyboard.press('6');
  const question = page.getByRole('region', { name: 'Narrow or wide' });
  await expect(question.getByText('This over can rate usual alone.')).toBeVisible(SLOW);
  await expect(question.getByRole('row', { name: /Usual/ }).getByText(/^[+−]\d+\.\d ± \d+\.\d dB$/)).toBeVisible(SLOW);
  // What can't be rated gets no number.
  await expect(question.getByRole('row', { name: /Full/ }).getByText('–', { exact: true })).toHaveCount(3);
  await question.getByRole('button', { name: 'Hear Full' }).click();
  await expect(question.getByRole('radio', { name: 'B full' })).toBeChecked(SLOW);
  await question.getByRole('button', { name: 'Stop' }).click();
  // The over went through a narrower filter than the widest one asked about.
  await expect(page.getByText(/can't be rated fairly/)).toBeVisible();
  await page.keyboard.press('9');
  await page.getByRole('link', { name: 'All cards of this voice' }).click();
  await expect(page.getByRole('link', { name: 'Lighthouse DX' })).toBeVisible(SLOW);
  await expect(page.getByRole('progressbar')).toHaveCount(0, { timeout: 120_000 });
  await expect(page.getByText(/^B \(.+\) is heard .+ (than|as) A \(Lighthouse DX\)\.$/)).toBeVisible();
  await expect(page.getByText('starting point (school)').first()).toBeVisible();
  await expect(page.getByText('on the line').first()).toBeVisible();
  await page.getByRole('button', { name: 'Hear both' }).click();
  await expect(page.getByRole('radio', { name: 'B', exact: true })).toBeVisible(SLOW);
  await page.keyboard.press('b');
  await expect(page.getByRole('radio', { name: 'B', exact: true })).toBeChecked();
});

test('a stage is heard before and behind it', async ({ page }) => {
  await openBench(page, 'Lighthouse DX');
  await page.keyboard.press('5');
  await page.getByRole('button', { name: 'Hear this stage' }).click();
  await expect(page.getByRole('radio', { name: 'B behind it' })).toBeVisible(SLOW);
  await page.getByRole('button', { name: 'Blind test' }).click();
  await expect(page.getByRole('radio', { name: 'X', exact: true })).toBeChecked();
  await page.getByRole('button', { name: 'X is A' }).click();
  await expect(page.getByText(/[01] of 1 right/)).toBeVisible();
  await page.getByRole('button', { name: 'End the blind test' }).click();
  await expect(page.getByRole('radio', { name: 'X', exact: true })).toHaveCount(0);
  await expect(page.getByRole('img', { name: /^What the processor does/ })).toBeVisible();
});

test('the microphone is heard, and moving it away shows what that costs', async ({ page }) => {
  await openBench(page, 'Lighthouse DX');
  await page.keyboard.press('2');
  const level = page.getByRole('table', { name: 'What the model expects' }).getByRole('row', { name: /ALC on speech peaks/ });
  await expect(level.getByRole('cell').nth(1)).toContainText('0.', SLOW);
  await page.getByRole('textbox', { name: /Talking distance/ }).fill('40');
  await page.keyboard.press('Tab');
  await expect(level.getByRole('cell').nth(2)).toContainText('0.', SLOW);
  expect(Number(await level.getByRole('cell').nth(2).textContent())).toBeLessThan(
    Number(await level.getByRole('cell').nth(1).textContent()),
  );
  await page.getByRole('button', { name: 'Hear both' }).click();
  await expect(page.getByRole('radio', { name: 'B with these values' })).toBeVisible(SLOW);
});

test('a card without an over is judged with the voice of another one', async ({ page }) => {
  await openBench(page, 'Summit pile-up');
  await page.keyboard.press('9');
  const numbers = page.getByRole('table', { name: 'What the model expects' });
  await expect(numbers.getByRole('row', { name: /Reach against/ })).toContainText('dB ±', SLOW);
  await expect(page.getByText('its gain assumed so that the ALC was in the zone')).toBeVisible();
});

test('the practice radio: talk, read the meters, take the over in like a real one', async ({ page }) => {
  await page.goto('/practice');
  await page.getByRole('button', { name: 'Key up and talk' }).click();
  const meters = page.getByLabel('Meters');
  await expect(meters.getByText('Power (peak)')).toBeVisible(SLOW);
  await expect(meters.getByText(/^\d+ %$/)).toBeVisible();
  await page.getByRole('button', { name: 'Record on second receiver, next door' }).click();
  const made = page.getByRole('status').getByRole('link', { name: /^Over \d+/ });
  await expect(made).toBeVisible(SLOW);
  await page.getByRole('button', { name: 'Show what it hides' }).click();
  await expect(page.getByRole('row', { name: /Amplifier saturates/ })).toContainText('over full drive');
  // What is simulated hangs on a card of its own, and says so.
  await made.click();
  await expect(page.getByText('Practice radio 1: simulated, not of the real log.')).toBeVisible();
});
