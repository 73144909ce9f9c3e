import { useState } from 'react';
import { correctReading, figureText } from '../../core/guided';
import { instantOf, localText, zoneOf, type Zone } from '../../core/base';
import type { Draft, InstrumentLife, ReadingRecord, StringPlan } from '../../core/log';
import { Button } from './Button';
import { Modal } from './Modal';
import { plusMinus, signed } from './format';

/** A reading of the wrong string or at the wrong time is superseded by a right one; the first stays in the log. */
export function EditReading({
  life,
  reading,
  zone,
  planAt,
  nowMs,
  onSave,
  onClose,
  trouble: refused,
}: {
  life: InstrumentLife;
  /** As it was stored. */
  reading: ReadingRecord;
  /** By which times are told here. */
  zone: Zone;
  /** A string as it was tuned at a time. */
  planAt: (instrumentId: string, stringId: string, atMs: number) => StringPlan | undefined;
  nowMs: () => number;
  onSave: (draft: Draft) => void;
  onClose: () => void;
  /** Why it could not be saved. */
  trouble: string;
}) {
  // At the hour that it was there and then.
  const then = zoneOf(reading, zone);
  const local = (ms: number) => localText(ms, then);
  const [stringId, setStringId] = useState(reading.stringId);
  const [time, setTime] = useState(local(reading.atMs));
  const [figure, setFigure] = useState(figureText(reading));
  const [fault, setFault] = useState({ of: '', words: '' });
  const trouble = fault.words || refused;
  const correct = () => {
    // Seconds are not shown: a time left as it was keeps them.
    const atMs = time === local(reading.atMs) ? reading.atMs : instantOf(time, then);
    const plan =
      planAt(reading.instrumentId, stringId, atMs) ?? life.strings.find((s) => s.plan.stringId === stringId)!.plan;
    const said = `${stringId} ${time} ${figure}`;
    const as = correctReading(reading, { plan, text: figure, atMs }, life, nowMs(), fault.of === said);
    setFault(
      as.is === 'corrected' ? { of: '', words: '' } : { of: as.is === 'question' ? said : '', words: as.message },
    );
    if (as.is === 'corrected') onSave(as.draft);
  };
  return (
    <Modal open title="Correct a reading" onClose={onClose}>
      <p className="figure pb-3 text-sm">
        {reading.purpose === 'as-left' ? 'as left' : 'as found'} {signed(reading.cents)} {plusMinus(reading.sigmaCents)}{' '}
        cents, {reading.source}
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
          It read, cents or Hz
          <input
            value={figure}
            onChange={(e) => setFigure(e.target.value)}
            className="figure ml-2 w-24 rounded-md border border-ink2 bg-sheet px-2 py-1"
          />
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
        <Button onClick={() => onSave({ type: 'taken-back', supersedes: reading.id })}>Take it back</Button>
        <Button onClick={onClose}>Leave it</Button>
      </div>
    </Modal>
  );
}
