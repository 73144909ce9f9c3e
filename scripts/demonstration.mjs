/** Makes the demonstration's log, unless what is there was made of the same. */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { run } from './setup.mjs';

const OUT = 'public/demonstration.json';
const STAMP = '.tmp/demonstration.sha256';

/** What it is made of, by content: a fresh clone or a touched file makes no difference. */
function inputs() {
  const hash = createHash('sha256');
  for (const folder of ['demo', 'src/core'])
    for (const name of readdirSync(folder, { recursive: true }).sort())
      if (name.endsWith('.ts') && !name.endsWith('.test.ts'))
        hash.update(name).update(readFileSync(`${folder}/${name}`));
  return hash.digest('hex');
}

export function makeDemonstration() {
  const now = inputs();
  if (existsSync(OUT) && existsSync(STAMP) && readFileSync(STAMP, 'utf8') === now) return;
  console.log('Making the demonstration with the simulator …');
  run('npx', ['tsx', 'demo/write.ts']);
  mkdirSync('.tmp', { recursive: true });
  writeFileSync(STAMP, now);
}
