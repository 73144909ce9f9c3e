import { bandWords } from '../../../core/says';
import { offsetMin, HOUR } from '../../../core/base';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { turnString } from '../../../core/simulate';
import { KEYS } from '../../keys/table';
import { handActions, useActions } from '../../guided/useActions';
import { usePlayer } from '../../guided/useProcedure';
import { useListening } from '../../guided/useListening';
import { Button } from '../../parts/Button';
import { clockTime, dueWords } from '../../parts/format';
import { Lane } from '../../parts/Lane';
import { tunerPlaceOf } from '../../../core/guided';
import { HandControls } from '../../guided/SimulatorControls';
import { TunerHint } from '../../guided/TunerHint';
import { WorkColumn } from '../../guided/WorkColumn';
import { useAsked } from '../../world/asked';
import {
  BEGIN_SAMPLE,
  HOLD_MIN,
  sampleLife,
  sampleProcedure,
  sampleStage,
  sampleTruth,
  TOLERANCE_CENTS,
} from '../../../core/check';
import { useWorld } from '../../world/world';

/** The first screen: what the product does, on a simulated string that one can pluck there and then; nothing of it is kept. */
export function FirstView() {
  const { basePath, zone, clock: device } = useWorld();
  const navigate = useNavigate();
  const [startMs] = useState(() => device.nowMs());
  /** The clock of this page: moved on by the hour. */
  const aheadMs = useRef(0);
  const [nowMs, setNowMs] = useState(startMs);
  const clock = useCallback(() => device.nowMs() + aheadMs.current, [device]);
  const truth = useRef(sampleTruth(startMs));
  const [message, setMessage] = useState('');
  const { strungMs } = truth.current;
  const player = usePlayer(
    sampleProcedure,
    BEGIN_SAMPLE,
    () => ({ nowMs: clock(), zoneMin: offsetMin(zone, clock()), strungMs }),
    [zone, strungMs],
    setMessage,
  );
  const { readings } = player.state;
  const stage = sampleStage(player.state);
  const life = useMemo(() => sampleLife(strungMs, readings, offsetMin(zone, strungMs)), [strungMs, readings, zone]);
  const string = life.strings[0]!;
  const last = readings.at(-1);
  const sound = useListening(player, clock, setMessage);
  useEffect(() => setNowMs(clock()), [clock, readings]);
  const { data: statuses } = useAsked({
    question: 'foretell',
    subject: 'sample',
    of: life,
    ask: {
      life,
      wish: {
        nowMs: Math.round(nowMs),
        toleranceCents: TOLERANCE_CENTS,
        holdMin: HOLD_MIN,
        curtainMs: startMs + 6 * HOUR,
        confidence: 0.9,
        lane: true,
      },
    },
    enabled: readings.length > 0,
  });
  const status = statuses?.[0];

  const hands = {
    pluck: (hardness: number) => {
      if (!sound.listening) void sound.listen('simulated');
      sound.pluck(() => truth.current, hardness);
    },
    turn: (cents: number) => {
      truth.current = turnString(truth.current, clock(), cents);
    },
  };
  const later = () => {
    aheadMs.current += HOUR;
    setNowMs(clock());
    player.press({ do: 'later' });
  };
  const add = () => void navigate(`${basePath}/add`);
  useActions(KEYS.first, [{ key: 'go', on: add }, { key: 'later', on: later }, ...handActions(hands)]);

  const instruction = {
    pluck: 'Pluck it',
    wait: 'Let an hour pass',
    again: 'Pluck it again',
    up: undefined,
    done:
      status && status.nextCheckMs !== null
        ? `Look again ${dueWords(status.nextCheckMs, nowMs, zone)}`
        : 'Let an hour pass',
  }[stage];

  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_312px] max-md:grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto">
      <section className="min-w-0 overflow-y-auto px-8 py-6 max-md:overflow-visible max-sm:px-4">
        <h1 className="text-3xl font-bold">A new string falls. Watch this one</h1>
        <p className="max-w-2xl pt-2 text-lg text-ink2">
          Slow Anchor hears how far each string has fallen, and says when to tune it again and when it will hold. Try
          it: this string is simulated and was put on twenty minutes ago. Nothing of it is saved.
        </p>
        <div className="pt-5">
          <p className="flex items-baseline justify-between pb-1 text-sm">
            <span>
              It is <span className="figure font-bold">{clockTime(nowMs, zone)}</span>
            </span>
            <span data-testid="forecast" className="font-semibold">
              {status?.atCurtain
                ? bandWords(status.atCurtain, zone)
                : readings.length > 0
                  ? 'Two readings at different times give a forecast'
                  : ''}
            </span>
          </p>
          <Lane
            readings={readings}
            bornMs={truth.current.strungMs}
            nowMs={nowMs}
            ahead={status?.ahead ?? []}
            curtainMs={null}
            toleranceCents={TOLERANCE_CENTS}
            height={230}
            label="What was read of the string"
          />
          <p className="pt-1 text-xs text-ink2">
            The line is its target. Below, in the water, is flat; above is sharp. Left to right: age. Grey: the forecast
            if nobody touches it.
          </p>
        </div>
        <div className="flex flex-wrap items-center gap-3 pt-6">
          <Button strong hint="Enter" onClick={add}>
            Add your instrument
          </Button>
          <Button onClick={() => void navigate('/demo/bench')}>Look round the Heron’s bench (demonstration)</Button>
        </div>
      </section>
      <WorkColumn
        heading="A string to try"
        note={string.plan.note}
        trace={sound.trace}
        instruction={instruction}
        known={{ cents: last?.cents ?? null, age: '' }}
        toleranceCents={TOLERANCE_CENTS}
        message={message}
        hint={<TunerHint trace={sound.trace} place={tunerPlaceOf(life, string.plan.stringId)} />}
      >
        <HandControls onPluck={hands.pluck} onTurn={hands.turn} broken={undefined}>
          <Button hint="H" onClick={later}>
            An hour later
          </Button>
        </HandControls>
      </WorkColumn>
    </div>
  );
}
