/**
 * npm run mutate -- src/core/octave [src/core/check/steps.ts …]: which small wrong changes of a room's rules its own tests catch. What
 * survives is listed; a room's score goes to docs/benchmarks.md. Only what was changed since is tried again.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { basename, dirname } from 'node:path';
import { sectionLines, writeSection } from '../report';

const TITLE = 'Wrong rules that a test catches';
const DIR = '.tmp/mutate';
/** A wrong word is the words' test's affair, an object or a list without its parts the compiler's. */
const LEFT_OUT = [
  'StringLiteral',
  'ObjectLiteral',
  'ArrayDeclaration',
  'TemplateLiteral',
  'Regex',
  'OptionalChaining',
  'BlockStatement',
];

interface Mutant {
  status: string;
  mutatorName: string;
  replacement?: string;
  location: { start: { line: number } };
}
interface Report {
  files: Record<string, { mutants: Mutant[]; source: string }>;
}

const isRoom = (target: string): boolean => statSync(target).isDirectory();
/** Where what is known of it is kept, without the file's kind. */
const pathOf = (target: string): string => `${DIR}/${target.replace(/[^\w-]+/g, '_')}`;

function mutate(target: string): { score: number; tried: number; survivors: string[] } {
  const path = pathOf(target);
  const report = `${path}.json`;
  const files = isRoom(target)
    ? [`${target}/**/*.ts`, `!${target}/**/*.test.ts`, `!${target}/index.ts`, `!${target}/**/words.ts`]
    : [target];
  const config = {
    testRunner: 'jest',
    jest: { configFile: 'jest.mutate.cjs', enableFindRelatedTests: false },
    coverageAnalysis: 'perTest',
    mutate: files,
    mutator: { excludedMutations: LEFT_OUT },
    reporters: ['json', 'dots'],
    jsonReporter: { fileName: report },
    incremental: true,
    incrementalFile: `${path}.incremental.json`,
    ignorePatterns: ['dist', 'dist-node', 'test-results', 'docs'],
    tempDirName: `${DIR}/work`,
    concurrency: 2,
    timeoutMS: 20_000,
    ignoreStatic: true,
  };
  writeFileSync(`${DIR}/config.json`, JSON.stringify(config));
  const { status } = spawnSync('npx', ['stryker', 'run', `${DIR}/config.json`], {
    stdio: 'inherit',
    env: { ...process.env, MUTATED: isRoom(target) ? target : dirname(target) },
  });
  if (status !== 0 || !existsSync(report)) throw new Error(`${target} could not be tried.`);
  const all = Object.entries((JSON.parse(readFileSync(report, 'utf8')) as Report).files).flatMap(([file, f]) =>
    f.mutants.map((m) => ({ ...m, file, line: f.source.split('\n')[m.location.start.line - 1]!.trim() })),
  );
  const tried = all.filter((m) => ['Killed', 'Timeout', 'Survived', 'NoCoverage'].includes(m.status));
  const survivors = tried.filter((m) => m.status === 'Survived' || m.status === 'NoCoverage');
  return {
    score: 1 - survivors.length / Math.max(1, tried.length),
    tried: tried.length,
    survivors: survivors.map(
      (m) => `${m.file}:${m.location.start.line} ${m.replacement ?? m.mutatorName}   in   ${m.line}`,
    ),
  };
}

const targets = process.argv.slice(2);
if (targets.length === 0 || targets.some((t) => !existsSync(t)))
  throw new Error('npm run mutate -- src/core/ROOM, or files of it');
mkdirSync(DIR, { recursive: true });
const HEAD = ['| room | wrong changes tried | caught | on |', '|---|---|---|---|'];
for (const target of targets) {
  const { score, tried, survivors } = mutate(target);
  writeFileSync(`${pathOf(target)}.txt`, survivors.join('\n'));
  process.stdout.write(`\n${survivors.join('\n')}\n${target}: ${(100 * score).toFixed(0)} % of ${tried} are caught\n`);
  if (!isRoom(target)) continue;
  const room = basename(target);
  const row = `| ${room} | ${tried} | ${(100 * score).toFixed(0)} % | ${new Date().toISOString().slice(0, 10)} |`;
  const others = sectionLines(TITLE).filter(
    (l) => l.startsWith('| ') && !HEAD.includes(l) && !l.startsWith(`| ${room} |`),
  );
  writeSection(TITLE, [...HEAD, ...[...others, row].sort()], process.resourceUsage().userCPUTime / 1e6);
}
