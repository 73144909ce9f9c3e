import { useState } from 'react';
import { BRIDGE_ORDERS, BRIDGE_TASKS, type BridgeTask } from '../../../core/codes';
import { Button } from '../../parts/Button';
import { Caution } from '../../parts/Caution';
import { type Begun, HELD, ORDERS, ownOrderOf, TASKS } from '../../../core/bridge';

interface Props {
  springs: number;
  strings: number;
  task: BridgeTask;
  order: Begun['order'];
  /** The player's own order, strings from 1; undefined where none was given. */
  own: number[] | undefined;
  held: Begun['held'];
  /** Whether the clamps at the nut are open; undefined where there are none. */
  nutOpen: boolean | undefined;
  onSprings: (count: number) => void;
  onTask: (task: BridgeTask) => void;
  onOrder: (order: Begun['order']) => void;
  onOwn: (order: number[] | undefined) => void;
  onHeld: (held: Begun['held']) => void;
  onNut: (open: boolean) => void;
}

const field = 'rounded-md border border-ink2 bg-sheet px-2 py-1';

/** What is to be done on the bridge, in which order, and what holds it. */
export function Setup(p: Props) {
  const { springs, strings, task, order, own, held, nutOpen } = p;
  const [text, setText] = useState(own?.join(' ') ?? '');
  return (
    <div className="pb-2">
      <div role="group" aria-label="Task" className="flex flex-wrap items-center gap-1.5 pb-1">
        {BRIDGE_TASKS.map((t) => (
          <Button key={t} strong={t === task} aria-pressed={t === task} onClick={() => p.onTask(t)}>
            {TASKS[t].name}
          </Button>
        ))}
        <label className="ml-3 text-sm">
          Order{' '}
          <select className={field} value={order} onChange={(e) => p.onOrder(e.target.value as Begun['order'])}>
            {[...BRIDGE_ORDERS, 'own' as const].map((o) => (
              <option key={o} value={o}>
                {ORDERS[o]}
              </option>
            ))}
          </select>
        </label>
        {order === 'own' && (
          <label className="text-sm">
            <span className="sr-only">Your order</span>
            <input
              className={`${field} figure w-32`}
              placeholder="3 4 2 5 1 6"
              value={text}
              aria-invalid={own === undefined}
              onChange={(e) => {
                setText(e.target.value);
                p.onOwn(ownOrderOf(e.target.value, strings));
              }}
            />
          </label>
        )}
      </div>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 pb-1 text-sm">
        <label>
          Springs{' '}
          <select className={field} value={springs} onChange={(e) => p.onSprings(Number(e.target.value))}>
            {[2, 3, 4, 5, 6].map((n) => (
              <option key={n}>{n}</option>
            ))}
          </select>
        </label>
        <label>
          Bridge{' '}
          <select
            className={field}
            value={held ?? 'free'}
            onChange={(e) => p.onHeld(e.target.value === 'free' ? undefined : (e.target.value as Begun['held']))}
          >
            {(['free', 'stop', 'block'] as const).map((h) => (
              <option key={h} value={h}>
                {HELD[h].name}
              </option>
            ))}
          </select>
        </label>
        {nutOpen !== undefined && (
          <label>
            Clamps at the nut{' '}
            <select
              className={field}
              value={nutOpen ? 'open' : 'locked'}
              onChange={(e) => p.onNut(e.target.value === 'open')}
            >
              <option value="locked">locked: by the fine tuners</option>
              <option value="open">open: by the machine heads</option>
            </select>
          </label>
        )}
      </div>
      <p className="text-sm">
        {order === 'own' && !own ? `Your order must name every string from 1 to ${strings} once. ` : ''}
        {held ? HELD[held].what : TASKS[task].what}
      </p>
      {held === 'block' && (
        <Caution>
          A block can fly out. Slacken the strings a little before it goes in. Hold the bar when it comes out.
        </Caution>
      )}
    </div>
  );
}
