/** Measures the transmissions of a manifest and counts false and missed findings per kind and code. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { bytesInMemory } from '../../src/core/formats/byteSource.ts';
import { openWav } from '../../src/core/formats/samples.ts';
import type { MeasurementKind } from '../../src/core/measure/measurement.ts';
import { type MeasureSettings, measureRecording } from '../../src/core/measure/measureRecording.ts';

export interface Transmission {
  readonly file: string;
  readonly name: string;
  readonly kind: Exclude<MeasurementKind, 'power'>;
  readonly voice: string;
  readonly recorded: boolean;
  readonly fault: string | null;
  /** Codes that count as having found the fault. */
  readonly accepted: readonly string[];
  readonly rateHz: number;
  readonly snrDb: number;
  readonly options: MeasureSettings;
}

export interface Verdict {
  readonly transmission: Transmission;
  /** Codes of watch and fault, with their evidence. */
  readonly accused: readonly { readonly code: string; readonly evidence: string }[];
  readonly isRight: boolean;
}

export const readManifest = (folder: string): Transmission[] => JSON.parse(readFileSync(join(folder, 'manifest.json'), 'utf8'));

export async function verdictOf(folder: string, transmission: Transmission): Promise<Verdict> {
  const source = await openWav(bytesInMemory(new Uint8Array(readFileSync(join(folder, transmission.file)))));
  const { measurement } = await measureRecording(transmission.kind, source, transmission.options);
  const accused = measurement.findings.filter(({ severity }) => severity !== 'ok').map(({ code, evidence }) => ({ code, evidence }));
  const isRight = transmission.fault === null ? accused.length === 0 : accused.some(({ code }) => transmission.accepted.includes(code));
  return { transmission, accused, isRight };
}
