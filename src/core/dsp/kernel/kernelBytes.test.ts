import { expect, it } from 'vitest';
import { clangVersion, compileKernel } from '../../../../bin/lib/kernel.ts';
import { COMPILED_BY_CLANG, KERNEL_BASE64 } from './kernelBytes.ts';

// Another clang makes other bytes of the same source: there is nothing to compare then.
it.runIf(clangVersion() === COMPILED_BY_CLANG)("the kernel's bytes are what its source compiles to", () => {
  expect(compileKernel()).toBe(KERNEL_BASE64);
});
