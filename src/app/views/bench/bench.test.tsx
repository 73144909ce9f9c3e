import { screen, within } from '@testing-library/react';
import { addNoise, pluck, randomFrom } from '../../../core/simulate';
import { hz, PLUCK, RATE, recording } from '../../../../testing/recording';
import { doAsTold, figure, shownCents } from '../../../../testing/hand';
import {
  addInstrument,
  BENCH_ALONE,
  choose,
  giveFile,
  openApp,
  hearLive,
  playFile,
  typeFigure,
} from '../../../../testing/player';
import { HOUR } from '../../../core/base';

const panel = () => screen.getByRole('complementary', { name: 'What to do now' });
const heading = () => within(panel()).getByRole('heading').textContent;

test('Z takes the last reading back, digits choose, Page Up goes back, and a pass is resumed after a reload', async () => {
  const player = await openApp('/demo/bench', 1, BENCH_ALONE);
  await player.press('Enter', 'p');
  await player.sees('message', /A4: .*as found/, 6000);
  await player.sees('instruction', 'Pluck E4');
  await player.press('z');
  expect(player.says('message')).toContain('taken back');
  await player.pass(200);
  expect(player.says('instruction')).toContain('Pluck A4');
  await player.press('5');
  await player.sees('instruction', 'Pluck D3');
  await player.press('PageUp');
  await player.sees('instruction', 'Pluck G3');
  await player.press('p');
  await player.sees('message', /G3: .*as found/, 6000);
  await player.reload();
  await player.sees('instruction', 'Press Space to listen');
  await player.press(' ');
  await player.sees('instruction', 'Pluck A4');
  // The pedal takes what sounds, and never passes a string over because it was quiet.
  await player.press('PageDown');
  expect(player.says('message')).toContain('Nothing is sounding. Pluck A4 first. N goes on without it.');
  expect(player.says('instruction')).toContain('Pluck A4');
  // Z finds what the pass has kept in the log, also after a reload.
  await player.press('z');
  expect(player.says('message')).toContain('taken back');
  // Skipping has a key of its own: the string after, until nothing is left but what was found low.
  for (const note of ['E4', 'C4', 'G3', 'D3', 'A2']) {
    await player.press('n');
    await player.sees('instruction', `Pluck ${note}`);
  }
  await player.press('n');
  expect(heading()).not.toContain('as found');
});

test('a visit of the plan stays where it is while the clock moves on, then it is due; a figure is shown with its age', async () => {
  const player = await openApp('/demo/bench/baritone', 1, []);
  const later = (name: string) => player.click(screen.getByRole('button', { name }));
  const lanes = () => within(screen.getByRole('region', { name: 'Strings' })).getAllByRole('listitem');
  const said = player.says('instruction');
  expect(said).toMatch(/^Leave it\. Check at 18:\d\d$/);
  expect(lanes().some((l) => l.textContent!.includes(`next check ${said.slice(-5)}`))).toBe(true);
  await later('+1 h');
  expect(player.says('age')).toMatch(/^[+−]?[\d.]+ at \d+:\d\d, now about [+−]?[\d.]+ ±[\d.]+ cents if untouched/);
  await later('+10 min');
  await player.pass(10_000);
  expect(screen.getByRole('banner')).toHaveTextContent(/the Heron at 15:1/);
  expect(player.says('instruction')).toBe(said);
  for (let hour = 0; hour < 3; hour++) await later('+1 h');
  await later('+10 min');
  expect(player.says('instruction')).toBe('Check and tune now');
});

test('an empty bench: Enter puts an instrument on it, and F fits nothing', async () => {
  const player = await openApp('/bench');
  expect(screen.getByRole('heading', { name: /A new string falls/ })).toBeVisible();
  await player.press('f');
  expect(player.path()).toBe('/bench');
  await player.press('Enter');
  expect(screen.getByRole('heading', { name: 'Add an instrument' })).toBeVisible();
});

test('keys stay quiet while a field has the focus', async () => {
  const player = await openApp('/demo/bench', 1, []);
  // K opens the sheet for a figure from another device; what is typed there is no key of the bench.
  await player.press('k');
  const field = screen.getByLabelText('Cents from the target, or Hz');
  field.focus();
  await player.press('1', '2', ' ', 'z', 'Enter');
  expect(field).toHaveValue('12 z');
  expect(screen.getByText(/Write cents/)).toBeVisible();
  await choose(player, field, '−6,3');
  await player.press('Enter');
  expect(player.says('message')).toContain('C4: −6.3 ±1.6 cents, saved as found.');
  await player.go('/demo/log');
  expect(screen.getAllByText(/as found −6\.3 ±1\.6 cents \(typed/).length).toBe(1);
});

test('the clock is moved to the curtain, and starting over brings the first bench back', async () => {
  const player = await openApp('/demo/bench');
  const clock = () => screen.getByRole('banner').textContent;
  await player.click(screen.getByRole('button', { name: '+1 h' }));
  expect(clock()).toMatch(/the Heron at 15:0/);
  await player.click(screen.getByRole('button', { name: 'To the show' }));
  expect(clock()).toMatch(/the Heron at 19:30/);
  await player.click(screen.getAllByRole('button', { name: 'Start it over' })[0]!);
  expect(clock()).toMatch(/the Heron at 14:0/);
});

test('told up and turned down, it says so at once, and remembers which way this tuner goes', async () => {
  const player = await openApp('/demo/bench', 1, BENCH_ALONE);
  await player.press('3', ' ', 'p');
  await player.sees('message', /C4: .*as found/, 6000);
  // Chosen once more, what was found low is brought up.
  await player.press('3');
  await player.sees('tuner', 'third tuner from the nut, treble side');
  await player.press('p');
  await player.sees('instruction', /Bring it up/, 6000);
  await player.until(() => player.says('tuner').includes('top edge away from you'), 3000, 'how to turn it');
  // The build's own way stands until three turns have gone against it; what has just been wrong is not said.
  for (const turns of [1, 2, 3]) {
    for (let k = 0; k < 9; k++) await player.press('ArrowDown');
    await player.until(() => player.says('instruction') === 'That went down: turn the other way', 3000, 'it is told');
    if (turns < 3) expect(player.says('tuner')).not.toContain('top edge');
    await player.pass(3000);
    await player.press('p');
    await player.pass(1500);
  }
  expect(player.says('tuner')).toContain('top edge towards you');
  await doAsTold(player, () => /C4: .*as left/.test(player.says('message')));
  await player.go('/demo/log');
  // Every turn that taught something is a record; the newest counts.
  expect(screen.getAllByText(/C4: its tuner goes the other way/).length).toBeGreaterThan(0);
});

test('the first screen: pluck, an hour, pluck, bring it up, a forecast, within a minute and on one page', async () => {
  const player = await openApp('/bench', 1);
  const began = player.means('own').clock.elapsedMs();
  expect(player.says('instruction')).toBe('Pluck it');
  await player.press('p');
  await player.sees('message', /saved as found/, 6000);
  await player.press('h');
  expect(player.says('instruction')).toBe('Pluck it again');
  await player.press('p');
  await player.sees('forecast', /If untouched, at \d+:\d\d: −\d+ ±\d+ cents/, 8000);
  await player.pass(200);
  expect(player.says('tuner')).toContain('tuner from the nut');
  await doAsTold(player, () => /saved as left/.test(player.says('message')));
  expect(player.says('instruction')).toContain('Look again');
  expect((player.means('own').clock.elapsedMs() - began) / 1000).toBeLessThan(60);
});

test('a session in a noisy room: a knock is nothing, a wrong string is asked about by its name, the right one is kept', async () => {
  // E4, a knock, D3 while B3 is asked for, B3.
  const random = randomFrom(8);
  const out = new Float32Array(16 * RATE);
  const string = (fromS: number, midi: number, cents: number) =>
    pluck({ ...PLUCK, decayS: 1.2, frequencyHz: hz(midi, cents) }, RATE, random).render(
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
  const player = await openApp('/add');
  await addInstrument(player, 'Six-string guitar, steel');
  await player.press('Enter');
  await hearLive(player, out, RATE);
  await player.sees('message', /E4: −.*as found/, 10_000);
  await player.sees('instruction', /is it B3 gone slack \(Enter\), or D3\?/, 10_000);
  await player.sees('message', /B3: −.*as found/, 10_000);
  expect(Math.abs(figure(/: (\S+)/.exec(player.says('message'))![1]) + 9)).toBeLessThan(1.5);
});

test('the trace follows five semitones in two seconds, and the as-left reading keeps itself, from below', async () => {
  // Up to the target from below, then left alone while it is plucked again and again.
  const course = (s: number) => Math.min(0, -500 + 250 * Math.max(0, s - 1.5));
  const player = await openApp('/add');
  await addInstrument(player, 'Six-string guitar, steel');
  // A typed figure says that the string is five semitones down: then it is to be brought up.
  await player.press('Enter');
  await typeFigure(player, '-500');
  // So far off it is asked about before it is written.
  expect(screen.getByRole('alert')).toHaveTextContent(
    'That is 500 cents below E4, near B3. Save it again if it is right.',
  );
  await player.press('Enter');
  expect(player.says('message')).toContain('E4: −500.0');
  expect(heading()).toBe('String 2, as found');
  await player.press('1');
  expect(heading()).toBe('String 1, bring up');
  await hearLive(player, recording(14, [0.8, 3.9, 6.5, 9, 11.5], course), RATE);
  const seen: number[] = [];
  for (let t = 0; t < 9000 && !/E4: .*as left/.test(player.says('message')); t += 80) {
    await player.pass(80);
    seen.push(shownCents(player));
  }
  expect(Math.abs(figure(/: (\S+)/.exec(player.says('message'))?.[1]))).toBeLessThan(1);
  // It was seen low, on the way and at the target, and never far above it.
  expect(seen.filter((c) => c < -350).length).toBeGreaterThan(1);
  expect(seen.filter((c) => c > -350 && c < -20).length).toBeGreaterThan(5);
  expect(Math.max(...seen.filter(Number.isFinite))).toBeLessThan(8);
  await player.press('1');
  expect(within(panel()).getByText(/from below/)).toBeVisible();
});

test('a WAV file is read like a microphone, and what is no WAV file is told', async () => {
  const player = await openApp('/add');
  await addInstrument(player, 'Six-string guitar, steel');
  await player.press('Enter');
  const folder = new File([], 'a folder');
  folder.arrayBuffer = async () => {
    throw new DOMException('gone', 'NotFoundError');
  };
  await giveFile(player, 'WAV file', folder);
  expect(player.says('message')).toBe(
    'a folder: This could not be read: it is a folder, or the file is not there any more.',
  );
  await giveFile(player, 'WAV file', new File(['no sound at all'], 'notes.wav', { type: 'audio/wav' }));
  expect(player.says('message')).toContain('notes.wav: This is no WAV file that can be read');
  await playFile(
    player,
    recording(3, [0.4], () => 6),
    RATE,
  );
  await player.sees('message', /E4: .*as found/, 6000);
  expect(Math.abs(figure(/: (\S+)/.exec(player.says('message'))![1]) - 6)).toBeLessThan(0.5);
});

test('the clock goes back an hour in the middle of a pass: said, and the pass goes on with what is read after it', async () => {
  const player = await openApp('/add');
  await addInstrument(player, 'Ukulele');
  await player.press('Enter');
  await typeFigure(player, '-5');
  expect(player.says('message')).toContain('A4: −5.0');
  player.setClockBack(HOUR);
  await player.pass(10_000);
  expect(screen.getByText(/clock went back by 1 h/)).toBeVisible();
  await typeFigure(player, '-7');
  expect(screen.getByRole('button', { name: /String 2, E4, settling, −7.0 cents/ })).toBeVisible();
  expect(heading()).toBe('String 3, as found');
  await player.reload();
  expect(screen.getByRole('button', { name: /String 2, E4, settling, −7.0 cents/ })).toBeVisible();
  expect(heading()).toBe('String 3, as found');
});

test('the input check hears the room’s hum; the clock is measured against a known tone', async () => {
  // A room that hums, then a tone of 440 Hz as a clock 100 ppm slow would give it.
  const noise = randomFrom(4);
  const samples = Float32Array.from({ length: 40 * RATE }, (_, i) => {
    const t = i / RATE;
    const tone = 0.2 * Math.sin(2 * Math.PI * 440 * (1 + 1e-4) * t);
    return 0.01 * Math.sin(2 * Math.PI * 100 * t) + tone + 3e-4 * noise.normal();
  });
  const player = await openApp('/add');
  await addInstrument(player, 'Viola');
  await hearLive(player, samples, RATE);
  await player.click(screen.getByRole('button', { name: 'More' }));
  await player.click(screen.getByRole('menuitem', { name: 'Check the input' }));
  await player.click(screen.getByRole('button', { name: 'Listen to the room' }));
  await player.sees('input-check', 'Your room hums at 100 Hz');
  const tone = screen.getByLabelText(/a steady tone/);
  await choose(player, tone, '4');
  await player.click(screen.getByRole('button', { name: 'Measure the clock' }));
  expect(screen.getByText('Give the reference from 30 to 4000 Hz.')).toBeVisible();
  await choose(player, tone, '440');
  await player.click(screen.getByRole('button', { name: 'Measure the clock' }));
  await player.sees('input-check', /runs (9[5-9]|10[0-5])/, 15_000);
  expect(screen.getByRole('button', { name: 'Correct readings from this input by that' })).toBeEnabled();
});
