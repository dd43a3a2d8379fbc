/** Bundles what runs in plain Node: the command line and the server's helpers. */
import { existsSync, mkdirSync, readdirSync, rmSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { writeWhole } from './processes.mjs';
import { root } from './root.mjs';

/** The command line: one script, of which what was compiled is kept (kept.cjs). */
const COMMAND_LINE = { dialtune: 'src/cli/main.ts' };

/** Bundle name to its source; the packages beside it stay outside. */
const BUNDLES = {
  ...COMMAND_LINE,
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
    const file = fileOf(name);
    return !existsSync(file) || statSync(file).mtimeMs < changed;
  });
  const [scripts, modules] = [true, false].map((isScript) => stale.filter((name) => Object.hasOwn(COMMAND_LINE, name) === isScript));
  if (scripts.length > 0) await make(scripts, { format: 'cjs', outExtension: { '.js': '.cjs' } });
  if (modules.length > 0)
    await make(modules, {
      format: 'esm',
      outExtension: { '.js': '.mjs' },
      // What is loaded late lies in files of its own.
      splitting: true,
      chunkNames: 'chunks/[name]-[hash]',
      banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
    });
  // What was compiled of an older one.
  if (scripts.length > 0) rmSync(join(root, 'dist', 'compiled'), { recursive: true, force: true });
}

const fileOf = (name) => join(root, 'dist', `${name}.${Object.hasOwn(COMMAND_LINE, name) ? 'cjs' : 'mjs'}`);

/** A source of one byte a letter is read and hashed in half the time; esbuild leaves regular expressions as they are. */
const inAscii = (text) => text.replace(/[\x80-\uffff]/g, (letter) => `\\u${letter.charCodeAt(0).toString(16).padStart(4, '0')}`);

async function make(names, options) {
  const { build } = await import('esbuild');
  const { outputFiles } = await build({
    // Written by us: a file that was cut off by a kill would look newer than its sources.
    write: false,
    absWorkingDir: root,
    entryPoints: Object.fromEntries(names.map((name) => [name, BUNDLES[name]])),
    outdir: 'dist',
    bundle: true,
    platform: 'node',
    target: 'node20',
    external: ['next', 'sequelize', 'mariadb', 'umzug', 'piscina', 'esbuild'],
    alias: { '@': join(root, 'src') },
    logLevel: 'warning',
    ...options,
  });
  // What the entries load comes first.
  const isEntry = ({ path }) => names.some((name) => path === fileOf(name));
  for (const { path, text } of outputFiles.sort((a, b) => isEntry(a) - isEntry(b))) {
    mkdirSync(dirname(path), { recursive: true });
    writeWhole(path, inAscii(text), 0o644);
  }
}
