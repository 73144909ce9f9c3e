import { array, boolean, lazy, mixed, number, object, string } from 'yup';
import { measurePair, measureSteady, REFERENCE_KINDS } from '../core/two-strings';
import { type Alone, type Between, earRound, solveNet } from '../core/by-ear';
import { EAR_SCHOOLS } from '../core/codes';
import { LEAST_HZ, LEAST_SIGMA_CENTS, MOST_CENTS, MOST_HZ, MOST_STRINGS } from '../core/limits';
import { cents, DEFAULT_A4_HZ, parseNote, targetFrequencyHz } from '../core/music';
import { checked, refused } from './lines';
import { a4Of, wavSound } from './measure';

const note = () =>
  string()
    .strict()
    .test('note', '${path} is no note: write it as a letter, # or b, and an octave, F#3', (v) => !v || !!parseNote(v));
const index = (strings: number) => number().strict().integer().min(1).max(strings);

const earSchema = object({
  strings: array()
    .of(
      lazy((v: unknown) =>
        typeof v === 'string'
          ? note().required()
          : object({ note: note().required(), fromFret: number().strict().integer().min(0).max(36) }),
      ),
    )
    .min(2)
    .max(MOST_STRINGS)
    .required(),
  school: mixed<(typeof EAR_SCHOOLS)[number]>().oneOf(EAR_SCHOOLS).required(),
  anchor: lazy((v: unknown) => (typeof v === 'string' ? note() : index(MOST_STRINGS).nullable())),
  frets: number().strict().integer().min(0).max(36).required(),
});

/** One line of `ear`: strings and a school in; every step of a round by ear, with its beats, out. */
export function earLine(item: Record<string, unknown>): object {
  const valid = checked(earSchema, item, 'bad-ear');
  if (!valid.ok) return valid;
  const { school, frets } = valid.value;
  const given = valid.value.strings as (string | { note: string; fromFret?: number })[];
  const strings = given.map((s) => (typeof s === 'string' ? s : s.note));
  // Said of one string, it is known of all.
  const starts = given.some((s) => typeof s !== 'string')
    ? given.map((s) => (typeof s === 'string' ? 0 : (s.fromFret ?? 0)))
    : undefined;
  if (starts?.some((s) => s > frets)) return refused('bad-ear', 'A string begins beyond the last fret.');
  const anchor = valid.value.anchor as string | number | null | undefined;
  const key = (n: string) => JSON.stringify(parseNote(n));
  const anchors =
    typeof anchor === 'number'
      ? [anchor - 1]
      : typeof anchor === 'string'
        ? strings.flatMap((n, i) => (key(n) === key(anchor) ? [i] : []))
        : undefined;
  if (anchors && (anchors.length === 0 || anchors[0]! >= strings.length))
    return refused('bad-ear', 'The anchor is none of these strings.');
  const answer = earRound(strings, school, frets, DEFAULT_A4_HZ, anchors, starts);
  return answer.ok ? { ok: true, ...answer.round } : refused('no-school', answer.message);
}

const offset = () => number().strict().min(-MOST_CENTS).max(MOST_CENTS).required();
const isAlone = (o: unknown) => typeof o === 'object' && o !== null && 'string' in o;
const netSchema = object({
  strings: number().strict().integer().min(1).max(MOST_STRINGS).required(),
  pin: object({ string: index(MOST_STRINGS).required(), cents: offset() }).required(),
  observations: array()
    .of(
      lazy((o: unknown) =>
        object({
          ...(isAlone(o)
            ? { string: index(MOST_STRINGS).required() }
            : {
                a: index(MOST_STRINGS).required(),
                b: index(MOST_STRINGS).required(),
                unsigned: boolean().strict(),
              }),
          cents: offset(),
          sigmaCents: number().strict().min(LEAST_SIGMA_CENTS).max(1000).required(),
        }),
      ),
    )
    .max(4000)
    .required(),
});

/** One line of `net`: interval readings of a round in; where every string stands, and which reading disagrees, out. */
export function netLine(item: Record<string, unknown>): object {
  const valid = checked(netSchema, item, 'bad-net');
  if (!valid.ok) return valid;
  const { strings, pin } = valid.value;
  const read = valid.value.observations as (Alone | (Between & { unsigned?: boolean }))[];
  const named = read.flatMap((o) => ('string' in o ? [o.string] : [o.a, o.b]));
  if ([pin.string, ...named].some((s) => s > strings)) return refused('bad-net', `There are ${strings} strings only.`);
  if (read.some((o) => !('string' in o) && o.a === o.b))
    return refused('bad-net', 'A string has no interval with itself.');
  const observations = read.map((o) => ('unsigned' in o && o.unsigned ? { ...o, orCents: -o.cents } : o));
  const { offsets, sigma, suspect, undecided } = solveNet(strings, pin, observations);
  return { ok: true, offsets, sigma, suspect, undecided, moves: offsets.map((o) => (o === null ? null : -o)) };
}

const ratioSchema = array().of(number().strict().integer().min(1).max(24).required()).length(2).required();

/** One line of `interval`: a recording of two strings in; how far they stand from the pure interval, and their beats, out. */
export function intervalLine(item: Record<string, unknown>): object {
  const { file } = item;
  const reference = a4Of(item['a4']);
  if (!reference.ok) return { file, ...reference };
  const hz = (of: unknown) =>
    typeof of === 'string' || typeof of === 'number' ? targetFrequencyHz(of, reference.a4Hz) : undefined;
  const [aHz, bHz] = [hz(item['a']), hz(item['b'])];
  if (aHz === undefined || bHz === undefined)
    return { file, ...refused('bad-target', 'a and b are notes such as "A2" or frequencies in Hz.') };
  const ratio = checked(ratioSchema, item['ratio'], 'bad-ratio');
  if (!ratio.ok) return { file, ...ratio };
  const [p, q] = lowest(ratio.value as [number, number]);
  if (Math.abs(cents(bHz, (aHz * p) / q)) > 100)
    return { file, ...refused('bad-ratio', `${p}:${q} is not the interval from a to b.`) };
  const wav = wavSound(file);
  if (!wav.ok) return { file, ...wav };
  return { file, ...measurePair(wav.sound.samples, wav.sound.sampleRate, { aHz, bHz, ratio: [p, q] }) };
}

/** A ratio in its lowest terms. */
function lowest([p, q]: [number, number]): [number, number] {
  const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b));
  const d = divisor(p, q);
  return [p / d, q / d];
}

const referenceSchema = object({
  nominalHz: number().strict().min(LEAST_HZ).max(MOST_HZ).required(),
  kind: mixed<(typeof REFERENCE_KINDS)[number]>().oneOf(REFERENCE_KINDS).required(),
});

/** One line of `reference`: a recording of a fork, reed, key or string in; its pitch, and the A4 that it stands for, out. */
export function referenceLine(item: Record<string, unknown>): object {
  const { file } = item;
  const valid = checked(referenceSchema, item, 'bad-reference');
  if (!valid.ok) return { file, ...valid };
  const { nominalHz, kind } = valid.value;
  const wav = wavSound(file);
  if (!wav.ok) return { file, ...wav };
  const read = measureSteady(wav.sound.samples, wav.sound.sampleRate, nominalHz, kind);
  if (!read.ok) return { file, ...read };
  const { frequencyHz, sigmaCents } = read;
  return { file, ok: true, frequencyHz, sigmaCents, a4Hz: (DEFAULT_A4_HZ * frequencyHz) / nominalHz };
}
