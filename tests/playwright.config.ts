import { defineConfig } from '@playwright/test';

/** DIALTUNE_ADDRESS is set by bin/lib/browserTests.mjs, which starts the app with a throw-away database. */
export default defineConfig({
  testDir: './browser',
  timeout: 60_000,
  // Machines are noisy: a second try is allowed, and bin/test says how many needed one.
  retries: 1,
  workers: 1,
  outputDir: '../test-results',
  use: {
    baseURL: process.env.DIALTUNE_ADDRESS,
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
