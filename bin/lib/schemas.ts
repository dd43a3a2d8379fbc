/** Writes the published JSON Schemas, and the checks compiled from them: npm run schemas. */
import { writeFileSync } from 'node:fs';
import { stationSchema } from '../../src/core/practice/stationFile.ts';
import { cardSchema } from '../../src/core/station/card.ts';
import { microphoneSchema } from '../../src/core/station/microphone.ts';
import { rigSchema } from '../../src/core/station/rig.ts';
import { compiledChecks } from './compileChecks.ts';

for (const [name, schema] of Object.entries({ rig: rigSchema, card: cardSchema, microphone: microphoneSchema, station: stationSchema })) {
  writeFileSync(`docs/formats/${name}.schema.json`, `${JSON.stringify(schema, null, 2)}\n`);
}
for (const suffix of ['Quick', 'Thorough'] as const) {
  writeFileSync(`src/core/formats/checks${suffix}.js`, await compiledChecks(suffix));
}
