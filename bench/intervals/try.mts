import { measurePair } from '../../src/core/intervals/pair';
import { randomFrom } from '../../src/core/simulate';
import { drawPair, drawOther, RATIOS, RATE } from './world';
const N=Number(process.argv[2]??60), seed=Number(process.argv[3]??1), only=process.argv[4];
let sk=0; const errs:number[]=[], by:Record<string,number[]>={}; let miss=0, t=0, in2=0, beatsBad=0; const times:number[]=[];
for(let k=0;k<N;k++){ const p=drawPair(randomFrom(seed*1000+k), only?RATIOS.find(r=>r.join(':')===only):undefined);
 const t0=performance.now(); const r=measurePair(p.samples,RATE,p); times.push(performance.now()-t0);
 if(!r.ok){miss++; (by[p.name]??=[]); if(only)console.log(p.name,r.reason,p.cents.toFixed(1)); continue;}
 const uni=p.name==='1:1'; const e= uni? Math.abs(r.cents)-Math.abs(p.cents) : r.cents-p.cents; errs.push(e); (by[p.name]??=[]).push(e); if(Math.abs(e)<2*r.sigmaCents) in2++;
 if(Math.abs(r.beatsHz-p.beatsHz)>Math.max(.1,.05*p.beatsHz)) beatsBad++;
 if(uni&&r.signKnown)sk++; if(uni&&r.signKnown&&Math.sign(r.cents)!==Math.sign(p.cents)) console.log('SIGN', p.cents, r.cents, p.delayS);
 if(Math.abs(e)>0.6) console.log(p.name, 'a',p.aHz.toFixed(0),'true',p.cents.toFixed(2),'got',r.cents.toFixed(2),'±',r.sigmaCents.toFixed(2),'delay',p.delayS.toFixed(2));
}
const q=(v:number[],p:number)=>{const s=v.map(Math.abs).sort((a,b)=>a-b);return s[Math.min(s.length-1,Math.floor(p*s.length))]??NaN;};
const rms=(v:number[])=>Math.sqrt(v.reduce((s,e)=>s+e*e,0)/v.length);
for(const n in by) console.log(n.padEnd(5), by[n]!.length, 'median',q(by[n]!,.5)?.toFixed(3),'rms',rms(by[n]!).toFixed(2),'p95',q(by[n]!,.95)?.toFixed(2));
console.log('all rms',rms(errs).toFixed(3),'p95',q(errs,.95).toFixed(2),'median',q(errs,.5).toFixed(3),'missed',miss,'in2',(100*in2/errs.length).toFixed(0),'sk',sk,'beatsBad',beatsBad,'ms',q(times,.5).toFixed(0));
