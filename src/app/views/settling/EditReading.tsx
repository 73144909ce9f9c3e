import { useState } from 'react';
import { EARLIEST_MS, MOST_OFF_CENTS } from '../../../core/limits';
import { cents as centsFrom, targetFrequencyHz } from '../../../core/music';
import type { InstrumentLife, ReadingRecord } from '../../../core/log';
import { Button } from '../../parts/Button';
import { Modal } from '../../parts/Modal';
import { fromLocalField, signed, toLocalField } from '../../parts/format';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';

/** A reading of the wrong string or at the wrong time is superseded by a right one; the first stays in the log. */
export function EditReading({
  life,
  reading,
  onClose,
}: {
  life: InstrumentLife;
  reading: ReadingRecord;
  onClose: () => void;
}) {
  const { zoneMin, nowMs } = useWorld();
  const local = (ms: number) => toLocalField(ms, zoneMin);
  const [stringId, setStringId] = useState(reading.stringId);
  const [time, setTime] = useState(local(reading.atMs));
  const [trouble, setTrouble] = useState('');
  const write = useWriting(setTrouble);
  const correct = () => {
    // Seconds are not shown: a time left as it was keeps them.
    const atMs = time === local(reading.atMs) ? reading.atMs : fromLocalField(time, zoneMin);
    if (!(atMs <= nowMs())) return setTrouble('That is in the future.');
    if (atMs < EARLIEST_MS) return setTrouble('That was before 1970.');
    const note = life.strings.find((s) => s.plan.stringId === stringId)!.plan.note;
    const targetHz = stringId === reading.stringId ? reading.targetHz : targetFrequencyHz(note, reading.a4Hz)!;
    const cents = stringId === reading.stringId ? reading.cents : centsFrom(reading.frequencyHz, targetHz);
    if (Math.abs(cents) > MOST_OFF_CENTS)
      return setTrouble(`That is ${signed(cents, 0)} cents from ${note}, too far for this string.`);
    const { id, version: _version, zoneMin: _zone, written: _written, ...fields } = reading;
    void write([{ ...fields, stringId, targetHz, cents, atMs, supersedes: id }], onClose);
  };
  return (
    <Modal open title="Correct a reading" onClose={onClose}>
      <p className="figure pb-3 text-sm">
        {reading.purpose === 'as-left' ? 'as left' : 'as found'} {signed(reading.cents)} ±
        {reading.sigmaCents.toFixed(1)} cents, {reading.source}
      </p>
      <div className="grid gap-3 text-sm">
        <label>
          It was this string
          <select
            value={stringId}
            onChange={(e) => setStringId(e.target.value)}
            className="ml-2 rounded-md border border-ink2 bg-sheet px-2 py-1"
          >
            {life.strings.map((s) => (
              <option key={s.plan.stringId} value={s.plan.stringId}>
                {s.plan.note}
              </option>
            ))}
          </select>
        </label>
        <label>
          It was at
          <input
            type="datetime-local"
            value={time}
            onChange={(e) => setTime(e.target.value)}
            className="figure ml-2 rounded-md border border-ink2 bg-sheet px-2 py-1"
          />
        </label>
      </div>
      {trouble && (
        <p role="alert" className="pt-2 text-sm text-rust">
          {trouble}
        </p>
      )}
      <div className="flex gap-2 pt-4">
        <Button strong onClick={correct}>
          Save
        </Button>
        <Button onClick={() => void write([{ type: 'taken-back', supersedes: reading.id }], onClose)}>
          Take it back
        </Button>
        <Button onClick={onClose}>Leave it</Button>
      </div>
    </Modal>
  );
}
