import { useState } from 'react';
import { EARLIEST_MS, MOST_OFF_CENTS } from '../../core/limits';
import { cents as centsFrom, ratioOfCents, targetFrequencyHz } from '../../core/music';
import type { Draft, InstrumentLife, ReadingRecord } from '../../core/log';
import { Button } from './Button';
import { Modal } from './Modal';
import { figureIn, fromLocalField, plusMinus, signed, toLocalField } from './format';

/** A reading of the wrong string or at the wrong time is superseded by a right one; the first stays in the log. */
export function EditReading({
  life,
  reading,
  zoneMin,
  nowMs,
  onSave,
  onClose,
  trouble: refused,
}: {
  life: InstrumentLife;
  reading: ReadingRecord;
  zoneMin: number;
  nowMs: () => number;
  onSave: (draft: Draft) => void;
  onClose: () => void;
  /** Why it could not be saved. */
  trouble: string;
}) {
  const local = (ms: number) => toLocalField(ms, zoneMin);
  const [stringId, setStringId] = useState(reading.stringId);
  const [time, setTime] = useState(local(reading.atMs));
  const [figure, setFigure] = useState(reading.cents.toFixed(1));
  const [faulty, setTrouble] = useState('');
  const trouble = faulty || refused;
  const correct = () => {
    // Seconds are not shown: a time left as it was keeps them.
    const atMs = time === local(reading.atMs) ? reading.atMs : fromLocalField(time, zoneMin);
    if (!(atMs <= nowMs())) return setTrouble('That is in the future.');
    if (atMs < EARLIEST_MS) return setTrouble('That was before 1970.');
    const note = life.strings.find((s) => s.plan.stringId === stringId)!.plan.note;
    const targetHz = stringId === reading.stringId ? reading.targetHz : targetFrequencyHz(note, reading.a4Hz)!;
    const typed = figureIn(figure);
    if (!Number.isFinite(typed)) return setTrouble('Write the figure in cents, for example −4.2.');
    const isTyped = figure.trim() !== reading.cents.toFixed(1);
    const heardHz = isTyped ? reading.targetHz * ratioOfCents(typed) : reading.frequencyHz;
    const cents = isTyped || stringId !== reading.stringId ? centsFrom(heardHz, targetHz) : reading.cents;
    if (Math.abs(cents) > MOST_OFF_CENTS)
      return setTrouble(`That is ${signed(cents, 0)} cents from ${note}, too far for this string.`);
    const { id, version: _version, zoneMin: _zone, written: _written, ...fields } = reading;
    const right = isTyped ? { source: 'typed' as const, frequencyHz: heardHz, partials: [] } : {};
    onSave({ ...fields, ...right, stringId, targetHz, cents, atMs, supersedes: id });
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
          It read, cents
          <input
            value={figure}
            inputMode="decimal"
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
