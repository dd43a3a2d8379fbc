import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const alias = { '@': fileURLToPath(new URL('./src', import.meta.url)) };

/** Before every test file. */
const SETUP = ['tests/support/seeded.ts', 'tests/support/sameSamples.ts'];

export default defineConfig({
  test: {
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'unit',
          include: ['src/**/*.test.{ts,tsx}', 'bin/**/*.test.ts'],
          globalSetup: 'tests/support/bundleCommandLine.ts',
          setupFiles: SETUP,
          testTimeout: 120_000,
        },
      },
      {
        resolve: { alias },
        test: { name: 'reference', include: ['tests/reference/**/*.test.ts'], setupFiles: SETUP, testTimeout: 120_000 },
      },
      {
        resolve: { alias },
        test: {
          name: 'server',
          setupFiles: SETUP,
          include: ['tests/server/**/*.test.ts'],
          testTimeout: 120_000,
          fileParallelism: false,
          hookTimeout: 120_000,
        },
      },
      {
        resolve: { alias },
        test: { name: 'hostile', include: ['tests/hostile/**/*.test.ts'], testTimeout: 400_000, fileParallelism: false },
      },
    ],
  },
});
