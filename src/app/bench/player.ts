/** Plays two versions of a sound in step, looped; only one of them is heard. */

export type Side = 'before' | 'after';

export interface Sound {
  readonly before: Float64Array;
  readonly after: Float64Array;
  readonly rateHz: number;
}

const SIDES: readonly Side[] = ['before', 'after'];
const FADE_S = 0.02;

export class Player {
  readonly #context = new AudioContext();
  #sources: AudioBufferSourceNode[] = [];
  #gains: Partial<Record<Side, GainNode>> = {};
  #side: Side = 'before';
  #startedAt = 0;
  #lengthS = 1;

  play(sound: Sound, side: Side): void {
    this.#side = side;
    this.#start(sound, 0);
  }

  /** Changes what is played, at the same place of the loop. */
  replace(sound: Sound): void {
    const place = (this.#context.currentTime - this.#startedAt) % this.#lengthS;
    for (const source of this.#sources) source.stop();
    this.#start(sound, place);
  }

  /** Switches without a gap. */
  choose(side: Side): void {
    this.#side = side;
    for (const each of SIDES) this.#gains[each]?.gain.setTargetAtTime(each === side ? 1 : 0, this.#context.currentTime, FADE_S / 3);
  }

  stop(): void {
    for (const source of this.#sources) source.stop();
    this.#sources = [];
    void this.#context.close().catch(() => {});
  }

  #start(sound: Sound, place: number): void {
    const context = this.#context;
    this.#lengthS = sound.before.length / sound.rateHz;
    this.#startedAt = context.currentTime - place;
    this.#sources = SIDES.map((side) => {
      const buffer = context.createBuffer(1, sound[side].length, sound.rateHz);
      buffer.copyToChannel(Float32Array.from(sound[side]), 0);
      const source = new AudioBufferSourceNode(context, { buffer, loop: true });
      const gain = new GainNode(context, { gain: side === this.#side ? 1 : 0 });
      this.#gains[side] = gain;
      source.connect(gain).connect(context.destination);
      source.start(0, place);
      return source;
    });
  }
}
