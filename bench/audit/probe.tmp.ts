import { readBench } from '../../src/core/log';
import { statementsOf } from '../../src/core/says';
import { drawAudited } from './world';
const groups = new Map<string, [number, number, number]>();
const add = (k: string, inside: boolean, err: number) => {
  const g = groups.get(k) ?? [0, 0, 0];
  g[0]++;
  g[1] += inside ? 1 : 0;
  g[2] += Math.abs(err);
  groups.set(k, g);
};
const [, , n = '150', seed = '21', what = 'later'] = process.argv;
for (let id = 0; id < Number(n); id++) {
  const w = drawAudited(Number(seed), id);
  if (what === 'gross' && !w.hidden.gross.some(Boolean)) continue;
  const bench = readBench(w.records);
  const all = statementsOf(bench, { nowMs: w.nowMs, zone: 120, a4Hz: 440, priorsOf: () => ({}) } as never);
  for (const s of all) {
    if (s.kind !== 'offset-now') continue;
    const i = Number(s.string!.slice(1));
    const truth = w.cents(i, w.nowMs);
    const inside = truth >= s.interval![0] && truth <= s.interval![1];
    const life = bench.instruments[0]!.strings[i]!;
    const last = life.readings.at(-1)!;
    if (what === 'gross') {
      if (!w.hidden.gross[i]) continue;
      add(last.purpose, inside, 0);
      if (!inside)
        console.log(
          id,
          i,
          last.purpose,
          life.plan.material,
          w.hidden.befell,
          life.readings
            .slice(-5)
            .map((r) => `${r.purpose[3]}${r.cents.toFixed(1)}@${((w.nowMs - r.atMs) / 60000).toFixed(0)}`)
            .join(' '),
          'truth',
          truth.toFixed(1),
          'said',
          Number(s.value).toFixed(1),
          s.interval!.map((x) => x.toFixed(1)).join('..'),
        );
      continue;
    }
    if (w.hidden.befell !== 'nothing' || w.hidden.gross[i]) continue;
    const ago = (w.nowMs - w.readMs[i]!) / 60000;
    const mat = life.plan.material.includes('steel') ? 'steel' : 'polymer';
    const th = last.tempC !== undefined ? 'thermo' : 'none';
    const a = ago < 5 ? '<5' : ago < 60 ? '<60' : ago < 240 ? '<240' : ago < 720 ? '<720' : 'later';
    add(`${mat} ${th} ${a}`, inside, Number(s.value) - truth);
    add(`ALL ${a}`, inside, Number(s.value) - truth);
  }
}
for (const [k, [n, i, e]] of [...groups].sort())
  console.log(k, n, ((100 * i) / n).toFixed(0) + '%', 'mean|err|', (e / n).toFixed(2));
