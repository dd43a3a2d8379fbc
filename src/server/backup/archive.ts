/**
 * A station archive: a ZIP of open files. `dialtune-station.json` says what it is and lists every file with its
 * size and SHA-256; `tables/*.jsonl` hold the data, one JSON object a line; `captures/` the recordings as they came.
 * The CSV and profile files are for people and other programs; an import reads the first three only.
 */
import type { FromSchema } from 'json-schema-to-ts';

export const MANIFEST = 'dialtune-station.json';
export const tableFile = (table: string): string => `tables/${table}.jsonl`;
/** Recordings are WAV files, curves and traces CSV. */
export const captureFile = ({ id, fileName }: { id: number; fileName: string }): string =>
  `captures/${id}.${/\.(?:csv|txt)$/i.test(fileName) ? 'csv' : 'wav'}`;

export const manifestSchema = {
  type: 'object',
  properties: {
    format: { const: 'dialtune-station' },
    version: { const: 1 },
    madeAt: { type: 'string', maxLength: 40 },
    coreVersion: { type: 'string', maxLength: 20 },
    files: {
      type: 'array',
      maxItems: 1_000_000,
      items: {
        type: 'object',
        properties: {
          name: { type: 'string', minLength: 1, maxLength: 300 },
          bytes: { type: 'integer', minimum: 0 },
          sha256: { type: 'string', pattern: '^[0-9a-f]{64}$' },
        },
        required: ['name', 'bytes', 'sha256'],
        additionalProperties: false,
      },
    },
  },
  required: ['format', 'version', 'madeAt', 'coreVersion', 'files'],
  additionalProperties: false,
} as const;

export type Manifest = FromSchema<typeof manifestSchema>;
