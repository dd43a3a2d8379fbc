/**
 * WebAssembly whose machine code is kept in a file: compiling the kernel is a twentieth of a measurement of ten minutes, a tenth of
 * one of two seconds. V8 keeps such code for browsers alone, but the door of its own tests stands open under
 * `--allow-natives-syntax`. That door takes whatever it is given, so it is used with a V8 that was tried and with whole files
 * only. V8 itself refuses the code of another build or processor.
 */
const { readFileSync } = require('node:fs');

/** Only what was compiled for speed can be kept. */
const FLAGS = ['--allow-natives-syntax', '--no-liftoff'];
const isTried = process.versions.v8.startsWith('11.3.') && FLAGS.every((flag) => process.execArgv.includes(flag));
/** The length of what follows. */
const HEADER_BYTES = 4;

/** @returns {WebAssembly.Module | undefined} nothing where the file is missing or of no use */
function moduleFrom(file, source) {
  try {
    const bytes = readFileSync(file);
    const code = new Uint8Array(bytes.subarray(HEADER_BYTES));
    if (bytes.readUInt32LE(0) !== code.length) return undefined;
    return new Function('code', 'source', 'return %DeserializeWasmModule(code, source)')(code.buffer, source);
  } catch {
    return undefined;
  }
}

/** @returns {WebAssembly.Module} with all of its functions compiled, not only those that will be called */
function compiled(Module, source) {
  const { setFlagsFromString } = require('node:v8');
  setFlagsFromString('--no-wasm-lazy-compilation');
  try {
    return new Module(source);
  } finally {
    setFlagsFromString('--wasm-lazy-compilation');
  }
}

/** @returns {Buffer} what `moduleFrom` reads */
function codeOf(module) {
  const code = new Uint8Array(new Function('module', 'return %SerializeWasmModule(module)')(module));
  const header = Buffer.alloc(HEADER_BYTES);
  header.writeUInt32LE(code.length);
  return Buffer.concat([header, code]);
}

/**
 * From here on `new WebAssembly.Module` keeps what it compiled.
 * @param {string} prefix begins the path of the files; one for each build
 * @param {(path: string, bytes: Buffer) => void} keep writes a file, or does nothing where it can't
 */
exports.keepCode = (prefix, keep) => {
  if (!isTried) return;
  const construct = (Module, [source]) => {
    const file = `${prefix}-${source.byteLength}`;
    const known = moduleFrom(file, source);
    if (known) return known;
    const module = compiled(Module, source);
    keep(file, codeOf(module));
    return module;
  };
  WebAssembly.Module = new Proxy(WebAssembly.Module, { construct });
};
