import {
  checkRecord,
  createLogIndex,
  distinct,
  merge,
  type LogIndex,
  type LogRecord,
  type Merged,
} from '../src/core/log';

/** A log brought into another one, at once. */
export function mergeInto(index: LogIndex, given: readonly LogRecord[]): Merged {
  const steps = merge(index, given);
  let step = steps.next();
  while (!step.done) step = steps.next();
  index.add(step.value.fresh);
  return step.value;
}

const indexWith = (records: readonly LogRecord[]): LogIndex => {
  const index = createLogIndex();
  index.add(records);
  return index;
};
const sorted = (records: readonly LogRecord[]): string =>
  JSON.stringify([...records].sort((p, q) => (p.id < q.id ? -1 : 1)));
const said = (r: LogRecord): string => JSON.stringify(r, Object.keys(r).sort());

/** What is wrong with the merging of two logs: every record of both is to be there once, however often and which way round. */
export function mergeFaults(a: readonly LogRecord[], b: readonly LogRecord[]): string[] {
  const faults: string[] = [];
  const ask = (so: boolean, what: string) => {
    if (!so) faults.push(what);
  };
  const here = indexWith(a);
  const own = here.count();
  const { fresh, known } = mergeInto(here, b);
  const mine = new Set(a.map(said));
  ask(fresh.length + known.length === b.length, `${fresh.length} new and ${known.length} known of ${b.length}`);
  // One that says the same, but refers to what is another one there, is another one.
  ask(known.length <= b.filter((r) => mine.has(said(r))).length, 'something else was taken for known');
  ask(here.count() === own + fresh.length, 'not every new one is there');
  ask(
    fresh.every((r) => checkRecord(r).ok),
    'what was given another name is no record any more',
  );
  const there = indexWith(b);
  mergeInto(there, a);
  for (const index of [here, there]) {
    ask(new Set(index.records().map((r) => r.id)).size === index.count(), 'two have one id');
    for (const again of [a, b, distinct(index.records())])
      ask(mergeInto(index, again).fresh.length === 0, 'the same again is new');
  }
  ask(mergeInto(here, there.records()).fresh.length === 0, 'handed back, something is new here');
  ask(mergeInto(there, here.records()).fresh.length === 0, 'handed back, something is new there');
  const copy = createLogIndex();
  mergeInto(copy, here.records());
  ask(sorted(copy.records()) === sorted(here.records()), 'a copy is another one');
  return faults;
}
