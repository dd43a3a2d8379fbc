import { defineConfig } from '@playwright/test';

/** Stations of bin/lib/browserTests.mjs, one a worker. */
const addresses = (process.env.DIALTUNE_ADDRESSES ?? '').split(',');

export default defineConfig({
  testDir: './browser',
  // Machines are noisy: a slow page is not a wrong one, and a second try is allowed; bin/test says how many needed one.
  timeout: 300_000,
  expect: { timeout: 30_000 },
  retries: 1,
  workers: addresses.length,
  outputDir: '../test-results',
  use: {
    baseURL: addresses[0],
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--disable-background-networking',
        // A name of somebody else's that is pointed here (doors.spec.ts).
        '--host-resolver-rules=MAP rebound.test 127.0.0.1',
        '--autoplay-policy=no-user-gesture-required',
      ],
    },
  },
});
