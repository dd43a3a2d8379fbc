/** What was typed is not lost: not to a link, a closed sheet, a failed server or a faster tab. */
import type { Page } from '@playwright/test';
import { expect, openBench, saved, test } from './support.ts';

// One of them cuts the line to the server.
test.use({ mayFailLoads: true });

/** The page listens once what was typed is kept. */
const kept = (page: Page, name: string) =>
  expect.poll(() => page.evaluate((key) => localStorage.getItem(`dialtune-draft ${key}`), name)).not.toBeNull();

test('a note outlives a followed link, and comes back with a word about it', async ({ page }) => {
  await page.goto('/overs/3');
  const note = page.getByLabel('Note', { exact: true });
  const before = await note.inputValue();
  await note.fill('half a sentence');
  await kept(page, 'over 3');
  await page.getByRole('link', { name: 'Cards' }).click();
  await expect(page.getByRole('heading', { name: 'Cards' })).toBeVisible();
  await page.goto('/overs/3');
  await expect(note).toHaveValue('half a sentence');
  await expect(page.getByText('Your unsaved changes from')).toBeVisible();
  await page.getByRole('button', { name: 'Discard' }).click();
  await expect(note).toHaveValue(before);
  await page.reload();
  await expect(note).toHaveValue(before);
});

/** Opens a page whose scripts are held back. @returns lets them come */
async function openHeld(page: Page, address: string): Promise<() => void> {
  let listen = () => {};
  const held = new Promise<void>((resolve) => {
    listen = resolve;
  });
  await page.route('**/_next/static/**/*.js*', async (route) => {
    await held;
    await route.continue();
  });
  await page.goto(address, { waitUntil: 'commit' });
  return listen;
}

test('what is typed before the page listens is not lost', async ({ page }) => {
  const listen = await openHeld(page, '/overs/5');
  const note = page.getByLabel('Note', { exact: true });
  await note.fill('typed early');
  listen();
  await kept(page, 'over 5');
  await page.reload();
  await expect(note).toHaveValue('typed early');
  await page.getByRole('button', { name: 'Discard' }).click();
});

test('what is pressed before the page listens is done once it does, and once only', async ({ page }) => {
  let listen = await openHeld(page, '/station');
  await page.getByRole('button', { name: 'Keys' }).dblclick();
  await expect(page.getByRole('button', { name: 'Add an operator' })).toBeVisible();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  listen();
  await expect(page.getByRole('dialog')).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  // A press that spans the moment, and another after it: each counts once.
  await page.unrouteAll();
  await page.emulateMedia({ colorScheme: 'light' });
  listen = await openHeld(page, '/station');
  const theme = () => page.evaluate(() => document.documentElement.dataset.theme ?? 'day');
  const lamp = page.getByRole('button', { name: 'Day or night' });
  await expect(page.getByRole('button', { name: 'Add an operator' })).toBeVisible();
  await lamp.hover();
  await page.mouse.down();
  listen();
  await expect.poll(() => page.evaluate(() => window.dialtuneEarly?.clicked)).toBeNull();
  await page.mouse.up();
  await expect.poll(theme).toBe('night');
  await lamp.click();
  await expect.poll(theme).toBe('day');
  await page.unrouteAll();
  listen = await openHeld(page, '/station');
  await expect(page.getByRole('button', { name: 'Add an operator' })).toBeVisible();
  await lamp.press('Enter');
  listen();
  await expect.poll(theme).toBe('night');
});

test('what is ticked before the page listens stays ticked, and is known', async ({ page }) => {
  const listen = await openHeld(page, '/station');
  const retired = page.getByRole('checkbox', { name: /retired/i });
  await expect(retired).not.toBeChecked();
  await retired.evaluate((box: HTMLInputElement) => box.click());
  await expect(retired).toBeChecked();
  listen();
  await expect(page).toHaveURL(/retired=1/);
  await expect(retired).toBeChecked();
});

test('the slower of two tabs is told, keeps its note, and may save it anyway', async ({ page, context }) => {
  const other = await context.newPage();
  for (const tab of [page, other]) await tab.goto('/overs/4');
  const note = (tab: typeof page) => tab.getByLabel('Note', { exact: true });
  await note(other).fill('from the other tab');
  await other.getByRole('button', { name: 'Save note' }).click();
  await expect(other.getByText('Saved.')).toBeVisible();
  await note(page).fill('from the slower tab');
  await page.getByRole('button', { name: 'Save note' }).click();
  await expect(page.getByText('changed meanwhile in another tab (now "from the other tab")')).toBeVisible();
  await expect(note(page)).toHaveValue('from the slower tab');
  await page.getByRole('button', { name: 'Save mine anyway' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await other.reload();
  await expect(note(other)).toHaveValue('from the slower tab');
  await other.close();
});

// Receivers, card names and targets are kept by the same form; the server's side of each is in tests/server.
test('operators and limits: the second tab is told', async ({ page, context }) => {
  const other = await context.newPage();
  const told = async (
    address: string,
    open: (tab: typeof page) => Promise<void>,
    field: string,
    save: string,
    values: [string, string],
  ) => {
    for (const tab of [page, other]) {
      await tab.goto(address);
      await open(tab);
    }
    const before = await page.getByLabel(field, { exact: true }).inputValue();
    await other.getByLabel(field, { exact: true }).fill(values[0]);
    await saved(other, () => other.getByRole('button', { name: save, exact: true }).click());
    await page.getByLabel(field, { exact: true }).fill(values[1]);
    await page.getByRole('button', { name: save, exact: true }).click();
    await expect(page.getByText('changed meanwhile in another tab')).toBeVisible();
    await expect(page.getByLabel(field, { exact: true })).toHaveValue(values[1]);
    // Put back as it was, over what the other tab saved.
    await page.evaluate(() => localStorage.clear());
    await page.goto(address);
    await open(page);
    await page.getByLabel(field, { exact: true }).fill(before);
    await saved(page, () => page.getByRole('button', { name: save, exact: true }).click());
  };
  const press = (name: string | RegExp) => async (tab: typeof page) => tab.getByRole('button', { name, exact: true }).click();
  await told('/station', press(/^Edit Runa/), 'Name', 'Save', ['Runa A', 'Runa B']);
  const limit = 'Peak deviation, low';
  await told('/station/limits', async () => {}, `Watch below: ${limit}`, `Save the limit for ${limit}`, ['2100', '2050']);
  await other.close();
});

test('typed text stays while the server is away, and can be sent once it is back', async ({ page }) => {
  await page.goto('/station');
  await page.getByRole('button', { name: 'Add an operator' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Nils');
  await page.getByLabel('Callsign').fill('Q9NIL');
  await page.route('**/station', (route) => (route.request().method() === 'POST' ? route.abort() : route.continue()));
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('What you typed is still here')).toBeVisible();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Nils');
  // Closed by Escape and opened again: still there.
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Add an operator' }).click();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Nils');
  await page.unroute('**/station');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('cell', { name: 'Nils', exact: true })).toBeVisible();
});

test('editors of radios and microphones, a new card and moved dials keep what was typed', async ({ page }) => {
  await page.goto('/station/rigs/1');
  await page.getByLabel('Note', { exact: true }).fill('seen on the bench');
  await kept(page, 'rig 1');
  await page.goto('/station/microphones/1');
  await page.getByLabel('Kind, for example dynamic boom mic').fill('a kind of its own');
  await kept(page, 'microphone 1');
  await page.goto('/cards');
  await page.getByRole('button', { name: 'New card' }).click();
  await page.getByLabel('Name, for example Evening net').fill('Unfinished');
  await kept(page, 'new card ');
  await page.goto('/station/rigs/1');
  await expect(page.getByLabel('Note', { exact: true })).toHaveValue('seen on the bench');
  await page.getByRole('button', { name: 'Discard' }).click();
  await page.goto('/station/microphones/1');
  await expect(page.getByLabel('Kind, for example dynamic boom mic')).toHaveValue('a kind of its own');
  await page.getByRole('button', { name: 'Discard' }).click();
  await page.goto('/cards');
  await page.getByRole('button', { name: 'New card' }).click();
  await expect(page.getByLabel('Name, for example Evening net')).toHaveValue('Unfinished');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await openBench(page, 'Evening net');
  await page.keyboard.press('3');
  const gain = page.getByRole('textbox', { name: 'Mic gain' });
  await gain.click();
  await gain.fill('60');
  await gain.press('Tab');
  await page.reload();
  await page.keyboard.press('3');
  await expect(page.getByRole('textbox', { name: 'Mic gain' })).toHaveValue('60 %');
  await page.getByRole('button', { name: 'Cancel' }).click();
});
