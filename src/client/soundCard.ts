/** The sound card as a stream of blocks: opened, lost, closed; the last seconds are kept. */

export interface SoundCard {
  readonly sampleRateHz: number;
  /** How much of the sound is kept now. */
  keptS(): number;
  /** The newest seconds, oldest first. */
  last(seconds: number): Float32Array;
  close(): void;
}

export interface SoundCardListener {
  onBlock(block: Float32Array): void;
  /** The device went away or stopped by itself. */
  onLost(): void;
}

const KEPT_S = 12;

/** Why it could not be opened, in a sentence. */
export function whyNot(error: unknown): string {
  switch ((error as Error).name) {
    case 'NotAllowedError':
      return 'The browser may not listen: allow the microphone for this page (in its address bar), then start again.';
    case 'NotFoundError':
    case 'OverconstrainedError':
      return 'There is no sound input: plug one in, connect the receiver’s line output, and start again.';
    case 'NotReadableError':
      return 'The sound input is taken by another program: close that, and start again.';
    default:
      return 'The sound input could not be opened.';
  }
}

/** Inputs by name; names are told only once the page may listen. */
export async function inputs(): Promise<{ id: string; text: string }[]> {
  const devices = await navigator.mediaDevices.enumerateDevices();
  return devices
    .filter(({ kind }) => kind === 'audioinput')
    .map(({ deviceId, label }, i) => ({ id: deviceId, text: label || `input ${i + 1}` }));
}

/** @throws DOMException when it can't be opened; `whyNot` says it in words */
export async function openSoundCard(deviceId: string | null, listener: SoundCardListener): Promise<SoundCard> {
  if (!navigator.mediaDevices) throw new DOMException('insecure page', 'NotAllowedError');
  // Nothing may touch the sound on its way: it is measured.
  const plain = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };
  const stream = await navigator.mediaDevices.getUserMedia({ audio: { ...plain, ...(deviceId && { deviceId: { exact: deviceId } }) } });
  const context = new AudioContext();
  const close = () => {
    for (const track of stream.getTracks()) track.stop();
    void context.close().catch(() => {});
  };
  try {
    await context.audioWorklet.addModule('/live-worklet.js');
    await context.resume();
  } catch (error) {
    close();
    throw error;
  }
  const kept: Float32Array[] = [];
  const most = Math.ceil((KEPT_S * context.sampleRate) / 2048);
  const node = new AudioWorkletNode(context, 'listener', { numberOfOutputs: 0 });
  node.port.onmessage = ({ data }: MessageEvent<Float32Array>) => {
    kept.push(data);
    if (kept.length > most) kept.shift();
    listener.onBlock(data);
  };
  context.createMediaStreamSource(stream).connect(node);
  for (const track of stream.getAudioTracks()) track.onended = () => listener.onLost();
  return {
    sampleRateHz: context.sampleRate,
    keptS: () => kept.reduce((sum, block) => sum + block.length, 0) / context.sampleRate,
    last(seconds) {
      const all = new Float32Array(kept.reduce((sum, block) => sum + block.length, 0));
      let at = 0;
      for (const block of kept) {
        all.set(block, at);
        at += block.length;
      }
      return all.slice(Math.max(0, all.length - Math.round(seconds * context.sampleRate)));
    },
    close,
  };
}
