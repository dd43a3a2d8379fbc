/** Pages of another origin, and of a name that was pointed here, get nothing and change nothing. */
import { createServer, type Server } from 'node:http';
import { expect, test } from './support.ts';

/** A page of somebody else, on a port of its own. */
function stranger(): Promise<{ server: Server; address: string }> {
  const server = createServer((_, response) => {
    response.setHeader('content-type', 'text/html');
    response.end('<!doctype html><title>another page</title><body>');
  });
  return new Promise((resolve) => {
    server.listen(0, '127.0.0.1', () => {
      const address = server.address();
      resolve({ server, address: `http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}` });
    });
  });
}

// What is refused is told on the console of the page that tried.
test.use({ mayFailLoads: true });

test('a page on another origin reads nothing and changes nothing', async ({ page, request, baseURL }) => {
  const app = new URL(baseURL ?? '');
  const { server, address } = await stranger();
  try {
    const countOvers = async () => (await (await request.get('/api/overs.csv')).text()).split('\n').length;
    const before = await countOvers();
    await page.goto(address);
    const tried = await page.evaluate(async (target) => {
      const outcome = async (path: string, options: RequestInit): Promise<string> => {
        try {
          const response = await fetch(target + path, options);
          return response.type === 'opaque' ? 'opaque' : `${response.status} ${(await response.text()).length}`;
        } catch {
          return 'blocked';
        }
      };
      const body = JSON.stringify({ cardId: 1, values: {}, radio: 1, receiver: 0, isIq: false, load: 'dummy load' });
      const image = (path: string) =>
        new Promise<string>((resolve) => {
          const element = new Image();
          element.onload = () => resolve('loaded');
          element.onerror = () => resolve('blocked');
          element.src = target + path;
        });
      const script = (path: string) =>
        new Promise<string>((resolve) => {
          const element = document.createElement('script');
          element.onload = () => resolve('loaded');
          element.onerror = () => resolve('blocked');
          element.src = target + path;
          document.head.append(element);
        });
      return {
        pages: await outcome('/overs', {}),
        station: await outcome('/api/station', {}),
        hidden: await outcome('/api/station', { mode: 'no-cors' }),
        practice: await outcome('/api/practice', { method: 'POST', mode: 'no-cors', headers: { 'content-type': 'text/plain' }, body }),
        imports: await outcome('/api/station', { method: 'POST', mode: 'no-cors', body: 'PK' }),
        upload: await outcome('/api/captures', { method: 'POST', mode: 'no-cors', body: 'RIFF' }),
        deletes: await outcome('/overs', { method: 'DELETE' }),
        action: await outcome('/overs', { method: 'POST', mode: 'no-cors', body: '[{"overId":1}]' }),
        icon: await image('/icon.svg'),
        script: await script('/api/overs.csv'),
      };
    }, app.origin);
    // "opaque" would be an answer that the page can't read but the server has given: only refusals may be such.
    for (const [what, result] of Object.entries(tried)) expect(`${what} ${result}`).toMatch(/ (?:blocked|opaque)$/);
    expect(await countOvers()).toBe(before);

    // In a frame there is nothing to see or to click on.
    await page.setContent(`<iframe src="${app.origin}/overs" width="800" height="600"></iframe>`);
    const [, frame] = page.frames();
    await frame.waitForLoadState().catch(() => {});
    expect(await frame.getByRole('heading', { name: 'Overs' }).count()).toBe(0);

    // A form sent here from there.
    await page.goto(address);
    await page.setContent(`<form method="post" action="${app.origin}/api/practice"><button>go</button></form>`);
    await page.getByRole('button').click();
    await expect(page.getByText('another origin')).toBeVisible();

    // A link that a person follows still leads in.
    await page.goto(address);
    await page.setContent(`<a href="${app.origin}/overs">the log</a>`);
    await page.getByRole('link').click();
    await expect(page.getByRole('heading', { name: 'Overs' })).toBeVisible();
  } finally {
    server.close();
  }
});

test('a name that is pointed here gets nothing', async ({ page, baseURL }) => {
  const { port } = new URL(baseURL ?? '');
  // The browser resolves this name to 127.0.0.1 (tests/playwright.config.ts), as a rebound one would be.
  for (const path of ['/overs', '/api/station', '/api/overs.csv', '/_next/static/chunks/x.js']) {
    const response = await page.goto(`http://rebound.test:${port}${path}`);
    expect(response?.status()).toBe(421);
    expect(await response?.text()).toContain('does not answer to this name');
  }
  await page.goto(`http://localhost:${port}/overs`);
  await expect(page.getByRole('heading', { name: 'Overs' })).toBeVisible();
});

test('every answer carries the security headers; scripts that were slipped in do not run', async ({ page, request }) => {
  for (const path of ['/overs', '/api/overs.csv', '/api/rigs/99999', '/nowhere', '/icon.svg']) {
    const headers = (await request.get(path)).headers();
    expect(headers['content-security-policy']).toMatch(/script-src 'nonce-[\w+/=]{20,}' 'strict-dynamic'/);
    expect(headers['content-security-policy']).toContain("frame-ancestors 'none'");
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['referrer-policy']).toBe('same-origin');
    expect(headers['cross-origin-resource-policy']).toBe('same-origin');
  }
  const [one, other] = await Promise.all([request.get('/overs'), request.get('/overs')]);
  expect(one.headers()['content-security-policy']).not.toBe(other.headers()['content-security-policy']);
  await page.goto('/overs');
  const ran = await page.evaluate(async () => {
    document.body.insertAdjacentHTML('beforeend', '<img src="/nothing.png" onerror="window.slippedIn = true">');
    const script = document.createElement('script');
    script.setAttribute('src', 'https://example.com/x.js');
    const inline = document.createElement('div');
    inline.innerHTML = '<svg onload="window.slippedIn = true"></svg><a href="javascript:window.slippedIn = true">x</a>';
    document.body.append(inline);
    inline.querySelector('a')?.click();
    await new Promise((resolve) => setTimeout(resolve, 500));
    return 'slippedIn' in window;
  });
  expect(ran).toBe(false);
});

test('methods that are not used are refused by the door', async ({ request }) => {
  for (const method of ['PUT', 'DELETE', 'PATCH', 'OPTIONS']) {
    const response = await request.fetch('/overs', { method });
    expect([method, response.status()]).toEqual([method, 405]);
    expect((await response.json()).message).toContain(method);
  }
});
