import { randomFrom } from '../../src/core/simulate';
import { drawPair, RATIOS, RATE } from './world';
import * as P from '../../src/core/intervals/pair';
const seed=Number(process.argv[2]), k=Number(process.argv[3]);
const p=drawPair(randomFrom(seed*1000+k));
for (const q of []) 0; console.log(p.name,p.aHz,p.cents,p.delayS, (p as any).truth);
(globalThis as any).DBG=true;
console.log(P.measurePair(p.samples,RATE,p));
