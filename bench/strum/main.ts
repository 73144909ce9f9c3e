import { existsSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { knownPartials, measure, readStrum, type StringHeard, type StrummedString } from '../../src/core/pitch';
import { ratioOfCents } from '../../src/core/music';
import { randomFrom, type Random } from '../../src/core/simulate';
import { loadKits, pinkNoise, ROOM_RATE } from '../room/kits';
import { bent, bodyPlucks, loudest } from '../pitch/sounds';
import { writeSection } from '../report';

/** A string as the bench strums it: plucks of it that are known exactly, by how far they are from its first. */
interface Source {
  name: string;
  targetHz: number;
  plucks: { samples: Float32Array; cents: number }[];
  /** Plucks may be shifted exactly (samples), or stand as they are (another law). */
  shifts: boolean;
}
interface Set {
  name: string;
  strings: Source[];
}

/** So loud is a note at its peak, and the noises that are laid over it, dB. */
const NOTE_DB = -8;
const NOISES_DB = [-60, -45, -35];
const LASTS_S = 2.6;
const SOFT_DB = 12;
/** Wrong by more than this is wrong, cents. */
const WRONG = 3;
const amplitude = (db: number) => 10 ** (db / 20);

/** Notes of sampled instruments: the reading of the clean note is its zero. */
function sampled(folder: string): Set[] {
  const names = ['nylon', 'steel', 'clean-electric', 'bass', 'banjo', 'harp', 'koto'];
  return loadKits(folder, names).map(({ name, notes }) => ({
    name,
    strings: notes.map((n) => ({
      name: n.name,
      targetHz: n.targetHz * ratioOfCents(n.zeroCents),
      plucks: [{ samples: Float32Array.from(n.samples), cents: 0 }],
      shifts: true,
    })),
  }));
}

/** Plucks by another law: groups of six of one string, of which two were made at another tension. */
function byLaw(folder: string): Set[] {
  const sets = new Map<string, Map<string, Source>>();
  for (const { raw, kind, group, hz, known } of bodyPlucks(folder)) {
    const set = sets.get(kind) ?? new Map<string, Source>();
    sets.set(kind, set);
    const source = set.get(group) ?? { name: group, targetHz: hz, plucks: [], shifts: false };
    set.set(group, source);
    source.plucks.push({ samples: raw, cents: known });
  }
  return [...sets]
    .filter(([, set]) => set.size > 2)
    .map(([name, set]) => ({ name, strings: [...set.values()].slice(0, 7) }));
}

interface Tally {
  asked: number;
  read: number;
  errors: number[];
  within: number;
  wrong: number;
  unstruck: number;
  unstruckRead: number;
  clean: number;
  strums: number;
  ms: number;
  refused: Record<string, number>;
}
const tally = (): Tally => ({
  asked: 0,
  read: 0,
  errors: [],
  within: 0,
  wrong: 0,
  unstruck: 0,
  unstruckRead: 0,
  clean: 0,
  strums: 0,
  ms: 0,
  refused: {},
});

/** One strum of a set, and what is known of its strings. */
function strum({ strings }: Set, noiseDb: number, random: Random) {
  const x = pinkNoise(Math.round((0.5 + LASTS_S) * ROOM_RATE), random).map((v) => v * amplitude(noiseDb));
  const gapS = random.between(0.008, 0.06);
  const soft = Math.floor(random.uniform() * strings.length);
  const left = random.uniform() < 0.3 ? Math.floor(random.uniform() * strings.length) : -1;
  const far = random.uniform() < 0.3 ? Math.floor(random.uniform() * strings.length) : -1;
  const down = random.uniform() < 0.7;
  const quiet = pinkNoise(4 * ROOM_RATE, random);
  const each = strings.map((s, i) => {
    const learnt = s.shifts
      ? [random.between(-20, 5), random.between(-20, 5)].map((cents) => ({
          samples: bent(s.plucks[0]!.samples, ROOM_RATE, () => cents),
          cents,
        }))
      : s.plucks.slice(0, 2);
    const pluck = s.plucks[s.shifts ? 0 : 2 + Math.floor(random.uniform() * (s.plucks.length - 2))]!;
    const moved = s.shifts ? random.between(-12, 6) : pluck.cents;
    const cents = s.shifts && i === far ? moved + (random.uniform() < 0.5 ? 1 : -1) * random.between(25, 40) : moved;
    const note = (s.shifts ? bent(pluck.samples, ROOM_RATE, () => cents) : pluck.samples).subarray(
      0,
      LASTS_S * ROOM_RATE,
    );
    const order = down ? strings.length - 1 - i : i;
    const loud = amplitude(NOTE_DB + random.between(-3, 3) - (i === soft ? SOFT_DB : 0)) / loudest(note) / 2;
    const from = Math.round((0.4 + order * gapS) * ROOM_RATE);
    if (i !== left) for (let k = 0; k < note.length && from + k < x.length; k++) x[from + k]! += loud * note[k]!;
    const known = learnt.flatMap(({ samples, cents: at }) => {
      const from = Math.round(0.4 * ROOM_RATE);
      const loudness = 0.4 / loudest(samples);
      const alone = quiet.map((v, k) => v * amplitude(-60) + loudness * (samples[k - from] ?? 0));
      const reading = measure(alone, ROOM_RATE, { targetHz: s.targetHz });
      return reading.ok ? [{ reading, cents: at }] : [];
    });
    const string: StrummedString = {
      id: s.name,
      targetHz: s.targetHz,
      expectedCents: moved + 3 * random.normal(),
      expectedSigmaCents: 3,
      partials: knownPartials(s.targetHz, known),
    };
    return { string, cents, struck: i !== left };
  });
  return { x: Float32Array.from(x), each };
}

function add(t: Tally, heard: StringHeard[], each: ReturnType<typeof strum>['each'], ms: number, tell?: string): void {
  t.strums++;
  t.ms += ms;
  let clean = true;
  heard.forEach((h, i) => {
    const { cents, struck, string } = each[i]!;
    if (!struck) {
      t.unstruck++;
      if (h.ok) {
        t.unstruckRead++;
        if (tell) console.error(`${tell}: ${string.id} was not struck: ${h.cents.toFixed(2)}`);
      }
      return;
    }
    t.asked++;
    if (!h.ok) {
      t.refused[h.reason] = (t.refused[h.reason] ?? 0) + 1;
      clean = false;
      if (tell) console.error(`${tell}: ${string.id} refused ${h.reason}`);
      return;
    }
    t.read++;
    const off = h.cents - cents;
    t.errors.push(off);
    if (Math.abs(off) <= 2 * h.sigmaCents) t.within++;
    if (Math.abs(off) > WRONG) {
      t.wrong++;
      if (tell) console.error(`${tell}: ${string.id} off by ${off.toFixed(2)} ±${h.sigmaCents.toFixed(2)}`);
    }
  });
  if (clean) t.clean++;
}

const { values, positionals } = parseArgs({
  options: {
    seed: { type: 'string', default: '1' },
    strums: { type: 'string', default: '8' },
    tell: { type: 'boolean', default: false },
  },
  allowPositionals: true,
});
if (positionals.length === 0 || !positionals.every((f) => existsSync(f))) {
  process.stderr.write(
    "Folders of the rooms' script (with rooms.json) or of the strings' script (with kc.tsv) are asked for.\n",
  );
  process.exit(2);
}
const begun = process.cpuUsage();
const lines = [
  '| folder | set | noise dB | strums | read | RMSE | p95 | within 2 sd | wrong | unstruck answered | nothing left to pluck | ms | refused |',
  '|---|---|---|---|---|---|---|---|---|---|---|---|---|',
];
for (const folder of positionals) {
  const sets = existsSync(`${folder}/rooms.json`) ? sampled(folder) : byLaw(folder);
  for (const noiseDb of NOISES_DB) {
    const all = tally();
    sets.forEach((set, si) => {
      const own = tally();
      for (let k = 0; k < Number(values.strums); k++) {
        const random = randomFrom(1009 * Number(values.seed) + 31 * k + 7 * si - noiseDb);
        const { x, each } = strum(set, noiseDb, random);
        const at = process.cpuUsage();
        const heard = readStrum(
          x,
          ROOM_RATE,
          each.map((e) => e.string),
        );
        const used = process.cpuUsage(at);
        for (const t of [own, all])
          add(
            t,
            heard,
            each,
            (used.user + used.system) / 1000,
            values.tell && t === own ? `${set.name} ${noiseDb} #${k}` : undefined,
          );
      }
      if (values.tell) lines.push(row(folder, set.name, noiseDb, own));
    });
    lines.push(row(folder, 'all', noiseDb, all));
  }
}
function row(folder: string, name: string, noiseDb: number, t: Tally): string {
  const sorted = t.errors.map(Math.abs).sort((a, b) => a - b);
  const share = (a: number, b: number) => (b > 0 ? `${((100 * a) / b).toFixed(0)} %` : '');
  const rms = Math.sqrt(t.errors.reduce((s, e) => s + e * e, 0) / Math.max(1, t.errors.length));
  return `| ${folder.split('/').at(-1)} | ${name} | ${noiseDb} | ${t.strums} | ${share(t.read, t.asked)} | ${rms.toFixed(2)} | ${(sorted[Math.floor(0.95 * sorted.length)] ?? 0).toFixed(2)} | ${share(t.within, t.read)} | ${t.wrong} | ${t.unstruckRead} of ${t.unstruck} | ${share(t.clean, t.strums)} | ${(t.ms / t.strums).toFixed(0)} | ${Object.entries(
    t.refused,
  )
    .map(([r, n]) => `${r} ${n}`)
    .join(', ')} |`;
}
const used = process.cpuUsage(begun);
if (values.tell) console.log(lines.join('\n'));
else writeSection('One strum of all strings', lines, (used.user + used.system) / 1e6);
