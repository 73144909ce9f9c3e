import clsx from 'clsx';
import { TriangleAlert } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { medianOfPlucks } from '../../../core/octave';
import { touched } from '../../../core/simulate';
import { useListening } from '../../listening/useListening';
import { usePedal } from '../../keys/usePedal';
import { Button } from '../../parts/Button';
import { WORK_ID } from '../../parts/focus';
import { signed } from '../../parts/format';
import { InstrumentLinks } from '../../parts/InstrumentLinks';
import { Waterline } from '../../parts/Waterline';
import { useNow } from '../../store/now';
import { useUnits } from '../../store/units';
import { heldInMemory } from '../../store/held';
import { useWorld } from '../../store/world';
import { BeforeAfter } from './BeforeAfter';
import { BridgeDrawing } from './BridgeDrawing';
import { History } from './History';
import { ReadAndMoved } from './ReadAndMoved';
import { SetupFields } from './SetupFields';
import { hasFrets, touchSteps } from './steps';
import { TouchDrawing } from './TouchDrawing';
import { moveUnder, useOctaves } from './useOctave';
import { useTouchPass } from './useTouchPass';
import { useSetup } from './useSetup';
import { adviceFor, direction, sizeOf } from './words';

const MORE_FRETS = [1, 3, 5, 7, 15, 19];
const CAREFUL = 3;
/** Plucks of one place further apart than this are not one reading, cents. */
const ALIKE_CENTS = 1;
/** Moves smaller than this are left, mm. */
const LEAST_MM = 0.1;

/** Does each string agree with itself along its length; what to move, which way, how far. */
export function OctaveView() {
  const { instrumentId } = useParams();
  const { bench, a4Hz, append, basePath, demo, nowMs, zoneMin } = useWorld();
  const now = useNow(60000);
  const life = bench.instruments.find((i) => i.record.instrumentId === instrumentId) ?? bench.instruments[0];
  const [setup, setSetup] = useSetup(life?.record.instrumentId ?? '');
  const [units] = useUnits();
  const octaves = useOctaves(life, bench, setup.limitCents);
  const mm = (x: number) => sizeOf(x, units.length);
  const [careful, setCareful] = useState(false);
  const [more, setMore] = useState(false);
  const [message, setMessage] = useState('');
  const id = life?.record.instrumentId ?? '';
  const steps = useMemo(() => (life ? touchSteps(life, more ? MORE_FRETS : []) : []), [life, more]);
  const pass = useTouchPass(id, steps, bench.touches, a4Hz, setMessage);
  const { step } = pass;

  type Drafts = Parameters<typeof append>[0];
  const write = (drafts: Drafts, then: () => void) =>
    append(drafts).then(then, (error: Error) => setMessage(heldInMemory(error)));

  const sound = useListening(
    pass.guided,
    nowMs,
    (verdict, source) => {
      if (!step || !pass.passId) return;
      if (verdict.kind !== 'keep') return setMessage(verdict.message);
      const outcome = verdict.reading;
      if (pass.isFar(outcome.cents))
        return setMessage(`That is ${signed(outcome.cents, 0)} cents from where ${step.note} sounds here: once more.`);
      const plucks = [...pass.plucks, outcome];
      const wanted = careful ? CAREFUL : 1;
      if (plucks.length < wanted) {
        pass.heard(outcome);
        return setMessage(`${plucks.length} of ${wanted}. Same place, same strength.`);
      }
      const median = medianOfPlucks(plucks);
      if (!median || (plucks.length > 1 && median.scatterCents > ALIKE_CENTS && step.touch !== 'fret')) {
        pass.again();
        return setMessage('They differ by more than a cent: same place, same strength, from the first one.');
      }
      void write(
        [
          {
            type: 'touch',
            instrumentId: id,
            stringId: step.stringId,
            passId: pass.passId,
            touch: step.touch,
            ...(step.fret === null ? {} : { fret: step.fret }),
            source,
            ...median,
            ...(pass.earlier ? { supersedes: pass.earlier.id } : {}),
            ...(step.touch === 'open' ? { inharmonicity: outcome.inharmonicity } : {}),
          },
        ],
        () => {
          setMessage(`${step.note} ${step.touch === 'fret' ? `fret ${step.fret}` : step.touch} kept.`);
          pass.kept();
        },
      );
    },
    setMessage,
  );

  const listen = () => void sound.listen(demo ? 'simulated' : 'microphone');
  const deaf = sound.listening === undefined;

  const simulated = () => demo!.truthOf(id)!.find((t) => t.stringId === step!.stringId)!;
  const pluck = (hardness: number) =>
    demo &&
    step &&
    sound.pluck(
      () => touched(simulated(), step.touch === 'fret' ? { kind: 'fret', fret: step.fret! } : { kind: step.touch }),
      hardness,
    );

  const { line, loose, strings } = octaves;
  const toMove = strings.filter((s) => s.verdict === 'saddle' && s.moveMm !== null && Math.abs(s.moveMm) >= LEAST_MM);
  const feet = line
    ? (
        [
          ['low-foot', line.footMoves.lowMm],
          ['high-foot', line.footMoves.highMm],
        ] as const
      ).filter(([, move]) => Math.abs(move) >= LEAST_MM)
    : [];
  const canMove = loose ? feet.length > 0 : toMove.length > 0;
  const moved = () => {
    if (!life || !canMove) return;
    const all = life.strings.map((s) => s.plan.stringId);
    const drafts: Drafts = loose
      ? feet.map(([what, moveMm]) => ({ type: 'adjustment', instrumentId: id, stringIds: all, what, moveMm }))
      : toMove.map((s) => ({
          type: 'adjustment',
          instrumentId: id,
          stringIds: [s.stringId],
          what: 'saddle',
          moveMm: s.moveMm!,
        }));
    const widest = Math.max(...strings.map((s) => s.acrossMm), 1);
    demo?.moveSaddles(
      id,
      Object.fromEntries(
        strings.map((s) => [
          s.stringId,
          drafts.reduce(
            (sum, d) => sum + moveUnder(d as Parameters<typeof moveUnder>[0], s.stringId, s.acrossMm / widest),
            0,
          ),
        ]),
      ),
    );
    void write(drafts, () => setMessage('Noted. Retune, then read the octaves again: Enter.'));
  };
  const enter = () => {
    if (!step) {
      setMessage('');
      pass.start();
      if (deaf) listen();
    } else if (deaf) listen();
    else sound.take();
  };
  const next = () => {
    setMessage('');
    pass.skip();
  };
  usePedal({
    Enter: enter,
    PageDown: enter,
    n: next,
    ArrowRight: next,
    ' ': () => (deaf ? listen() : sound.pause()),
    PageUp: pass.back,
    s: pass.nextString,
    r: pass.again,
    m: moved,
    q: () => setCareful((v) => !v),
    Escape: pass.end,
    ...(demo && step ? { p: (shift) => pluck(shift ? 1 : 0.4) } : {}),
  });

  if (!life) {
    return (
      <div className="p-10">
        <h1 className="text-2xl font-bold">No octaves yet</h1>
        <Link to={`${basePath}/instrument`} className="text-deep underline">
          Add an instrument
        </Link>
      </div>
    );
  }
  const months = strings.some((s) => s.passes.length > 2);

  return (
    <div className="grid min-h-0 flex-1 grid-cols-[1fr_340px] overflow-y-auto max-lg:grid-cols-1">
      <section aria-labelledby="octave-name" className="min-w-0 px-5 py-3">
        <InstrumentLinks
          instruments={bench.instruments.map(({ record }) => ({ id: record.instrumentId, name: record.name }))}
          to={`${basePath}/octave`}
          current={id}
        />
        <h1 id="octave-name" className="pb-1 text-2xl font-bold">
          {life.record.name}: octave
        </h1>
        <BridgeDrawing octaves={octaves} current={step?.stringId} unit={units.length} />
        <ul aria-label="What the strings say" className="grid gap-x-6 text-sm sm:grid-cols-2">
          {strings.map((s) => (
            <li key={s.stringId} data-verdict={s.verdict} className="border-t border-line py-1">
              <b>{s.note}</b> {adviceFor(s, loose, setup, units.length, now)}
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
            A straight bridge leaves up to {Math.max(...line.residualCents.map(Math.abs)).toFixed(1)} cents: a
            compensated one would bear {strings.map((s, i) => `${s.note} ${signed(line.compensation![i]!)}`).join(', ')}{' '}
            mm behind this line; a repairer’s job.
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
        <ReadAndMoved octaves={octaves} zoneMin={zoneMin} unit={units.length} />
      </section>
      <aside
        id={WORK_ID}
        tabIndex={-1}
        aria-label="What to do now"
        className={clsx(
          'border-l border-line bg-sheet px-4 py-3 max-lg:border-l-0 print:hidden',
          // Where all stands in one column, what to do now comes first.
          step && 'max-lg:order-first',
        )}
      >
        {step ? (
          <>
            <p className="text-sm text-ink2">
              {pass.index + 1} of {steps.length}
            </p>
            <p role="status" data-testid="instruction" className="min-h-16 text-2xl font-bold leading-tight">
              {deaf ? 'Press Space to listen' : step.words}
            </p>
            <TouchDrawing step={step} />
            <Waterline trail={sound.trail} toleranceCents={1} label={`Live pitch of ${step.note}`} />
          </>
        ) : (
          <>
            <p role="status" data-testid="instruction" className="text-2xl font-bold leading-tight">
              {canMove
                ? loose
                  ? feet
                      .map(
                        ([what, move]) => `${what === 'low-foot' ? 'Low' : 'High'} foot ${mm(move)} ${direction(move)}`,
                      )
                      .join('; ')
                  : toMove.map((s) => `${s.note} saddle ${mm(s.moveMm!)} ${direction(s.moveMm!)}`).join('; ')
                : strings.some((s) => s.last)
                  ? strings.some((s) => s.last && s.moveMm === null)
                    ? 'Retune, then read again'
                    : 'Nothing to move'
                  : 'Read the octaves'}
            </p>
            {canMove && (
              <p className="mt-2 flex gap-2 rounded-lg border border-rust p-2 text-sm text-rust">
                <TriangleAlert size={18} className="shrink-0" aria-hidden />
                {loose
                  ? 'Slacken the strings a little first; small moves, and keep the bridge upright. Mark where its feet stand now.'
                  : 'Slacken the string before its saddle is moved. On a floating bridge every move shifts all strings: retune all before reading again. Nut and fret work is a repairer’s.'}
              </p>
            )}
          </>
        )}
        <p role="status" data-testid="message" className="min-h-10 pt-2 text-sm leading-snug">
          {message}
        </p>
        <div className="flex flex-wrap gap-2">
          {step ? (
            <>
              <Button hint="Enter" onClick={enter}>
                {deaf ? 'Listen' : 'Read what sounds'}
              </Button>
              <Button hint="N" onClick={next}>
                Skip this place
              </Button>
              <Button hint="Page Up" disabled={pass.index === 0} onClick={pass.back}>
                Back
              </Button>
              <Button hint="S" onClick={pass.nextString}>
                Next string
              </Button>
              <Button onClick={pass.end}>End the pass</Button>
              {demo && (
                <Button hint="P" onClick={() => pluck(0.4)}>
                  Pluck (simulated)
                </Button>
              )}
            </>
          ) : (
            <>
              <Button strong hint="Enter" onClick={enter}>
                {strings.some((s) => s.last) ? 'Read again' : 'Begin the pass'}
              </Button>
              {canMove && (
                <Button hint="M" onClick={moved}>
                  Moved as told
                </Button>
              )}
              <Button onClick={() => window.print()}>Print</Button>
            </>
          )}
        </div>
        {!step && (
          <fieldset className="pt-3 text-sm">
            <legend className="sr-only">How to read</legend>
            <label className="block">
              <input
                type="checkbox"
                className="mr-1.5"
                checked={careful}
                onChange={(e) => setCareful(e.target.checked)}
              />
              careful: three plucks a place (Q)
            </label>
            {hasFrets(life.record.family) && (
              <label className="block">
                <input type="checkbox" className="mr-1.5" checked={more} onChange={(e) => setMore(e.target.checked)} />
                frets {MORE_FRETS.join(', ')} too
              </label>
            )}
          </fieldset>
        )}
        {!step && (
          <SetupFields
            key={`${id}/${setup.limitCents}/${setup.travelMm}/${octaves.adjustments.length}`}
            setup={setup}
            onChange={setSetup}
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
                () => setMessage('Noted. Retune, then read the octaves again: Enter.'),
              )
            }
          />
        )}
      </aside>
    </div>
  );
}
