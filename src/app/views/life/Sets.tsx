import type { StringSet } from '../../../core/life';
import { span } from '../../parts/format';
import { Heads } from '../../parts/Heads';
import { DAY } from '../../../core/base';

const WIDE = 360;
const ended = ({ endedMs, reason, place }: StringSet): string => {
  if (endedMs === null) return 'on';
  if (reason === null) return 'replaced';
  return reason === 'broke' ? `broke${place ? ` at the ${place}` : ''}` : reason;
};

/** Every string that an instrument has had: how long it was on, how far it fell in all, how it ended. */
export function Sets({ sets, nowMs }: { sets: readonly StringSet[]; nowMs: number }) {
  const fromMs = Math.min(nowMs - DAY, ...sets.flatMap((s) => s.strungMs ?? s.endedMs ?? []));
  const x = (ms: number) => (WIDE * (ms - fromMs)) / (nowMs - fromMs);
  const cell = 'figure py-1 pr-6 text-right';
  return (
    <table className="w-full border-collapse text-sm">
      <Heads
        of={[
          ['String'],
          ['From the first one to today', 'wide'],
          ['Age', 'figures'],
          ['Fallen, cents', 'figures'],
          ['Readings', 'figures'],
          ['How it ended'],
        ]}
      />
      <tbody>
        {sets.map((s) => {
          const [from, to] = [s.strungMs ?? fromMs, s.endedMs ?? nowMs];
          const isOn = s.endedMs === null;
          return (
            <tr key={`${s.stringId}/${s.strungMs ?? 'old'}/${s.endedMs ?? 'on'}`} className="border-b border-line">
              <th scope="row" className="py-1 text-left font-bold">
                {s.note}
              </th>
              <td className="max-md:hidden">
                <svg viewBox={`0 0 ${WIDE} 14`} className="h-3.5 w-full max-w-sm" aria-hidden="true">
                  <rect
                    x={x(from)}
                    width={Math.max(2, x(to) - x(from))}
                    y={3}
                    height={8}
                    fill={isOn ? 'var(--deep)' : 'var(--ink2)'}
                    opacity={isOn ? 1 : 0.45}
                  />
                  {s.reason === 'broke' && (
                    <path d={`M${x(to) - 4} 3l8 8m0-8l-8 8`} stroke="var(--rust)" strokeWidth={2} />
                  )}
                </svg>
              </td>
              <td className={cell}>{s.strungMs === null ? 'not known' : span(to - from)}</td>
              <td className={cell}>
                {s.fallCents === null ? '–' : (Math.round(s.fallCents) || 0).toFixed(0).replace('-', '−')}
              </td>
              <td className={cell}>{s.readings}</td>
              <td>{ended(s)}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
