import { readBench } from '../../core/log';
import { pathTo, VIEWS, viewsOf, type InstrumentViewLine } from './views';

const lifeOf = (family: string, build?: object) =>
  readBench([
    {
      type: 'instrument',
      id: 'i',
      version: 2,
      atMs: 1,
      zoneMin: 0,
      instrumentId: 'x',
      name: 'X',
      family,
      strings: [{ stringId: 's1', note: 'A4', lengthMm: 400, material: 'plain-steel', gaugeMm: 0.4 }],
      ...(build ? { build } : {}),
    } as never,
  ]).instruments[0]!;

test('a view has a path, a title and a place of its own', () => {
  for (const what of ['path', 'title', 'shownAt'] as const)
    expect(new Set(VIEWS.map((v) => v[what])).size).toBe(VIEWS.length);
  for (const v of VIEWS) expect(v.shownAt.split('/')[0]).toBe(v.path);
});

test('an instrument has the views that apply to it; where one does not, its place leads to the bench', () => {
  const octave = VIEWS.find((v) => v.path === 'octave') as InstrumentViewLine;
  for (const family of ['kantele-11', 'lyre-7']) {
    const life = lifeOf(family);
    expect(viewsOf(life).map((v) => v.path)).not.toContain('octave');
    expect(pathTo('/demo', octave, life)).toBe('/demo/bench/x');
    expect(octave.unfit!(life)).toMatch(/no fingerboard/);
  }
  for (const family of ['viola', 'guitar-steel', 'own']) expect(pathTo('', octave, lifeOf(family))).toBe('/octave/x');
  const zither = { tuner: 'pin', fineTuners: false, frets: false, bowed: false, holds: 'nothing' };
  expect(viewsOf(lifeOf('own', zither)).map((v) => v.path)).not.toContain('octave');
});
