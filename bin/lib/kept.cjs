/**
 * Runs a bundle with what was compiled of it the last time: `node kept.cjs BUNDLE.cjs ARGUMENTS`. A third of a short command is
 * reading and compiling JavaScript otherwise. Kept for each command, since each needs other parts.
 */
const { mkdirSync, readFileSync, renameSync, statSync, writeFileSync } = require('node:fs');
const { basename, dirname, join, resolve } = require('node:path');
const { Script } = require('node:vm');
const { keepCode } = require('./keptCode.cjs');

const [node, , bundle, ...args] = process.argv;
const path = resolve(bundle);
process.argv = [node, path, ...args];

/** V8 knows what it compiled by the length of the source alone: the time of the build tells more. */
const { size, mtimeMs } = statSync(path);
const as = args.indexOf('--as');
const kind = [args[0], as < 0 ? '' : args[as + 1]].map((text) => /^[a-z-]{1,12}$/.exec(text ?? '')?.[0] ?? '').join('-');
const folder = join(dirname(path), 'compiled');
const build = `${basename(path)}-${size}-${Math.round(mtimeMs)}`;
const kept = join(folder, `${build}-${kind}`);

/** Where nothing can be written every run is like the first. What a crash cut off never has the name of a whole file. */
function keep(file, bytes) {
  try {
    const half = `${file}.${process.pid}`;
    mkdirSync(folder, { recursive: true });
    writeFileSync(half, bytes);
    renameSync(half, file);
  } catch {
    // The next run tries again.
  }
}
keepCode(join(folder, `code-${build}`), keep);

let cachedData;
try {
  cachedData = readFileSync(kept);
} catch {
  // The first time.
}
// It is written in ASCII.
const source = `(function (exports, require, module, __filename, __dirname) {${readFileSync(path, 'latin1')}\n})`;
const script = new Script(source, { filename: path, cachedData });
script.runInThisContext()(module.exports, require, module, path, dirname(path));

if ((!cachedData || script.cachedDataRejected) && !args.slice(1).includes('--help'))
  process.on('exit', (code) => {
    // What ended early has compiled little.
    if (code === 0) keep(kept, script.createCachedData());
  });
