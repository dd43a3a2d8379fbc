/** A short run of the fuzzer; `npm run fuzz -- 1000000` is the long one. */
import { expect, it } from 'vitest';
import { fuzzOnce } from './mutate.ts';

it('a thousand mutated files are measured or refused in words', async () => {
  const problems: string[] = [];
  for (let seed = 0; seed < 1000; seed++) {
    const problem = await fuzzOnce(seed);
    if (problem) problems.push(problem);
  }
  expect(problems).toEqual([]);
}, 120_000);
