import { clockTime, MINUTE } from '../src/core/base';
import { TOLERANCE_CENTS } from '../src/core/check';
import type { Statement } from '../src/core/says';
import { READY } from '../src/core/status';

/** Two statements of one instrument that do not go together. @param zone of the clock that they are told by */
export function contradictions(all: readonly Statement[], hasShow: boolean): string[] {
  const faults: string[] = [];
  const differ = (is: boolean | undefined, ...said: (Statement | undefined)[]) => {
    if (is) faults.push(said.map((s) => s?.text).join(' '));
  };
  const of = (kind: Statement['kind'], string?: string) => all.find((s) => s.kind === kind && s.string === string);
  const strings = new Set(all.filter((s) => s.kind === 'state').map((s) => s.string!));
  for (const string of strings) {
    const [state, hold, now, next] = [
      of('state', string)!,
      of('hold-chance', string),
      of('offset-now', string),
      of('string-next', string),
    ];
    const holds = state.value === 'holding';
    differ(hold && holds && hold.chance! < READY, state, hold);
    differ(hold && state.value === 'settling' && hold.chance! >= READY, state, hold);
    // Nine of ten lie outside the tolerance already: it cannot be likely to hold.
    const isOut = now && (now.interval![0] > TOLERANCE_CENTS || now.interval![1] < -TOLERANCE_CENTS);
    differ(hold && isOut && hold.chance! > 0.5, now, hold);
    differ(next && !holds && /\bholds\b/.test(next.text), state, next);
    const [ready, kept] = [of('ready-at', string), of('ready-kept', string)];
    differ(hold && ready && hold.chance! >= READY && ready.atMs! > hold.atMs!, hold, ready);
    // Kept in tune it is ready no later than left alone.
    differ(ready && (kept?.atMs === undefined || kept.atMs > ready.atMs! + MINUTE), ready, kept);
    const check = of('next-check', string);
    differ(!hasShow && next?.atMs !== undefined && next.atMs !== check?.atMs, next, check);
    const later = all.filter((s) => s.kind === 'offset-at' && s.string === string);
    for (const [a, b] of later.flatMap((a) => later.map((b) => [a, b] as const)))
      differ(Math.abs(a.atMs! - b.atMs!) < MINUTE && Math.abs(Number(a.value) - Number(b.value)) > a.sd!, a, b);
  }
  const count = [...strings].filter((s) => of('state', s)!.value === 'holding').length;
  differ(of('holding')?.value !== count, of('holding'));
  const next = of('next-thing');
  const dueMs = Math.min(...all.filter((x) => x.kind === 'next-check').map((x) => x.atMs!));
  // With a show ahead its plan says when.
  differ(!hasShow && next?.text.startsWith('Check at') && Math.abs(next.atMs! - dueMs) > MINUTE, next);
  const [common, reference] = [of('common-offset'), of('reference-suspect')];
  differ(
    common && reference && Math.sign(Number(common.value)) !== Math.sign(Number(reference.value) - 440),
    common,
    reference,
  );
  return faults;
}

/** What a sentence says beside its own figures: what is asked for, and how times and names are written. */
const ASKED = new RegExp(
  [
    /±3 cents/,
    /for 90 min(utes)?|holds 90 minutes/,
    /[A-G][♯♭#b]?\d/,
    /A4 = /,
    /12th fret/,
    /\d+ (of \d+ strings|strings)/,
    /\d+ (h \d+|min|days?|weeks?|months?)( ago)?/,
    /(in|within) \d+ (days|weeks|months)/,
    /\d{1,2} (Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec)[a-z]*( \d{4})?/,
    /\(\d+ pairs?\)/,
    // How far apart the strings stand, of which the middle is the figure.
    /\d+ to \d+ cents/,
  ]
    .map((r) => r.source)
    .join('|'),
  'g',
);

/** Figures of a sentence that are none of its fields. @param zone of the clock that it is told by @param all that is said beside it */
export function misquoted(
  { text, brief = '', ...s }: Statement,
  zone: number,
  all: readonly Statement[] = [],
): string[] {
  // Of a reading it is said too where it has gone since; one sentence may make two statements.
  const beside = all.filter(
    (x) => sameThing(x, s) && (x.text === text || (s.kind === 'reading' && x.kind === 'offset-now')),
  );
  const known = [s, ...beside].flatMap(({ value, interval: [low, high] = [NaN, NaN] }) => [
    Number(value),
    100 * Number(value),
    low,
    high,
    (high - low) / 2,
  ]);
  known.push(100 * (s.chance ?? NaN), s.degrees ?? NaN);
  const isKnown = (figure: string) => {
    const digits = figure.split('.')[1]?.length ?? 0;
    return known.some((k) => Math.abs(Math.abs(k) - Number(figure)) < 0.5001 * 10 ** -digits);
  };
  const at = s.atMs === undefined ? '' : clockTime(s.atMs, zone);
  const [said, times] = [`${text} ${brief}`.replace(ASKED, ''), /\d{1,2}:\d\d/g];
  const figures = said.replace(times, '').match(/\d+(\.\d+)?/g) ?? [];
  return [
    ...figures.filter((f) => !isKnown(f)).map((f) => `${f} of ${s.kind}: ${text} / ${brief}`),
    // A kind that is of a moment names that one.
    ...(OF_A_MOMENT.has(s.kind) && at && /\d:\d\d/.test(text) && !text.includes(at) ? [`not ${at}: ${text}`] : []),
  ];
}
const sameThing = (a: Pick<Statement, 'instrument' | 'string'>, b: typeof a) =>
  a.instrument === b.instrument && a.string === b.string;
const OF_A_MOMENT: ReadonlySet<Statement['kind']> = new Set([
  'offset-at',
  'hold-chance',
  'ready-at',
  'ready-kept',
  'next-check',
]);
