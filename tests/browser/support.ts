/** What the browser tests share. */
import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { test as base, expect, type Locator, type Page } from '@playwright/test';

export { expect };

/** A test that fails on any error on the page's console. */
export const test = base.extend<{ mayFailLoads: boolean; consoleErrors: string[] }>({
  /** The station of this worker (tests/playwright.config.ts). */
  baseURL: async ({ baseURL }, use, { parallelIndex }) => {
    await use((process.env.DIALTUNE_ADDRESSES ?? '').split(',')[parallelIndex] ?? baseURL);
  },
  /** Set by a test that asks for what is refused. */
  mayFailLoads: [false, { option: true }],
  consoleErrors: [
    async ({ page, mayFailLoads }, use) => {
      const errors: string[] = [];
      page.on('console', (message) => {
        // A refused upload answers with 4xx, which the browser logs by itself.
        const isExpected = mayFailLoads || /Failed to load resource.*4\d\d/.test(message.text());
        if (message.type() === 'error' && !isExpected) errors.push(message.text());
      });
      page.on('pageerror', (error) => errors.push(error.message));
      await use(errors);
      expect(errors).toEqual([]);
    },
    { auto: true },
  ],
});

/** A demo over as a file of its own: a few samples in the pauses differ, so that it counts as new. */
export function freshOver(name: string): { name: string; mimeType: string; buffer: Buffer } {
  const buffer = Buffer.from(readFileSync(`demo/overs/${name}`));
  randomBytes(8).copy(buffer, 60);
  return { name, mimeType: 'audio/wav', buffer };
}

/** The Bench of a card of the demo. */
export async function openBench(page: Page, card: string): Promise<void> {
  await page.goto(`/cards?search=${encodeURIComponent(card)}`);
  await page.getByRole('link', { name: `${card} at the Bench` }).click();
  await expect(page.getByRole('navigation', { name: 'Transmit path' })).toBeVisible();
}

/** A single key does nothing until the page listens: it is pressed until what it opens is there. */
export const press = (page: Page, key: string, opened: Locator) =>
  expect(async () => {
    await page.keyboard.press(key);
    // A slow page is not pressed twice: the second key would go into what the first one opened.
    await expect(opened).toBeVisible({ timeout: 5000 });
  }).toPass({ timeout: 60_000 });

/** Does what saves something, and waits for the server's answer. */
export async function saved(page: Page, act: () => Promise<unknown>): Promise<void> {
  const answer = page.waitForResponse((response) => response.request().method() === 'POST');
  await act();
  await answer;
}

export const fitShown = (page: Page) => expect(page.getByText('Off target by')).toBeVisible({ timeout: 20_000 });
