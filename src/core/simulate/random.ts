import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** A seeded stream of random numbers; the same seed gives the same stream everywhere. */
export interface Random {
  /** Uniform in [0, 1). */
  uniform(): number;
  /** Uniform in [a, b). */
  between(a: number, b: number): number;
  /** Standard normal (Box & Muller 1958). */
  normal(): number;
}

/** Numbers by chance, the same from the same seed. */
export function randomFrom(seed: number): Random {
  // Neighbouring seeds start neighbouring streams: stir the seed (Murmur3's finaliser) and drop the first numbers.
  let h = seed | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  const generator = xoroshiro128plus((h ^ (h >>> 16)) | 0);
  for (let i = 0; i < 20; i++) generator.next();
  const uniform = () => (generator.next() >>> 0) / 2 ** 32;
  return {
    uniform,
    between: (a, b) => a + (b - a) * uniform(),
    normal: () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform()),
  };
}
