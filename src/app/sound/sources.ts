import type { BlockMessage, SoundSource } from './messages';
import { withinTime, NotAnswered, type Clock } from '../world/clock';
import captureUrl from './capture.worklet.js?url';

/** A trouble with sound, as a sentence with a way on. */
export class SoundTrouble extends Error {}

const OTHERS = 'A WAV file, the typed figure and the simulated instrument still work.';

/** An input slower than this loses partials that measuring wants, Hz. */
const LOW_RATE_HZ = 24000;

/** The sound of an input that was allowed begins within so long, or it does not, ms. */
const STARTS_WITHIN_MS = 3000;

/** Also what has just been told to go on. */
const isHeldBack = (context: AudioContext): boolean => context.state === 'suspended';

async function askForInput(deviceId: string | undefined): Promise<MediaStream> {
  if (!navigator.mediaDevices)
    throw new SoundTrouble(
      `This page may not use a microphone over plain http: open it as localhost on the machine that serves it, or by https. ${OTHERS}`,
    );
  try {
    return await navigator.mediaDevices.getUserMedia({
      audio: {
        echoCancellation: false,
        noiseSuppression: false,
        autoGainControl: false,
        ...(deviceId ? { deviceId: { exact: deviceId } } : {}),
      },
    });
  } catch (error) {
    const name = error instanceof DOMException ? error.name : '';
    if (name === 'NotAllowedError')
      throw new SoundTrouble(
        `The browser refused the microphone: allow it beside the address, then listen again. ${OTHERS}`,
      );
    if (name === 'NotFoundError' || name === 'OverconstrainedError')
      throw new SoundTrouble(`No input was found: plug one in or choose another, then listen again. ${OTHERS}`);
    throw new SoundTrouble(
      `The input could not be opened (${(error as Error).message}): another program may hold it. ${OTHERS}`,
    );
  }
}

/**
 * Microphone or interface input with everything that alters the sound switched off. Whatever goes wrong, and when nobody wants
 * it any more by the time that it is allowed, every track is stopped.
 * @param unwanted who asked has gone on to something else
 */
export async function openMicrophone(
  deviceId: string | undefined,
  unwanted: AbortSignal,
  onTrouble: (sentence: string) => void,
  onNote: (sentence: string) => void,
): Promise<SoundSource> {
  const stream = await askForInput(deviceId);
  let context: AudioContext | undefined;
  const stop = () => {
    for (const track of stream.getTracks()) track.stop();
    if (context && context.state !== 'closed') void context.close();
  };
  const begin = async (): Promise<SoundSource> => {
    unwanted.throwIfAborted();
    const own = (context = new AudioContext({ latencyHint: 'interactive' }));
    if (!own.audioWorklet) throw new SoundTrouble(`The browser cannot capture sound on its audio thread. ${OTHERS}`);
    await own.audioWorklet.addModule(captureUrl);
    if (own.state === 'suspended') await own.resume();
    unwanted.throwIfAborted();
    if (isHeldBack(own))
      throw new SoundTrouble(`The browser holds the sound back until you act: press Space once more. ${OTHERS}`);
    const channel = new MessageChannel();
    const node = new AudioWorkletNode(own, 'capture', { numberOfOutputs: 0 });
    node.port.postMessage(channel.port1, [channel.port1]);
    own.createMediaStreamSource(stream).connect(node);
    return { sampleRate: own.sampleRate, port: channel.port2, stop };
  };
  let source: SoundSource;
  try {
    source = await withinTime(begin(), STARTS_WITHIN_MS);
  } catch (error) {
    stop();
    unwanted.throwIfAborted();
    if (error instanceof SoundTrouble) throw error;
    throw new SoundTrouble(
      error instanceof NotAnswered
        ? `The sound did not start within three seconds, and the microphone is off again: press Space once more. A device without a loudspeaker or headphones may need some. ${OTHERS}`
        : `The browser could not take up the sound (${(error as Error).message}): the microphone is off again. ${OTHERS}`,
    );
  }
  const inputRate = stream.getAudioTracks()[0]?.getSettings().sampleRate;
  if (inputRate !== undefined && inputRate < LOW_RATE_HZ) {
    onNote(
      `This input runs at ${(inputRate / 1000).toFixed(0)} kHz only (a headset?): readings stay true, but faint high partials are missing. Another input does better.`,
    );
  }
  context!.onstatechange = () => {
    if (isHeldBack(context!)) onTrouble('The browser paused the sound: press Space twice to go on.');
  };
  stream.getAudioTracks()[0]?.addEventListener('ended', () => {
    onTrouble(`The input was unplugged: what was kept is safe. Plug it in and listen again. ${OTHERS}`);
    stop();
  });
  return source;
}

/** What paces a sound that is made in the page, and hands it on. */
export interface StreamMeans {
  clock: Clock;
  channel: () => Pick<MessageChannel, 'port1' | 'port2'>;
}

const STEP_MS = 40;
/** A source that goes on by itself loses what is not taken when so many blocks wait; one that can wait does so from here. */
const MOST_WAITING = 40;
const WAITS_FROM = 4;

/** Sends a sound made in the page as blocks, at the pace of its clock, by the same bounded queue. */
export function streamSamples(
  { clock, channel: open }: StreamMeans,
  sampleRate: number,
  next: (frames: number) => Float32Array | undefined,
): SoundSource {
  const channel = open();
  let waiting = 0;
  let lost = false;
  let last = clock.elapsedMs();
  channel.port1.onmessage = () => waiting--;
  const release = clock.holdWhile(() => waiting > WAITS_FROM);
  const end = clock.every(STEP_MS, () => {
    const now = clock.elapsedMs();
    const due = Math.min(400, now - last);
    if (due < STEP_MS / 2) return;
    last = now;
    const samples = next(Math.round((sampleRate * due) / 1000));
    if (!samples) return;
    if (waiting > MOST_WAITING) {
      lost = true;
      return;
    }
    waiting++;
    channel.port1.postMessage({ samples, lost } satisfies BlockMessage, [samples.buffer]);
    lost = false;
  });
  return {
    sampleRate,
    port: channel.port2,
    stop: () => {
      end();
      release();
      channel.port1.close();
    },
  };
}

/** A recording is heard in blocks so long, s; silence after its end, so that its last note is read too, s. */
const BLOCK_S = 0.05;
const AFTER_S = 1.5;

/**
 * A recording, heard as fast as the machine can and no faster than what comes of it is decided: no clock has a part in it.
 * @param decided resolves when what was heard up to a moment, s, was answered for: the next block is heard by what is asked then
 * @param ended the last of it was heard
 */
export function recordedSound(
  { channel: open }: Pick<StreamMeans, 'channel'>,
  samples: Float64Array,
  sampleRate: number,
  decided: (atS: number) => Promise<void>,
  ended: () => void,
): SoundSource {
  const channel = open();
  const frames = Math.round(BLOCK_S * sampleRate);
  const end = samples.length + AFTER_S * sampleRate;
  let at = 0;
  let stopped = false;
  const send = (): void => {
    if (stopped) return;
    if (at >= end) return ended();
    const block = new Float32Array(frames);
    block.set(samples.subarray(at, at + frames));
    at += frames;
    channel.port1.postMessage({ samples: block, lost: false } satisfies BlockMessage, [block.buffer]);
  };
  return {
    sampleRate,
    port: channel.port2,
    next: () => void decided(at / sampleRate).then(send),
    stop: () => {
      stopped = true;
      channel.port1.close();
    },
  };
}

/** Lists the inputs; names are known only once the microphone was allowed. */
export async function listInputs(): Promise<{ id: string; name: string }[]> {
  const devices = (await navigator.mediaDevices?.enumerateDevices()) ?? [];
  return devices
    .filter((d) => d.kind === 'audioinput' && d.deviceId)
    .map((d, i) => ({ id: d.deviceId, name: d.label || `Input ${i + 1}` }));
}
