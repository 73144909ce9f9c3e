import { useState } from 'react';
import { Link } from 'react-router';
import {
  BEGIN_RETURN,
  BRIDGE_TOLERANCE,
  RETURN_ROUNDS,
  returnAt,
  returnProcedure,
  comesBackWords,
} from '../../../core/bridge';
import type { InstrumentLife } from '../../../core/log';
import { KEYS } from '../../keys/table';
import { BottomBar } from '../../guided/BottomBar';
import { handActions, soundActions, useActions } from '../../guided/useActions';
import { useProcedure } from '../../guided/useProcedure';
import { useListening } from '../../guided/useListening';
import { Caution } from '../../parts/Caution';
import { signed } from '../../parts/format';
import { simulatedHands } from '../../guided/hands';
import { HandControls } from '../../guided/SimulatorControls';
import { WITH_COLUMN, WorkColumn } from '../../guided/WorkColumn';
import { useWorld } from '../../world/world';

/** Bar down and up, twice: what every string comes back to. */
export function Returns({ life, onEnd }: { life: InstrumentLife; onEnd: () => void }) {
  const { demo, nowMs, basePath } = useWorld();
  const { instrumentId } = life.record;
  const { strings } = life;
  const [message, say] = useState('');
  const player = useProcedure(returnProcedure, BEGIN_RETURN, { life }, say);
  const { heard } = player.state;
  const { n, round, done, bar, string, verdict } = returnAt({ life }, player.state);
  const note = string?.plan.note ?? '';
  const sound = useListening(player, nowMs, say);
  const deaf = sound.listening === undefined;
  const enter = () => {
    if (done) onEnd();
    else if (bar) {
      demo?.dive(instrumentId);
      player.press({ do: 'bar' });
    } else if (deaf) sound.open();
    else sound.take();
  };
  const hands = simulatedHands(demo, instrumentId, demo?.stringOf(instrumentId, string?.plan.stringId), sound);
  const { actions } = useActions(KEYS.bridge, [
    ...soundActions(sound),
    ...handActions(demo && hands),
    {
      key: 'take',
      words: done ? 'Back to the bridge' : bar ? 'The bar is back' : 'Save it',
      strong: done || bar,
      on: enter,
    },
    { key: 'end', words: 'Stop', on: onEnd },
  ]);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className={WITH_COLUMN}>
        <section aria-label="Return test" tabIndex={0} className="min-w-0 overflow-y-auto px-4 py-2">
          <p className="max-w-2xl pb-2 text-sm">
            Read all strings, move the bar down and back, read again; then once more. What all strings do is the bridge.
            What one string does alone is its nut, saddle or winding.
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
              {comesBackWords(verdict)}{' '}
              {verdict.strings.length > 0 ? (
                <>
                  {verdict.strings.map((i) => strings[i]!.plan.note).join(', ')}{' '}
                  {verdict.strings.length > 1 ? 'do' : 'does'} not come back like the others:{' '}
                  <Link className="underline" to={`${basePath}/causes/${instrumentId}`}>
                    Find out why, with these figures
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
          heading={done ? 'Done' : bar ? 'The bar' : `Round ${round + 1} of ${RETURN_ROUNDS}`}
          note={string ? note : undefined}
          trace={string && !deaf ? sound.trace : undefined}
          instruction={
            done
              ? 'Enter: back to the bridge'
              : bar
                ? `Push the bar down until the strings are slack, and let it back${round > 1 ? ', once more' : ''}. Enter: done`
                : deaf
                  ? 'Press Space to listen'
                  : `Pluck ${note}: damp the others, hand off the bridge`
          }
          toleranceCents={BRIDGE_TOLERANCE}
          message={message}
          hint={bar && <Caution>Not on a bridge whose makers forbid it. Eyes away from the strings.</Caution>}
        >
          {demo && string && <HandControls onPluck={hands.pluck} onTurn={hands.turn} broken={undefined} />}
        </WorkColumn>
      </div>
      <BottomBar sound={sound} actions={actions} />
    </div>
  );
}
