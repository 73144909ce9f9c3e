import { sayWithin, type InstrumentLife, type ReadingRecord } from '../../../core/log';
import { Button } from '../../parts/Button';
import { clockTime } from '../../parts/format';
import { Modal } from '../../parts/Modal';

interface Props {
  life: InstrumentLife;
  readings: readonly ReadingRecord[];
  onChoose: (id: string) => void;
  onClose: () => void;
}

/** Points that lie on one another: which one is meant? */
export function WhichReading({ life, readings, onChoose, onClose }: Props) {
  return (
    <Modal open title="Which reading?" onClose={onClose}>
      <ul className="grid gap-1.5">
        {readings.map((r) => (
          <li key={r.id}>
            <Button onClick={() => onChoose(r.id)}>
              {clockTime(r.atMs, r.zoneMin)}, {sayWithin(r, life.record)}
            </Button>
          </li>
        ))}
      </ul>
    </Modal>
  );
}
