/** The texts of `npm run words`. */
import { sentences } from '../testing/sentences';

let room = '';
for (const [at, text] of sentences()) {
  if (at !== room) process.stdout.write(`\n${at}\n`);
  room = at;
  process.stdout.write(`  ${text}\n`);
}
