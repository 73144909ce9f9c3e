import { existsSync, readFileSync } from 'node:fs';

/** Files and folders that a page names. */
const named = (page: string): string[] => [
  ...new Set(
    readFileSync(page, 'utf8').match(/\b(src|core|testing|bench|scripts|docs|e2e|demo)\/[\w./-]*[\w/]/g) ?? [],
  ),
];
const isThere = (path: string) =>
  ['', 'src/'].some((dir) => ['', '.ts', '.tsx'].some((kind) => existsSync(dir + path + kind)));
const PAGES = [
  'CONTRIBUTING.md',
  'README.md',
  'bench/README.md',
  'docs/decisions.md',
  'docs/physics.md',
  'docs/formats.md',
];

test.each(PAGES)('%s names files that are there', (page) =>
  expect(named(page).filter((path) => !isThere(path) && !path.includes('ROOM'))).toEqual([]),
);

test('the page of the benches names every bench, and no other', () => {
  const { scripts } = JSON.parse(readFileSync('package.json', 'utf8')) as { scripts: Record<string, string> };
  const page = readFileSync('bench/README.md', 'utf8');
  const told = new Set(page.match(/bench:[a-z]+/g));
  expect([...told].sort()).toEqual(
    Object.keys(scripts)
      .filter((name) => name.startsWith('bench:'))
      .sort(),
  );
});
