/** Writes public/demonstration.json, which the app loads when the demonstration is opened. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { makeDemonstration } from './make';

mkdirSync('public', { recursive: true });
writeFileSync('public/demonstration.json', JSON.stringify(makeDemonstration()));
