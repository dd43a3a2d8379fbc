/** Measures the transmissions of a manifest: false and missed findings per kind and code, and numbers against their truth. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import { headOf, openWav, type SampleSource } from '../../src/core/files/samples.ts';
import type { Measurement, MeasurementKind } from '../../src/core/measure/measurement.ts';
import { type MeasureSettings, measureRecording } from '../../src/core/measure/measureRecording.ts';
import { type CarrierProposal, proposeCarrier } from '../../src/core/measure/radio/proposeCarrier.ts';

export interface Transmission {
  readonly file: string;
  readonly name: string;
  readonly kind: Exclude<MeasurementKind, 'power'>;
  readonly voice: string;
  readonly recorded: boolean;
  readonly fault: string | null;
  /** Codes that count as having found the fault. */
  readonly accepted: readonly string[];
  /** Numbers that are known beforehand, by key ("modulationDepth.negative"). */
  readonly truth: Readonly<Record<string, number>>;
  readonly rateHz: number;
  readonly snrDb: number;
  readonly options: MeasureSettings;
}

export interface Verdict {
  readonly transmission: Transmission;
  /** Codes of watch and fault, with their evidence. */
  readonly accused: readonly { readonly code: string; readonly evidence: string }[];
  readonly isRight: boolean;
  /** Measured beside true, where the number is no bound. */
  readonly numbers: readonly { readonly key: string; readonly truth: number; readonly measured: number }[];
}

export const readManifest = (folder: string): Transmission[] => JSON.parse(readFileSync(join(folder, 'manifest.json'), 'utf8'));

export const open = (folder: string, { file }: Transmission): Promise<SampleSource> =>
  openWav(bytesInMemory(new Uint8Array(readFileSync(join(folder, file)))));

const numberAt = (measurement: Measurement, key: string): number | null =>
  key.split('.').reduce<unknown>((value, part) => (value as Record<string, unknown> | null)?.[part], measurement) as number | null;

export async function verdictOf(folder: string, transmission: Transmission): Promise<Verdict> {
  const { measurement } = await measureRecording(transmission.kind, await open(folder, transmission), transmission.options);
  const accused = measurement.findings.filter(({ severity }) => severity !== 'ok').map(({ code, evidence }) => ({ code, evidence }));
  const isRight = transmission.fault === null ? accused.length === 0 : accused.some(({ code }) => transmission.accepted.includes(code));
  const numbers = Object.entries(transmission.truth).flatMap(([key, truth]) => {
    const measured = numberAt(measurement, key);
    return measured === null || measurement.notes[key.split('.')[0]] ? [] : [{ key, truth, measured }];
  });
  return { transmission, accused, isRight, numbers };
}

/** So much talk is what the app looks at. */
const PROPOSED_FROM_S = 40;

/** What is proposed for an SSB carrier, and how far off that is. */
export async function proposalFor(
  folder: string,
  transmission: Transmission,
): Promise<(CarrierProposal & { readonly offHz: number }) | null> {
  const { carrierHz = 0, sideband = 'usb' } = transmission.options;
  const proposal = await proposeCarrier(headOf(await open(folder, transmission), PROPOSED_FROM_S), sideband);
  return proposal && { ...proposal, offHz: proposal.carrierHz - carrierHz };
}

export interface Rate {
  readonly kind: string;
  readonly fault: string | null;
  readonly right: number;
  readonly all: number;
}

/** Right verdicts per kind and fault. */
export function ratesOf(verdicts: readonly Verdict[]): Rate[] {
  const keys = [...new Set(verdicts.map(({ transmission: { kind, fault } }) => `${kind}\n${fault ?? ''}`))].sort();
  return keys.map((key) => {
    const [kind, fault] = key.split('\n');
    const those = verdicts.filter(({ transmission }) => transmission.kind === kind && (transmission.fault ?? '') === fault);
    return { kind, fault: fault || null, right: those.filter(({ isRight }) => isRight).length, all: those.length };
  });
}

export const totalOf = (rates: readonly Rate[]): { right: number; all: number } => ({
  right: rates.reduce((sum, { right }) => sum + right, 0),
  all: rates.reduce((sum, { all }) => sum + all, 0),
});
