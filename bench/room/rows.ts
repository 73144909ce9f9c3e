import { plainPluck, pluck, randomFrom, type Random } from '../../src/core/simulate';
import { ROOM_RATE, kitSound, type Kit } from './kits';
import { beginTrial, kept, placesOf, run, verdicts, type RoomTrial } from './trials';
import { clamp } from '../../src/core/base';
import { TOLERANCE_CENTS } from '../../src/core/check';

/** What the rows share. */
export interface Room {
  kits: Kit[];
  noise: Float64Array;
  random: Random;
  folder: string;
}

const ROOMS_DB = [-60, -45, -35, -25];
const SHOWN_ROOMS = ROOMS_DB.length;

const share = (part: number, of: number) => (of === 0 ? '–' : `${((100 * part) / of).toFixed(1)} %`);
const at = (sorted: number[], p: number) => sorted[Math.floor(p * (sorted.length - 1))] ?? NaN;
const sort = (list: number[]) => [...list].sort((a, b) => a - b);
const across = (cell: string) => [cell, ...Array<string>(SHOWN_ROOMS - 1).fill('')];

/** Every string of every kit. */
function eachString(room: Room, visit: (kit: Kit, i: number) => void): void {
  for (const kit of room.kits) kit.notes.forEach((_, i) => visit(kit, i));
}

/** As found at the first pluck, other strings read before or not: how many are kept, and how well. */
export function found({ kits, noise, random }: Room): string[][] {
  const rows: Record<string, string[]> = { kept: [], error: [], within: [] };
  for (const db of ROOMS_DB) {
    const errors: number[] = [];
    let n = 0;
    let within = 0;
    for (const kit of kits)
      kit.notes.forEach((_, i) => {
        for (const read of [true, false]) {
          const places = placesOf(kit, (j) => (read ? kit.notes[j]!.zeroCents + random.between(-5, 5) : undefined));
          const t = beginTrial(kit, 'as-found', i, db, noise, random, places);
          kit.notes.forEach((_n, j) => (t.strings.cents[j] = random.between(-60, 5)));
          run(t, random.between(0.5, 1.5));
          t.strings.pluck(i);
          run(t, 1.5, () => kept(t).length > 0);
          n++;
          const reading = kept(t)[0]?.keep.reading;
          if (!reading) continue;
          const error = Math.abs(reading.cents - t.strings.standsAt(i));
          errors.push(error);
          if (error < 2 * reading.sigmaCents) within++;
        }
      });
    const sorted = sort(errors);
    rows.kept!.push(share(errors.length, n));
    rows.error!.push(`${at(sorted, 0.5).toFixed(2)} / ${at(sorted, 0.95).toFixed(2)}`);
    rows.within!.push(share(within, errors.length));
  }
  return [
    ['as found kept at the first pluck', '98, 98, 95, 85 %', ...rows.kept!],
    ['its error, median / p95, cents', '0.3 / 1.5 at −45', ...rows.error!],
    ['truth within 2 sigma', '93 to 99 %', ...rows.within!],
  ];
}

type WayIn = 'from below' | 'from above' | 'overshot';

/** One string brought to pitch by a hand with pauses and a fall-back, re-plucked every 2 to 3 s, then left alone. */
function bringUp({ noise, random }: Room, kit: Kit, i: number, way: WayIn, db: number) {
  const zero = kit.notes[i]!.zeroCents;
  const start = way === 'from above' ? random.between(8, 33) : random.between(-60, -6);
  const places = placesOf(kit, (j) => (j === i ? start : kit.notes[j]!.zeroCents));
  const t = beginTrial(kit, 'as-left', i, db, noise, random, places);
  t.strings.cents[i] = start - zero;
  let next = 0;
  const replay = (nowS: number) => {
    if (kept(t).length > 0) return true;
    if (nowS < next) return false;
    t.strings.pluck(i);
    next = nowS + random.between(2, 3);
    return false;
  };
  run(t, random.between(1, 2), replay);
  const target = random.between(-1.5, 1.5);
  const stops =
    way === 'from below'
      ? [0.4 * start, target]
      : way === 'from above'
        ? [0.5 * start, target]
        : [0.4 * start, random.between(7, 15), target];
  stops.forEach((stop, k) => {
    const by = stop - t.strings.standsAt(i);
    const seconds = random.between(0.25, 1);
    const last = k === stops.length - 1;
    const slack = last ? random.between(0, 0.6) : 0;
    t.strings.turn(i, by + Math.sign(by) * slack, seconds);
    run(t, seconds + 0.02, replay);
    if (!last) run(t, random.between(0.2, 0.6), replay);
    else t.strings.turn(i, -Math.sign(by) * slack, 0.08);
  });
  const early = kept(t).length > 0;
  run(t, 4.1, replay);
  return { t, early };
}

/** As left by itself within 4 s of letting go. */
export function left(room: Room): string[][] {
  const rows: Record<string, string[]> = { kept: [], early: [], out: [], arrival: [], error: [], within: [] };
  for (const db of ROOMS_DB) {
    const errors: number[] = [];
    let n = 0;
    let early = 0;
    let out = 0;
    let right = 0;
    let told = 0;
    let within = 0;
    eachString(room, (kit, i) => {
      for (const way of ['from below', 'from above', 'overshot'] as const) {
        const trial = bringUp(room, kit, i, way, db);
        n++;
        const keep = kept(trial.t)[0]?.keep;
        if (trial.early) early++;
        if (!keep) {
          if (verdicts(trial.t).some((v) => v.verdict.kind === 'refuse' && v.verdict.reason === 'uncertain')) told++;
          continue;
        }
        const truth = trial.t.strings.standsAt(i);
        errors.push(Math.abs(keep.reading.cents - truth));
        if (Math.abs(truth) > TOLERANCE_CENTS + 1) out++;
        if (Math.abs(keep.reading.cents - truth) < 2 * keep.reading.sigmaCents) within++;
        if (keep.arrival === way) right++;
      }
    });
    const sorted = sort(errors);
    rows.kept!.push(`${share(errors.length, n)}${told > 0 ? `, told ${share(told, n)}` : ''}`);
    rows.early!.push(`${early}; ${share(out, errors.length)}`);
    rows.arrival!.push(share(right, errors.length));
    rows.error!.push(`${at(sorted, 0.5).toFixed(2)} / ${at(sorted, 0.95).toFixed(2)}`);
    rows.within!.push(share(within, errors.length));
  }
  return [
    ['as left kept within 4 s of letting go', '98, 98, 95, 80 % or told', ...rows.kept!],
    ['kept before the hand let go; out of tolerance', '0; 1 %', ...rows.early!],
    ['arrival named rightly', '95 %', ...rows.arrival!],
    ['as left: error, median / p95, cents', '', ...rows.error!],
    ['as left: truth within 2 sigma', '93 to 99 %', ...rows.within!],
  ];
}

/** All pairs of strings: one is named, another plucked. */
export function wrong({ kits, noise, random }: Room): string[][] {
  let n = 0;
  let keptWrong = 0;
  let named = 0;
  for (const kit of kits)
    kit.notes.forEach((_, i) =>
      kit.notes.forEach((_m, j) => {
        if (i === j) return;
        const read = random.uniform() < 0.5;
        const places = placesOf(kit, (k) => (read ? kit.notes[k]!.zeroCents + random.between(-60, 0) : undefined));
        const t = beginTrial(kit, 'as-found', i, -45, noise, random, places);
        t.strings.cents[j] = random.between(-60, 0);
        if (read)
          t.strings.cents[j] = 1200 * Math.log2(places[j]!.lastHz! / kit.notes[j]!.targetHz) - kit.notes[j]!.zeroCents;
        run(t, 0.6);
        t.strings.pluck(j);
        run(t, 1.7);
        n++;
        if (kept(t).length > 0) keptWrong++;
        const first = verdicts(t).find((v) => v.verdict.kind !== 'keep')?.verdict;
        if (first && 'hearingId' in first && first.hearingId === String(j)) named++;
      }),
    );
  return [
    ['wrong string kept without a question', '0', ...across(`${keptWrong} of ${n} (at −45)`)],
    ['wrong string told by its right name', '95 %', ...across(share(named, n))],
  ];
}

/** A slack string, fresh or last read there, is brought up past its neighbours and kept as itself. */
export function slack({ kits, noise, random }: Room): string[][] {
  let n = 0;
  let itself = 0;
  for (const kit of kits)
    kit.notes.forEach((note, i) => {
      for (const fresh of [true, false]) {
        const start = -100 * random.between(1, 7);
        const places = placesOf(kit, (j) => (j === i ? (fresh ? undefined : start) : kit.notes[j]!.zeroCents));
        if (fresh) places[i]!.fresh = true;
        const t = beginTrial(kit, 'as-left', i, -45, noise, random, places);
        t.strings.cents[i] = start - note.zeroCents;
        let next = 0;
        const replay = (nowS: number) => {
          if (kept(t).length > 0) return true;
          if (nowS >= next) {
            t.strings.pluck(i);
            next = nowS + random.between(1.5, 2.5);
          }
          return false;
        };
        run(t, 1.5, replay);
        while (Math.abs(t.strings.standsAt(i)) > 1.5 && kept(t).length === 0) {
          const by = Math.min(-t.strings.standsAt(i), random.between(40, 120));
          t.strings.turn(i, by, 0.8);
          run(t, random.between(1, 1.6), replay);
        }
        run(t, 6, replay);
        n++;
        const astray = verdicts(t).some(
          (v) => v.verdict.kind === 'ask' || (v.verdict.kind === 'refuse' && v.verdict.hearingId),
        );
        if (kept(t).length > 0 && !astray) itself++;
      }
    });
  return [['slack string followed up to pitch as itself', '98 %', ...across(share(itself, n))]];
}

/** The app sounds the target itself while it listens. */
export function ownTone({ kits, noise, random }: Room): string[][] {
  let n = 0;
  let wrongly = 0;
  for (const kit of kits)
    kit.notes.forEach((note, i) => {
      const t = beginTrial(kit, 'as-found', i, -45, noise, random);
      const voice = pluck(
        plainPluck(note.targetHz, { decayS: 20, glideCents: 0, level: 0.3 }),
        ROOM_RATE,
        randomFrom(i),
      );
      t.session.deafen(2.35);
      for (let k = 0; k < 2.05 * ROOM_RATE; k += 1024) {
        const block = new Float32Array(1024);
        voice.render(block, 0, 1024, 1);
        t.events.push(...t.session.push(block));
      }
      run(t, 2);
      n++;
      if (kept(t).length > 0) wrongly++;
    });
  return [['own tone kept', '0', ...across(`${wrongly} of ${n}`)]];
}

/** How often the sentence changes on a steady string, re-plucked every 2.5 s out of tolerance. */
export function steady(room: Room): string[][] {
  const cells = ROOMS_DB.map((db) => {
    let changes = 0;
    let seconds = 0;
    eachString(room, (kit, i) => {
      const t = beginTrial(
        kit,
        'as-left',
        i,
        db,
        room.noise,
        room.random,
        placesOf(kit, () => -20),
      );
      t.strings.cents[i] = -20 - kit.notes[i]!.zeroCents;
      let next = 0;
      run(t, 8, (nowS) => {
        if (nowS >= next) {
          t.strings.pluck(i);
          next = nowS + 2.5;
        }
        return false;
      });
      changes += t.events.filter((e) => e.kind === 'say' && e.atS > 1.5).length;
      seconds += 6.5;
    });
    return (changes / seconds).toFixed(2);
  });
  return [['sentence changes a second on a steady string', '0.5', ...cells]];
}

/** A whole check pass of one kit: the player does what the sentence says, a moment after it is said. */
function obey(t: RoomTrial, random: Random): number {
  let said = '';
  let saidAt = 0;
  let plucked = -9;
  let acted = -9;
  let turned = -9;
  run(t, 240, (nowS) => {
    const todo = t.session.todo();
    if (!todo) return true;
    const last = t.events.findLast((e) => e.kind === 'say');
    if (last?.kind === 'say' && last.text !== said) {
      said = last.text;
      saidAt = nowS;
    }
    const ready = nowS - saidAt > 0.35 && nowS - acted > 0.35;
    const wait = todo.purpose === 'found' ? 2.2 : 2.4;
    if (!ready || t.strings.turning) return false;
    if (
      (/^Pluck|^It fell|^This stands/.test(said) && nowS - plucked > 1.4) ||
      nowS - plucked > wait ||
      (turned > plucked && nowS - turned > 1)
    ) {
      t.strings.pluck(todo.string);
      plucked = acted = nowS;
      return false;
    }
    // After a turn it is heard again, or something new is said, before the next.
    if (nowS - plucked < 0.7 || nowS - acted < 0.7 || (turned > plucked && turned > saidAt)) return false;
    const up = /^Bring it up (\d+)/.exec(said);
    if (up) {
      const cents = Number(up[1]) * random.between(0.7, 1.05);
      t.strings.turn(todo.string, cents, clamp(cents / 50, 0.3, 1));
      acted = nowS + 1;
      turned = nowS;
    } else if (/below, then up/.test(said)) {
      t.strings.turn(todo.string, -random.between(10, 18), 0.5);
      acted = nowS + 0.8;
      turned = nowS;
    }
    return false;
  });
  return t.strings.nowS;
}

export function passes({ kits, noise, random }: Room): string[][] {
  const out: string[] = [];
  for (const kit of kits.filter((k) => ['nylon', 'steel', 'bass'].includes(k.name))) {
    let done = 0;
    let wrongly = 0;
    const seconds: number[] = [];
    const N = 6;
    for (let k = 0; k < N; k++) {
      const t = beginTrial(kit, 'check', undefined, -45, noise, random);
      kit.notes.forEach((_, i) => (t.strings.cents[i] = random.between(-45, 2)));
      const took = obey(t, random);
      if (!t.session.todo()) {
        done++;
        seconds.push(took / kit.notes.length);
      }
      wrongly += kit.notes.filter((_, i) => Math.abs(t.strings.standsAt(i)) > TOLERANCE_CENTS + 1).length;
    }
    const mean = seconds.reduce((a, b) => a + b, 0) / seconds.length;
    out.push(`${kit.name} ${done} of ${N}, ${mean.toFixed(1)} s a string, ${wrongly} left out`);
  }
  return [['whole pass with tuning at −45: done; mean seconds a string', '95 %; 15 s', ...out, '']];
}

/** Talk, coughs, knocks, two at once, lost samples: nothing is kept of them. */
export function noises({ kits, noise, random, folder }: Room): string[][] {
  const talk = kitSound(`${folder}/noises/speech.wav`).samples;
  const cough = kitSound(`${folder}/noises/cough.wav`).samples;
  const tally: Record<string, number> = { talk: 0, cough: 0, knock: 0, two: 0, gap: 0 };
  const EACH = 40;
  for (const what of Object.keys(tally))
    for (let k = 0; k < EACH; k++) {
      const kit = kits[Math.floor(random.uniform() * kits.length)]!;
      const i = Math.floor(random.uniform() * kit.notes.length);
      const t = beginTrial(kit, k % 2 ? 'as-left' : 'as-found', i, -45, noise, random);
      run(t, 0.8);
      const other = (i + 1 + Math.floor(random.uniform() * (kit.notes.length - 1))) % kit.notes.length;
      if (what === 'two') {
        t.strings.cents[i] = random.between(-30, 5);
        t.strings.pluck(i);
        t.strings.pluck(other, random.between(-4, 0), true);
        run(t, 1.6);
      } else if (what === 'gap') {
        t.strings.cents[i] = k % 2 ? 0 : -9;
        t.strings.pluck(i);
        run(t, random.between(0.35, 0.55));
        t.session.lose();
        run(t, 0.65);
      } else {
        const sound = what === 'talk' ? talk : what === 'cough' ? cough : knock(random);
        const gain = random.between(0.5, 1.5);
        const from = what === 'talk' ? Math.floor(random.uniform() * ROOM_RATE * 2) : 0;
        for (let at = from; at < Math.min(sound.length, from + 2.5 * ROOM_RATE); at += 1024) {
          const block = t.strings.block(1024);
          for (let q = 0; q < 1024; q++) block[q]! += gain * (sound[at + q] ?? 0);
          t.events.push(...t.session.push(block));
        }
        run(t, 1.2);
      }
      if (kept(t).length > 0) tally[what]!++;
    }
  const all = Object.values(tally).reduce((a, b) => a + b, 0);
  const words = Object.entries(tally).map(([k, v]) => `${k} ${v}`);
  return [
    [
      'talk, cough, knock, two at once, gap: kept',
      '0 of 200',
      ...across(`${all} of ${5 * EACH} (${words.join(', ')})`),
    ],
  ];
}

/** A knock on wood: a few modes that die within a tenth of a second. */
function knock(random: Random): Float64Array {
  const modes = Array.from({ length: 6 }, () => ({ hz: random.between(90, 1600), tau: random.between(0.01, 0.06) }));
  return Float64Array.from({ length: 0.5 * ROOM_RATE }, (_, k) =>
    modes.reduce(
      (s, { hz, tau }) => s + 0.1 * Math.exp(-k / ROOM_RATE / tau) * Math.sin((2 * Math.PI * hz * k) / ROOM_RATE),
      0,
    ),
  );
}
