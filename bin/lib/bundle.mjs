/** Bundles what runs in plain Node: the command line and the server's helpers. */
import { existsSync, mkdirSync, readdirSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { writeWhole } from './processes.mjs';
import { root } from './root.mjs';

/** Bundle name to its source; the packages beside it stay outside. */
const BUNDLES = {
  dialtune: 'src/cli/main.ts',
  measureWorker: 'src/server/measuring/measureWorker.ts',
  practiceWorker: 'src/server/practice/practiceWorker.ts',
  prepare: 'src/server/demo/prepare.ts',
  web: 'src/server/web/main.ts',
  bench: 'bin/lib/bench.ts',
  demo: 'demo/make.ts',
  evidence: 'demo/evidence.ts',
  schemas: 'bin/lib/schemas.ts',
  kernel: 'bin/lib/kernel.ts',
  fuzz: 'bin/lib/fuzz.ts',
  validate: 'tests/validation/validate.ts',
};

const SOURCES = [
  'src',
  'bin/lib',
  'package-lock.json',
  'demo/people.ts',
  'demo/cards.ts',
  'demo/week.ts',
  'demo/onAir.ts',
  'demo/make.ts',
  'demo/evidence.ts',
  'tests/validation',
];

/** Time of the newest file at or under a path, in ms. */
export const newest = (path) => {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(stat.mtimeMs, ...readdirSync(path).map((name) => newest(join(path, name))));
};

/** Builds the named bundles where they are missing or older than the sources. */
export async function bundle(names = Object.keys(BUNDLES)) {
  const wanted = names.filter((name) => existsSync(join(root, BUNDLES[name])));
  const changed = Math.max(...SOURCES.map((name) => newest(join(root, name))));
  const stale = wanted.filter((name) => {
    const file = join(root, 'dist', `${name}.mjs`);
    return !existsSync(file) || statSync(file).mtimeMs < changed;
  });
  if (stale.length === 0) return;
  const { build } = await import('esbuild');
  const { outputFiles } = await build({
    // Written by us: a file that was cut off by a kill would look newer than its sources.
    write: false,
    absWorkingDir: root,
    entryPoints: Object.fromEntries(stale.map((name) => [name, BUNDLES[name]])),
    outdir: 'dist',
    outExtension: { '.js': '.mjs' },
    bundle: true,
    // What is loaded late lies in files of its own.
    splitting: true,
    chunkNames: 'chunks/[name]-[hash]',
    platform: 'node',
    format: 'esm',
    target: 'node20',
    external: ['next', 'sequelize', 'mariadb', 'umzug', 'piscina', 'esbuild'],
    alias: { '@': join(root, 'src') },
    banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
    logLevel: 'warning',
  });
  // What the entries load comes first.
  const isEntry = ({ path }) => stale.some((name) => path === join(root, 'dist', `${name}.mjs`));
  for (const { path, contents } of outputFiles.sort((a, b) => isEntry(a) - isEntry(b))) {
    mkdirSync(dirname(path), { recursive: true });
    writeWhole(path, contents, 0o644);
  }
}
