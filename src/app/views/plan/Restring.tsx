import { useState } from 'react';
import { MINUTE, nextAt, nextWholeHour } from '../../../core/base';
import { canBeRestrung, holdsWords, planSession, endWords, type Show } from '../../../core/plan';
import type { InstrumentLife } from '../../../core/log';
import { NotWorkedOut } from '../../parts/NotWorkedOut';
import { clockTime } from '../../parts/format';
import { useAsked } from '../../world/asked';
import { usePriors } from '../../world/priors';
import { useWorld } from '../../world/world';

/** What if an instrument is restrung at some hour? Answered from what such strings do, before it is done. */
export function Restring({
  show,
  playing,
  tunedMs,
  nowMs,
}: {
  show: Show;
  playing: readonly InstrumentLife[];
  tunedMs: number;
  nowMs: number;
}) {
  const { zone, bench } = useWorld();
  const { priorsFor, setsFor } = usePriors();
  const [id, setId] = useState(playing[0]?.record.instrumentId ?? '');
  const [time, setTime] = useState(clockTime(nextWholeHour(nowMs, zone), zone));
  const life = playing.find((i) => i.record.instrumentId === id) ?? playing[0];
  const restrungMs = nextAt(time, nowMs - MINUTE, zone) ?? NaN;
  const possible = canBeRestrung(restrungMs, tunedMs);
  const instrumentId = life?.record.instrumentId ?? '';
  const { data, error } = useAsked({
    question: 'restring',
    subject: instrumentId,
    of: life ?? 0,
    ask: {
      instrumentId,
      session: planSession(show, bench.room?.tempC ?? null),
      restrungMs,
      tunedMs,
      priors: priorsFor(instrumentId),
    },
    enabled: life !== undefined && possible,
  });
  if (!life) return null;
  const sets = setsFor(life.record.instrumentId);
  const field = 'rounded-md border border-ink2 bg-sheet px-2 py-1';
  return (
    <section aria-labelledby="restring" className="text-sm print:hidden">
      <h2 id="restring" className="pb-1 text-base font-semibold">
        What if I restring
      </h2>
      <select
        aria-label="Instrument"
        value={life.record.instrumentId}
        onChange={(e) => setId(e.target.value)}
        className={field}
      >
        {playing.map(({ record }) => (
          <option key={record.instrumentId} value={record.instrumentId}>
            {record.name}
          </option>
        ))}
      </select>{' '}
      at{' '}
      <input
        type="time"
        aria-label="Restrung at"
        value={time}
        onChange={(e) => setTime(e.target.value)}
        className={`figure ${field}`}
      />
      <NotWorkedOut error={error} />
      {!possible ? (
        <p className="pt-2">That is after the last tuning at {clockTime(tunedMs, zone)}.</p>
      ) : (
        <>
          <table className="mt-2 w-full text-left">
            <caption className="text-left text-xs text-ink2">
              {show.intervalMin === null ? 'At the end' : 'At the interval'}, tuned at {clockTime(tunedMs, zone)}
              {sets > 0 ? `, from ${sets} earlier sets` : ', from what such strings usually do'}
            </caption>
            <tbody>
              {data?.map((s) => (
                <tr key={s.stringId} className="border-t border-line">
                  <th scope="row">{s.note}</th>
                  <td className="figure">{endWords(s.fall)}</td>
                  <td className="figure">{holdsWords(s.chance)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </section>
  );
}
