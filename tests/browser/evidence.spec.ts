/** Evidence of every kind through the screens: the same numbers as the command line, compared, listened to. */
import { execFileSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test } from './support.ts';

/** A demo capture as a file of its own: its last samples differ, so that it counts as new. */
function fresh(name: string): { name: string; mimeType: string; buffer: Buffer } {
  const buffer = Buffer.from(readFileSync(`demo/evidence/${name}`));
  // The lowest bits only, in the last samples: no number moves.
  const bits = randomBytes(16);
  for (let n = 0; n < 16; n++) buffer[buffer.length - 2 - 2 * n] ^= bits[n] & 1;
  return { name, mimeType: 'audio/wav', buffer };
}

async function add(page: Page, files: { name: string; mimeType: string; buffer: Buffer }[], card: string): Promise<void> {
  await page.goto('/overs');
  await page.locator('input[type=file]').setInputFiles(files);
  const sheet = page.getByRole('dialog');
  const picker = sheet.getByRole('combobox', { name: 'Made with card' });
  await picker.fill(card);
  await page
    .getByRole('option', { name: new RegExp(card) })
    .first()
    .click();
}

const openMeasured = async (page: Page) => {
  await page.getByRole('dialog').getByRole('button', { name: 'Measure', exact: true }).click();
  const link = page.getByRole('dialog').getByRole('link', { name: /^over \d+$/ });
  await expect(link).toBeVisible({ timeout: 30_000 });
  await link.click();
  await expect(page.getByText('SHA-256')).toBeVisible();
};

/** The over in view: other tests judge its card by its own overs. */
async function takeBack(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Delete' }).click();
  await page.getByRole('button', { name: 'Delete the evidence' }).click();
  await expect(page.getByRole('heading', { name: 'Overs' })).toBeVisible();
}

const told = (page: Page, name: string) =>
  page.locator('dl div', { has: page.locator('dt', { hasText: new RegExp(`^${name}$`) }) }).locator('dd');
const cli = (...args: string[]) =>
  JSON.parse(execFileSync(process.execPath, ['dist/dialtune.cjs', 'measure', ...args, '--json'], { encoding: 'utf8' }));

test.beforeAll(() => {
  execFileSync('bin/dialtune', ['--help']);
});

test('an I/Q recording is recognised, its carrier proposed, and measures as on the command line', async ({ page }) => {
  await add(page, [fresh('ssb-overdriven.wav')], 'Lighthouse DX');
  await expect(page.getByRole('dialog').getByRole('button', { name: /Type of recording/ })).toContainText('SSB, I/Q');
  await openMeasured(page);
  await expect(page.getByText(/driven too hard/)).toBeVisible();
  const carrier = page.getByRole('slider', { name: /^carrier/ });
  // By keyboard to 3000 Hz exactly, wherever the proposal stands.
  await carrier.focus();
  const at = Number((await carrier.getAttribute('value')) ?? 0);
  expect(Math.abs(at - 3000)).toBeLessThan(40);
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('button', { name: 'Measure with this carrier' })).toBeEnabled();
  await page.getByText(/^How it is measured/).click();
  await page.getByLabel('Carrier from the centre, Hz').fill('3000');
  await page.getByRole('button', { name: 'Measure again' }).click();
  await expect(page.getByText('The carrier was set by hand.')).toBeVisible({ timeout: 30_000 });
  const expected = cli('demo/evidence/ssb-overdriven.wav', '--as', 'ssb', '--carrier', '3000');
  await expect(told(page, 'occupied bandwidth')).toHaveText(`${Math.round(expected.occupiedBandwidthHz)} Hz`);
  await expect(told(page, 'opposite sideband')).toHaveText(`−${Math.abs(expected.oppositeSidebandDb).toFixed(1)} dB`);
});

test('a recording on the wrong sideband offers the other one, and I and Q swapped', async ({ page }) => {
  // Of its own: other tests count on the demo's as it is.
  await add(page, [fresh('ssb-overdriven.wav')], 'Lighthouse DX');
  await openMeasured(page);
  await page.getByText(/^How it is measured/).click();
  await page.getByLabel('Carrier from the centre, Hz').fill('3000');
  await page.getByRole('button', { name: /Sideband/ }).click();
  await page.getByRole('option', { name: 'LSB' }).click();
  await page.getByRole('button', { name: 'Measure again' }).click();
  await page.getByRole('button', { name: 'Measure with I and Q swapped' }).click({ timeout: 30_000 });
  await expect(page.getByRole('slider', { name: 'carrier −3000 Hz' })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('Most of the power is on the other side')).toHaveCount(0);
  // An answer that takes longer than the page waits before it asks again is shown all the same.
  await page.route(/_rsc=/, async (route) => {
    const answer = await route.fetch();
    await new Promise((resolve) => setTimeout(resolve, 2500));
    await route.fulfill({ response: answer });
  });
  await page.getByText(/^How it is measured/).click();
  await page.getByLabel('Carrier from the centre, Hz').fill('-2990');
  await page.getByRole('button', { name: 'Measure again' }).click();
  await expect(page.getByRole('slider', { name: 'carrier −2990 Hz' })).toBeVisible({ timeout: 15_000 });
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await takeBack(page);
});

test('SigMF’s two files are one recording; one alone is told so', async ({ page }) => {
  const wav = fresh('fm-wide.wav').buffer;
  const meta = {
    global: { 'core:datatype': 'ci16_le', 'core:sample_rate': 32000, 'core:version': '1.0.0' },
    captures: [{ 'core:sample_start': 0, 'core:frequency': 145_600_000 }],
    annotations: [{ 'core:sample_start': 99_999_999 }],
  };
  const files = [
    { name: 'repeater.sigmf-meta', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(meta)) },
    { name: 'repeater.sigmf-data', mimeType: 'application/octet-stream', buffer: wav.subarray(44) },
  ];
  await page.goto('/overs');
  await page.locator('input[type=file]').setInputFiles(files.slice(1));
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('other half');
  await page.keyboard.press('Escape');
  await add(page, files, 'Liaison repeater');
  await openMeasured(page);
  await expect(page.getByText('This is wide FM')).toBeVisible();
  await expect(page.getByText(/centre at 145\.6 MHz/)).toBeVisible();
  await expect(page.getByText(/Meta and data disagree: 1 segments/)).toBeVisible();
  await expect(told(page, 'CTCSS tone')).toHaveText('88.5 Hz');
  const saved = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save as SigMF: meta' }).click();
  expect(JSON.parse(readFileSync(await (await saved).path(), 'utf8')).global['core:datatype']).toBe('ci16_le');
  await takeBack(page);
});

test('a scope trace and a curve as CSV become numbers; a wrong one is refused in one sentence', async ({ page }) => {
  const trace = readFileSync('demo/evidence/scope-trace.csv', 'utf8').replace(
    'second,volt',
    `second,volt # ${randomBytes(4).toString('hex')}`,
  );
  await add(page, [{ name: 'trace.csv', mimeType: 'text/csv', buffer: Buffer.from(trace) }], 'Hilltop portable');
  await expect(page.getByRole('dialog').getByRole('button', { name: /Type of recording/ })).toContainText('scope trace');
  await openMeasured(page);
  await expect(told(page, 'PEP')).toHaveText('1.25 W');
  const curve = ['Hz;dB', '100;-20', '300;-1', '1000;0', '2000;-6,5', `3000;-19,${randomBytes(2).readUInt16BE()}`].join('\n');
  await add(page, [{ name: 'curve.csv', mimeType: 'text/csv', buffer: Buffer.from(curve) }], 'Hilltop portable');
  await openMeasured(page);
  await expect(page.getByText('The radio is dull')).toBeVisible();
  await add(page, [{ name: 'bad.csv', mimeType: 'text/csv', buffer: Buffer.from('100,0,-3,5\n1000,0,0,0\n') }], 'Hilltop portable');
  const sheet = page.getByRole('dialog');
  await sheet.getByRole('button', { name: /Type of recording/ }).click();
  await page.getByRole('option', { name: /response/ }).click();
  await sheet.getByRole('button', { name: 'Measure', exact: true }).click();
  await expect(sheet.getByRole('alert')).toContainText('semicolons');
});

test('overs side by side: driven alike or not, what differs, and a blind test by keyboard', async ({ page }) => {
  await page.goto('/overs?search=Lighthouse DX');
  const boxes = page.getByRole('checkbox', { name: /^Compare over/ });
  await boxes.nth(0).press('Space');
  await expect(page.getByText('Pick another to compare with')).toBeVisible();
  await page.goto('/overs/compare?overs=13,14');
  await expect(page.getByText(/not driven equally: B \+5\.4 dB against A/)).toBeVisible();
  const row = page.getByRole('row', { name: /^opposite sideband/ });
  await expect(row).toContainText('≤');
  await expect(row.getByRole('img').or(row.locator('svg'))).toHaveCount(1);
  await expect(page.getByRole('img', { name: /^Spectrogram of A.*s$/ })).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Blind test A against B' }).click();
  await expect(page.getByText('0 of 0 right.')).toBeVisible();
  const isA = page.getByRole('button', { name: 'X is A' });
  await expect(isA).toBeEnabled({ timeout: 20_000 });
  for (const key of ['a', 'b', 'x']) {
    await page.keyboard.press(key);
    await expect(page.getByRole('radio', { name: key.toUpperCase(), exact: true })).toBeChecked();
  }
  for (let trial = 1; trial <= 5; trial++) {
    await isA.click();
    await expect(page.getByText(new RegExp(`of ${trial} right`))).toBeVisible();
  }
  await expect(page.getByText(/guessing does as well/)).toBeVisible();
  await page.getByRole('slider', { name: 'Loop ends' }).press('ArrowLeft');
  await page.keyboard.press('l');
  await expect(page.getByRole('button', { name: 'Listen', exact: true })).toBeVisible();
});

test('two responses: against each other, and mic or radio', async ({ page }) => {
  await page.goto('/overs/compare?overs=20,21');
  await expect(page.getByText(/highs \(1800–2700 Hz\) B has .* less than A/)).toBeVisible();
  await page.getByText(/Is it the mic or the radio/).click();
  await expect(page.getByText(/it is the mic, which takes away/)).toBeVisible();
});

test('one page of answer: is a radio fit for the air, mode by mode, from what was recorded of it', async ({ page }) => {
  await page.goto('/overs/15');
  await page.getByRole('link', { name: 'Is this radio fit for the air?' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Is Knot 5 fit for the air?');
  await expect(page.getByText('Not fit in SSB.')).toBeVisible();
  await expect(page.getByText('Not fit for the air: opposite sideband.')).toBeVisible();
  await expect(page.getByRole('link', { name: 'over 15' })).toBeVisible();
  // Modes that nobody recorded stay open; a practice radio has nothing of the real one.
  await page.goto('/station/rigs/1/air');
  await expect(page.getByText('Not measured: an I/Q recording of it')).not.toHaveCount(0);
  await page.goto('/station/rigs/3/air?practice=2');
  await expect(page.getByText('Open in SSB.')).toBeVisible();
  await page.goto('/station/rigs/99999/air');
  await expect(page.getByRole('heading', { level: 1 })).not.toContainText('fit for the air');
});

test('limits of the station’s own count, and go back', async ({ page }) => {
  await page.goto('/station/limits');
  const watch = page.getByRole('textbox', { name: 'Watch below: Peak deviation, low' });
  const keep = page.getByRole('button', { name: 'Save the limit for Peak deviation, low' });
  await watch.fill('3000');
  await keep.click();
  await expect(page.getByText('your own limit is saved')).toBeVisible();
  await page.goto('/overs/18');
  await expect(page.getByText(/reported as low power, with/)).toBeVisible();
  await page.getByText(/^How it is measured/).click();
  await page.getByRole('button', { name: 'Measure again' }).click();
  await expect(page.getByText(/Low deviation, even for a narrow channel/)).toBeVisible({ timeout: 30_000 });
  await page.goto('/station/limits');
  await page.getByRole('button', { name: 'Built-in limit for Peak deviation, low' }).click();
  await expect(page.getByText('back to the built-in limit')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Built-in limit for Peak deviation, low' })).toHaveCount(0);
  await page.getByRole('textbox', { name: 'Watch below: Peak deviation, low' }).fill('100');
  await page.getByRole('button', { name: 'Save the limit for Peak deviation, low' }).click();
  await expect(page.getByText('A fault must be worse than a watch')).toBeVisible();
});

test('the test bench makes signals that measure as what they are', async ({ page }) => {
  await page.goto('/testbench');
  await page.getByLabel('Each sweep, s').fill('3');
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as WAV' }).click();
  const { clockPpm, mistuneHz } = cli(await (await saved).path(), '--as', 'response');
  expect(Math.abs(clockPpm)).toBeLessThan(0.5);
  expect(Math.abs(mistuneHz)).toBeLessThan(0.5);
  await expect(page.getByText('1 W, 30.0 dBm')).toBeVisible();
  await page.getByLabel('Transmitter, W').fill('100');
  await expect(page.getByText('70 dB', { exact: true })).toBeVisible();
  await page.getByLabel('Level of harmonic 2').fill('-40');
  await expect(page.getByText('−3.0 dB')).toBeVisible();
});
