/** How long the tone is in the air, s. */
export const TONE_S = 2.05;

/** Sounds a target for two seconds: a soft tone with a few partials, so that it can be compared with a string. */
export function soundTarget(frequencyHz: number): void {
  const context = new AudioContext();
  const gain = context.createGain();
  const now = context.currentTime;
  gain.gain.setValueAtTime(0, now);
  gain.gain.linearRampToValueAtTime(0.2, now + 0.05);
  gain.gain.setValueAtTime(0.2, now + 1.7);
  gain.gain.linearRampToValueAtTime(0, now + 2);
  gain.connect(context.destination);
  [1, 0.4, 0.2, 0.1].forEach((level, i) => {
    const tone = context.createOscillator();
    const part = context.createGain();
    tone.frequency.value = frequencyHz * (i + 1);
    part.gain.value = level;
    tone.connect(part).connect(gain);
    tone.start(now);
    tone.stop(now + TONE_S);
    if (i === 0) tone.onended = () => void context.close();
  });
}
