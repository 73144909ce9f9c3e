import { array, boolean, lazy, mixed, number, object } from 'yup';
import { findCause, guideFor, testsOf, type Evidence } from '../core/causes';
import { isTold, TESTS, type Told } from '../core/codes';
import { LEAST_SIGMA_CENTS, LONGEST_NAME } from '../core/limits';
import { cents as centsBetween } from '../core/music';
import { bendWithin, stringLoad } from '../core/strings';
import { checked, refused } from './lines';

const MATERIALS = [
  'plain-steel',
  'wound-steel',
  'plain-nylon',
  'wound-nylon',
  'gut',
  'synthetic-bowed',
  'fluorocarbon',
  'unknown',
] as const;
const cents = () => number().strict().min(-6000).max(6000);
const size = (max: number) => number().strict().min(0.01).max(max);
/** Standard error of a reading where none is given, cents. */
const USUAL_SIGMA = 0.4;

const sinceLast = object({
  test: mixed<'since-last'>().oneOf(['since-last']).required(),
  own: cents().required(),
  others: cents().required(),
  othersSd: number().strict().min(0).max(6000).required(),
});
/** The short length's frequency over the speaking one's. */
const ratio = () => number().strict().min(0.1).max(1000);
/** Of a pluck behind the nut the ratios may be given in place of cents: as it was, after a bend, after a press. */
const behindNut = object({
  test: mixed<'pluck-behind-nut'>().oneOf(['pluck-behind-nut']).required(),
  before: ratio().required(),
  after: ratio().required(),
  pressed: ratio().nullable().optional(),
});
const result = object({
  test: mixed<(typeof TESTS)[number]>().oneOf(TESTS).required(),
  first: cents().required(),
  second: cents().nullable().optional(),
  others: cents().nullable().optional(),
  scatter: number().strict().min(0).max(6000).nullable().optional(),
});
const schema = object({
  instrument: object({
    bridge: mixed<'fixed' | 'floating' | 'tailpiece'>().oneOf(['fixed', 'floating', 'tailpiece']).required(),
    nut: mixed<'plain' | 'locking'>().oneOf(['plain', 'locking']).required(),
    tree: boolean().strict().required(),
    tuners: mixed<'geared' | 'friction' | 'pin'>().oneOf(['geared', 'friction', 'pin']).required(),
    frets: boolean().strict().optional(),
  }).required(),
  string: object({
    material: mixed<(typeof MATERIALS)[number]>().oneOf(MATERIALS).required(),
    lengthMm: size(10000).required(),
    headMm: size(5000).nullable().optional(),
    targetHz: size(20000).required(),
    gaugeMm: size(50).nullable().optional(),
    ageDays: number().strict().min(0).max(100000).nullable().optional(),
  }).required(),
  told: mixed<Told>().test('told', '${path} is no answer to what is asked', (v) => v === undefined || isTold(v)),
  sigmaCents: number().strict().min(LEAST_SIGMA_CENTS).max(100).optional(),
  evidence: array()
    .of(
      lazy((e: { test?: unknown; before?: unknown } | undefined) =>
        e?.test === 'since-last' ? sinceLast : e?.test === 'pluck-behind-nut' && 'before' in e ? behindNut : result,
      ),
    )
    .min(1)
    .max(TESTS.length + 1)
    .required(),
});

/** A piece of evidence without what is not known; ratios as the cents between them. */
function evidenceFrom(given: object): Evidence {
  const known = Object.fromEntries(Object.entries(given).filter(([, v]) => v !== null)) as Record<string, number>;
  const { before, after, pressed, test } = known;
  if (before === undefined || after === undefined) return known as unknown as Evidence;
  const second = pressed === undefined ? {} : { second: centsBetween(pressed, after) };
  return { test, first: centsBetween(after, before), ...second } as unknown as Evidence;
}

/** One line of `causes`: an instrument, a string and all tests so far in; chances, the next best test and friction out. */
export function causesLine(item: Record<string, unknown>): object {
  const id = item['id'];
  const named = typeof id === 'number' || (typeof id === 'string' && id.length <= LONGEST_NAME) ? { id } : {};
  const valid = checked(schema, item, 'bad-causes');
  if (!valid.ok) return { ...valid, ...named };
  const { instrument, string: s, told, sigmaCents = USUAL_SIGMA } = valid.value;
  const evidence = valid.value.evidence.map(evidenceFrom);
  const [first, ...rest] = evidence;
  if (first!.test !== 'since-last' || rest.some((e) => e.test === 'since-last'))
    return { ...refused('bad-causes', 'The evidence begins with since-last, and has it once.'), ...named };
  const names = rest.map((e) => e.test);
  const load = stringLoad({
    // How it is wound is not said: as most are.
    material: s.material === 'wound-steel' ? 'wound-steel-nickel' : s.material,
    gaugeMm: s.gaugeMm ?? undefined,
    lengthMm: s.lengthMm,
    frequencyHz: s.targetHz,
  });
  const safe = testsOf(instrument).filter((t) => guideFor(t, instrument, (most) => bendWithin(load, most)));
  const allowed = new Set<string>(testsOf(instrument));
  const foreign = names.find((t) => !allowed.has(t));
  if (foreign) return { ...refused('bad-causes', `The test ${foreign} is not one of this instrument.`), ...named };
  if (new Set(names).size < names.length)
    return { ...refused('bad-causes', 'Each test stands in the evidence once.'), ...named };
  const answer = findCause({
    build: instrument,
    string: {
      material: s.material,
      lengthMm: s.lengthMm,
      targetHz: s.targetHz,
      headMm: s.headMm ?? undefined,
      gaugeMm: s.gaugeMm ?? undefined,
      ageDays: s.ageDays ?? undefined,
    },
    sigmaCents,
    evidence,
    told,
    offered: safe,
  });
  return {
    ok: true,
    ...named,
    causes: answer.causes,
    next: answer.next ?? null,
    stop: answer.stop,
    ...(answer.friction
      ? { friction: { place: answer.friction.place, muTheta: answer.friction.muTheta, sd: answer.friction.sd } }
      : {}),
    ...(answer.cannotTell.length > 1 ? { cannotTell: answer.cannotTell } : {}),
    ...(answer.wouldPart ? { wouldPart: answer.wouldPart } : {}),
    ...(answer.misfit ? { misfit: answer.misfit } : {}),
    ...(answer.unfound ? { unfound: true } : {}),
  };
}
