import { expect, press, test } from './support.ts';

const name = (what: string) => `${what} ${Math.random().toString(36).slice(2, 7)}`;

test("by keyboard: a radio from its manual's table, a card for it, and the right sheet", async ({ page }) => {
  const radio = name('Plover');
  await page.goto('/station');
  await press(page, 'r', page.getByRole('heading', { name: 'Describe a radio' }));
  await page.keyboard.type(radio);
  await page.keyboard.press('Tab');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('radio', { name: /Two tone knobs/ })).toBeChecked();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: `New radio: ${radio}` })).toBeVisible();

  // As the manual has it: other addresses, another range.
  const cell = (label: string) => page.getByRole('textbox', { name: label, exact: true });
  await cell('Menu address of Transmit bass').fill('EX-11');
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Number the dials after Transmit bass from EX-11 on' }).press('Enter');
  await expect(cell('Menu address of Transmit treble')).toHaveValue('EX-12');
  await cell('Range of Transmit treble').fill('-10 to 10 by 2');
  await cell('Range of Transmit bass').fill('10 to 0');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('alert').filter({ hasText: 'upside down' })).toBeVisible();
  await cell('Range of Transmit bass').fill('-8 to 8');
  await page.keyboard.press('Tab');
  await cell('Menu address of Transmit filter').fill('EX-11');
  await page.keyboard.press('Tab');
  await expect(page.locator('main').getByRole('alert')).toContainText('Two dials have the menu address EX-11');
  await expect(page.getByRole('button', { name: 'Save radio' })).toBeDisabled();
  await cell('Menu address of Transmit filter').fill('EX-05');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('region', { name: 'The resulting path' })).toContainText('300–2700 Hz');
  await page.getByRole('button', { name: 'Save radio' }).press('Enter');
  await expect(page.getByRole('cell', { name: radio, exact: true })).toBeVisible();

  await page.goto('/cards');
  const dialog = page.getByRole('dialog');
  await press(page, 'c', dialog);
  await dialog.getByLabel('Name').fill(`Net on ${radio}`);
  await dialog.getByRole('button', { name: /^.*Rig$/ }).press('Enter');
  await page.getByRole('option', { name: radio }).press('Enter');
  await dialog.getByRole('button', { name: /Start from/ }).press('Enter');
  await page.getByRole('option', { name: /DX and pile-ups/ }).press('Enter');
  await expect(dialog.getByText('A starting point of common practice')).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Create card' })).toBeEnabled();
  await dialog.getByRole('button', { name: 'Create card' }).press('Enter');
  await expect(page.getByRole('heading', { name: `Net on ${radio}` })).toBeVisible();
  await expect(page.getByText('starting point: dx and pile-ups')).toBeVisible();
  await page.getByRole('link', { name: 'Dial sheet' }).press('Enter');

  // Menu order, from the factory: processor on, then bass down, treble up; nothing else.
  await expect(page.getByRole('heading', { name: `Dial sheet: Net on ${radio}` })).toBeVisible();
  const rows = page.locator('tbody tr');
  const labels = await rows.locator('td:nth-child(3)').allTextContents();
  expect(labels).toEqual(['Processor', 'Processor level', 'Transmit bass', 'Transmit treble']);
  await expect(rows.filter({ hasText: 'Transmit bass' })).toContainText('EX-11');

  // Space ticks and goes on; the next sheet starts from what was ticked.
  await page.getByRole('checkbox', { name: /^Processor done/ }).focus();
  await page.keyboard.press('Space');
  // Once it is kept, the sheet is still the same.
  await expect(page.getByRole('status')).not.toContainText('saving');
  await expect(page.getByRole('status')).toContainText('1 of 4 ticked off');
  for (let i = 1; i < labels.length; i++) await page.keyboard.press('Space');
  await expect(page.getByRole('status')).toContainText('4 of 4 ticked off');
  await expect(page.getByRole('status')).not.toContainText('saving');
  await page.reload();
  await expect(page.getByText('Nothing has to change.')).toBeVisible();
  await expect(page.getByRole('button', { name: /The radio holds now/ })).toContainText('what was last ticked off');
});

test('rows of a table pasted, dials that wait for a switch, undo', async ({ page }) => {
  const radio = name('Dotterel');
  await page.goto('/station/rigs/new');
  await page.getByLabel('What you call the radio').fill(radio);
  await page.getByText('No equalizer').click();
  await page.getByRole('button', { name: 'Start' }).click();
  await page.getByRole('button', { name: /Paste rows/ }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox').fill('7; Voice; off, on; off\n8; Brightness; 0 to 9; 4\n9; Wrong; 9 to 0');
  await expect(dialog.getByRole('alert')).toContainText('Line 3');
  await dialog.getByRole('button', { name: 'Add 2 dials' }).click();
  await page.getByRole('button', { name: 'When Brightness works' }).click();
  await page.getByRole('dialog').getByRole('checkbox', { name: 'on', exact: true }).last().press('Space');
  await page.getByRole('dialog').getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('button', { name: 'When Brightness works' })).toHaveText(/ on$/);
  await page.getByRole('button', { name: 'Remove Brightness' }).click();
  await expect(page.getByRole('textbox', { name: 'Label of Brightness' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('textbox', { name: 'Label of Brightness' })).toBeVisible();
  await page.getByRole('button', { name: 'Save radio' }).click();
  await expect(page.getByRole('cell', { name: radio, exact: true })).toBeVisible();
});

test('a rig file: what is wrong is listed with its place; the file that comes out goes in again', async ({ page }) => {
  await page.goto('/station');
  const profile = await (await page.request.get('/api/rigs/1')).json();
  const rigs = page.getByRole('region', { name: 'Rigs' });
  const choose = async (content: string) => {
    const chooser = page.waitForEvent('filechooser');
    await rigs.getByRole('button', { name: 'Import a rig' }).click();
    await (await chooser).setFiles({ name: 'rig.json', mimeType: 'application/json', buffer: Buffer.from(content) });
  };
  await choose('{ "half');
  await expect(rigs.getByRole('alert')).toContainText('not valid JSON');
  const wrong = structuredClone(profile);
  wrong.name = name('Knot');
  wrong.dials[0].scale.min = 900;
  wrong.dials[2].menu = wrong.dials[1].menu;
  await choose(JSON.stringify(wrong));
  await expect(rigs.getByRole('alert').getByRole('listitem')).toHaveCount(2);
  await expect(rigs.getByRole('alert')).toContainText('dials.0.scale');
  await choose(JSON.stringify({ ...profile, name: wrong.name, __proto__x: 1 }));
  await expect(rigs.getByRole('alert')).toContainText('not known here');
  await choose(`{"__proto__":{"a":1},${JSON.stringify(profile).slice(1)}`);
  await expect(rigs.getByRole('alert')).toContainText('not allowed');
  await choose('['.repeat(5000));
  await expect(rigs.getByRole('alert')).toContainText('nested');
  const good = { ...profile, name: wrong.name };
  await choose(JSON.stringify(good));
  await expect(page.getByRole('cell', { name: wrong.name, exact: true })).toBeVisible();
  const file = await page.getByRole('link', { name: `${wrong.name} as a file` }).getAttribute('href');
  expect(await (await page.request.get(file ?? '')).json()).toEqual(good);
});

test('a microphone: curves typed and checked, drawn with the proximity effect', async ({ page }) => {
  const mic = name('Heron');
  await page.goto('/station/microphones/new');
  await page.getByLabel('Name').first().fill(mic);
  await page.getByLabel(/^Kind/).fill('dynamic boom mic');
  await page.getByRole('button', { name: 'Add a position' }).click();
  const positions = page.getByRole('region', { name: 'Switch positions' });
  await positions.getByLabel('Name').fill('high boost');
  const curve = positions.getByLabel(/Response/);
  await curve.fill('1000 0');
  await expect(positions.getByText('at least two points')).toBeVisible();
  await curve.fill('1000 0\n500 3');
  await expect(positions.getByText('does not come after')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save microphone' })).toBeDisabled();
  await curve.fill('Hz;dB\n100;-2\n1000;0\n3000;5');
  await page.getByLabel('Talking distance, cm').first().fill('4');
  await expect(page.getByText(/At 4 cm this cardioid capsule lifts 200 Hz by \d+\.\d dB/)).toBeVisible();
  await page.getByRole('button', { name: 'Save microphone' }).click();
  await expect(page.getByRole('cell', { name: mic, exact: true })).toBeVisible();
  const href = await page.getByRole('link', { name: `${mic} as a file` }).getAttribute('href');
  const file = await (await page.request.get(href ?? '')).json();
  expect(file).toMatchObject({ format: 'dialtune-microphone', name: mic, distanceCm: 4 });
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a microphone' }).click();
  const twin = { ...file, name: `${mic} B` };
  await (await chooser).setFiles({ name: 'mic.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(twin)) });
  await expect(page.getByRole('cell', { name: `${mic} B`, exact: true })).toBeVisible();
  const second = await page.getByRole('link', { name: `${mic} B as a file` }).getAttribute('href');
  expect(await (await page.request.get(second ?? '')).json()).toEqual(twin);
  await page.getByRole('link', { name: `Copy ${mic}`, exact: true }).click();
  await expect(page.getByLabel('Name').first()).toHaveValue(`${mic}, copy`);
  await expect(page.getByRole('region', { name: 'Switch positions' }).getByLabel(/Response/)).toHaveValue('100 -2\n1000 0\n3000 5');
});

test('operators and receivers: added, edited, copied, retired and brought back', async ({ page }) => {
  const who = name('Ylva');
  const call = `Q${Math.random().toString(36).slice(2, 6).toUpperCase()}`;
  await page.goto('/station');
  const operators = page.getByRole('region', { name: 'Operators' });
  await operators.getByRole('button', { name: 'Add an operator' }).click();
  await page.getByLabel('Name').fill(who);
  await page.getByLabel('Callsign').fill('x');
  await expect(page.getByText('Letters, digits and /')).toBeVisible();
  await page.getByLabel('Callsign').fill(call);
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(operators.getByText(call)).toBeVisible();
  await operators.getByRole('button', { name: `Edit ${who}` }).click();
  await page.getByLabel(/^Note/).fill('<b>quick</b> voice');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(operators.getByText('<b>quick</b> voice')).toBeVisible();
  await operators.getByRole('button', { name: `Retire ${who}` }).click();
  await expect(operators.getByText(call)).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(operators.getByText(call)).toBeVisible();
  await operators.getByRole('button', { name: `Retire ${who}` }).click();
  await page.getByText('Show retired').click();
  await expect(operators.getByText(`${who} (retired)`)).toBeVisible();

  const receivers = page.getByRole('region', { name: 'Receivers' });
  await receivers.getByRole('button', { name: 'Copy Hill remote' }).click();
  const copy = name('Dale remote');
  await page.getByLabel('Name').fill(copy);
  await page.getByLabel(/^Lowest/).fill('5000');
  await expect(page.getByText('the lowest below the highest')).toBeVisible();
  await page.getByLabel(/^Lowest/).fill('120');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(receivers.getByRole('row', { name: new RegExp(copy) })).toContainText('120–3500 Hz');
  await receivers.getByRole('button', { name: `Retire ${copy}` }).click();
});

test('the stale memory of the demo is found, and recorded again by its checklist', async ({ page }) => {
  await page.goto('/station');
  const tern = page.getByRole('row', { name: /^Tern 100/ });
  await expect(tern).toContainText('stale');
  await tern.getByRole('link', { name: 'voice memories' }).click();
  const first = page.getByRole('row', { name: /CQ lighthouse weekend/ });
  await expect(first).toContainText('stale: equalizer up to');
  await first.getByRole('button', { name: 'Record memory 1' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('Set the radio to upper sideband')).toBeVisible();
  await expect(dialog.getByText('Processor (2.01): on.')).toBeVisible();
  await expect(dialog.getByText('Mic equalizer (4.01): on.')).toBeVisible();
  await dialog.getByRole('checkbox').first().press('Space');
  await dialog.getByRole('button', { name: 'It is recorded' }).click();
  await expect(first).toContainText('matches revision');
  const second = page.getByRole('row', { name: /CQ from Q0BRA/ });
  const whole = await second.textContent();
  await second.getByRole('button', { name: 'Forget memory 2' }).click();
  await expect(second).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(second).toHaveText(whole ?? '');
});
