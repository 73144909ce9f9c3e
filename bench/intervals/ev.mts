import * as P from '../../src/core/intervals/pair';
import { randomFrom } from '../../src/core/simulate';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import wavefile from 'wavefile';
import { drawOther, drawPair, playInto, RATIOS, RATE } from './world';
const dir='/tmp/r/s1'; const { notes } = JSON.parse(readFileSync(join(dir,'rooms.json'),'utf8'));
const all = notes.map((n:any)=>{ const w=new (wavefile as any).WaveFile(readFileSync(join(dir,n.file))); w.toBitDepth('32f'); const s=w.getSamples(false, Float32Array); return {...n, samples: Array.isArray(s)?s[0]:s, rate: w.fmt.sampleRate};});
let rows:any[]=[]; let cur='';
(globalThis as any).EV=(e:any,t:any)=>{ rows.push({cur,...e, cents:1200*Math.log2(t.b.f0/t.a.f0)}); };
const go=(name:string,s:any,rate:number,o:any)=>{ cur=name+(o.ratio[0]===o.ratio[1]?' uni':o.ratio[0]===1||o.ratio[1]===1?' oct':' gen'); const r=P.measurePair(s,rate,o); if(!r.ok) rows.push({cur,refused:r.reason}); };
for(let k=0;k<40;k++){ const p=drawPair(randomFrom(5000+k)); go('pair',p.samples,RATE,p);
 for(const kind of ['one','three'] as const){ const o=drawOther(randomFrom(6000+k),kind); go(kind,o.samples,RATE,o);} }
for(const n of all){ const out=new Float32Array(Math.round(4*n.rate)); playInto(out,n.rate,n,0,0.3,0.5); const rr=randomFrom(1); for(let i=0;i<out.length;i++) out[i]!+=3e-4*rr.normal();
 for(const ratio of [[1,1],[2,1],[3,2],[4,3]] as [number,number][]) go('sampled-one',out,n.rate,{aHz:n.nominalHz,bHz:n.nominalHz*ratio[0]/ratio[1],ratio}); }
for(let k=0;k<120;k++){ const r=randomFrom(k*31); const na=all[Math.floor(r.uniform()*all.length)]; const kit=all.filter((n:any)=>n.kit===na.kit); const nb=kit[Math.floor(r.uniform()*kit.length)];
 const semis=Math.round(12*Math.log2(nb.nominalHz/na.nominalHz)); const ratio=RATIOS.find(([p,q])=>Math.abs(12*Math.log2(p/q)-semis)<0.2); if(!ratio||(ratio[0]===ratio[1]&&na!==nb)) continue;
 const out=new Float32Array(Math.round(4*na.rate)); playInto(out,na.rate,na,0,0.3,0.5); playInto(out,na.rate,nb,r.between(-30,30),0.3+r.between(0,.4),0.5*10**(r.between(-12,0)/20)); const rr=randomFrom(k); for(let i=0;i<out.length;i++) out[i]!+=3e-4*rr.normal(); go('sampled-pair',out,na.rate,{aHz:na.nominalHz,bHz:nb.nominalHz,ratio}); }
const q=(v:number[],p:number)=>{const s=[...v].sort((a,b)=>a-b);return s.length?s[Math.min(s.length-1,Math.floor(p*s.length))]!.toFixed(2):'-';};
for(const c of [...new Set(rows.map(r=>r.cur))].sort()){ const g=rows.filter(r=>r.cur===c&&!r.refused); const ref=rows.filter(r=>r.cur===c&&r.refused).map(r=>r.refused);
 const w=(r:any)=>r.shared?r.shared.agree:r.free, n=(r:any)=>r.shared?r.shared.agree/r.shared.all:1;
 console.log(c.padEnd(17),g.length,'nats',[.05,.25,.5,.75,.95].map(p=>q(g.map(w),p)).join(' '),'| partials',[.05,.25,.5,.75,.95].map(p=>q(g.map(n),p)).join(' '),'| strange',[.05,.5,.9,.95].map(p=>q(g.map(r=>r.strange),p)).join(' '),ref.length?[...new Set(ref)].join():'' ); }
