import { randomFrom } from '../../src/core/simulate';
import { drawPair } from './world';
for(let k=0;k<60;k++){const p=drawPair(randomFrom(1000+k)); if(['4:1','4:3','1:1'].includes(p.name)) console.log(k,p.name,p.aHz.toFixed(0),p.cents.toFixed(2));}
