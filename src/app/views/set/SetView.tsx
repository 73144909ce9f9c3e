import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { InstrumentLife } from '../../../core/log';
import { nearestNote, ratioOfCents, transpose } from '../../../core/music';
import { setLoad, type NamedSpec } from '../../../core/strings';
import { Button } from '../../parts/Button';
import { openSpecs } from '../../../core/guided';
import { useUnits } from '../../world/units';
import { heldInMemory } from '../../world/held';
import { useWorld } from '../../world/world';
import { SetRow } from './SetRow';
import { WhatIf, type SetChange } from './WhatIf';

const AS_IS: SetChange = { shift: 0, a4Hz: null, scale: 1, gauges: {} };

/** The strings of an instrument drawn as they pull, and what would happen if tuning, length or a gauge were another. */
export function SetView({ life }: { life: InstrumentLife }) {
  const { a4Hz, basePath, append } = useWorld();
  const navigate = useNavigate();
  const [units, setUnits] = useUnits();
  const [change, setChange] = useState<SetChange>(AS_IS);
  const [kept, setKept] = useState('');
  /** Fields start afresh when the set does. */
  const [starts, setStarts] = useState(0);
  const plans = life.record.strings;
  const { tuning } = life;
  const [now, then] = useMemo(() => {
    const spec = (c: SetChange): NamedSpec[] => {
      const of = c.a4Hz ?? a4Hz;
      const sounding = life.strings.map((l) => l.plan);
      return openSpecs(plans, sounding, tuning?.capo ?? 0, of).map((s, i) => {
        const { stringId } = plans[i]!;
        const frequencyHz = s.frequencyHz * ratioOfCents(100 * c.shift);
        const gaugeMm = c.gauges[stringId] === undefined ? s.gaugeMm : (c.gauges[stringId] ?? undefined);
        return {
          ...s,
          note: c.shift === 0 ? s.note : nearestNote(frequencyHz, of).name,
          gaugeMm,
          lengthMm: s.lengthMm * c.scale,
          frequencyHz,
          // A unit mass from the packet belongs to that packet's gauge.
          unitMassKgPerM: gaugeMm === s.gaugeMm ? s.unitMassKgPerM : undefined,
        };
      });
    };
    return [spec(AS_IS), spec(change)];
  }, [plans, life.strings, tuning, a4Hz, change]);
  const reckoned = useMemo(() => setLoad(then, now), [then, now]);
  const changed = change !== AS_IS;
  const longest = Math.max(...then.map((s) => s.lengthMm));
  const strongest = Math.max(1, ...reckoned.loads.map((l) => l?.tensionN ?? 0));
  const mean = reckoned.known > 0 ? reckoned.sumN / reckoned.known : 0;

  function asItIs() {
    setChange(AS_IS);
    setStarts((n) => n + 1);
  }

  async function keep() {
    try {
      await append([
        {
          type: 'instrument',
          instrumentId: life.record.instrumentId,
          name: life.record.name,
          family: life.record.family,
          ...(life.record.build ? { build: life.record.build } : {}),
          strings: plans.map((p, i) => {
            const { unitMassKgPerM, ...rest } = p;
            const t = then[i]!;
            return {
              ...rest,
              // A tuning in force stays one: it is the strings' own notes that are kept.
              note: change.shift === 0 ? p.note : transpose(p.note, change.shift),
              lengthMm: Math.round(t.lengthMm * 10) / 10,
              gaugeMm: t.gaugeMm ?? null,
              ...(t.unitMassKgPerM !== undefined && unitMassKgPerM !== undefined ? { unitMassKgPerM } : {}),
            };
          }),
        },
        ...(change.a4Hz ? [{ type: 'reference' as const, a4Hz: change.a4Hz }] : []),
      ]);
      asItIs();
      setKept('Saved as this instrument’s strings.');
    } catch (error) {
      setKept(heldInMemory(error as Error));
    }
  }

  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_312px] max-lg:grid-cols-[minmax(0,1fr)] max-lg:overflow-y-auto">
      <section aria-label="The set" className="min-w-0 overflow-y-auto px-4 py-2 max-lg:overflow-visible">
        {tuning && (
          <p className="pb-1 text-sm">
            As tuned now: <b>{tuning.name}</b>.
          </p>
        )}
        <p
          aria-hidden="true"
          className="grid grid-cols-[4.6rem_minmax(6rem,1fr)_7.6rem_minmax(7rem,0.7fr)_minmax(7rem,0.7fr)] gap-x-4 text-xs text-ink2 max-sm:hidden"
        >
          <span className="col-span-2">From the nut to the saddle</span>
          <span>Gauge</span>
          <span>Pull</span>
          <span>Share of breaking</span>
        </p>
        <ol className="border-t border-line">
          {plans.map((p, i) => (
            <SetRow
              key={`${p.stringId}/${starts}`}
              plan={p}
              spec={then[i]!}
              load={reckoned.loads[i]}
              balance={reckoned.balance[i] ?? null}
              longestMm={longest}
              strongestN={strongest}
              meanN={mean}
              units={units}
              onGauge={(mm) => setChange((c) => ({ ...c, gauges: { ...c.gauges, [p.stringId]: mm } }))}
            />
          ))}
        </ol>
        <p className="pt-2 text-xs text-ink2">
          Lengths are to scale, thickness is drawn twelve times. The dashed line is the mean pull. The two marks on the
          right are 85 % and 93 % of the breaking load, estimated for each material.{' '}
          <Link
            to={`${basePath}/instrument/${life.record.instrumentId}`}
            className="text-deep underline underline-offset-4"
          >
            Edit notes and materials
          </Link>
        </p>
      </section>
      <aside
        className="overflow-y-auto border-l border-line bg-sheet p-4 max-lg:border-l-0 max-lg:border-t"
        aria-label="What if"
      >
        <WhatIf
          key={starts}
          change={change}
          a4Hz={a4Hz}
          lengthMm={plans[0]!.lengthMm}
          units={units}
          reckoned={reckoned}
          onChange={(c) => {
            setChange(c);
            setKept('');
          }}
          onUnits={setUnits}
        />
        <p role="status" className="min-h-6 pt-2 text-sm font-semibold">
          {kept}
        </p>
        <div className="flex flex-wrap gap-2">
          {changed && (
            <>
              <Button strong onClick={() => void keep()}>
                Save these strings
              </Button>
              <Button onClick={asItIs}>As it is</Button>
            </>
          )}
          <Button onClick={() => void navigate(`${basePath}/fitting/${life.record.instrumentId}`)}>Fit strings</Button>
        </div>
      </aside>
    </div>
  );
}
