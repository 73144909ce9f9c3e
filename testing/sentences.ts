import { readFileSync } from 'node:fs';
import { KEYS } from '../src/app/keys/table';
import { HELD, TASKS, WAY_WORDS } from '../src/core/bridge';
import { SCHOOL_WORDS } from '../src/core/by-ear';
import { QUESTIONS, REMEDIES, TEST_GUIDES } from '../src/core/causes';
import { courseLabels, fittingPlan, STRETCH_SCHOOLS } from '../src/core/fitting';
import { DEFAULT_A4_HZ } from '../src/core/music';
import { readBench, type LogRecord } from '../src/core/log';
import { statementsOf } from '../src/core/says';
import { FAMILIES, traitsOf } from '../src/core/strings';
import { HOUR } from '../src/core/base';

/** Where a text stands, and the text. */
export type Said = [room: string, text: string];

/** Every step of every family's fitting, for one string and for a set. */
const fitting = (): Said[] =>
  FAMILIES.flatMap(({ code, strings }) => {
    const labels = courseLabels(strings.map((s) => s.note));
    const all = strings.map((s, i) => ({ ...s, stringId: `s${i}`, label: labels[i] }));
    return [all, all.slice(0, 1)].flatMap((some) =>
      fittingPlan(traitsOf({ family: code }), some).flatMap((step): Said[] =>
        [step.title, step.why, ...step.points, step.caution ?? ''].map((t) => [`fitting, ${code}`, t]),
      ),
    );
  });

/** What the statements of the demonstration say, some hours on too. */
function statements(): Said[] {
  const { records } = JSON.parse(readFileSync('public/demonstration.json', 'utf8')) as { records: LogRecord[] };
  const bench = readBench(records);
  const lastMs = Math.max(...records.map((r) => r.atMs));
  return [0.02].flatMap((hours) =>
    statementsOf(bench, {
      nowMs: lastMs + hours * HOUR,
      zone: 120,
      a4Hz: DEFAULT_A4_HZ,
      priorsOf: () => ({}),
    }).map((s): Said => [`says, ${s.kind}`, s.text]),
  );
}

/** All texts of the catalogues, with sample values, each once. */
export function sentences(): Said[] {
  const of = (room: string, texts: readonly (string | undefined)[]): Said[] => texts.map((t) => [room, t ?? '']);
  const all = [
    ...fitting(),
    ...of(
      'fitting',
      STRETCH_SCHOOLS.flatMap((s) => [s.name, s.how]),
    ),
    ...Object.values(REMEDIES).flatMap((r) => of('causes', [r.name, ...r.steps, r.expect, r.caution])),
    ...Object.values(TEST_GUIDES).flatMap((g) => of('causes', [g.title, ...g.parts.map((p) => p.words), g.caution])),
    ...Object.values(QUESTIONS).flatMap((q) => of('causes', [q.words, ...Object.values(q.answers)])),
    ...of(
      'bridge',
      [...Object.values(TASKS), ...Object.values(HELD)].flatMap((t) => [t.name, t.what]),
    ),
    ...of('bridge', Object.values(WAY_WORDS)),
    ...of(
      'by ear',
      Object.values(SCHOOL_WORDS).flatMap((s) => [s.name, s.what]),
    ),
    ...Object.entries(KEYS).flatMap(([view, lines]) =>
      of(
        `keys, ${view}`,
        Object.values(lines).map((k) => k.words),
      ),
    ),
    ...statements(),
  ].filter(([, text]) => text !== '');
  const seen = new Set<string>();
  return all.filter(([, text]) => !seen.has(text) && seen.add(text));
}
