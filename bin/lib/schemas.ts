/** Writes the published JSON Schemas, and the checks compiled from them: npm run schemas. */
import { writeFileSync } from 'node:fs';
import { historySchema } from '../../src/core/advice/next/historyFile.ts';
import { cardSchema } from '../../src/core/rig/card.ts';
import { microphoneSchema } from '../../src/core/rig/microphone.ts';
import { rigSchema } from '../../src/core/rig/rig.ts';
import { stationSchema } from '../../src/core/simulate/station/stationFile.ts';
import { compiledChecks } from './compileChecks.ts';

for (const [name, schema] of Object.entries({
  rig: rigSchema,
  card: cardSchema,
  microphone: microphoneSchema,
  station: stationSchema,
  history: historySchema,
})) {
  writeFileSync(`docs/formats/${name}.schema.json`, `${JSON.stringify(schema, null, 2)}\n`);
}
for (const suffix of ['Quick', 'Thorough'] as const) {
  writeFileSync(`src/core/schema/checks${suffix}.js`, await compiledChecks(suffix));
}
