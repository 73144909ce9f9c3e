import { counted, DAY } from '../../../core/base';
import type { MaterialLives } from '../../../core/life';
import type { InstrumentLife } from '../../../core/log';
import { MATERIAL_NAMES } from '../../../core/strings';
import { Heads } from '../../parts/Heads';
import { NotWorkedOut } from '../../parts/NotWorkedOut';
import { useAsked } from '../../world/asked';
import { useWorld } from '../../world/world';

const days = (d: number) => (d < 60 ? counted(d.toFixed(0), 'day') : counted((d / 30).toFixed(0), 'month'));

const medianWords = ({ median, ended }: MaterialLives): string => {
  if (median.days === null) return ended === 0 ? 'none came off yet' : 'more than half are still on';
  const [low, high] = [median.lowDays, median.highDays].map((d) => (d === null ? 'open' : days(d)));
  if (low === 'open' && high === 'open') return `${days(median.days)}, by too few to say a range`;
  return `${days(median.days)} (${low} to ${high})`;
};

/** How long this player's strings last, by material; those of this instrument stand out. */
export function Materials({ life, now }: { life: InstrumentLife; now: number }) {
  const { bench } = useWorld();
  const { data, error } = useAsked({
    question: 'materials',
    subject: '',
    of: bench.changes,
    ask: { nowMs: Math.floor(now / DAY) * DAY },
    waits: true,
  });
  const own = new Set(life.record.strings.map((s) => s.material));
  return (
    <>
      <NotWorkedOut error={error} waiting={!data} what="How strings last" />
      <table className="w-full text-sm">
        <Heads of={[['Material'], ['Came off, on', 'figures'], ['Half last'], ['Broke']]} />
        <tbody>
          {(data ?? []).map((m) => (
            <tr key={m.material} className="border-t border-line">
              <th scope="row" className={own.has(m.material) ? 'text-left font-bold' : 'text-left font-normal'}>
                {MATERIAL_NAMES[m.material]}
              </th>
              <td className="figure pr-6 text-right">
                {m.ended}, {m.on}
              </td>
              <td>{medianWords(m)}</td>
              <td>
                {Object.entries(m.broke)
                  .map(([place, n]) => `${n} at the ${place}`)
                  .join(', ') || '–'}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="pt-1 text-xs text-ink2">
        On all instruments. In brackets: nine of ten such figures lie between. Strings that are still on count; those
        that went on and came off together count as one.
      </p>
    </>
  );
}
