/** Plays versions of a sound in step, looped; only one of them is heard. */

export interface Sound {
  readonly samples: Float64Array;
  readonly rateHz: number;
}

const FADE_S = 0.02;

export class Player<Side extends string> {
  readonly #context = new AudioContext();
  #sources: AudioBufferSourceNode[] = [];
  readonly #gains = new Map<Side, GainNode>();
  #side: Side;
  #startedAt = 0;
  #lengthS = 1;

  constructor(side: Side) {
    this.#side = side;
  }

  /** @param stretch [from, to] in seconds that is looped; all of it when left out */
  play(sounds: Readonly<Record<Side, Sound>>, stretch?: readonly [number, number]): void {
    this.#start(sounds, 0, stretch);
  }

  /** Changes what is played, at the same place of the loop. */
  replace(sounds: Readonly<Record<Side, Sound>>, stretch?: readonly [number, number]): void {
    const place = (this.#context.currentTime - this.#startedAt) % this.#lengthS;
    for (const source of this.#sources) source.stop();
    this.#start(sounds, place, stretch);
  }

  /** Switches without a gap. */
  choose(side: Side): void {
    this.#side = side;
    for (const [each, { gain }] of this.#gains) gain.setTargetAtTime(each === side ? 1 : 0, this.#context.currentTime, FADE_S / 3);
  }

  stop(): void {
    for (const source of this.#sources) source.stop();
    this.#sources = [];
    void this.#context.close().catch(() => {});
  }

  #start(sounds: Readonly<Record<Side, Sound>>, place: number, stretch?: readonly [number, number]): void {
    const context = this.#context;
    const all = Object.entries(sounds) as [Side, Sound][];
    // The shortest tells the loop: all must come round together.
    const shortest = Math.min(...all.map(([, { samples, rateHz }]) => samples.length / rateHz));
    const from = Math.min(stretch?.[0] ?? 0, Math.max(0, shortest - 0.1));
    const to = Math.min(stretch?.[1] ?? shortest, shortest);
    this.#lengthS = Math.max(0.1, to - from);
    const within = place % this.#lengthS;
    this.#startedAt = context.currentTime - within;
    this.#gains.clear();
    this.#sources = all.map(([side, { samples, rateHz }]) => {
      const buffer = context.createBuffer(1, samples.length, rateHz);
      buffer.copyToChannel(Float32Array.from(samples), 0);
      const source = new AudioBufferSourceNode(context, { buffer, loop: true, loopStart: from, loopEnd: to });
      const gain = new GainNode(context, { gain: side === this.#side ? 1 : 0 });
      this.#gains.set(side, gain);
      source.connect(gain).connect(context.destination);
      source.start(0, from + within);
      return source;
    });
  }
}
