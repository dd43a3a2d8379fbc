/** The compiled checks are those of the schemas as they stand. */
import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { compiledChecks } from '../../../bin/lib/compileChecks.ts';

it.each(['Quick', 'Thorough'] as const)('%s: written by npm run schemas since the schemas were changed', async (suffix) => {
  expect((await compiledChecks(suffix)) === readFileSync(`src/core/schema/checks${suffix}.js`, 'utf8')).toBe(true);
});
