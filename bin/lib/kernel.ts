/** Compiles the signal kernel's C source with Debian's clang and lld; `npm run kernel` writes its bytes beside it. */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const FOLDER = 'src/core/dsp/kernel';
const FLAGS = [
  '--target=wasm32',
  '-O3',
  '-msimd128',
  '-mbulk-memory',
  '-ffp-contract=off',
  // Vectors are written by hand; what the compiler adds serves the loops' ends, and pages load the kernel.
  '-fno-vectorize',
  '-fno-slp-vectorize',
  '-nostdlib',
  '-Wl,--no-entry',
  '-Wl,--strip-all',
];

/** The major version of the clang on this machine; undefined where there is none. */
export const clangVersion = () => /clang version (\d+)/.exec(spawnSync('clang', ['--version'], { encoding: 'utf8' }).stdout ?? '')?.[1];

/** The compiled module as base64. @throws when clang or wasm-ld is missing or the source is wrong */
export function compileKernel(): string {
  const out = mkdtempSync(join(tmpdir(), 'dialtune-kernel-'));
  try {
    execFileSync('clang', [...FLAGS, '-o', join(out, 'kernel.wasm'), 'kernel.c'], { cwd: FOLDER, stdio: ['ignore', 'ignore', 'pipe'] });
    return readFileSync(join(out, 'kernel.wasm')).toString('base64');
  } finally {
    rmSync(out, { recursive: true });
  }
}

/** Writes the bytes where the core finds them. */
export function writeKernelBytes(): void {
  const lines = compileKernel().match(/.{1,128}/g) ?? [];
  const text = lines.map((line) => `  '${line}',`).join('\n');
  writeFileSync(
    join(FOLDER, 'kernelBytes.ts'),
    `/** Made from kernel.c by \`npm run kernel\`; a test compares them. */\nexport const COMPILED_BY_CLANG = '${clangVersion()}';\n\nexport const KERNEL_BASE64 = [\n${text}\n].join('');\n`,
  );
}
