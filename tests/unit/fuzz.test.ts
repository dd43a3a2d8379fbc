/** A short run of the fuzzer; `npm run fuzz -- 1000000` is the long one. */
import { expect, it } from 'vitest';
import { fuzzOnce } from '../../bin/lib/mutate.ts';

it('two thousand mutated files are measured or refused in words', async () => {
  const problems: string[] = [];
  for (let seed = 0; seed < 2000; seed++) {
    const problem = await fuzzOnce(seed);
    if (problem) problems.push(problem);
  }
  expect(problems).toEqual([]);
}, 120_000);
