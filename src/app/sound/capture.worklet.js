/**
 * Runs on the audio thread: gathers the input into blocks and hands them to the listener worker by its port. The queue is
 * bounded: when the worker is behind, blocks are dropped, counted, and the next one says so.
 */
const BLOCK = 1024;
const MOST_WAITING = 40;

class Capture extends AudioWorkletProcessor {
  constructor() {
    super();
    this.block = new Float32Array(BLOCK);
    this.filled = 0;
    this.waiting = 0;
    this.lost = false;
    this.port.onmessage = ({ data }) => {
      this.out = data;
      this.out.onmessage = () => this.waiting--;
    };
  }

  process(inputs) {
    const input = inputs[0];
    if (!this.out || !input || input.length === 0) return true;
    const frames = input[0].length;
    for (let i = 0; i < frames; i++) {
      let sum = 0;
      for (const channel of input) sum += channel[i];
      this.block[this.filled++] = sum / input.length;
      if (this.filled === BLOCK) this.send();
    }
    return true;
  }

  send() {
    this.filled = 0;
    if (this.waiting >= MOST_WAITING) {
      this.lost = true;
      return;
    }
    const samples = this.block;
    this.block = new Float32Array(BLOCK);
    this.waiting++;
    this.out.postMessage({ samples, lost: this.lost }, [samples.buffer]);
    this.lost = false;
  }
}

registerProcessor('capture', Capture);
