import { v4 as newId } from 'uuid';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { returnsOf, returnVerdict } from '../../../core/bridge';
import { cents, stringTargetHz } from '../../../core/music';
import type { InstrumentLife } from '../../../core/records';
import { KEYS } from '../../keys/table';
import { simulatedHands, usePedal } from '../../keys/usePedal';
import { BottomBar } from '../../guided/BottomBar';
import { useHearer } from '../../guided/useHearer';
import { useListening } from '../../guided/useListening';
import { Caution } from '../../parts/Caution';
import { signed } from '../../parts/format';
import { lastHzOf, soundedAlone } from '../../../core/guided';
import { handsOn } from '../../guided/hands';
import { HandControls } from '../../guided/SimulatorControls';
import { WITH_COLUMN, WorkColumn } from '../../guided/WorkColumn';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';
import { BRIDGE_TOLERANCE } from './useBridge';

/** Before, after the bar once, after it twice. */
const ROUNDS = 3;

interface Heard {
  cents: number;
  sigmaCents: number;
  hz: number;
}

/** What every string came back to, of rounds that were read one after the other. */
function returnsIn(heard: readonly Heard[], n: number) {
  const of = (round: number) => heard.slice(round * n, (round + 1) * n).map((h) => h.cents);
  return returnsOf([of(0), of(1), of(2)]);
}

/** Bar down and up, twice: what every string comes back to. */
export function ReturnTest({ life, onEnd }: { life: InstrumentLife; onEnd: () => void }) {
  const { a4Hz, demo, nowMs, basePath } = useWorld();
  const { instrumentId } = life.record;
  const { strings } = life;
  const [heard, setHeard] = useState<Heard[]>([]);
  /** How often the bar was moved. */
  const [bars, setBars] = useState(0);
  const [message, say] = useState('');
  const write = useWriting(say);
  const n = strings.length;
  const round = Math.floor(heard.length / n);
  const done = round === ROUNDS;
  const bar = !done && round > bars;
  const at = heard.length % n;
  const string = done || bar ? undefined : strings[at]!;
  const note = string?.plan.note ?? '';
  const before = heard.length >= n ? heard[heard.length - n]!.hz : undefined;
  const guided = useMemo(() => {
    if (!string) return undefined;
    const lastHz = before ?? lastHzOf(string) ?? stringTargetHz(string.plan, a4Hz)!;
    return soundedAlone(`return:${heard.length}`, string.plan.note, lastHz, lastHz);
  }, [string, before, heard.length, a4Hz]);
  const verdict = useMemo(() => (done ? returnVerdict(returnsIn(heard, n)) : undefined), [done, heard, n]);

  const keep = (all: Heard[]) => {
    const returns = returnsIn(all, n);
    const { strings: sticking } = returnVerdict(returns);
    // The worst last: an inquiry goes on with the string that was tested last.
    const order = [...returns.keys()].sort((i, j) => sticking.indexOf(i) - sticking.indexOf(j));
    void write(
      order.map((i) => ({
        type: 'test' as const,
        instrumentId,
        stringId: strings[i]!.plan.stringId,
        passId: newId(),
        test: 'dive' as const,
        firstCents: returns[i]!.first,
        secondCents: returns[i]!.second,
        othersCents: returns[i]!.others,
        sigmaCents: Math.max(0.2, ...[0, 1, 2].map((r) => all[r * n + i]!.sigmaCents)),
      })),
      () => say('Kept, string by string.'),
    );
  };
  const sound = useListening(
    useHearer(guided, (verdict) => {
      if (!string) return;
      if (verdict.kind !== 'keep') return say(verdict.message);
      const { frequencyHz: hz, sigmaCents } = verdict.reading;
      const all = [...heard, { cents: cents(hz, stringTargetHz(string.plan, a4Hz)!), sigmaCents, hz }];
      setHeard(all);
      say(`${note} heard.`);
      if (all.length === ROUNDS * n) keep(all);
    }),
    nowMs,
    say,
  );
  const deaf = sound.listening === undefined;
  const enter = () => {
    if (done) onEnd();
    else if (bar) {
      demo?.dive(instrumentId);
      setBars(round);
      say('');
    } else if (deaf) sound.open();
    else sound.take();
  };
  const hands = handsOn(demo, instrumentId, demo?.stringOf(instrumentId, string?.plan.stringId), sound);
  usePedal(KEYS.bridge, {
    listen: sound.toggle,
    take: enter,
    claw: undefined,
    returns: undefined,
    locked: undefined,
    end: onEnd,
    ...(demo ? simulatedHands(hands) : { pluck: undefined, turn: undefined }),
  });
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className={WITH_COLUMN}>
        <section aria-label="Return test" tabIndex={0} className="min-w-0 overflow-y-auto px-4 py-2">
          <p className="max-w-2xl pb-2 text-sm">
            All strings are read, the bar goes down and comes back, they are read again; once more. What all do alike is
            the bridge; what one does beside the others is its own nut, saddle or winding.
          </p>
          <table className="text-sm" data-testid="returns">
            <thead>
              <tr className="text-left text-xs text-ink2">
                <th className="pr-6 font-normal">String</th>
                <th className="pr-6 font-normal">before</th>
                <th className="pr-6 font-normal">came back by</th>
                <th className="font-normal">the second time</th>
              </tr>
            </thead>
            <tbody>
              {strings.map((s, i) => (
                <tr key={s.plan.stringId} className="border-t border-line">
                  <th scope="row" className="py-1 pr-6 text-left text-lg">
                    {s.plan.note}
                  </th>
                  {[0, 1, 2].map((r) => {
                    const now = heard[r * n + i];
                    const was = heard[(r - 1) * n + i];
                    return (
                      <td key={r} className="figure pr-6">
                        {now ? signed(now.cents - (was?.cents ?? 0)) : '·'}
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </table>
          {verdict && (
            <p data-testid="return-verdict" className="max-w-2xl py-3 text-sm leading-relaxed">
              {verdict.bridge
                ? `The bridge comes back ${signed(verdict.bridgeCents)} cents for all strings: its knife edges, posts or springs stick. Those are a repairer’s.`
                : 'The bridge itself comes back.'}{' '}
              {verdict.strings.length > 0 ? (
                <>
                  {verdict.strings.map((i) => strings[i]!.plan.note).join(', ')}{' '}
                  {verdict.strings.length > 1 ? 'do' : 'does'} not come back like the others:{' '}
                  <Link className="underline" to={`${basePath}/causes/${instrumentId}`}>
                    Causes goes on with these figures
                  </Link>
                  .
                </>
              ) : (
                'No string stands out.'
              )}
            </p>
          )}
        </section>
        <WorkColumn
          heading={done ? 'Done' : bar ? 'The bar' : `Round ${round + 1} of ${ROUNDS}`}
          note={string ? note : undefined}
          trace={string && !deaf ? sound.trace : undefined}
          instruction={
            done
              ? 'Enter: back to the bridge'
              : bar
                ? `Let the bar down till the strings are slack, and back${round > 1 ? ', once more' : ''}. Enter: done`
                : deaf
                  ? 'Press Space to listen'
                  : `Pluck ${note}: the others damped, hand off the bridge`
          }
          toleranceCents={BRIDGE_TOLERANCE}
          message={message}
          hint={bar && <Caution>Not on a bridge whose makers forbid it. Eyes away from the strings.</Caution>}
        >
          {demo && string && <HandControls onPluck={hands.pluck} onTurn={hands.turn} broken={undefined} />}
        </WorkColumn>
      </div>
      <BottomBar
        sound={sound}
        actions={[
          {
            words: done ? 'Back to the bridge' : bar ? 'The bar is back' : 'Take it',
            hint: 'Enter',
            strong: done || bar,
            on: enter,
          },
          { words: 'Stop', hint: 'Esc', on: onEnd },
        ]}
      />
    </div>
  );
}
