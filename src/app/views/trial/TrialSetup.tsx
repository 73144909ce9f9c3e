import { v4 as newId } from 'uuid';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import type { InstrumentLife, StringRef, TrialRecord } from '../../../core/log';
import { drawLots, warningOf } from '../../../core/trial';
import { Button } from '../../parts/Button';
import { useWriting } from '../../world/writing';

const KINDS = ['stretched / not', 'warmed / not', 'lubricated / not', 'more turns / fewer', 'another material'];
const LONGEST_WHAT = 80;
type Pairs = TrialRecord['pairs'];

/** What is compared, and on which strings: by lot within neighbours, by hand, or two whole instruments. */
export function TrialSetup({ instruments }: { instruments: readonly InstrumentLife[] }) {
  // A remedy comes with its name, and the instrument that it was tried on.
  const [asked] = useSearchParams();
  const [what, setWhat] = useState((asked.get('what') ?? KINDS[0]!).slice(0, LONGEST_WHAT));
  const [chosen, setChosen] = useState<string[]>(asked.getAll('instrument'));
  const [pairs, setPairs] = useState<Pairs>([]);
  const [byLot, setByLot] = useState(true);
  const [message, setMessage] = useState('');
  const write = useWriting(setMessage);
  const lives = instruments.filter((i) => chosen.includes(i.record.instrumentId));
  const noteOf = (ref: Pairs[number]['treated']) => {
    const life = instruments.find((i) => i.record.instrumentId === ref.instrumentId);
    const index = life?.strings.findIndex((s) => s.plan.stringId === ref.stringId) ?? -1;
    return `${life?.record.name ?? ''} ${index + 1} ${life?.strings[index]?.plan.note ?? ''}`;
  };
  const draw = () => {
    setByLot(true);
    setPairs(
      lives.flatMap(({ record: { instrumentId }, strings }) => {
        const { treated, control } = drawLots(
          strings.map((s) => s.plan.stringId),
          Math.random,
        );
        return treated.map((stringId, i) => ({
          treated: { instrumentId, stringId },
          control: { instrumentId, stringId: control[i]! },
        }));
      }),
    );
  };
  const whole = () => {
    const [a, b] = lives;
    if (!a || !b) return;
    setByLot(false);
    setPairs(
      a.strings.slice(0, b.strings.length).map((s, i) => ({
        treated: { instrumentId: a.record.instrumentId, stringId: s.plan.stringId },
        control: { instrumentId: b.record.instrumentId, stringId: b.strings[i]!.plan.stringId },
      })),
    );
  };
  const keyOf = (ref: StringRef) => `${ref.instrumentId} ${ref.stringId}`;
  const isTreated = (ref: StringRef) => pairs.some((p) => keyOf(p.treated) === keyOf(ref));
  /** Strings that can stand against a treated one: those of the chosen instruments that are not treated. */
  const candidates = ({ control }: Pairs[number]): StringRef[] => {
    const all = lives.flatMap(({ record: { instrumentId }, strings }) =>
      strings.map(({ plan: { stringId } }) => ({ instrumentId, stringId })),
    );
    const free = all.filter((ref) => !isTreated(ref));
    return free.some((ref) => keyOf(ref) === keyOf(control)) ? free : [control, ...free];
  };
  /** Chosen by hand; whoever had that string takes the one that is given up. */
  const partner = (at: number, key: string) => {
    setByLot(false);
    setPairs((list) => {
      const given = list[at]!.control;
      const [instrumentId, stringId] = key.split(' ') as [string, string];
      return list.map((p, k) =>
        k === at
          ? { ...p, control: { instrumentId, stringId } }
          : keyOf(p.control) === key
            ? { ...p, control: given }
            : p,
      );
    });
  };
  const warning = warningOf(pairs.length);
  const keep = () =>
    write([{ type: 'trial', trialId: newId(), what: what.trim(), byLot, pairs }], () => {
      setPairs([]);
      setMessage('Saved. Treat the strings marked as treated, leave the others alone, and read all of them as usual.');
    });
  return (
    <section aria-labelledby="new-trial">
      <h2 id="new-trial" className="pb-2 text-base font-semibold">
        Set up a comparison
      </h2>
      <label className="text-sm">
        What do you compare?{' '}
        <input
          list="trial-kinds"
          value={what}
          maxLength={LONGEST_WHAT}
          onChange={(e) => setWhat(e.target.value)}
          className="rounded-md border border-ink2 bg-sheet px-2 py-1"
        />
        <datalist id="trial-kinds">
          {KINDS.map((k) => (
            <option key={k} value={k} />
          ))}
        </datalist>
      </label>
      <fieldset className="py-2 text-sm">
        <legend className="sr-only">On which instruments</legend>
        {instruments.map(({ record }) => (
          <label key={record.instrumentId} className="block">
            <input
              type="checkbox"
              className="mr-1.5"
              checked={chosen.includes(record.instrumentId)}
              onChange={() =>
                setChosen((c) =>
                  c.includes(record.instrumentId)
                    ? c.filter((i) => i !== record.instrumentId)
                    : [...c, record.instrumentId],
                )
              }
            />
            {record.name}
          </label>
        ))}
      </fieldset>
      <div className="flex flex-wrap gap-2">
        <Button strong disabled={lives.length === 0} onClick={draw}>
          Draw lots
        </Button>
        <Button disabled={lives.length !== 2} onClick={whole}>
          These two instruments
        </Button>
      </div>
      <p className="pt-2 text-xs text-ink2">
        Drawing strings by lot within one instrument is better: they differ by the treatment only. Two instruments
        differ in everything else too.
      </p>
      {pairs.length > 0 && (
        <>
          <ul className="pt-2 text-sm">
            {pairs.map((p, i) => (
              <li key={i} className="flex items-center gap-2 border-t border-line py-1">
                <span>
                  <b>{noteOf(p.treated)}</b> treated,{' '}
                  <select
                    aria-label={`Not treated, beside ${noteOf(p.treated)}`}
                    value={keyOf(p.control)}
                    onChange={(e) => partner(i, e.target.value)}
                    className="max-w-44 rounded-md border border-line bg-sheet px-1 py-0.5"
                  >
                    {candidates(p).map((ref) => (
                      <option key={keyOf(ref)} value={keyOf(ref)}>
                        {noteOf(ref)}
                      </option>
                    ))}
                  </select>{' '}
                  not
                </span>
                <button
                  type="button"
                  className="ml-auto text-deep underline"
                  onClick={() => {
                    setByLot(false);
                    setPairs((list) => list.map((q, k) => (k === i ? { treated: q.control, control: q.treated } : q)));
                  }}
                >
                  Swap
                </button>
              </li>
            ))}
          </ul>
          {warning && <p className="pt-2 text-sm font-semibold">{warning}</p>}
          <Button strong className="mt-2" disabled={what.trim() === ''} onClick={() => void keep()}>
            Start
          </Button>
        </>
      )}
      <p role="status" className="pt-2 text-sm font-semibold">
        {message}
      </p>
    </section>
  );
}
