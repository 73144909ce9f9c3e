import { type StringTruth, forkTruth } from '../../core/simulate';
import type { BlockMessage } from './messages';
import { steppedClock } from '../world/clock';
import { openSimulated } from './simulated';
import { recordedSound, streamSamples } from './sources';

/** A port that keeps what it is given, and answers when it is told to. */
function channel() {
  const blocks: BlockMessage[] = [];
  const port1 = {
    onmessage: null as (() => void) | null,
    postMessage: (block: BlockMessage) => blocks.push(block),
    close: () => undefined,
  };
  const open = () => ({ port1, port2: {} }) as unknown as Pick<MessageChannel, 'port1' | 'port2'>;
  return { blocks, open, answer: () => port1.onmessage?.() };
}

test('samples come as time goes by: so many for so long, none twice', () => {
  const clock = steppedClock(0);
  const { blocks, open } = channel();
  let next = 0;
  const source = streamSamples({ clock, channel: open }, 8000, (frames) =>
    Float32Array.from({ length: frames }, () => next++),
  );
  clock.advance(400);
  expect(blocks.flatMap((b) => [...b.samples])).toEqual(Array.from({ length: 3200 }, (_, i) => i));
  source.stop();
  clock.advance(400);
  expect(next).toBe(3200);
});

test('a recording is heard block by block, each when what came of the one before was decided, whatever the time is', async () => {
  const { blocks, open } = channel();
  const samples = Float64Array.from({ length: 1000 }, (_, i) => i);
  const decide: (() => void)[] = [];
  const at: number[] = [];
  const ended = jest.fn();
  const decided = (atS: number) => (at.push(atS), new Promise<void>((resolve) => decide.push(resolve)));
  const source = recordedSound({ channel: open }, samples, 8000, decided, ended);
  const turn = () => new Promise((resolve) => setImmediate(resolve));
  source.next!();
  await turn();
  // Nothing while it is being decided.
  expect(blocks).toHaveLength(0);
  for (let k = 0; ended.mock.calls.length === 0; k++) {
    decide[k]!();
    await turn();
    if (ended.mock.calls.length === 0) source.next!();
  }
  expect(at.slice(0, 3)).toEqual([0, 0.05, 0.1]);
  const heard = blocks.flatMap((b) => [...b.samples]);
  expect(heard.slice(0, 1000)).toEqual([...samples]);
  // A second and a half of silence, and no more than a block.
  expect(heard.length - 1000).toBeGreaterThanOrEqual(12000);
  expect(heard.length - 1000).toBeLessThan(12400);
  expect(blocks.some((b) => b.lost)).toBe(false);
});

test('nobody answers: time is held, and where it cannot be, blocks are lost and the next one says so', () => {
  const clock = steppedClock(0);
  const { blocks, open, answer } = channel();
  streamSamples({ clock, channel: open }, 8000, (frames) => new Float32Array(frames));
  clock.advance(160);
  expect(clock.held()).toBe(false);
  clock.advance(40);
  expect(clock.held()).toBe(true);
  // Driven on all the same.
  clock.advance(4000);
  expect(blocks).toHaveLength(41);
  for (let i = 0; i < 41; i++) answer();
  expect(clock.held()).toBe(false);
  clock.advance(80);
  expect(blocks.slice(41).map((b) => b.lost)).toEqual([true, false]);
});

describe('the simulated instrument', () => {
  const heard = (seed: number, plucks: number[]) => {
    const clock = steppedClock(0);
    const { blocks, open, answer } = channel();
    const sound = openSimulated({ clock, channel: open }, clock.nowMs, seed);
    const string: StringTruth = forkTruth(440);
    for (let t = 0; t < 1000; t += 40) {
      if (plucks.includes(t)) sound.pluck(() => string, 0.4);
      clock.advance(40);
      answer();
    }
    return blocks.flatMap((b) => [...b.samples]);
  };
  const loud = (samples: number[]) => Math.sqrt(samples.reduce((s, v) => s + v * v, 0) / samples.length);

  test('with one seed it sounds the same, sample by sample; with another it does not', () => {
    const one = heard(5, [200]);
    expect(heard(5, [200])).toEqual(one);
    expect(heard(6, [200])).not.toEqual(one);
  });

  test('it is still until it is plucked, then it rings', () => {
    const samples = heard(1, [480]);
    const before = loud(samples.slice(0, 11000));
    expect(before).toBeLessThan(0.001);
    expect(loud(samples.slice(16000))).toBeGreaterThan(50 * before);
  });
});
