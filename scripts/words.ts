/** Prints every text of the catalogues with sample values, to be read from top to bottom. `npm run words` */
import { sentences } from '../testing/sentences';

let room = '';
for (const [at, text] of sentences()) {
  if (at !== room) process.stdout.write(`\n${at}\n`);
  room = at;
  process.stdout.write(`  ${text}\n`);
}
