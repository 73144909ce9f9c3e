import { bendIn, causeBuildOf, guideFor, testsOf } from '../src/core/causes';
import { MEASURES } from '../src/core/codes';
import { fittingPlan, REMOVALS, removalWords } from '../src/core/fitting';
import { loadOf } from '../src/core/guided';
import type { InstrumentLife, StringPlan } from '../src/core/log';
import { stringTargetHz } from '../src/core/music';
import { FAMILIES, traitsOf, WARN_SHARE, type FamilyPreset } from '../src/core/strings';

/*
 * What is told to hands, family by family, for review: every test on every string, every step of a fitting. Lines that several families
 * share stand once, with their names.
 */
const A4 = 440;
const lifeOf = (family: FamilyPreset): InstrumentLife => {
  const strings = family.strings.map((s, i): StringPlan => ({ ...s, stringId: `s${i + 1}` }));
  const record = { type: 'instrument', instrumentId: 'x', name: 'X', family: family.code, strings };
  return { record, strings: strings.map((plan) => ({ plan })) } as unknown as InstrumentLife;
};

/** Every part by hand of every test that is offered, string by string. */
function* tests(family: FamilyPreset) {
  const life = lifeOf(family);
  const build = causeBuildOf(life);
  for (const test of [...testsOf(build), ...MEASURES])
    for (const { plan } of life.strings) {
      const guide = guideFor(test, build, bendIn(life, plan.stringId, test, A4));
      yield { test, plan, build, guide, parts: guide?.parts.flatMap((p) => (p.kind === 'do' ? [p] : [])) ?? [] };
    }
}

const CENTS: [words: RegExp, cents: number][] = [
  [/two tones/, 400],
  [/whole tone/, 200],
  [/semitone/, 100],
];

test.each(FAMILIES.map((f) => [f.code, f] as const))(
  '%s: no test pulls a string beyond 85 % of its breaking load',
  (_, family) => {
    for (const { test, plan, parts } of tests(family)) {
      const share = loadOf(plan, stringTargetHz(plan, A4)!)?.shareOfBreaking;
      for (const { raises, words } of parts) {
        const cents = CENTS.find(([w]) => w.test(words))?.[1];
        expect([test, raises === true]).toEqual([test, cents !== undefined]);
        if (cents === undefined) continue;
        if (share === null || share === undefined) expect(cents).toBeLessThanOrEqual(200);
        else expect(share * 2 ** (cents / 600)).toBeLessThanOrEqual(WARN_SHARE);
        // No more is asked than is safe, and no less than can be asked.
        const next = CENTS.find(([, c]) => c > cents && c <= cents * 2)?.[1];
        const most = { 'pull-up': 200, 'from-below-above': 200 }[test as string] ?? 400;
        if (share && next && next <= most && test !== 'pull-up')
          expect(share * 2 ** (next / 600)).toBeGreaterThan(WARN_SHARE);
      }
    }
  },
);

test.each(FAMILIES.map((f) => [f.code, f] as const))(
  '%s: nobody presses or pulls on a bridge that stands by the strings alone',
  (_, family) => {
    const traits = traitsOf({ family: family.code });
    if (traits.holds !== 'loose-bridge' && traits.holds !== 'bridge-and-soundpost') return;
    for (const { parts } of tests(family))
      for (const { words } of parts) expect(words).not.toMatch(/saddle|beyond the bridge|behind the bridge|\bbar\b/i);
    const steps = fittingPlan(traits, lifeOf(family).record.strings);
    for (const { points } of steps)
      expect(points.join(' ').replace('Do not press beyond the bridge: it tips.', '')).not.toMatch(
        /press [^.]*(saddle|bridge)/i,
      );
  },
);

test('what each family is told', () => {
  const told = new Map<string, string[]>();
  const say = (line: string, family: string) => {
    const by = told.get(line) ?? [];
    if (!by.includes(family)) told.set(line, [...by, family]);
  };
  for (const family of FAMILIES) {
    const { code } = family;
    const traits = traitsOf({ family: code });
    for (const { test, plan, guide, parts } of tests(family)) {
      if (!guide) say(`test ${test}: not on ${plan.note}, too near its breaking load`, code);
      for (const { words } of parts) say(`test ${test}: ${words}`, code);
      if (guide?.caution) say(`test ${test}, caution: ${guide.caution}`, code);
    }
    for (const { code: step, title, points, caution } of fittingPlan(traits, lifeOf(family).record.strings)) {
      const bare = title.replace(/\b[A-G][#b]?\d( \([^)]*\))?/g, 'it').replace(/\d+ mm/, '… mm');
      say(`step ${step}: ${bare}`, code);
      for (const p of points) say(`step ${step}: ${p.replace(/\d+ (mm|degrees)/g, '… $1')}`, code);
      if (caution) say(`step ${step}, caution: ${caution}`, code);
    }
    for (const r of REMOVALS) say(`why it goes: ${removalWords(r, traits)}`, code);
  }
  const all = FAMILIES.length;
  const lines = [...told].map(([line, by]) => `${line}  [${by.length === all ? 'all' : by.join(' ')}]`);
  expect(lines.sort().join('\n')).toMatchSnapshot();
});
