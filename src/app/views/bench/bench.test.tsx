import { openApp } from '../../../../testing/player';

test('opens', async () => {
  let t0 = Date.now();
  const lap = (w: string) => { console.log(w, Date.now() - t0); t0 = Date.now(); };
  const p = await openApp('/demo/bench');
  lap('open');
  await p.press('Enter');
  lap('enter');
  await p.pass(10000);
  lap('10 s idle');
  await p.press('p');
  await p.pass(4000);
  lap('4 s pluck');
  console.log(p.says('instruction'), p.says('message'));
}, 60000);
