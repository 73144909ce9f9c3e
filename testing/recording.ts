import { addNoise, pluck, randomFrom } from '../src/core/simulate';

export const RATE = 48000;
/** A steel string, plucked. */
export const PLUCK = {
  inharmonicity: 6e-5,
  pluckAt: 0.15,
  rolloff: 1.1,
  decayS: 2.5,
  damping: 0.1,
  secondShare: 0.15,
  secondCents: 0.1,
  secondLonger: 2,
  glideCents: 2,
  level: 0.4,
  attack: 0.1,
};
/** Of a MIDI note, so many cents beside its place. */
export const hz = (midi: number, cents = 0) => 440 * 2 ** ((midi - 69) / 12 + cents / 1200);

/** The E4 string, plucked at the given seconds, standing centsAt(s) from its target all the while. */
export function recording(seconds: number, plucksS: number[], centsAt: (s: number) => number): Float32Array {
  const random = randomFrom(31);
  const out = new Float32Array(seconds * RATE);
  plucksS.forEach((fromS, i) => {
    const voice = pluck({ ...PLUCK, frequencyHz: hz(64) }, RATE, random);
    const to = Math.round((plucksS[i + 1] ?? seconds) * RATE);
    for (let at = Math.round(fromS * RATE); at < to; at += 240)
      voice.render(out, at, Math.min(to, at + 240), Math.pow(2, centsAt(at / RATE) / 1200));
  });
  addNoise(out, 0.0003, random);
  return out;
}
