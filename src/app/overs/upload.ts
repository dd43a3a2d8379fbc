/** One recording on its way into the station: decoded if need be, hashed, sent, measured. */
import { proxy } from 'comlink';
import { writeWav } from '@/core/formats/wavWriter.ts';
import type { MeasurementKind } from '@/core/measure/measurement.ts';
import type { CaptureSettings, Load } from '@/server/models.ts';
import { coreWork } from '@/workers/coreWork.ts';

export interface OverFacts {
  readonly cardRevisionId: number;
  readonly receiverId: number;
  readonly load: Load;
  readonly powerW: number | null;
  readonly alcReading: number | null;
  readonly kind: MeasurementKind;
  readonly settings: CaptureSettings;
}

/** One recording to bring in: a file, or the two of a SigMF recording. */
export interface Incoming {
  readonly name: string;
  readonly bytes: number;
  readonly file: File;
  /** SigMF's file of facts, when `file` is its data. */
  readonly meta?: File;
}

const SIGMF = /\.sigmf-(meta|data)$/;

/** Files as recordings: SigMF's two files belong together. Also tells which lack their other half. */
export function asRecordings(files: readonly File[]): { recordings: Incoming[]; halves: readonly string[] } {
  const byName = new Map(files.map((file) => [file.name, file]));
  const recordings: Incoming[] = [];
  const halves: string[] = [];
  for (const file of files) {
    const part = SIGMF.exec(file.name)?.[1];
    if (!part) {
      recordings.push({ name: file.name, bytes: file.size, file });
      continue;
    }
    const other = byName.get(file.name.replace(SIGMF, part === 'meta' ? '.sigmf-data' : '.sigmf-meta'));
    if (!other) halves.push(file.name);
    else if (part === 'data') recordings.push({ name: file.name.replace(SIGMF, ''), bytes: file.size, file, meta: other });
  }
  return { recordings, halves };
}

export type UploadState =
  | { readonly phase: 'decoding' | 'checking' | 'sending' | 'measuring'; readonly share: number }
  | { readonly phase: 'done'; readonly overId: number }
  | { readonly phase: 'failed'; readonly message: string; readonly link?: string };

/** What the server said no to, or what broke. */
class UploadError extends Error {
  constructor(
    message: string,
    readonly link?: string,
  ) {
    super(message);
  }
}

/** Runs the whole way and tells each step. Never throws: the last state says how it ended. */
export async function upload(
  recording: Incoming,
  facts: OverFacts,
  tell: (state: UploadState) => void,
  signal: AbortSignal,
): Promise<void> {
  try {
    const { blob: wav, settings } = await asStored(recording, facts.kind, () => tell({ phase: 'decoding', share: 0 }));
    signal.throwIfAborted();
    const sha256 = await coreWork().hash(
      wav,
      proxy((share: number) => tell({ phase: 'checking', share })),
    );
    signal.throwIfAborted();
    const stored = await send(
      wav,
      { ...facts, settings: { ...facts.settings, ...settings }, fileName: storedName(recording, facts.kind, wav), sha256 },
      (share) => tell({ phase: 'sending', share }),
      signal,
    );
    await measured(stored.measurementId, (share) => tell({ phase: 'measuring', share }));
    tell({ phase: 'done', overId: stored.overId });
  } catch (error) {
    if (signal.aborted) tell({ phase: 'failed', message: 'Cancelled. Nothing was stored.' });
    else tell({ phase: 'failed', message: (error as Error).message, link: error instanceof UploadError ? error.link : undefined });
  }
}

/** Curves and traces go as they are, SigMF and compressed audio as WAV. */
async function asStored(
  { file, meta }: Incoming,
  kind: MeasurementKind,
  started: () => void,
): Promise<{ blob: Blob; settings: CaptureSettings }> {
  if (meta) {
    started();
    const { wav, remark, tunedHz } = await coreWork().sigmfAsWav(meta, file);
    return { blob: wav, settings: { ...(remark && { remark: remark.slice(0, 1000) }), ...(tunedHz !== null && { tunedHz }) } };
  }
  const isText = kind === 'power' || (kind === 'response' && /\.(csv|txt)$/i.test(file.name));
  return { blob: isText ? file : await asWav(file, started), settings: {} };
}

function storedName({ name, file }: Incoming, kind: MeasurementKind, stored: Blob): string {
  if (kind === 'power' && !/\.(csv|txt)$/i.test(name)) return `${name}.csv`;
  return stored === file ? name : `${name.replace(/\.(mp3|ogg|opus|flac|m4a|mp4|webm)$/i, '')}.wav`;
}

const LONGEST_DECODE_BYTES = 200e6;

/** WAV files as they are; what else the browser can play is decoded here and kept as WAV. */
async function asWav(file: File, started: () => void): Promise<Blob> {
  const head = new Uint8Array(await file.slice(0, 4).arrayBuffer());
  const start = String.fromCharCode(...head);
  const isCompressed =
    /^(ID3|OggS|fLaC)/.test(start) || (head[0] === 0xff && head[1] >= 0xe0) || /\.(mp3|ogg|opus|flac|m4a|mp4|webm)$/i.test(file.name);
  if (/^(RIFF|RF64|BW64)/.test(start) || !isCompressed) return file;
  if (file.size > LONGEST_DECODE_BYTES) throw new UploadError('This compressed file is too long to decode here; please save it as WAV.');
  started();
  try {
    const audio = await new OfflineAudioContext(1, 1, 48000).decodeAudioData(await file.arrayBuffer());
    const channels = Array.from({ length: Math.min(2, audio.numberOfChannels) }, (_, c) => audio.getChannelData(c));
    const bytes = writeWav({ sampleRateHz: audio.sampleRate, channels: channels.length, bits: 32, encoding: 'float' }, channels);
    return new Blob([bytes as Uint8Array<ArrayBuffer>]);
  } catch {
    throw new UploadError(`${file.name} can't be decoded by this browser. Nothing was stored; please save it as WAV.`);
  }
}

interface Stored {
  readonly overId: number;
  readonly measurementId: number;
}

/** XMLHttpRequest, because fetch does not tell how much was sent. */
function send(body: Blob, facts: object, onShare: (share: number) => void, signal: AbortSignal): Promise<Stored> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const lost = () => reject(new UploadError('The connection broke off. Nothing was stored; please send the file again.'));
    request.open('POST', '/api/captures');
    request.setRequestHeader('x-dialtune-capture', encodeURIComponent(JSON.stringify(facts)));
    request.upload.onprogress = ({ loaded, total }) => onShare(total > 0 ? loaded / total : 0);
    request.onerror = lost;
    request.onabort = lost;
    request.onload = () => {
      const answer = parse(request.responseText);
      if (request.status === 200) resolve(answer as Stored);
      else reject(new UploadError(answer.message ?? 'The server did not take the file. Nothing was stored.', answer.link));
    };
    signal.addEventListener('abort', () => request.abort());
    request.send(body);
  });
}

function parse(text: string): { message?: string; link?: string } {
  try {
    return JSON.parse(text);
  } catch {
    return {};
  }
}

const ASK_EVERY_MS = 250;

async function measured(measurementId: number, onShare: (share: number) => void): Promise<void> {
  for (;;) {
    const response = await fetch(`/api/measurements/${measurementId}`);
    const { status, share, error } = await response.json();
    if (status === 'done') return;
    if (status === 'failed') throw new UploadError(`${error} The recording is kept.`, undefined);
    onShare(share ?? 0);
    await new Promise((resolve) => setTimeout(resolve, ASK_EVERY_MS));
  }
}
