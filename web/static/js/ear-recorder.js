// Runs beside the sound card: hands on what the microphone hears, in blocks, each with the frame that it begins with.
const block = 4096;

class Recorder extends AudioWorkletProcessor {
  constructor() {
    super();
    this.samples = new Float32Array(block);
    this.filled = 0;
  }
  process([[heard]]) {
    if (!heard) return true;
    for (const x of heard) {
      this.samples[this.filled++] = x;
      if (this.filled < block) continue;
      this.port.postMessage({ end: currentFrame + heard.length, samples: this.samples });
      [this.samples, this.filled] = [new Float32Array(block), 0];
    }
    return true;
  }
}

registerProcessor("recorder", Recorder);
