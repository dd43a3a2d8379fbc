/** What bin/test does once everything is installed: every check in turn, then one line that counts them. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { prepare } from './app.mjs';
import { browserTests, withDatabase } from './browserTests.mjs';
import { build } from './build.mjs';
import { bundle } from './bundle.mjs';
import { root } from './root.mjs';

const reports = mkdtempSync(join(tmpdir(), 'dialtune-reports-'));
const counts = { passed: 0, failed: 0 };
/** How long each part took, s. */
const parts = [];
let begun = performance.now();
/** What failed, by name: told again at the end, where whoever reads only the tail of a long output finds it. */
const failures = [];
const add = (name, passed, failed) => {
  counts.passed += passed;
  counts.failed += failed;
  const seconds = Math.round((performance.now() - begun) / 1000);
  begun = performance.now();
  parts.push(`${name} ${seconds} s`);
  console.log(`\n== ${name}: ${passed} passed, ${failed} failed, ${seconds} s`);
};

const run = (script, args, env = {}) =>
  spawnSync(process.execPath, [join('node_modules', script), ...args], { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } })
    .status;

/** A check that passes or fails as a whole. */
function whole(name, isGood) {
  if (!isGood) failures.push(name);
  add(name, isGood ? 1 : 0, isGood ? 0 : 1);
}

function vitest(project, env) {
  const file = join(reports, `${project}.json`);
  const status = run(
    'vitest/vitest.mjs',
    ['run', '--project', project, '--reporter=default', '--reporter=json', `--outputFile.json=${file}`],
    env,
  );
  const report = readReport(file, { numPassedTests: 0, numTotalTests: 0, numPendingTests: 0, testResults: [] });
  const { numPassedTests, numTotalTests, numPendingTests } = report;
  for (const { name, message, status: ending, assertionResults } of report.testResults) {
    const failed = assertionResults.filter((test) => test.status === 'failed');
    for (const test of failed) failures.push(`${project}: ${test.fullName}: ${test.failureMessages.join(' ').split('\n')[0]}`);
    if (ending === 'failed' && failed.length === 0) failures.push(`${project}: ${name}: ${message.split('\n')[0]}`);
  }
  // Skipped by its own rule (another compiler, say) is no failure, but it is told.
  if (numPendingTests > 0) console.log(`\n${numPendingTests} ${project} tests had nothing to check on this machine.`);
  const failed = numTotalTests - numPassedTests - numPendingTests;
  if (status !== 0 && failed === 0) failures.push(`${project}: ended with code ${status}`);
  add(project, numPassedTests, status !== 0 && failed === 0 ? 1 : failed);
}

async function browser(url) {
  const file = join(reports, 'browser.json');
  const code = await browserTests(url, ['--reporter=list,json'], { PLAYWRIGHT_JSON_OUTPUT_NAME: file });
  const { stats } = readReport(file, { stats: { expected: 0, unexpected: 1, flaky: 0, skipped: 0 } });
  const failed = stats.unexpected + stats.skipped;
  if (stats.flaky > 0) console.log(`\n${stats.flaky} browser tests passed only at the second try; see above.`);
  add('browser', stats.expected + stats.flaky, code !== 0 && failed === 0 ? 1 : failed);
}

function readReport(file, otherwise) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return otherwise;
  }
}

try {
  whole('lint', run('@biomejs/biome/bin/biome', ['check', '.']) === 0);
  whole('types', run('typescript/bin/tsc', ['--noEmit', '--incremental', 'false']) === 0);
  vitest('unit');
  await bundle();
  vitest('reference');
  await build();
  await withDatabase(async (url) => {
    await prepare(url, { demo: false });
    vitest('server', { DIALTUNE_DATABASE_URL: url });
  });
  await withDatabase(browser);
  vitest('hostile');
} catch (error) {
  console.error(error);
  failures.push(String(error));
  counts.failed++;
}
rmSync(reports, { recursive: true, force: true });
for (const failure of failures) console.log(`\nfailed: ${failure}`);
console.log(`\n${parts.join(', ')}`);
console.log(`\n${counts.passed} passed, ${counts.failed} failed`);
process.exitCode = counts.failed > 0 ? 1 : 0;
