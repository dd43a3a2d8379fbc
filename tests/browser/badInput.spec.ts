import { expect, freshOver, test } from './support.ts';

// One of them cuts the line to the server.
test.use({ mayFailLoads: true });

const header = (change: (view: DataView) => void, length = 20_000): Buffer => {
  const buffer = Buffer.from(freshOver('01-bram-first.wav').buffer.subarray(0, length));
  change(new DataView(buffer.buffer, buffer.byteOffset));
  return buffer;
};

const CASES: readonly (readonly [string, string, Buffer, RegExp])[] = [
  ['text named .wav', 'notes.wav', Buffer.from('hello, this is not sound at all'), /Not a WAV file/],
  ['an empty file', 'empty.wav', Buffer.alloc(0), /empty/],
  ['9 channels', 'nine.wav', header((view) => view.setUint16(22, 9, true)), /9 channels/],
  ['a rate of 30 MHz', 'fast.wav', header((view) => view.setUint32(24, 30_000_000, true)), /30000000 Hz/],
  ['a picture', 'picture.png', Buffer.from('\x89PNG\r\n\x1a\n0000000000', 'latin1'), /a picture/],
  ['a song that is none', 'song.mp3', Buffer.from('ID3 not really a song'), /can't be decoded/],
];

test('every bad file gets one clear message and leaves the log as it was', async ({ page }) => {
  await page.goto('/overs');
  const total = await page.getByText(/\d+ overs; times in UTC/).textContent();
  await page.locator('input[type=file]').setInputFiles(CASES.map(([, name, buffer]) => ({ name, mimeType: '', buffer })));
  await page.getByRole('button', { name: 'Measure' }).click();
  const dialog = page.getByRole('dialog');
  for (const [, name, , words] of CASES) {
    const item = dialog.getByRole('listitem').filter({ hasText: name });
    await expect(item.getByRole('alert')).toHaveText(words, { timeout: 20_000 });
    await expect(item.getByRole('alert')).toContainText('Nothing was stored');
  }
  await dialog.getByRole('button', { name: 'Close' }).click();
  await page.reload();
  await expect(page.getByText(total ?? '')).toBeVisible();
});

test('the same file twice leads to the over it belongs to; a good one beside bad ones still goes in', async ({ page }) => {
  await page.goto('/overs');
  const good = freshOver('01-bram-first.wav');
  await page.locator('input[type=file]').setInputFiles([good, { ...good, name: 'again.wav' }]);
  await page.getByRole('button', { name: 'Measure' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText(/Measured as/)).toBeVisible({ timeout: 20_000 });
  await expect(dialog.getByRole('alert')).toContainText('already here', { timeout: 20_000 });
  await dialog.getByRole('link', { name: 'Show it' }).click();
  await expect(page.getByRole('heading', { name: /^Over \d+/ })).toBeVisible();
  await expect(page.getByText('SHA-256')).toBeVisible();
});

test('the API refuses what it can not read, in words', async ({ request }) => {
  const send = (headers: Record<string, string>) => request.post('/api/captures', { headers, data: Buffer.from('RIFF') });
  expect((await send({})).status()).toBe(400);
  expect((await send({ 'x-dialtune-capture': '%' })).status()).toBe(400);
  const wrong = await send({ 'x-dialtune-capture': encodeURIComponent(JSON.stringify({ cardRevisionId: 'x' })) });
  expect(wrong.status()).toBe(400);
  expect((await wrong.json()).message).toContain('Nothing was changed');
  for (const path of ['/api/captures/99999', '/api/captures/..%2f', '/api/measurements/x', '/api/rigs/0']) {
    expect((await request.get(path)).status()).toBe(404);
  }
});

test('ranges of a recording come as asked', async ({ request }) => {
  const whole = await (await request.get('/api/captures/1')).body();
  const part = await request.get('/api/captures/1', { headers: { range: 'bytes=100-199' } });
  expect(part.status()).toBe(206);
  expect(Buffer.compare(await part.body(), whole.subarray(100, 200))).toBe(0);
  expect((await request.get('/api/captures/1', { headers: { range: 'bytes=999999999-' } })).status()).toBe(416);
});

test('addresses that lead nowhere say so', async ({ page }) => {
  for (const path of ['/overs/99999', '/cards/abc', '/cards/1/nope', '/nowhere']) {
    await page.goto(path);
    await expect(page.getByRole('heading', { name: 'Nothing here' })).toBeVisible();
  }
  await page.goto('/bench?card=99999&over=-1&stage=nope');
  await expect(page.getByRole('heading', { name: 'Equalizer' })).toBeVisible();
});

test('a connection that breaks off: the page finds out what became of the recording', async ({ page }) => {
  const send = async (file: ReturnType<typeof freshOver>) => {
    await page.goto('/overs');
    await page.locator('input[type=file]').setInputFiles(file);
    await page.getByRole('button', { name: 'Measure' }).click();
  };
  // The server takes it, and its answer is lost on the way.
  await page.route('**/api/captures', async (route) => {
    if (route.request().method() !== 'POST') return route.continue();
    await route.fetch();
    await route.abort();
  });
  await send(freshOver('06-tilo-after.wav'));
  const alert = page.getByRole('dialog').getByRole('alert');
  await expect(alert).toContainText(/the recording is kept: it is over \d+/, { timeout: 20_000 });
  // Nothing of it arrives.
  await page.unroute('**/api/captures');
  await page.route('**/api/captures', (route) => (route.request().method() === 'POST' ? route.abort() : route.continue()));
  await send(freshOver('04-tilo-first.wav'));
  await expect(alert).toContainText('Nothing was stored; please send the file again', { timeout: 20_000 });
});
