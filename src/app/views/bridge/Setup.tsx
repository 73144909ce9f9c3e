import { BRIDGE_ORDERS, BRIDGE_TASKS, type BridgeOrder, type BridgeTask } from '../../../core/bridge';
import { Button } from '../../parts/Button';
import { ORDERS, TASKS } from './words';

/** What is to be done on the bridge, in which order, and how many springs hold it. */
export function Setup({
  springs,
  task,
  order,
  onSprings,
  onTask,
  onOrder,
}: {
  springs: number;
  task: BridgeTask;
  order: BridgeOrder;
  onSprings: (count: number) => void;
  onTask: (task: BridgeTask) => void;
  onOrder: (order: BridgeOrder) => void;
}) {
  const field = 'rounded-md border border-ink2 bg-sheet px-2 py-1';
  return (
    <div className="pb-2">
      <div role="group" aria-label="Task" className="flex flex-wrap items-center gap-1.5 pb-1">
        {BRIDGE_TASKS.map((t) => (
          <Button key={t} strong={t === task} aria-pressed={t === task} onClick={() => onTask(t)}>
            {TASKS[t].name}
          </Button>
        ))}
        <label className="ml-3 text-sm">
          Order{' '}
          <select className={field} value={order} onChange={(e) => onOrder(e.target.value as BridgeOrder)}>
            {BRIDGE_ORDERS.map((o) => (
              <option key={o} value={o}>
                {ORDERS[o]}
              </option>
            ))}
          </select>
        </label>
        <label className="ml-3 text-sm">
          Springs{' '}
          <select className={field} value={springs} onChange={(e) => onSprings(Number(e.target.value))}>
            {[2, 3, 4, 5, 6].map((n) => (
              <option key={n}>{n}</option>
            ))}
          </select>
        </label>
      </div>
      <p className="text-sm">{TASKS[task].what}</p>
    </div>
  );
}
