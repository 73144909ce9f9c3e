/** Blocks of samples that follow one another out of the loudspeaker. */
export interface Speaker {
  play(samples: Float32Array): void;
  close(): void;
}

/** It plays so much behind, so that a late block makes no gap, s. */
const BEHIND_S = 0.08;

/** A loudspeaker for sound made in the page; silent where the browser has or allows none, and for sound faster than it was. */
export function openSpeaker(sampleRate: number, pace: number): Speaker {
  if (pace !== 1 || typeof AudioContext === 'undefined') return { play: () => undefined, close: () => undefined };
  const context = new AudioContext();
  let nextS = 0;
  return {
    play(samples) {
      if (context.state !== 'running') return;
      const buffer = context.createBuffer(1, samples.length, sampleRate);
      buffer.getChannelData(0).set(samples);
      const node = context.createBufferSource();
      node.buffer = buffer;
      node.connect(context.destination);
      nextS = Math.max(nextS, context.currentTime + BEHIND_S);
      node.start(nextS);
      nextS += buffer.duration;
    },
    close: () => void context.close(),
  };
}
