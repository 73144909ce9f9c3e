import { keptAt, memoryLog } from '../../../testing/guided';
import { BEGIN_OCTAVE, octaveAt, octaveProcedure, type OctaveAction, type OctaveState } from '.';

function play(family = 'guitar-electric') {
  const memory = memoryLog(family, ['E4', 'B3']);
  let state: OctaveState = BEGIN_OCTAVE;
  let said = '';
  const take = ({ state: next, records, say }: ReturnType<typeof octaveProcedure.press>) => {
    memory.write(records);
    state = next;
    said = say ?? said;
  };
  return {
    press: (action: OctaveAction) => take(octaveProcedure.press(action, memory.log(), state)),
    hear: (cents = 0) => {
      const { expectedHz } = octaveProcedure.next(memory.log(), state)!;
      take(octaveProcedure.heard(keptAt(expectedHz, cents), 'microphone', memory.log(), state));
    },
    at: () => octaveAt(memory.log(), state),
    next: () => octaveProcedure.next(memory.log(), state),
    said: () => said,
    touches: () => memory.log().bench.touches,
  };
}

test('each string open, at its twelfth fret, as a harmonic, open again; where the open one was heard the others are looked for', () => {
  const p = play();
  expect(p.next()).toBeUndefined();
  p.press({ do: 'start' });
  const places = [];
  for (let i = 0; i < 4; i++) {
    places.push(`${p.at().step!.note} ${p.at().step!.touch}`);
    p.hear(i === 0 ? -8 : 0);
  }
  expect(places).toEqual(['E4 open', 'E4 fret', 'E4 harmonic', 'E4 open']);
  expect(p.at().step).toMatchObject({ note: 'B3', touch: 'open' });
  const [open, fret] = p.touches();
  expect(1200 * Math.log2(fret!.frequencyHz / open!.frequencyHz)).toBeCloseTo(1200, 6);
  expect(open).toHaveProperty('inharmonicity');
  expect(fret).not.toHaveProperty('inharmonicity');
});

test('careful takes three plucks a place, of which the middle one counts; plucks that differ begin anew', () => {
  const p = play();
  p.press({ do: 'start' });
  p.press({ do: 'careful', on: true });
  p.hear(0);
  p.hear(0.4);
  expect(p.said()).toBe('2 of 3. Same place, same strength.');
  p.hear(0.2);
  expect(p.touches()).toHaveLength(1);
  expect(p.said()).toBe('E4 open saved.');
  // On to the harmonic, where plucks of one place must agree.
  p.press({ do: 'next' });
  for (const cents of [0, 0.1, 4]) p.hear(cents);
  expect(p.said()).toContain('differ by more than a cent');
  expect([p.touches().length, p.at().plucks.length]).toEqual([1, 0]);
});

test('a place that is stepped back to is read in place of what was read there; a string can be left out, a pass ended', () => {
  const p = play();
  p.press({ do: 'start' });
  p.hear(0);
  p.press({ do: 'back' });
  expect(p.at().index).toBe(0);
  p.hear(3);
  expect(p.touches()).toHaveLength(1);
  expect(p.touches()[0]!.supersedes).toBeDefined();
  expect(p.at().index).toBe(1);
  p.press({ do: 'next-string' });
  expect(p.at().step?.note).toBe('B3');
  p.press({ do: 'end' });
  expect(p.next()).toBeUndefined();
  // Without frets there is no twelfth one.
  const pins = play('kantele-11');
  pins.press({ do: 'start' });
  pins.hear();
  expect(pins.at().step?.touch).toBe('harmonic');
});
