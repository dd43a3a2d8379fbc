/** The command line as a person runs it: a process of its own. */
import { spawnSync } from 'node:child_process';

/** Runs dialtune. @returns its exit status and what it wrote */
export function dialtune(...args: string[]): { status: number | null; stdout: string; stderr: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['dist/dialtune.cjs', ...args], { encoding: 'utf8' });
  return { status, stdout, stderr };
}
