/** npm run fuzz -- COUNT [FIRST]: measures so many mutated files; every seed that breaks something is told. */
import { fuzzOnce } from './mutate.ts';

const [count = 10_000, first = 0] = process.argv.slice(2).map(Number);
let broken = 0;
const start = performance.now();
for (let seed = first; seed < first + count; seed++) {
  const problem = await fuzzOnce(seed);
  if (problem) {
    broken++;
    console.log(problem);
  }
  if ((seed - first + 1) % 10_000 === 0)
    console.log(`${seed - first + 1} files, ${broken} broke something, ${((performance.now() - start) / 1000).toFixed(0)} s`);
}
process.exitCode = broken > 0 ? 1 : 0;
