/** Runs a Python script with Debian's SciPy: JSON in, JSON out. */
import { execFileSync } from 'node:child_process';

/** @param script body that reads `data` and sets `result` */
export function python<T>(script: string, data: object): T {
  const program = `import json,sys\nimport numpy as np\nimport scipy.signal as sig\ndata=json.load(sys.stdin)\n${script}\njson.dump(result,sys.stdout)`;
  const out = execFileSync('/usr/bin/python3', ['-c', program], { input: JSON.stringify(data), maxBuffer: 1 << 28 });
  return JSON.parse(out.toString('utf8'));
}
