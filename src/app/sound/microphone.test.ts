/** The microphone is off whenever its sound does not start, and when nobody wants it any more. */
import { realClock } from '../world/clock';
import { openMicrophone, SoundTrouble } from './sources';

const globals = globalThis as unknown as Record<string, unknown>;
const before = { navigator: globals.navigator, AudioContext: globals.AudioContext, Node: globals.AudioWorkletNode };
let tracks: { stopped: boolean }[];
let allow: () => void;

/** @param context what goes differently with the sound's context */
function browser(context: object): void {
  tracks = [{ stopped: false }];
  const stream = {
    getTracks: () => tracks.map((t) => ({ stop: () => (t.stopped = true) })),
    getAudioTracks: () => [{ getSettings: () => ({}), addEventListener: () => undefined }],
  };
  const allowed = new Promise<void>((resolve) => (allow = resolve));
  const mediaDevices = { getUserMedia: () => allowed.then(() => stream) };
  Object.defineProperty(globals, 'navigator', { configurable: true, value: { mediaDevices } });
  globals.AudioContext = class {
    state = 'running';
    sampleRate = 48000;
    audioWorklet = { addModule: async () => undefined };
    createMediaStreamSource = () => ({ connect: () => undefined });
    resume = async () => undefined;
    close = async () => undefined;
    constructor() {
      Object.assign(this, context);
    }
  };
  globals.AudioWorkletNode = class {
    port = { postMessage: (_: unknown, [port]: MessagePort[]) => port!.close() };
  };
}
afterEach(() => {
  jest.restoreAllMocks();
  Object.defineProperty(globals, 'navigator', { configurable: true, value: before.navigator });
  Object.assign(globals, { AudioContext: before.AudioContext, AudioWorkletNode: before.Node });
});
const open = (signal = new AbortController().signal) =>
  openMicrophone(
    undefined,
    signal,
    () => undefined,
    () => undefined,
  );

test('what starts is listened to until it is stopped', async () => {
  browser({});
  allow();
  const source = await open();
  expect(tracks[0]!.stopped).toBe(false);
  source.stop();
  source.port.close();
  expect(tracks[0]!.stopped).toBe(true);
});

test('allowed after the view was left, it is stopped at once', async () => {
  browser({});
  const leaving = new AbortController();
  const opening = open(leaving.signal);
  leaving.abort();
  allow();
  await expect(opening).rejects.toThrow(/abort/i);
  expect(tracks[0]!.stopped).toBe(true);
});

const fails = () => {
  throw new Error('no such node');
};
const never = () => new Promise(() => undefined);
test.each([
  [
    'the source cannot be made',
    { createMediaStreamSource: fails },
    /could not take up the sound \(no such node\).*off again/,
  ],
  [
    'the audio thread takes no code',
    { audioWorklet: { addModule: async () => fails() } },
    /could not take up the sound/,
  ],
  ['there is no audio thread', { audioWorklet: undefined }, /cannot capture sound/],
  ['it is held back', { state: 'suspended' }, /holds the sound back/],
  ['it never goes on', { state: 'suspended', resume: never }, /did not start within three seconds/],
  ['its code never comes', { audioWorklet: { addModule: never } }, /did not start within three seconds/],
])('%s: every track is stopped, and a sentence says so', async (_, context, sentence) => {
  // Three seconds have passed at once.
  jest.spyOn(realClock, 'after').mockImplementation((ms, act) => {
    const timer = setTimeout(act, ms / 100);
    return () => clearTimeout(timer);
  });
  browser(context);
  allow();
  const trouble = await open().catch((error: unknown) => error);
  expect(trouble).toBeInstanceOf(SoundTrouble);
  expect((trouble as Error).message).toMatch(sentence);
  expect(tracks[0]!.stopped).toBe(true);
});
