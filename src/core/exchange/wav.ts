// The bundled build: it loads alike under Node and in the browser's bundle.
import wavefile from 'wavefile/dist/wavefile.js';

const { WaveFile } = wavefile;

export interface Sound {
  /** Mono, -1..1. */
  samples: Float64Array;
  sampleRate: number;
}

export type WavOutcome = { ok: true; sound: Sound } | { ok: false; message: string };

interface Fmt {
  numChannels: number;
  sampleRate: number;
  bitsPerSample: number;
  audioFormat: number;
  subformat?: number[];
}

/**
 * Reads a WAV file: 8/16/24/32-bit, 32/64-bit float, mono or more channels (mixed down), 8 to 192 kHz, A-law, mu-law
 * and ADPCM as the package decodes them.
 */
export function readWav(bytes: Uint8Array): WavOutcome {
  try {
    const wav = new WaveFile(bytes);
    const fmt = wav.fmt as Fmt;
    if (fmt.audioFormat === 6) wav.fromALaw();
    else if (fmt.audioFormat === 7) wav.fromMuLaw();
    else if (fmt.audioFormat === 17) wav.fromIMAADPCM();
    else if (fmt.audioFormat === 0xfffe && fmt.subformat?.[0] === 3)
      wav.bitDepth = fmt.bitsPerSample === 64 ? '64' : '32f';
    const { numChannels, sampleRate } = wav.fmt as Fmt;
    if (!(sampleRate >= 4000 && sampleRate <= 400000))
      return { ok: false, message: `The sample rate ${sampleRate} Hz is out of range.` };
    if (!(numChannels >= 1 && numChannels <= 32)) return { ok: false, message: 'The file has no channels to read.' };
    const isFloat = wav.bitDepth === '32f' || wav.bitDepth === '64';
    const bits = parseInt(wav.bitDepth, 10);
    // 8-bit samples are unsigned.
    const offset = bits === 8 ? 128 : 0;
    const scale = isFloat ? 1 : 1 / 2 ** (bits - 1);
    const all = wav.getSamples(true, Float64Array) as unknown as Float64Array;
    const samples = new Float64Array(Math.floor(all.length / numChannels));
    for (let i = 0; i < samples.length; i++) {
      let sum = 0;
      for (let c = 0; c < numChannels; c++) sum += all[i * numChannels + c]!;
      samples[i] = (sum / numChannels - offset) * scale;
      if (!Number.isFinite(samples[i]!)) return { ok: false, message: 'The file holds samples that are no numbers.' };
    }
    return samples.length === 0
      ? { ok: false, message: 'The file holds no sound.' }
      : { ok: true, sound: { samples, sampleRate } };
  } catch (error) {
    return { ok: false, message: `This is no WAV file that can be read (${(error as Error).message}).` };
  }
}

/** Writes mono samples as a 32-bit float WAV file. */
export function writeWav(samples: Float32Array, sampleRate: number): Uint8Array {
  const wav = new WaveFile();
  wav.fromScratch(1, sampleRate, '32f', samples);
  return wav.toBuffer();
}
