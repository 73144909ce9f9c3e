import wavefile from 'wavefile/dist/wavefile.js';
import { writeWav } from '../../src/core/exchange';
import type { Random } from '../../src/core/simulate';

const { WaveFile } = wavefile;
const RATE = 8000;
const FRAMES = 1024;

/** Small good files of every form that is read, and of some that are not. */
export function goodWavs(): Uint8Array[] {
  const tone = Float32Array.from({ length: FRAMES }, (_, i) => 0.5 * Math.sin((2 * Math.PI * 440 * i) / RATE));
  const whole = (bits: number) => Int32Array.from(tone, (v) => Math.round(v * (2 ** (bits - 1) - 1)));
  const files = [writeWav(tone, RATE)];
  for (const bits of [8, 16, 24, 32]) {
    const wav = new WaveFile();
    wav.fromScratch(1, RATE, String(bits), bits === 8 ? whole(8).map((v) => v + 128) : whole(bits));
    files.push(wav.toBuffer());
  }
  for (const turn of ['toALaw', 'toMuLaw', 'toIMAADPCM'] as const) {
    const wav = new WaveFile();
    wav.fromScratch(1, RATE, '16', whole(16));
    wav[turn]();
    files.push(wav.toBuffer());
  }
  return files;
}

/** Codes of other codecs (RFC 2361): MS ADPCM, GSM, MPEG, AAC and others. */
export const OTHER_CODECS = [0, 2, 4, 5, 0x10, 0x11 + 0x100, 0x31, 0x50, 0x55, 0xff, 0x161, 0x2000, 0xf1ac, 0xffff];

const view = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/** The same file that says it is of another codec. */
export function asCodec(file: Uint8Array, code: number): Uint8Array {
  const bytes = file.slice();
  view(bytes).setUint16(20, code, true);
  return bytes;
}

/** A file with sizes, counts, figures or bytes put wrong, cut, or with strange chunks between. */
export function bentWav(file: Uint8Array, random: Random): Uint8Array {
  const int = (n: number) => Math.floor(n * random.uniform());
  const sizes = [0, 1, 2, 7, 0x7fffffff, 0x80000000, 0xfffffffe, 0xffffffff, int(2 ** 32), int(5000)];
  const bytes = file.slice();
  switch (int(6)) {
    case 0:
      return bytes.slice(0, int(bytes.length));
    case 1:
      view(bytes).setUint32([4, 16, 40, int(bytes.length - 4)][int(4)]!, sizes[int(sizes.length)]!, true);
      return bytes;
    case 2:
      for (let i = 0; i < 1 + int(8); i++) bytes[int(60)] = int(256);
      return bytes;
    case 3: {
      // A chunk with a count inside that says more than there is.
      const name = ['cue ', 'LIST', 'smpl', 'bext', 'ds64', 'fact', 'abcd', 'data', 'fmt '][int(9)]!;
      const body = new Uint8Array(4 * int(20));
      body.fill(0xff);
      if (name === 'LIST') body.set([...'adtl'].map((c) => c.charCodeAt(0)).slice(0, body.length));
      const chunk = new Uint8Array(8 + body.length);
      for (let i = 0; i < 4; i++) chunk[i] = name.charCodeAt(i);
      view(chunk).setUint32(4, random.uniform() < 0.5 ? body.length : sizes[int(sizes.length)]!, true);
      chunk.set(body, 8);
      const at = random.uniform() < 0.5 ? 12 : 36;
      const out = new Uint8Array(bytes.length + chunk.length);
      out.set(bytes.subarray(0, at));
      out.set(chunk, at);
      out.set(bytes.subarray(at), at + chunk.length);
      return out;
    }
    case 4:
      return Uint8Array.from({ length: int(400) }, (_, i) => (i < 12 ? file[i]! : int(256)));
    default:
      view(bytes).setUint16(20 + 2 * int(10), [0, 1, 3, 17, 0xfffe, 0xffff, int(65536)][int(7)]!, true);
      return bytes;
  }
}
