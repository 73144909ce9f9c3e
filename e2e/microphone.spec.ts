import { expect, test, type Page } from '@playwright/test';
import { readdirSync } from 'node:fs';
import { RATE, recording } from '../testing/recording';
import { addInstrument, figure, instruction, message, panel, typeFigure, withMicrophone } from './bench';

test('the microphone’s reading keeps itself within a cent of the truth, and a reload keeps it', () =>
  // 4.3 cents flat; one pluck every seven seconds: a busy machine must get to the silence after it.
  withMicrophone(
    'steady.wav',
    recording(7, [0.4], () => -4.3),
    RATE,
    async (page) => {
      await addInstrument(page, 'Six-string guitar, steel');
      await expect(instruction(page)).toHaveText(/[Cc]heck all strings/);
      // The ear opens with the pass.
      await page.keyboard.press('Enter');
      await expect(message(page)).toContainText(/E4: .*as found/);
      const kept = /: (\S+)/.exec((await message(page).textContent()) ?? '')![1]!;
      expect(Math.abs(figure(kept) + 4.3)).toBeLessThan(1);
      // The same note again is heard as what it is; either way B3 is asked for.
      await expect(instruction(page)).toContainText(/pluck B3/i, { timeout: 15_000 });
      await page.reload();
      await expect(instruction(page)).toHaveText('Press Space to listen');
      await page.keyboard.press('1');
      await expect(panel(page).getByText(/32\d\.\d\d Hz ±0\.\d ¢/)).toBeVisible();
      await page.goto('/log');
      await expect(page.getByRole('listitem').first()).toContainText(`E4: as found ${kept} ±`);
    },
  ));

test.describe('no microphone', () => {
  test('a refused microphone says so and leaves the other ways open', async ({ page }) => {
    await addInstrument(page, 'Violin');
    await page.keyboard.press(' ');
    await expect(message(page)).toContainText(/The browser refused the microphone|No input was found/);
    await expect(message(page)).toContainText('A WAV file, the typed figure');
    await page.keyboard.press('Enter');
    await typeFigure(page, '655 Hz');
    await expect(message(page)).toContainText('E5: −11.2 ±1.6 cents, saved as found');
  });

  test('a file dropped anywhere on the bench is played, and the page stays', async ({ page }) => {
    await addInstrument(page, 'Six-string guitar, steel');
    const dropped = await page.evaluateHandle(() => {
      const transfer = new DataTransfer();
      transfer.items.add(new File(['not a sound'], 'dropped.wav', { type: 'audio/wav' }));
      return transfer;
    });
    await panel(page).dispatchEvent('drop', { dataTransfer: dropped });
    await expect(message(page)).toContainText('dropped.wav: This is no WAV file that can be read');
  });
});

test.describe('an input in trouble', () => {
  /** Replaces what the browser gives for a microphone, before the page loads. */
  const pretend = (page: Page, what: 'suspended' | 'slow' | 'unplugged') =>
    page.addInitScript((trouble) => {
      const context = new AudioContext();
      const stream = context.createMediaStreamDestination().stream;
      const track = stream.getAudioTracks()[0]!;
      if (trouble === 'slow') track.getSettings = () => ({ sampleRate: 16000 });
      navigator.mediaDevices.getUserMedia = async () => {
        if (trouble === 'unplugged') setTimeout(() => track.dispatchEvent(new Event('ended')), 800);
        return stream;
      };
      if (trouble === 'suspended') {
        AudioContext.prototype.resume = async () => undefined;
        Object.defineProperty(AudioContext.prototype, 'state', { get: () => 'suspended' });
      }
    }, what);

  for (const [what, sentence] of [
    ['suspended', 'The browser holds the sound back until you act: press Space once more.'],
    ['slow', 'This input runs at 16 kHz only'],
    ['unplugged', 'The input was unplugged: what was kept is safe.'],
  ] as const) {
    test(`${what}: a sentence of its own, and a way on`, async ({ page }) => {
      await pretend(page, what);
      await addInstrument(page, 'Ukulele');
      await page.keyboard.press(' ');
      await expect(message(page)).toContainText(sentence);
      await expect(
        page.getByRole('button', { name: what === 'slow' ? 'Listening' : 'Listen', exact: false }),
      ).toBeVisible();
      await page.keyboard.press('Enter');
      await typeFigure(page, '-2');
      // What is said of the input may come after what is said of the figure.
      await expect(panel(page).getByRole('heading')).toHaveText('String 2, as found');
      await page.goto('/log');
      await expect(page.getByRole('listitem').filter({ hasText: 'A4: as found −2.0' })).toHaveCount(1);
    });
  }
});

test('a microphone that was never asked for is explained before the browser asks; not now leaves the pass as it is', async ({
  page,
  context,
}) => {
  await context.clearPermissions();
  await addInstrument(page, 'Viola');
  await page.keyboard.press('Enter');
  const sheet = page.getByRole('dialog', { name: 'Allow listening?' });
  await expect(sheet).toContainText('measured on this device');
  await expect(sheet.getByRole('button', { name: 'Go on' })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(sheet).toHaveCount(0);
  await expect(instruction(page)).toHaveText('Press Space to listen');
  await expect(panel(page)).toBeFocused();
  await page.keyboard.press(' ');
  await page.keyboard.press('Enter');
  // There is none here: the sentence says so, and how to go on.
  await expect(message(page)).toContainText(/No input was found|refused the microphone/);
});

test('the worklet hands on every sample of the input, mixed to one channel, in blocks of its own', async ({ page }) => {
  await page.goto('/add');
  const script = readdirSync('dist/assets').find((name) => name.startsWith('capture.worklet'))!;
  const heard = await page.evaluate(async (path) => {
    const RATE = 48000;
    const FRAMES = 5 * 1024;
    const context = new OfflineAudioContext(2, FRAMES, RATE);
    await context.audioWorklet.addModule(path);
    const buffer = context.createBuffer(2, FRAMES, RATE);
    for (let i = 0; i < FRAMES; i++) {
      buffer.getChannelData(0)[i] = i;
      buffer.getChannelData(1)[i] = 3 * i;
    }
    const source = new AudioBufferSourceNode(context, { buffer });
    const node = new AudioWorkletNode(context, 'capture', { numberOfOutputs: 0 });
    const { port1, port2 } = new MessageChannel();
    const blocks: { samples: Float32Array; lost: boolean }[] = [];
    const whole = new Promise<void>((resolve) => {
      port2.onmessage = ({ data }) => {
        blocks.push(data as (typeof blocks)[number]);
        port2.postMessage(0);
        if (blocks.length === FRAMES / 1024) resolve();
      };
    });
    source.connect(node);
    source.start();
    // Rendering begins when the worklet knows where to send.
    void context.suspend(0).then(async () => {
      node.port.postMessage(port1, [port1]);
      await new Promise((resolve) => setTimeout(resolve, 200));
      await context.resume();
    });
    await context.startRendering();
    await whole;
    return { lost: blocks.some((b) => b.lost), samples: blocks.flatMap((b) => [...b.samples]) };
  }, `/assets/${script}`);
  expect(heard.lost).toBe(false);
  // The mean of both channels, from the first frame to the last.
  expect(heard.samples).toEqual(Array.from({ length: 5 * 1024 }, (_, i) => 2 * i));
});
