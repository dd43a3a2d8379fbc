/** A folder for a test's files that goes away with it. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll } from 'vitest';

export function temporaryFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'dialtune-files-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  return folder;
}
