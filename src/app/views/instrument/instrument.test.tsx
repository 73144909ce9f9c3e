import { screen, within } from '@testing-library/react';
import { addInstrument, choose, openApp, typeFigure } from '../../../../testing/player';

const panel = () => within(screen.getByRole('complementary', { name: 'What to do now' }));
const button = (name: string | RegExp) => screen.getByRole('button', { name });

test('an instrument by hand: faults are said at their fields, then it stands on the bench', async () => {
  const player = await openApp('/add');
  const fill = (label: string, value: string) => choose(player, screen.getByLabelText(label), value);
  await player.click(button('Another: write its strings'));
  await player.click(button('Add it'));
  await player.pass(200);
  expect(screen.getByText('Give the instrument a name.')).toBeVisible();
  expect(screen.getByText('An instrument has at least one string.')).toBeVisible();
  await fill('Name', 'Box zither');
  await choose(player, screen.getByRole('combobox', { name: 'Tuners' }), 'pin');
  await player.click(screen.getByLabelText('frets'));
  await player.click(button('Add a string'));
  await fill('String 1, note', 'H4');
  await fill('String 1, speaking length in mm', '20');
  await fill('String 1, gauge', 'thick');
  await player.click(button('Add it'));
  await player.pass(200);
  expect(screen.getByText('Write the note as a letter, # or b, and an octave: F#3.')).toBeVisible();
  expect(screen.getByText('A speaking length is 80 mm or more.')).toBeVisible();
  expect(screen.getByText('Give the gauge as 0.25, .010 or 10, or leave it empty.')).toBeVisible();
  await fill('String 1, note', 'A4');
  await fill('String 1, speaking length in mm', '400');
  await fill('String 1, gauge', '0,4');
  await fill('String 1, material', 'plain-steel');
  await player.click(button('Add it'));
  await player.pass(200);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Box zither');
  expect(screen.queryByRole('link', { name: 'Intonation' })).toBeNull();
  // 0.4 mm of music wire at 440 Hz over 400 mm: 7850 kg/m3 x section x (2 L f)^2 = 122 N.
  expect(panel().getByText(/^122 N$/)).toBeVisible();
});

test('editing keeps the readings and takes a new name; new strings start a new life', async () => {
  const player = await openApp('/add');
  await addInstrument(player, 'Tenor banjo');
  await player.press('Enter');
  await typeFigure(player, '-4');
  expect(button('String 1, A4, settling, −4.0 cents')).toBeVisible();
  await player.click(screen.getByRole('link', { name: 'Settings' }));
  await choose(player, screen.getByLabelText('Name'), 'Banjo of the house');
  await player.click(button('Save changes'));
  await player.pass(200);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Banjo of the house');
  expect(button('String 1, A4, settling, −4.0 cents')).toBeVisible();
  await player.click(screen.getByRole('link', { name: 'Settings' }));
  await player.click(screen.getByLabelText('new strings just now'));
  await player.click(button('Save changes'));
  await player.pass(200);
  expect(button('String 1, A4, unread')).toBeVisible();
});

test('reference, room and curtain are typed in the header; a wrong one is told', async () => {
  const player = await openApp('/add');
  await addInstrument(player, 'Seven-string lyre, pentatonic');
  const type = async (label: RegExp, text: string) => {
    const field = screen.getByLabelText(label);
    await choose(player, field, text);
    field.focus();
    await player.press('Enter');
  };
  await player.click(button(/Reference A4/));
  await type(/From 392 to 466 Hz\./, '500');
  expect(screen.getByRole('alert')).toHaveTextContent('Give a reference from 392 to 466 Hz.');
  await type(/From 392 to 466 Hz\./, '432');
  expect(button(/Reference A4/)).toHaveTextContent('432.0 Hz');
  await player.click(button(/Room/));
  await type(/in degrees Celsius/, '65.3 F');
  expect(button(/Room/)).toHaveTextContent('18.5 °C');
  await player.click(button(/Show/));
  await type(/When the show starts/, '25:00');
  expect(screen.getByRole('alert')).toHaveTextContent('Write the time as hours and minutes');
  await type(/When the show starts/, '11:59 pm');
  expect(button(/Show/)).toHaveTextContent(/23:59/);
  await player.reload();
  expect(button(/Reference A4/)).toHaveTextContent('432.0 Hz');
});

test('an instrument is put away and brought back with what is known of it; the eleventh string has two digits', async () => {
  const player = await openApp('/demo/bench/kantele');
  await player.press('1', '1');
  expect(panel().getByRole('heading')).toHaveTextContent('String 11, as found');
  await player.go('/demo/instrument/kantele');
  await player.click(button('Put it away'));
  await player.pass(200);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Requinto, nylon');
  expect(screen.queryByRole('link', { name: /Kantele/ })).toBeNull();
  await player.click(screen.getByRole('link', { name: 'Add an instrument' }));
  await player.click(button('Bring Kantele, 11 strings back'));
  await player.pass(200);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Kantele, 11 strings');
  expect(button(/String 1, .*cents/)).toBeVisible();
  // Put away by mistake: the way back stands where one is then.
  await player.go('/demo/instrument/kantele');
  await player.click(button('Put it away'));
  await player.pass(200);
  expect(screen.getByText(/Kantele, 11 strings was put away/)).toBeVisible();
  await player.click(button('Bring it back'));
  await player.pass(200);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Kantele, 11 strings');
  expect(screen.queryByText(/was put away/)).toBeNull();
});

test('the name of an instrument that is put away is free; brought back from All instruments it gets a number', async () => {
  const player = await openApp('/add');
  await addInstrument(player, 'Viola');
  await player.go('/instrument');
  await player.click(button('Put it away'));
  await addInstrument(player, 'Viola');
  await player.go('/rack');
  const away = within(screen.getByRole('region', { name: 'Put away' }));
  await player.click(away.getByRole('button', { name: 'Bring Viola back' }));
  await player.pass(200);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Viola 2');
});

test('rows written by hand are not wiped without a way back; a string with readings is taken away only after a question', async () => {
  const player = await openApp('/add');
  const first = () => screen.getByLabelText('String 1, note');
  await player.click(button('Viola'));
  await choose(player, first(), 'B4');
  await player.click(button('Cello'));
  expect(first()).toHaveValue('A3');
  await player.click(button('Bring them back'));
  expect(first()).toHaveValue('B4');
  await player.click(button('Double string 4'));
  await player.click(button('Move string 5 up'));
  await player.click(button('Add it'));
  await player.pass(200);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Viola');
  await player.press('Enter');
  await typeFigure(player, '-4');
  expect(button(/String 1, B4, .*−4.0 cents/)).toBeVisible();
  await player.click(screen.getByRole('link', { name: 'Settings' }));
  await player.click(button('Remove string 1'));
  expect(screen.getByRole('dialog')).toHaveTextContent('It has 1 readings');
  await player.click(button('Remove it'));
  await player.click(button('Save changes'));
  await player.pass(200);
  expect(button(/String 1, D4/)).toBeVisible();
  await player.click(screen.getByRole('link', { name: 'Settings' }));
  await player.click(button(/Bring B4 back/));
  await player.click(button('Save changes'));
  await player.pass(200);
  expect(button(/B4, .*−4.0 cents/)).toBeVisible();
  // Another of the same name is told apart.
  await addInstrument(player, 'Viola');
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Viola 2');
});
