/** Hands what the sound card hears to the page, in blocks of 2048 samples. */
class Listener extends AudioWorkletProcessor {
  constructor() {
    super();
    this.block = new Float32Array(2048);
    this.filled = 0;
  }

  process([input]) {
    const samples = input[0];
    if (!samples) return true;
    for (let n = 0; n < samples.length; n++) {
      this.block[this.filled++] = samples[n];
      if (this.filled < this.block.length) continue;
      this.port.postMessage(this.block);
      this.block = new Float32Array(2048);
      this.filled = 0;
    }
    return true;
  }
}

registerProcessor('listener', Listener);
