/**
 * SigMF recordings: a JSON file of facts (.sigmf-meta) beside a file of bare samples (.sigmf-data).
 * Source: SigMF specification 1.x (fields core:datatype, core:sample_rate, core:version, captures, annotations).
 */
import * as quick from '../schema/checksQuick.js';
import * as thorough from '../schema/checksThorough.js';
import { checker, FormatError, readJson } from '../schema/index.ts';
import type { Hertz } from '../units/index.ts';
import type { ByteSource } from './byteSource.ts';
import { HIGHEST_RATE_HZ, LOWEST_RATE_HZ, type SampleLayout } from './sampleLayout.ts';
import { type SampleSource, samplesOf } from './samples.ts';

/** Datatypes that can be read, and how their samples are stored. */
const DATATYPES = {
  ci16_le: { bits: 16, encoding: 'pcm' },
  ci8: { bits: 8, encoding: 'pcm', isSigned8: true },
  cu8: { bits: 8, encoding: 'pcm' },
  cf32_le: { bits: 32, encoding: 'float' },
  ci32_le: { bits: 32, encoding: 'pcm' },
  cf64_le: { bits: 64, encoding: 'float' },
} as const satisfies Record<string, Pick<SampleLayout, 'bits' | 'encoding' | 'isSigned8'>>;

/** Sample formats that are read. */
export type SigmfDatatype = keyof typeof DATATYPES;

interface Segment {
  readonly 'core:sample_start': number;
  readonly 'core:frequency'?: number;
}

/** The parts of a meta file that are used. */
export interface SigmfMeta {
  readonly global: {
    readonly 'core:datatype': string;
    readonly 'core:sample_rate': Hertz;
    readonly 'core:version': string;
    readonly 'core:num_channels'?: number;
    readonly 'core:sha512'?: string;
    readonly 'core:description'?: string;
    readonly 'core:metadata_only'?: boolean;
    readonly 'core:trailing_bytes'?: number;
  };
  readonly captures: readonly Segment[];
  readonly annotations: readonly { readonly 'core:sample_start': number }[];
}

const whole = { type: 'integer', minimum: 0 } as const;

/** JSON Schema of those parts; anything else in the file is let through. */
export const metaSchema = {
  type: 'object',
  required: ['global', 'captures', 'annotations'],
  properties: {
    global: {
      type: 'object',
      required: ['core:datatype', 'core:sample_rate', 'core:version'],
      properties: {
        'core:datatype': { type: 'string', maxLength: 20 },
        'core:sample_rate': { type: 'number', exclusiveMinimum: 0 },
        'core:version': { type: 'string', maxLength: 40 },
        'core:num_channels': { type: 'integer', minimum: 1 },
        'core:sha512': { type: 'string', pattern: '^[0-9a-fA-F]{128}$' },
        'core:description': { type: 'string' },
        'core:metadata_only': { type: 'boolean' },
        'core:trailing_bytes': whole,
      },
    },
    captures: {
      type: 'array',
      items: {
        type: 'object',
        required: ['core:sample_start'],
        properties: { 'core:sample_start': whole, 'core:frequency': { type: 'number' } },
      },
    },
    annotations: { type: 'array', items: { type: 'object', required: ['core:sample_start'], properties: { 'core:sample_start': whole } } },
  },
} as const;

const checkMeta = checker('SigMF meta file', quick.sigmf, thorough.sigmf);

/** Reads a meta file. @throws FormatError saying what is wrong with it */
export function parseSigmfMeta(text: string): SigmfMeta {
  const input = readJson(text);
  const [problem] = checkMeta(input);
  if (problem) throw new FormatError(problem.text);
  const meta = input as SigmfMeta;
  const { 'core:datatype': type, 'core:sample_rate': rate, 'core:num_channels': channels = 1, 'core:metadata_only': isBare } = meta.global;
  if (!Object.hasOwn(DATATYPES, type)) {
    throw new FormatError(`The SigMF datatype "${type}" can't be read; ${Object.keys(DATATYPES).join(', ')} can.`);
  }
  if (channels !== 1) throw new FormatError(`This SigMF recording interleaves ${channels} channels; one can be measured.`);
  if (isBare) throw new FormatError('This SigMF recording holds facts only and no samples.');
  if (rate < LOWEST_RATE_HZ || rate > HIGHEST_RATE_HZ) {
    throw new FormatError(
      `This SigMF recording has a sample rate of ${rate} Hz; ${LOWEST_RATE_HZ} to ${HIGHEST_RATE_HZ} Hz can be measured.`,
    );
  }
  return meta;
}

/** Where the samples of a data file lie, checked against what is there. @throws FormatError when it holds none */
export function sigmfLayout(meta: SigmfMeta, dataBytes: number): SampleLayout {
  const { 'core:datatype': type, 'core:sample_rate': sampleRateHz, 'core:trailing_bytes': trailing = 0 } = meta.global;
  const stored = DATATYPES[type as SigmfDatatype];
  const frameBytes = (2 * stored.bits) / 8;
  const bytes = dataBytes - trailing;
  const frames = Math.floor(bytes / frameBytes);
  if (frames < 1) throw new FormatError('The SigMF data file holds no samples.');
  const warnings: string[] = [];
  if (bytes % frameBytes !== 0) {
    warnings.push(`The data file is not a whole number of ${type} samples: ${bytes % frameBytes} bytes at its end were left out.`);
  }
  const starts = [...meta.captures, ...meta.annotations].map((segment) => segment['core:sample_start']);
  const beyond = starts.filter((start) => start >= frames).length;
  if (beyond > 0) {
    warnings.push(
      `Meta and data disagree: ${beyond} segments or annotations begin past the ${frames} samples that are there. The samples were measured as they are.`,
    );
  }
  return { sampleRateHz, channels: 2, ...stored, dataOffset: 0, frames, warnings };
}

/** The tuned frequency of the recording, where its first segment tells. */
export const sigmfFrequencyHz = (meta: SigmfMeta): Hertz | null => meta.captures[0]?.['core:frequency'] ?? null;

/** Opens a recording whose two files are at hand. @param warnings told beside its own */
export function openSigmf(meta: SigmfMeta, data: ByteSource, warnings: readonly string[] = []): SampleSource {
  const layout = sigmfLayout(meta, data.size);
  return samplesOf(data, { ...layout, warnings: [...warnings, ...layout.warnings] });
}

/** The meta file of samples as they lie in a WAV file's data chunk (two channels: I and Q). @throws FormatError for codings SigMF lacks */
export function sigmfMetaFor(layout: SampleLayout, { description, sha512 }: { description: string; sha512?: string }): SigmfMeta {
  const found = Object.entries(DATATYPES).find(
    ([, { bits, encoding, ...rest }]) =>
      bits === layout.bits && encoding === layout.encoding && 'isSigned8' in rest === (layout.isSigned8 ?? false),
  );
  if (layout.channels !== 2) throw new FormatError('A SigMF recording needs I and Q; this one has a single channel.');
  if (!found) throw new FormatError(`SigMF has no datatype for ${layout.bits}-bit ${layout.encoding === 'pcm' ? 'integers' : 'floats'}.`);
  return {
    global: {
      'core:datatype': found[0],
      'core:sample_rate': layout.sampleRateHz,
      'core:version': '1.0.0',
      'core:description': description,
      ...(sha512 && { 'core:sha512': sha512 }),
    },
    captures: [{ 'core:sample_start': 0 }],
    annotations: [],
  };
}
