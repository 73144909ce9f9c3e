/** npm run words: prints every text of the catalogues with sample values, to be read from top to bottom. */
import { makeDemonstration } from './demonstration.mjs';
import { needPackages, run } from './setup.mjs';

needPackages();
makeDemonstration();
run('npx', ['tsx', 'scripts/words.ts']);
