import { useMemo, useState } from 'react';
import {
  adviceFor,
  BEGIN_OCTAVE,
  direction,
  MORE_FRETS,
  movesToMake,
  moveUnder,
  octaveAt,
  octaveProcedure,
  octavesOf,
  type SaddleSetup,
  sizeOf,
  toldOf,
  compensationWords,
} from '../../../core/octave';
import { touched } from '../../../core/simulate';
import type { InstrumentLife, Draft } from '../../../core/log';
import { traitsOf } from '../../../core/strings';
import { KEYS } from '../../keys/table';
import { BottomBar } from '../../guided/BottomBar';
import { soundActions, useActions } from '../../guided/useActions';
import { useProcedure } from '../../guided/useProcedure';
import { useListening } from '../../guided/useListening';
import { WITH_COLUMN, WorkColumn } from '../../guided/WorkColumn';
import { Caution } from '../../parts/Caution';
import { FirstStep, OctaveSketch } from '../../parts/FirstStep';
import { useNow } from '../../world/now';
import { useUnits } from '../../world/units';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';
import { BeforeAfter } from './BeforeAfter';
import { SaddlesDrawing } from './BridgeDrawing';
import { History } from './History';
import { ReadAndMoved } from './ReadAndMoved';
import { SetupFields } from './SetupFields';
import { TouchDrawing } from './TouchDrawing';
import { useEarlierSetup } from './useEarlierSetup';
import { MINUTE } from '../../../core/base';

/** Does each string agree with itself along its length; what to move, which way, how far. */
export function OctaveView({ life }: { life: InstrumentLife }) {
  const { bench, demo, nowMs, zone } = useWorld();
  const now = useNow(MINUTE);
  const id = life.record.instrumentId;
  const [units] = useUnits();
  const octaves = useMemo(() => octavesOf(life, bench), [life, bench]);
  const { setup } = octaves;
  const mm = (x: number) => sizeOf(x, units.length);
  const [message, setMessage] = useState('');
  const player = useProcedure(octaveProcedure, BEGIN_OCTAVE, { life, without: KEYS.octave.next }, setMessage);
  const { careful, more } = player.state;
  const { steps, step, index } = octaveAt(player.log(), player.state);
  const write = useWriting(setMessage);
  const keepSetup = ({ limitCents, threadMm, travelMm }: SaddleSetup) =>
    void write([{ type: 'saddle', instrumentId: id, limitCents, threadMm, travelMm }], () => setMessage('Saved.'));
  useEarlierSetup(id, bench, keepSetup);
  const sound = useListening(player, nowMs, setMessage);
  const deaf = sound.listening === undefined;

  const simulated = () => demo!.stringOf(id, step!.stringId)!;
  const pluck = (hardness: number) =>
    demo &&
    step &&
    sound.pluck(
      () => touched(simulated(), step.touch === 'fret' ? { kind: 'fret', fret: step.fret! } : { kind: step.touch }),
      hardness,
    );

  const { line, loose, strings } = octaves;
  const moves = movesToMake(octaves);
  const canMove = moves.length > 0;
  const moved = () => {
    if (!canMove) return;
    const drafts = moves.map((m): Draft => ({ type: 'adjustment', instrumentId: id, ...m }));
    const widest = Math.max(...strings.map((s) => s.acrossMm), 1);
    demo?.moveSaddles(
      id,
      Object.fromEntries(
        strings.map((s) => [
          s.stringId,
          moves.reduce((sum, m) => sum + moveUnder(m, s.stringId, s.acrossMm / widest), 0),
        ]),
      ),
    );
    void write(drafts, () => setMessage('Saved. Retune, then press Enter and read again.'));
  };
  const enter = () => {
    if (!step) {
      player.press({ do: 'start' });
      if (deaf) sound.open();
    } else if (deaf) sound.open();
    else sound.take();
  };
  const { actions } = useActions(
    KEYS.octave,
    step
      ? [
          ...soundActions(sound),
          { key: 'take', words: deaf ? 'Listen' : 'Save it', on: enter },
          { key: 'next', words: 'Skip this place', on: () => player.press({ do: 'next' }) },
          { key: 'back', words: 'Back', disabled: index === 0, on: () => player.press({ do: 'back' }) },
          { key: 'nextString', words: 'Next string', seldom: true, on: () => player.press({ do: 'next-string' }) },
          { key: 'end', words: 'End the check', seldom: true, on: () => player.press({ do: 'end' }) },
          { key: 'again', on: () => player.press({ do: 'again' }) },
          { key: 'careful', on: () => player.press({ do: 'careful', on: !careful }) },
          demo && { key: 'pluck', words: 'Pluck (simulated)', on: (shift) => pluck(shift ? 1 : 0.4) },
        ]
      : [
          ...soundActions(sound),
          {
            key: 'take',
            words: strings.some((s) => s.last) ? 'Check again' : 'Start check',
            strong: true,
            on: enter,
          },
          canMove && { key: 'moved', words: 'I moved it', on: moved },
          { key: 'careful', on: () => player.press({ do: 'careful', on: !careful }) },
        ],
  );
  const months = strings.some((s) => s.passes.length > 2);

  const told = toldOf(octaves, moves, mm);

  return (
    <div className="flex min-h-0 flex-1 flex-col print:block">
      <div className={WITH_COLUMN}>
        <section
          aria-label="Octaves"
          tabIndex={0}
          className="min-w-0 overflow-y-auto px-4 py-2 max-md:overflow-visible"
        >
          {strings.every((s) => !s.last) && (
            <FirstStep drawing={<OctaveSketch />}>
              Nothing is read yet. Pluck each string open, at the 12th fret and as a harmonic. Then you see which saddle
              to move, which way and how far. Press Enter to start.
            </FirstStep>
          )}
          <SaddlesDrawing octaves={octaves} current={step?.stringId} unit={units.length} />
          <ul aria-label="What the strings say" className="grid gap-x-6 text-sm sm:grid-cols-2">
            {strings.map((s) => (
              <li key={s.stringId} data-verdict={s.verdict} className="border-t border-line py-1">
                <b>{s.note}</b> {adviceFor(s, octaves, units.length, now)}
                {s.frets && s.frets.verdict !== 'in-tune' && (
                  <span className="text-ink2">
                    {' '}
                    By its frets: {s.frets.verdict}. {s.frets.doubt}
                  </span>
                )}
              </li>
            ))}
          </ul>
          {line?.compensation && (
            <p className="pt-2 text-sm">
              {compensationWords(
                strings.map((s) => s.note),
                line.residualCents,
                line.compensation,
              )}
            </p>
          )}
          {months && (
            <section aria-labelledby="octave-history" className="pt-3">
              <h2 id="octave-history" className="text-base font-semibold">
                Over the months
              </h2>
              <History
                strings={strings}
                nowMs={now}
                chart={document.documentElement.dataset['chart'] ?? ''}
                limitCents={setup.limitCents}
              />
            </section>
          )}
          <BeforeAfter octaves={octaves} words={(x) => `${mm(x)} ${direction(x)}`} />
          <ReadAndMoved octaves={octaves} zone={zone} unit={units.length} />
        </section>
        <WorkColumn
          heading={step ? `Place ${index + 1} of ${steps.length}` : 'The octave'}
          note={step?.note}
          trace={step ? sound.trace : undefined}
          instruction={step ? (deaf ? 'Press Space to listen' : step.words) : told}
          toleranceCents={1}
          message={message}
          hint={step && <TouchDrawing step={step} />}
        >
          {!step && canMove && (
            <Caution>
              {loose
                ? 'Mark where the bridge feet are now. Slacken the strings a little first. Make small moves and keep the bridge upright.'
                : 'Slacken the string before you move its saddle. On a floating bridge retune all strings before you read again. Nut and fret work is a job for a repairer.'}
            </Caution>
          )}
          {!step && (
            <fieldset className="text-sm">
              <legend className="sr-only">How to read</legend>
              <label className="block py-0.5">
                <input
                  type="checkbox"
                  className="mr-1.5"
                  checked={careful}
                  onChange={(e) => player.press({ do: 'careful', on: e.target.checked })}
                />
                careful: three plucks a place (Q)
              </label>
              {traitsOf(life.record).frets && (
                <label className="block py-0.5">
                  <input
                    type="checkbox"
                    className="mr-1.5"
                    checked={more}
                    onChange={(e) => player.press({ do: 'more', on: e.target.checked })}
                  />
                  frets {MORE_FRETS.join(', ')} too
                </label>
              )}
            </fieldset>
          )}
          {!step && (
            <SetupFields
              key={`${id}/${setup.limitCents}/${setup.travelMm}/${octaves.adjustments.length}`}
              setup={setup}
              onChange={keepSetup}
              loose={loose}
              onAction={(moveMm) =>
                void write(
                  [
                    {
                      type: 'adjustment',
                      instrumentId: id,
                      stringIds: life.strings.map((x) => x.plan.stringId),
                      what: 'action',
                      moveMm,
                    },
                  ],
                  () => setMessage('Saved. Retune, then press Enter and read again.'),
                )
              }
            />
          )}
        </WorkColumn>
      </div>
      <BottomBar
        sound={sound}
        actions={step ? actions : [...actions, { words: 'Print', on: () => window.print(), seldom: true }]}
      />
    </div>
  );
}
