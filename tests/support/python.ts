/** Runs a Python script with Debian's SciPy: JSON in, JSON out; long rows of numbers go as files of doubles. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const START = `import json,sys
import numpy as np
import scipy.signal as sig
data=json.load(sys.stdin,object_hook=lambda o: np.fromfile(o['doubles']) if 'doubles' in o else o)
`;

/**
 * @param script body that reads `data` and sets `result`
 * @param data   a Float64Array in it is an array of numpy there
 */
export function python<T>(script: string, data: object): T {
  const folder = mkdtempSync(join(tmpdir(), 'dialtune-python-'));
  let files = 0;
  const input = JSON.stringify(data, (_, value) => {
    if (!(value instanceof Float64Array)) return value;
    const doubles = join(folder, `${files++}.f64`);
    writeFileSync(doubles, value);
    return { doubles };
  });
  try {
    const program = `${START}${script}\njson.dump(result,sys.stdout)`;
    return JSON.parse(execFileSync('/usr/bin/python3', ['-c', program], { input, maxBuffer: 1 << 28 }).toString('utf8'));
  } finally {
    rmSync(folder, { recursive: true });
  }
}
