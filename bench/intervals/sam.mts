import * as P from '../../src/core/intervals/pair';
import { randomFrom } from '../../src/core/simulate';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import wavefile from 'wavefile';
import { playInto, RATIOS } from './world';
const dir='/tmp/r/s1'; const { notes } = JSON.parse(readFileSync(join(dir,'rooms.json'),'utf8'));
const all = notes.map((n:any)=>{ const w=new (wavefile as any).WaveFile(readFileSync(join(dir,n.file))); w.toBitDepth('32f'); const s=w.getSamples(false, Float32Array); return {...n, samples: Array.isArray(s)?s[0]:s, rate: w.fmt.sampleRate};});
const DBG=process.argv[6];const N=Number(process.argv[2]), seed=Number(process.argv[3]); const only=process.argv[4];
// relative: the same pair twice, the second deviation differs by a known amount
const errs:number[]=[], by:Record<string,number[]>={}; let miss=0,done=0; const why:Record<string,number>={};const byKit:Record<string,number[]>={};
for(let k=0;k<N;k++){ const r=randomFrom(seed*777+k); const na=all[Math.floor(r.uniform()*all.length)]; const kit=all.filter((n:any)=>n.kit===na.kit);
 const nb=kit[Math.floor(r.uniform()*kit.length)];
 const semis=Math.round(12*Math.log2(nb.nominalHz/na.nominalHz)); const ratio=RATIOS.find(([p,q])=>Math.abs(12*Math.log2(p/q)-semis)<0.2);
 if(!ratio|| (only&&ratio.join(':')!==only)) continue;
 if (ratio[0]===ratio[1] && na!==nb) continue;
 if(DBG&&!(na.file.includes(DBG.split('/')[0]!)&&nb.file.includes(DBG.split('/')[1]!)))continue; if(DBG)(globalThis as any).DBG=true; const delay=r.between(0,.4), level=10**(r.between(-12,0)/20), c1=r.between(-25,25), c2=c1+r.between(-15,15);
 const got=[c1,c2].map(c=>{ const out=new Float32Array(Math.round(4*na.rate)); playInto(out,na.rate,na,0,0.3,0.5); playInto(out,na.rate,nb,c,0.3+delay,0.5*level); const rr=randomFrom(k); for(let i=0;i<out.length;i++) out[i]!+=3e-4*rr.normal(); return P.measurePair(out,na.rate,{aHz:na.nominalHz,bHz:nb.nominalHz,ratio}); });
 done++;
 if(!got[0]!.ok||!got[1]!.ok){miss++; for(const g of got) if(!g.ok) why[g.reason]=(why[g.reason]??0)+1; if(process.argv[5])console.log(na.file,nb.file,ratio.join(':'),got.map((g:any)=>g.ok?'ok':g.reason)); continue;}
 const uni=ratio[0]===ratio[1];
 const d=(g:any)=>uni?Math.abs(g.cents):g.cents; const e=uni? d(got[0])-Math.abs(c1) : d(got[1])-d(got[0])-(c2-c1); errs.push(e); (by[ratio.join(':')]??=[]).push(e); (byKit[na.kit]??=[]).push(e);
 if(Math.abs(e)>0.8) console.log(na.file.slice(6),nb.file.slice(6),ratio.join(':'),'err',e.toFixed(2),'c',c1.toFixed(1),c2.toFixed(1),'delay',delay.toFixed(2),'lvl',level.toFixed(2),(got as any[]).map(g=>g.cents.toFixed(2)+'±'+g.sigmaCents.toFixed(2)));
}
const q=(v:number[],p:number)=>{const s=v.map(Math.abs).sort((a,b)=>a-b);return s[Math.min(s.length-1,Math.floor(p*s.length))]??NaN;};
const rms=(v:number[])=>Math.sqrt(v.reduce((s,e)=>s+e*e,0)/v.length);
for(const n in by) console.log(n.padEnd(5), by[n]!.length,'median',q(by[n]!,.5)?.toFixed(3),'rms',rms(by[n]!).toFixed(2));
for(const n in byKit) console.log(n.padEnd(15), byKit[n]!.length,'median',q(byKit[n]!,.5)?.toFixed(3),'rms',rms(byKit[n]!).toFixed(2));
console.log('done',done,'rms',rms(errs).toFixed(3),'median',q(errs,.5).toFixed(3),'p95',q(errs,.95).toFixed(2),'miss',miss,why);
