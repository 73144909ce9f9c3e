/** A name is given out by one file: who looks for it finds one thing. Part of npm run lint. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fail } from './setup.mjs';

const GIVEN = /^export (?:async )?(?:const|let|function\*?|class|interface|type|enum) (\w+)/gm;
const files = ['src', 'bench', 'demo', 'testing', 'scripts'].flatMap((dir) =>
  readdirSync(dir, { recursive: true, encoding: 'utf8' })
    .filter((f) => /\.tsx?$/.test(f) && !/\.(test|spec)\./.test(f))
    .map((f) => join(dir, f)),
);
const homes = new Map();
for (const file of files)
  for (const name of new Set([...readFileSync(file, 'utf8').matchAll(GIVEN)].map((m) => m[1])))
    homes.set(name, [...(homes.get(name) ?? []), file]);
const several = [...homes].filter(([, in_]) => in_.length > 1);
if (several.length > 0)
  fail(`Names that several files export:\n${several.map(([name, in_]) => `${name}: ${in_.join(', ')}`).join('\n')}`);
