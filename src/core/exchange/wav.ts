// The bundled build: it loads alike under Node and in the browser's bundle.
import wavefile from 'wavefile/dist/wavefile.js';
import { LARGEST_WAV } from '../limits';

const { WaveFile } = wavefile;

export interface Sound {
  /** Mono, -1..1. */
  samples: Float64Array;
  sampleRate: number;
}

export type WavOutcome = { ok: true; sound: Sound } | { ok: false; message: string };

/** What the header says of the sound, checked before anything is decoded. */
interface Header {
  /** 1 PCM, 3 float, 6 A-law, 7 mu-law, 17 IMA ADPCM. */
  codec: number;
  channels: number;
  sampleRate: number;
  bits: number;
}

const EXTENSIBLE = 0xfffe;
/** Depths of each codec that is read, bits a sample. */
const DEPTHS: Record<number, number[]> = { 1: [8, 16, 24, 32], 3: [32, 64], 6: [8], 7: [8], 17: [4] };
const MOST_CHANNELS = 32;
/** The tail of the identifier of an extensible format that means one of the codecs above (RFC 2361 and the WAVE documentation). */
const KNOWN_GUID = [0, 0, 0, 0, 0x10, 0, 0x80, 0, 0, 0xaa, 0, 0x38, 0x9b, 0x71];

const refuse = (message: string): { ok: false; message: string } => ({ ok: false, message });

/**
 * Walks the chunks of a RIFF file (Multimedia Programming Interface 1.0), whatever their number, and takes out the two that count;
 * the others, whose counts and sizes may say anything, are left out.
 */
function chunksOf(bytes: Uint8Array): { fmt: Uint8Array; data: Uint8Array } | { ok: false; message: string } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const text = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4));
  if (bytes.length < 44 || text(0) !== 'RIFF' || text(8) !== 'WAVE')
    return refuse('This is no WAV file that can be read.');
  let fmt: Uint8Array | undefined;
  let at = 12;
  while (at + 8 <= bytes.length) {
    const name = text(at);
    const size = view.getUint32(at + 4, true);
    const start = at + 8;
    if (name === 'fmt ') fmt = bytes.subarray(start, start + size);
    if (name === 'data') {
      if (!fmt) return refuse('The file does not say what its sound is.');
      // A recorder that was cut off leaves the size at nothing or at all: what is there is read.
      const end = size === 0 || size >= 0x7fffff00 ? bytes.length : start + size;
      if (end > bytes.length) return refuse('The file is shorter than it says: it was cut off.');
      return { fmt, data: bytes.subarray(start, end) };
    }
    at = start + size + (size % 2);
  }
  return refuse('The file holds no sound.');
}

function headerOf(fmt: Uint8Array): Header | { ok: false; message: string } {
  if (fmt.length < 16) return refuse('The file does not say what its sound is.');
  const view = new DataView(fmt.buffer, fmt.byteOffset, fmt.byteLength);
  const declared = view.getUint16(0, true);
  const channels = view.getUint16(2, true);
  const sampleRate = view.getUint32(4, true);
  const frame = view.getUint16(12, true);
  const bits = view.getUint16(14, true);
  let codec = declared;
  if (declared === EXTENSIBLE) {
    if (fmt.length < 40 || !KNOWN_GUID.every((b, i) => fmt[26 + i] === b))
      return refuse('The sound is in a form that is not read here: save it as PCM.');
    codec = view.getUint16(24, true);
  }
  if (!DEPTHS[codec]?.includes(bits))
    return refuse(`The sound is in a form that is not read here (code ${codec}, ${bits} bits): save it as PCM.`);
  if (!(channels >= 1 && channels <= MOST_CHANNELS)) return refuse('The file has no channels to read.');
  if (!(sampleRate >= 4000 && sampleRate <= 400000)) return refuse(`The sample rate ${sampleRate} Hz is out of range.`);
  if (codec === 17 ? channels !== 1 || frame < 8 || frame > 8192 : frame !== (channels * bits) / 8)
    return refuse('The file’s figures of its own sound do not agree.');
  return { codec, channels, sampleRate, bits };
}

/** The two chunks as a file of their own. */
function bare(fmt: Uint8Array, data: Uint8Array): Uint8Array {
  const even = (n: number) => n + (n % 2);
  const out = new Uint8Array(12 + 8 + even(fmt.length) + 8 + even(data.length));
  const view = new DataView(out.buffer);
  const put = (at: number, name: string, size: number) => {
    for (let i = 0; i < 4; i++) out[at + i] = name.charCodeAt(i);
    view.setUint32(at + 4, size, true);
  };
  put(0, 'RIFF', out.length - 8);
  for (let i = 0; i < 4; i++) out[8 + i] = 'WAVE'.charCodeAt(i);
  put(12, 'fmt ', fmt.length);
  out.set(fmt, 20);
  put(20 + even(fmt.length), 'data', data.length);
  out.set(data, 28 + even(fmt.length));
  return out;
}

/** One sample of plain PCM or float at a byte, -1..1, by codec and depth: most files are so, and the package is slow with them. */
const PLAIN: Record<string, (view: DataView, at: number) => number> = {
  '1/8': (v, at) => (v.getUint8(at) - 128) / 2 ** 7,
  '1/16': (v, at) => v.getInt16(at, true) / 2 ** 15,
  '1/24': (v, at) => (v.getUint16(at, true) + (v.getInt8(at + 2) << 16)) / 2 ** 23,
  '1/32': (v, at) => v.getInt32(at, true) / 2 ** 31,
  '3/32': (v, at) => v.getFloat32(at, true),
  '3/64': (v, at) => v.getFloat64(at, true),
};

/** Samples of all channels in turn, -1..1: plain ones here, the others by the package. */
function decoded({ codec, bits }: Header, fmt: Uint8Array, data: Uint8Array): Float64Array {
  const plain = PLAIN[`${codec}/${bits}`];
  if (plain) {
    const view = new DataView(data.buffer, data.byteOffset, data.byteLength);
    const out = new Float64Array((8 * data.length) / bits);
    for (let i = 0; i < out.length; i++) out[i] = plain(view, (i * bits) / 8);
    return out;
  }
  const wav = new WaveFile(bare(fmt, data));
  if (codec === 6) wav.fromALaw();
  else if (codec === 7) wav.fromMuLaw();
  else wav.fromIMAADPCM();
  const all = wav.getSamples(true, Float64Array) as unknown as Float64Array;
  return all.map((v) => v / 2 ** (parseInt(wav.bitDepth, 10) - 1));
}

/**
 * Reads a WAV file of unknown origin: 8/16/24/32-bit PCM, 32/64-bit float, A-law, mu-law and mono IMA ADPCM; more channels are mixed
 * down, 4 to 400 kHz. The chunks are checked here.
 */
export function readWav(bytes: Uint8Array): WavOutcome {
  if (bytes.length > LARGEST_WAV) return refuse('The file is larger than 500 MB.');
  const chunks = chunksOf(bytes);
  if ('ok' in chunks) return chunks;
  const header = headerOf(chunks.fmt);
  if ('ok' in header) return header;
  const { codec, channels, sampleRate } = header;
  const frames = Math.floor((8 * chunks.data.length) / (header.bits * channels));
  if (frames === 0) return refuse('The file holds no sound.');
  try {
    const whole = codec === 17 ? chunks.data.length : (frames * header.bits * channels) / 8;
    const all = decoded(header, chunks.fmt, chunks.data.subarray(0, whole));
    const samples = new Float64Array(Math.floor(all.length / channels));
    for (let i = 0; i < samples.length; i++) {
      let sum = 0;
      for (let c = 0; c < channels; c++) sum += all[i * channels + c]!;
      samples[i] = sum / channels;
      // A sample of a float file may be anything: beyond a hundred times full scale it is none.
      if (!(Math.abs(samples[i]!) <= 100)) return refuse('The file holds samples that are no sound.');
    }
    return samples.length === 0 ? refuse('The file holds no sound.') : { ok: true, sound: { samples, sampleRate } };
  } catch (error) {
    return refuse(`This is no WAV file that can be read (${(error as Error).message}).`);
  }
}

/** Writes mono samples as a 32-bit float WAV file. */
export function writeWav(samples: Float32Array, sampleRate: number): Uint8Array {
  const wav = new WaveFile();
  wav.fromScratch(1, sampleRate, '32f', samples);
  return wav.toBuffer();
}
