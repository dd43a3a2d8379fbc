/** One recording on its way into the station: decoded if need be, hashed, sent, measured. */
import { proxy } from 'comlink';
import { startsLikeWav, writeWav } from '@/core/files/index.ts';
import type { MeasurementKind } from '@/core/measure/index.ts';
import type { CaptureSettings, Load } from '@/server/db/models.ts';
import { coreWork } from './workers/coreWork.ts';

export interface OverFacts {
  /** The over that this is another capture of; a new one when left out. */
  readonly overId?: number;
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
    /** The recording is on the server all the same. */
    readonly isStored = false,
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
    const named = { ...facts, settings: { ...facts.settings, ...settings }, fileName: storedName(recording, facts.kind, wav), sha256 };
    const stored = await send(wav, named, (share) => tell({ phase: 'sending', share }), signal);
    await measured(stored, (share) => tell({ phase: 'measuring', share }), signal);
    tell({ phase: 'done', overId: stored.overId });
  } catch (error) {
    if (error instanceof UploadError && error.isStored) tell({ phase: 'failed', message: error.message, link: error.link });
    else if (signal.aborted) tell({ phase: 'failed', message: 'Cancelled. Nothing was stored.' });
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
  if (startsLikeWav(head) || !isCompressed) return file;
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
function send(body: Blob, facts: { readonly sha256: string }, onShare: (share: number) => void, signal: AbortSignal): Promise<Stored> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const lost = () => void whatBecameOf(facts.sha256, signal).then(reject);
    request.open('POST', '/api/captures');
    request.setRequestHeader('x-dialtune-capture', encodeURIComponent(JSON.stringify(facts)));
    request.upload.onprogress = ({ loaded, total }) => onShare(total > 0 ? loaded / total : 0);
    request.onerror = lost;
    request.onabort = () => reject(new UploadError('Cancelled. Nothing was stored.'));
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
/** A server that was killed is started again within this time, as a rule. */
const PATIENCE_MS = 60_000;
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Asks for JSON; null when the server does not answer, or not in earnest. */
async function ask<T>(address: string): Promise<T | null> {
  try {
    const response = await fetch(address);
    return response.ok ? ((await response.json()) as T) : null;
  } catch {
    return null;
  }
}

/** The connection broke off: whether the recording arrived is for the server to say, once it is back. */
async function whatBecameOf(sha256: string, signal: AbortSignal): Promise<UploadError> {
  for (const end = Date.now() + PATIENCE_MS; Date.now() < end && !signal.aborted; await pause(4 * ASK_EVERY_MS)) {
    const known = await ask<{ overId: number | null }>(`/api/captures?sha256=${sha256}`);
    if (!known) continue;
    if (known.overId === null) return new UploadError('The connection broke off. Nothing was stored; please send the file again.');
    return new UploadError(
      `The connection broke off, but the recording is kept: it is over ${known.overId}.`,
      `/overs/${known.overId}`,
      true,
    );
  }
  return new UploadError(
    'The server went away and has not come back. Whether the recording was stored is not known; sending it again is safe: it is never stored twice.',
  );
}

/** Waits for the numbers; a server that goes away meanwhile goes on measuring when it is back. */
async function measured({ overId, measurementId }: Stored, onShare: (share: number) => void, signal: AbortSignal): Promise<void> {
  const link = `/overs/${overId}`;
  for (let end = Date.now() + PATIENCE_MS; ; await pause(ASK_EVERY_MS)) {
    if (signal.aborted) throw new UploadError('The recording is kept and will be measured.', link, true);
    const news = await ask<{ status: string; share: number; error: string | null }>(`/api/measurements/${measurementId}`);
    if (news) end = Date.now() + PATIENCE_MS;
    if (news?.status === 'done') return;
    if (news?.status === 'failed') throw new UploadError(`${news.error} The recording is kept.`, link, true);
    if (news) onShare(news.share ?? 0);
    else if (Date.now() > end)
      throw new UploadError('The server went away. The recording is kept and will be measured when it is back.', link, true);
  }
}
