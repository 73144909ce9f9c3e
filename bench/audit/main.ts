/**
 * Every statement of random instruments at random moments, held against the truth. `npm run bench:audit -- [instruments] [seed]`
 * Where no truth of ours can judge a kind, another bench does: causes (bench:causes), stops (bench:bridge).
 */
import { argv, cpuUsage } from 'node:process';
import { HOLD_MIN, TOLERANCE_CENTS } from '../../src/core/check';
import { readBench } from '../../src/core/log';
import { statementsOf, type Statement } from '../../src/core/says';
import { contradictions, misquoted } from '../../testing/agree';
import { writeSection } from '../report';
import { BEYOND_MIN, drawAudited, octaveErrorCents, type Audited } from './world';
import { MINUTE } from '../../src/core/base';

const ZONE = 120;
const COUNT = Number(argv[2] ?? 1000);
const SEED = Number(argv[3] ?? 5);

/** The instrument that is judged. */
let world: Audited;
/** A kind's figures held against their truths. */
class Figures {
  readonly errors: number[] = [];
  within = 0;
  add(s: Statement, truth: number): void {
    this.errors.push(Math.abs(Number(s.value) - truth));
    if (s.interval && truth >= s.interval[0] && truth <= s.interval[1]) this.within++;
  }
}
const figures = new Map<string, Figures>();
const figure = (kind: string, s: Statement, truth: number | undefined) => {
  const name = `${kind}; ${world.habits}`;
  if (truth === undefined || !Number.isFinite(truth)) return;
  if (!figures.has(name)) figures.set(name, new Figures());
  figures.get(name)!.add(s, truth);
};
/** Chances with what came. */
const chances = new Map<string, { chance: number; came: boolean }[]>();
const chance = (name: string, said: number, came: boolean): void =>
  void chances.set(name, [...(chances.get(name) ?? []), { chance: said, came }]);
/** Claims without a figure: right or not. */
const rights = new Map<string, { right: number; all: number }>();
const right = (name: string, is: boolean) => {
  const r = rights.get(name) ?? { right: 0, all: 0 };
  rights.set(name, { right: r.right + (is ? 1 : 0), all: r.all + 1 });
};
const faults: string[] = [];

/** Stays within tolerance from now to then, looked at every two minutes. */
const stays = (world: Audited, i: number, fromMs: number, toMs: number): boolean => {
  for (let t = fromMs; t <= toMs; t += 2 * MINUTE) if (Math.abs(world.cents(i, t)) > TOLERANCE_CENTS) return false;
  return true;
};
/** The room's truth: how far warmth moved a string since it was left. */
const roomDid = (world: Audited, i: number, readMs: number) => {
  const left = world.leftMs[i];
  return left === undefined ? undefined : world.strings[i]!.centsPerC * (world.tempC(readMs) - world.tempC(left));
};

const agoWords = (ms: number) =>
  ms < 5 * MINUTE ? 'read just now' : ms < 240 * MINUTE ? 'within four hours' : 'later';

function judge(world: Audited, s: Statement): void {
  const i = s.string === undefined ? -1 : Number(s.string.slice(1));
  const { nowMs, hidden } = world;
  // What nobody noted, and what is wrong: what follows of that is counted apart.
  const befell = hidden.retunedCents !== 0 || hidden.slipped === i ? `, ${hidden.befell}` : '';
  const meddled = hidden.gross[i] && befell === '' ? ', a gross figure' : befell;
  switch (s.kind) {
    case 'offset-now':
      if (meddled === '') figure(`${s.kind}, ${agoWords(nowMs - world.readMs[i]!)}`, s, world.cents(i, nowMs));
      return figure(`${s.kind}${meddled}`, s, world.cents(i, nowMs));
    case 'offset-at':
      return figure(
        `${s.kind} ${s.atMs === world.showMs ? 'the show' : 'an hour on'}${meddled}`,
        s,
        world.cents(i, s.atMs!),
      );
    case 'per-hour':
    case 'per-day': {
      const laterMs = nowMs + (s.kind === 'per-hour' ? 60 : 24 * 60) * MINUTE;
      if (laterMs > nowMs + BEYOND_MIN * MINUTE) return;
      return figure(`${s.kind}${meddled}`, s, world.cents(i, nowMs) - world.cents(i, laterMs));
    }
    case 'warmth':
      return figure(s.kind, s, world.strings[i]!.centsPerC);
    case 'fallen':
      return figure(`${s.kind}${meddled}`, s, world.fallen[i]);
    case 'hold-chance':
      chance('hold-chance, at the end', s.chance!, Math.abs(world.cents(i, s.atMs!)) <= TOLERANCE_CENTS);
      return chance(`${s.kind}, ${world.habits}`, s.chance!, stays(world, i, nowMs, s.atMs!));
    case 'common-offset':
      right('common-offset is there', hidden.retunedCents !== 0);
      return hidden.retunedCents === 0 ? undefined : figure(s.kind, s, hidden.retunedCents);
    case 'reference-suspect':
      return hidden.retunedCents === 0 ? undefined : figure(s.kind, s, 440 * 2 ** (hidden.retunedCents / 1200));
    case 'room-change':
      return figure(`${s.kind}${meddled}`, s, roomDid(world, i, world.readMs[i]!));
    case 'octave-error':
      return hidden.uneven[i] ? undefined : figure(s.kind, s, octaveErrorCents(hidden.saddleMm[i]!));
    case 'saddle-move':
      right('saddle-move has the right direction', Math.sign(Number(s.value)) === -Math.sign(hidden.saddleMm[i]!));
      return hidden.uneven[i] ? undefined : figure(s.kind, s, -hidden.saddleMm[i]!);
    case 'string-worn':
      return right('string-worn is uneven', hidden.uneven[i]!);
    case 'friction':
      return figure(s.kind, s, hidden.frictionCents.get(i));
    case 'ear-accuracy':
      return figure(s.kind, s, hidden.earCents);
    case 'net-offset':
      return figure(s.kind, s, hidden.net!.cents[i]);
    case 'repeatability':
      return figure(s.kind, s, 0.35);
    case 'lead':
      // It is going to fall: after the show has begun it stands lower than when it was left.
      return right('lead: it falls', world.cents(i, s.atMs! + HOLD_MIN * MINUTE) < world.cents(i, s.atMs!) + 0.5);
    case 'state':
      if (s.value === 'slipped') right('slipped did slip', hidden.slipped === i);
      return;
  }
}

const began = cpuUsage();
let moments = 0;
let retuned = 0;
let found = 0;
for (let id = 0; id < COUNT; id++) {
  world = drawAudited(SEED, id);
  const bench = readBench(world.records);
  const all = statementsOf(bench, { nowMs: world.nowMs, zone: ZONE, a4Hz: 440, priorsOf: () => ({}) });
  moments++;
  if (world.hidden.retunedCents !== 0) {
    retuned++;
    if (all.some((s) => s.kind === 'common-offset')) found++;
  }
  for (const s of all) judge(world, s);
  faults.push(...contradictions(all, world.showMs !== undefined), ...all.flatMap((s) => misquoted(s, ZONE, all)));
  // Brought to pitch when it is said to be ready: does it hold? This changes the string, and comes last.
  for (const s of all.filter((x) => x.kind === 'ready-at')) {
    const i = Number(s.string!.slice(1));
    if (s.atMs! > world.nowMs + (BEYOND_MIN - HOLD_MIN - 5) * MINUTE) continue;
    const string = world.strings[i]!;
    const t = (s.atMs! - world.strungMs) / MINUTE;
    string.bringUp(t);
    let holds = true;
    for (let k = 1; k <= HOLD_MIN; k += 2) holds &&= Math.abs(string.centsAt(t + k)) <= TOLERANCE_CENTS;
    chance(
      `ready-at, ${world.materials[i]!.includes('steel') ? 'steel' : 'polymers'}, ${world.habits}`,
      s.chance!,
      holds,
    );
  }
}
const percent = (n: number, of: number) => `${((100 * n) / of).toFixed(1)} %`;
const sorted = (list: readonly number[]) => [...list].sort((a, b) => a - b);
const lines = [
  `${moments} instruments at a random moment each, seed ${SEED}; half of them kept in a workshop, strings by nine laws that are not the estimator's; half by people, strings of sixteen relaxations.`,
  '',
  '| statement | count | within its 90 % interval | error median / p90 |',
  '|---|---|---|---|',
  ...[...figures].map(([name, f]) => {
    const e = sorted(f.errors);
    return `| ${name} | ${e.length} | ${percent(f.within, e.length)} | ${e[Math.floor(e.length / 2)]!.toFixed(2)} / ${e[Math.floor(0.9 * e.length)]!.toFixed(2)} |`;
  }),
  '',
  '| chance | said on average | came true | count |',
  '|---|---|---|---|',
  ...[...chances].flatMap(([name, list]) =>
    [
      [0, 0.2],
      [0.2, 0.5],
      [0.5, 0.8],
      [0.8, 0.95],
      [0.95, 1.01],
    ].flatMap(([low, high]) => {
      const bin = list.filter((c) => c.chance >= low! && c.chance < high!);
      if (bin.length === 0) return [];
      const said = bin.reduce((sum, c) => sum + c.chance, 0) / bin.length;
      const came = bin.filter((c) => c.came).length / bin.length;
      return [`| ${name} | ${said.toFixed(2)} | ${came.toFixed(2)} | ${bin.length} |`];
    }),
  ),
  '',
  '| claim | right |',
  '|---|---|',
  ...[...rights].map(([name, { right: n, all }]) => `| ${name} | ${n} of ${all} |`),
  `| another reference is found | ${found} of ${retuned} |`,
  '',
  `Contradictions, and figures of sentences that are none of their statement’s: ${faults.length} in ${moments} moments.`,
  ...faults.slice(0, 5).map((c) => `- ${c}`),
];
const { user, system } = cpuUsage(began);
writeSection('Every statement against the truth', lines, (user + system) / 1e6);
