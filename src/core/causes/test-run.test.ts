import { keptAt, memoryLog } from '../../../testing/guided';
import { frictionTests, inquiryTests, NO_TEST, testAt, type InquiryWhy, type TestAction, type TestState } from '.';
import type { Procedure } from '../guided';

function play<Why>(procedure: Procedure<TestState<Why>, TestAction<Why>>) {
  const memory = memoryLog('guitar-electric', ['E4', 'B3']);
  let state: TestState<Why> = NO_TEST;
  let said = '';
  const take = ({ state: next, records, say }: ReturnType<typeof procedure.press>) => {
    memory.write(records);
    state = next;
    said = say ?? said;
  };
  const press = (action: TestAction<Why>) => take(procedure.press(action, memory.log(), state));
  const at = () => testAt(memory.log(), state);
  return {
    press,
    at,
    next: () => procedure.next(memory.log(), state),
    said: () => said,
    bench: () => memory.log().bench,
    /** Does and reads part after part, each reading so many cents from the string's target. */
    through: (cents: number[]) => {
      const left = [...cents];
      for (let i = 0; i < 40 && at().run && (at().part!.kind === 'do' || left.length > 0); i++) {
        if (at().part!.kind === 'do') press({ do: 'done' });
        else take(procedure.heard(keptAt(329.628, left.shift()!), 'microphone', memory.log(), state));
      }
    },
  };
}
const begin = { do: 'begin', test: 'big-bend', stringId: 's1' } as const;

test('a test is done part by part, and its outcome is written as evidence with what was told before', () => {
  const why: InquiryWhy = { passId: 'p', told: { when: 'bending' } };
  const p = play<InquiryWhy>(inquiryTests);
  expect(p.next()).toBeUndefined();
  p.press({ ...begin, why });
  expect(p.next()?.named.name).toBe('E4');
  // What stands to be done is not read, and Enter does not do what is to be heard.
  p.press({ do: 'done' });
  expect(p.at().run?.index).toBe(0);
  p.through([0, -8, -8]);
  expect(p.at().run).toBeUndefined();
  expect(p.bench().tests).toMatchObject([{ test: 'big-bend', passId: 'p', told: { when: 'bending' }, stringId: 's1' }]);
  expect(p.bench().tests[0]!.firstCents).toBeCloseTo(-8, 5);
  expect(p.said()).toMatch(/−8\.0 cents\.$/);
});

test('after a remedy the same test says whether it helped, and is no evidence of the inquiry before', () => {
  const p = play<InquiryWhy>(inquiryTests);
  const after = { expectedCents: -8, cause: 'nut-friction' as const, causes: [] };
  p.press({ ...begin, why: { passId: 'p', told: {}, after } });
  p.through([0, -0.6, -0.6]);
  expect(p.said()).toBe('−0.6 now, less by 7.4 ±1.0 cents than it would be untouched (−8.0): it helped.');
  expect(p.bench().tests[0]!.passId).not.toBe('p');
  expect(p.bench().findings).toMatchObject([{ passId: 'p', outcome: 'helped' }]);
});

test('the routine goes from string to string by itself; from its beginning it is another reading; it can be left', () => {
  const p = play<null>(frictionTests);
  p.press({ do: 'begin', test: 'routine', stringId: 's1', why: null });
  const key = () => p.next()?.named.id;
  const first = key();
  p.press({ do: 'again' });
  expect(key()).not.toBe(first);
  for (let i = 0; i < 9 && p.at().run?.stringId === 's1'; i++) p.through([-i]);
  expect(p.at().run?.stringId).toBe('s2');
  p.press({ do: 'end' });
  expect(p.next()).toBeUndefined();
  expect(p.bench().tests.map((t) => t.stringId)).toEqual(['s1']);
});
