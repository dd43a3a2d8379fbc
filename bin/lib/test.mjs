/** What bin/test does once everything is installed: every check in turn, then one line that counts them. */
import { closeSync, mkdtempSync, openSync, readFileSync, rmSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { prepare } from './app.mjs';
import { browserTests, withDatabase } from './browserTests.mjs';
import { build } from './build.mjs';
import { bundle } from './bundle.mjs';
import { run } from './processes.mjs';
import { root } from './root.mjs';

const reports = mkdtempSync(join(tmpdir(), 'dialtune-reports-'));
const counts = { passed: 0, failed: 0 };
/** How long each part took, s; some run beside each other. */
const parts = [];
/** What failed, by name: told again at the end, where whoever reads only the tail of a long output finds it. */
const failures = [];
const add = (name, passed, failed, start) => {
  counts.passed += passed;
  counts.failed += failed;
  const seconds = Math.round((performance.now() - start) / 1000);
  parts.push(`${name} ${seconds} s`);
  console.log(`\n== ${name}: ${passed} passed, ${failed} failed, ${seconds} s`);
};

/** @param log file that takes what it prints; the terminal when left out */
const tool = (script, args, env = {}, log = 'inherit') =>
  run(process.execPath, [join('node_modules', script), ...args], {
    cwd: root,
    stdio: ['ignore', log, log],
    env: { ...process.env, ...env },
  });

/** A check that passes or fails as a whole. */
async function whole(name, script, args) {
  const start = performance.now();
  const isGood = (await tool(script, args)) === 0;
  if (!isGood) failures.push(name);
  add(name, isGood ? 1 : 0, isGood ? 0 : 1, start);
}

/** @param isBeside whether something else runs meanwhile: it keeps to one core, and prints when it is through */
async function vitest(project, { env, isBeside = false } = {}) {
  const start = performance.now();
  const file = join(reports, `${project}.json`);
  const log = join(reports, `${project}.txt`);
  const output = isBeside ? openSync(log, 'w') : undefined;
  // Left to itself it leaves one core of two idle.
  const workers = isBeside ? 1 : availableParallelism();
  const args = [
    'run',
    '--project',
    project,
    `--maxWorkers=${workers}`,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`,
  ];
  const status = await tool('vitest/vitest.mjs', args, env, output);
  if (output !== undefined) {
    closeSync(output);
    console.log(readFileSync(log, 'utf8'));
  }
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
  add(project, numPassedTests, status !== 0 && failed === 0 ? 1 : failed, start);
}

async function browser() {
  const start = performance.now();
  const file = join(reports, 'browser.json');
  const code = await browserTests(['--reporter=list,json'], { PLAYWRIGHT_JSON_OUTPUT_NAME: file });
  const { stats } = readReport(file, { stats: { expected: 0, unexpected: 1, flaky: 0, skipped: 0 } });
  const failed = stats.unexpected + stats.skipped;
  if (stats.flaky > 0) console.log(`\n${stats.flaky} browser tests passed only at the second try; see above.`);
  add('browser', stats.expected + stats.flaky, code !== 0 && failed === 0 ? 1 : failed, start);
}

function readReport(file, otherwise) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return otherwise;
  }
}

async function server() {
  await withDatabase(async (url) => {
    await prepare(url, { demo: false });
    await vitest('server', { env: { DIALTUNE_DATABASE_URL: url }, isBeside: true });
  });
}

const BROWSERS_CORES = 2;

const begun = performance.now();
try {
  await Promise.all([
    whole('lint', '@biomejs/biome/bin/biome', ['check', '.']),
    whole('types', 'typescript/bin/tsc', ['--noEmit', '--incremental', 'false']),
  ]);
  await vitest('unit');
  await bundle();
  await build();
  const cores = availableParallelism();
  const others = async (isBeside) => {
    await vitest('reference', { isBeside });
    await Promise.all([server(), vitest('hostile', { isBeside: true })]);
  };
  // Two browsers with their apps fill two cores: what runs beside them there takes longer than one after the other.
  if (cores > BROWSERS_CORES) await Promise.all([browser(), others(true)]);
  else {
    await others(false);
    await browser();
  }
} catch (error) {
  console.error(error);
  failures.push(String(error));
  counts.failed++;
}
rmSync(reports, { recursive: true, force: true });
for (const failure of failures) console.log(`\nfailed: ${failure}`);
console.log(`\n${parts.join(', ')}; ${Math.round((performance.now() - begun) / 1000)} s in all`);
console.log(`\n${counts.passed} passed, ${counts.failed} failed`);
process.exitCode = counts.failed > 0 ? 1 : 0;
