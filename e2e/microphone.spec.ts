import { expect, test, type Page } from '@playwright/test';
import { addNoise, pluck, randomFrom } from '../src/core/simulate';
import {
  addInstrument,
  figure,
  instruction,
  liveCents,
  message,
  panel,
  withMicrophone,
  writeSound,
  typeFigure,
} from './bench';

const RATE = 48000;
const SPEC = {
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
const E4 = 440 * Math.pow(2, -5 / 12);

/** One string plucked at the given seconds, standing centsAt(s) from its target all the while. */
function recording(seconds: number, plucksS: number[], centsAt: (s: number) => number): Float32Array {
  const random = randomFrom(31);
  const out = new Float32Array(seconds * RATE);
  plucksS.forEach((fromS, i) => {
    const voice = pluck({ ...SPEC, frequencyHz: E4 }, RATE, random);
    const to = Math.round((plucksS[i + 1] ?? seconds) * RATE);
    for (let at = Math.round(fromS * RATE); at < to; at += 240) {
      voice.render(out, at, Math.min(to, at + 240), Math.pow(2, centsAt(at / RATE) / 1200));
    }
  });
  addNoise(out, 0.0003, random);
  return out;
}

test('the microphone’s reading keeps itself within a cent of the truth, and a reload keeps it', () =>
  // 4.3 cents flat; one pluck every three seconds.
  withMicrophone(
    'steady.wav',
    recording(3, [0.4], () => -4.3),
    RATE,
    async (page) => {
      await addInstrument(page, 'Six-string guitar, steel');
      await expect(instruction(page)).toHaveText('Start a check pass');
      // The ear opens with the pass.
      await page.keyboard.press('Enter');
      await expect(message(page)).toContainText('E4 as found', { timeout: 20000 });
      const kept = /found (\S+)/.exec((await message(page).textContent()) ?? '')![1]!;
      expect(Math.abs(figure(kept) + 4.3)).toBeLessThan(1);
      await expect(instruction(page)).toContainText('Pluck B3');
      await page.reload();
      await expect(instruction(page)).toHaveText('Press Space to listen');
      await page.keyboard.press('1');
      await expect(panel(page).getByText(/32\d\.\d\d Hz ±0\.\d ¢/)).toBeVisible();
      await page.goto('/log');
      await expect(page.getByRole('listitem').first()).toContainText(/E4: as-found −4\.\d ±0\.\d cents \(microphone\)/);
    },
  ));

test('a session in a noisy room: a knock is nothing, a wrong string is asked about by its name, the right one is kept', () => {
  // E4, a knock, D3 while B3 is asked for, B3.
  const random = randomFrom(8);
  const out = new Float32Array(16 * RATE);
  const string = (fromS: number, midi: number, cents: number) =>
    pluck({ ...SPEC, decayS: 1.2, frequencyHz: 440 * 2 ** ((midi - 69) / 12 + cents / 1200) }, RATE, random).render(
      out,
      fromS * RATE,
      Math.min(out.length, (fromS + 2) * RATE),
      1,
    );
  string(2, 64, -6);
  for (let i = 0; i < 0.1 * RATE; i++) out[5 * RATE + i]! += 0.3 * random.normal() * Math.exp(-i / RATE / 0.015);
  string(7, 50, -8);
  string(11, 59, -9);
  addNoise(out, 0.006, random);
  return withMicrophone('session.wav', out, RATE, async (page) => {
    await addInstrument(page, 'Six-string guitar, steel');
    await page.keyboard.press('Enter');
    await expect(message(page)).toContainText('E4 as found −', { timeout: 30000 });
    await expect(instruction(page)).toContainText('is it B3 gone slack (Enter), or D3?', { timeout: 30000 });
    await expect(message(page)).toContainText('B3 as found −', { timeout: 30000 });
    const kept = figure(/found (\S+)/.exec((await message(page).textContent()) ?? '')![1]!);
    expect(Math.abs(kept + 9)).toBeLessThan(1.5);
  });
});

test('the trace follows five semitones in two seconds, and the as-left reading keeps itself, from below', () => {
  // Up to the target from below, then left alone while it is plucked again and again.
  const course = (s: number) => Math.min(0, -500 + 250 * Math.max(0, s - 1.5));
  return withMicrophone('slide.wav', recording(14, [0.8, 3.9, 6.5, 9, 11.5], course), RATE, async (page) => {
    await addInstrument(page, 'Six-string guitar, steel');
    // A typed figure says that the string is five semitones down: then it is to be brought up.
    await page.keyboard.press('Enter');
    const listens = page.getByRole('button', { name: 'Listening' });
    await expect(listens).toBeVisible();
    await page.keyboard.press(' ');
    await expect(listens).toBeHidden();
    await typeFigure(page, '-500');
    await expect(message(page)).toContainText('E4 as found −500.0');
    await expect(panel(page)).toBeFocused();
    await expect(panel(page).getByRole('heading')).toHaveText('String 2, as found');
    await page.keyboard.press('1');
    await expect(panel(page).getByRole('heading')).toHaveText('String 1, bring up');
    await page.keyboard.press(' ');
    const seen: number[] = [];
    const left = message(page).filter({ hasText: 'E4 as left' });
    for (const end = Date.now() + 25000; Date.now() < end && !(await left.isVisible());) {
      const c = figure(await liveCents(page).textContent());
      if (seen[seen.length - 1] !== c) seen.push(c);
      await page.waitForTimeout(30);
    }
    const kept = /left (\S+)/.exec((await message(page).textContent()) ?? '')?.[1];
    expect(Math.abs(figure(kept ?? ''))).toBeLessThan(1);
    // It was seen low, on the way and at the target, and never far above it.
    expect(seen.filter((c) => c < -350).length).toBeGreaterThan(1);
    expect(seen.filter((c) => c > -350 && c < -20).length).toBeGreaterThan(5);
    expect(Math.max(...seen)).toBeLessThan(8);
    await page.keyboard.press('1');
    await expect(panel(page).getByText('from below')).toBeVisible();
  });
});

test('the input check hears the room’s hum; the clock is measured against a known tone, and corrected', () => {
  test.setTimeout(240_000);
  const samples = new Float32Array(20 * RATE);
  // A room that hums, then a tone of 440 Hz as a clock 100 ppm slow would give it.
  for (let i = 0; i < samples.length; i++) {
    const t = i / RATE;
    samples[i] = 0.01 * Math.sin(2 * Math.PI * 100 * t) + 0.2 * Math.sin(2 * Math.PI * 440 * (1 + 1e-4) * t);
  }
  addNoise(samples, 0.0003, randomFrom(4));
  return withMicrophone('clock.wav', samples, RATE, async (page) => {
    await addInstrument(page, 'Viola');
    await page.keyboard.press(' ');
    await page.getByRole('button', { name: 'More' }).click();
    await page.getByRole('menuitem', { name: 'Check the input' }).click();
    await page.getByRole('button', { name: 'Judge the room' }).click();
    await expect(page.getByTestId('input-check')).toContainText('Your room hums at 100 Hz');
    await page.getByLabel(/A steady tone/).fill('4');
    await page.getByRole('button', { name: 'Measure the clock' }).click();
    await expect(page.getByText('Give the reference from 30 to 4000 Hz.')).toBeVisible();
    await page.getByLabel(/A steady tone/).fill('440');
    const measured = async () => {
      await page.getByRole('button', { name: 'Measure the clock' }).click();
      await expect(page.getByTestId('input-check')).not.toHaveText('Listening …', { timeout: 40000 });
      return Number(/runs (\d+)/.exec((await page.getByTestId('input-check').textContent()) ?? '')?.[1] ?? NaN);
    };
    // The file repeats with a jump now and then: a window across it is read again.
    await expect.poll(measured, { timeout: 90000 }).toBeGreaterThan(95);
    await page.getByRole('button', { name: 'Correct readings from this input by that' }).click();
    await expect.poll(measured, { timeout: 90000 }).toBeLessThan(6);
  });
});

test.describe('no microphone', () => {
  test('a refused microphone says so and leaves the other ways open', async ({ page }) => {
    await addInstrument(page, 'Violin');
    await page.keyboard.press(' ');
    await expect(message(page)).toContainText(/The browser refused the microphone|No input was found/);
    await expect(message(page)).toContainText('A WAV file, the typed figure');
    await page.keyboard.press('Enter');
    await typeFigure(page, '655 Hz');
    await expect(message(page)).toContainText('E5 as found −11.2 ±1.0 kept');
  });

  test('a WAV file is read like a microphone, and what is no WAV file is told', async ({ page }) => {
    await addInstrument(page, 'Six-string guitar, steel');
    await page.keyboard.press('Enter');
    const file = page.getByLabel('WAV file');
    await file.setInputFiles({ name: 'notes.wav', mimeType: 'audio/wav', buffer: Buffer.from('no sound at all') });
    await expect(message(page)).toContainText('notes.wav: This is no WAV file that can be read');
    await file.setInputFiles(
      writeSound(
        'file.wav',
        recording(3, [0.4], () => 6),
        RATE,
      ),
    );
    await expect(message(page)).toContainText('E4 as found');
    expect(Math.abs(figure(/found (\S+)/.exec((await message(page).textContent())!)![1]!) - 6)).toBeLessThan(0.5);
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
      await expect(message(page)).toContainText('A4 as found −2.0 ±1.0 kept');
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
  const sheet = page.getByRole('dialog', { name: 'May it listen?' });
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
