import { useMemo, useState } from 'react';
import { averageTone, type ToneReading } from '../../../core/intervals';
import { A4_MAX_HZ, A4_MIN_HZ, cents } from '../../../core/music';
import type { ReferenceSource } from '../../../core/records';
import { forkTruth, reedTruth } from '../../../core/simulate';
import { commonOffset } from '../../../core/story';
import { KEYS } from '../../keys/table';
import { usePedal } from '../../keys/usePedal';
import { BottomBar } from '../../listening/BottomBar';
import { useListening } from '../../listening/useListening';
import { Button } from '../../parts/Button';
import { signed, sinceTime } from '../../parts/format';
import { soundedAlone } from '../../pass/guided';
import { WITH_COLUMN, WorkColumn } from '../../pass/WorkColumn';
import { useNow } from '../../store/now';
import { TOLERANCE_CENTS } from '../../store/status';
import { useWorld } from '../../store/world';
import { useWriting } from '../../store/writing';
import { Repeats } from './Repeats';

/** What can be sounded, in our words. */
const SOURCES: Record<Exclude<ReferenceSource, 'standard'>, { words: string; it: string; sound: string }> = {
  fork: { words: 'A fork', it: 'fork', sound: 'Strike the fork, hold its foot to wood' },
  reed: { words: 'A pitch pipe or reed', it: 'reed', sound: 'Sound its A, evenly' },
  keyboard: { words: 'A keyboard', it: 'keyboard', sound: 'Hold its A4 down' },
  player: { words: 'Another player', it: 'other player', sound: 'Let the A be held' },
};
const NAMED = Object.keys(SOURCES) as (keyof typeof SOURCES)[];
const STANDARDS = [440, 441, 442, 443, 415, 392, 430, 432, 466];
/** A steel fork changes by so much a degree, from 20 deg C (house estimate). */
const FORK_PER_DEGREE = -0.19;
/** A change from the first repeat to the last beyond this is told, cents. */
const DRIFT_TOLD = 1;
/** What sounds in the demonstration: a fork, a pipe, the harmonium of the cabin, somebody else. */
const SOUNDED = { fork: forkTruth(440), reed: reedTruth(439.2), keyboard: reedTruth(441.3), player: reedTruth(440.6) };

/** Which pitch is tuned by: a standard, or a fork, reed, keyboard or player measured. */
export function ReferenceView() {
  const { bench, a4Hz, demo, nowMs, zoneMin } = useWorld();
  const now = useNow(60000);
  const [source, setSource] = useState<keyof typeof SOURCES>('fork');
  const [readings, setReadings] = useState<ToneReading[]>([]);
  const [measuring, setMeasuring] = useState(false);
  const [message, say] = useState('');
  const write = useWriting(say);
  const average = averageTone(readings);
  const found = measuring && average?.done ? average : undefined;
  const { it, sound: instruction } = SOURCES[source];

  const key = `reference:${source}:${readings.length}`;
  const last = readings.at(-1)?.frequencyHz;
  const sounding = measuring && !found;
  const guided = useMemo(
    () => (sounding ? soundedAlone(key, 'A4', last ?? a4Hz) : undefined),
    [sounding, key, last, a4Hz],
  );
  const sound = useListening(
    guided,
    nowMs,
    (verdict) => {
      if (!sounding) return;
      if (verdict.kind !== 'keep') say(verdict.message);
      else {
        const { frequencyHz, sigmaCents } = verdict.reading;
        setReadings((r) => [...r, { frequencyHz, sigmaCents }]);
        say(`${frequencyHz.toFixed(2)} Hz. Once more.`);
      }
    },
    say,
  );
  const deaf = sound.listening === undefined;
  const begin = (which = source) => {
    setSource(which);
    setReadings([]);
    setMeasuring(true);
    say('');
    if (deaf) sound.open();
  };
  const keep = () => {
    if (!found) return;
    const { frequencyHz, sigmaCents } = found;
    if (!(frequencyHz >= A4_MIN_HZ && frequencyHz <= A4_MAX_HZ)) {
      say(`A reference stands between ${A4_MIN_HZ} and ${A4_MAX_HZ} Hz.`);
      return;
    }
    const room = bench.room ? { tempC: bench.room.tempC } : {};
    // At once: a second press does not write it twice.
    setMeasuring(false);
    void write([{ type: 'reference', a4Hz: frequencyHz, source, sigmaCents, ...room }], () =>
      say(`In force from now on: ${frequencyHz.toFixed(1)} Hz. What was read before keeps its own.`),
    );
  };
  const enter = () => {
    if (found) keep();
    else if (!measuring) begin();
    else if (deaf) sound.open();
    else sound.take();
  };
  const stop = () => {
    setMeasuring(false);
    setReadings([]);
    say('');
  };
  const standard = (hz: number) =>
    void write([{ type: 'reference', a4Hz: hz, source: 'standard' }], () => {
      stop();
      say(`In force from now on: ${hz} Hz.`);
    });
  const pluck = (hardness: number) => sounding && sound.pluck(() => SOUNDED[source], hardness);
  usePedal(KEYS.reference, {
    listen: sound.toggle,
    take: enter,
    choose: (_, k) => {
      const which = NAMED[Number(k) - 1];
      if (which) begin(which);
    },
    again: stop,
    pluck: demo ? (shift) => pluck(shift ? 1 : 0.4) : undefined,
  });

  const { reference } = bench;
  const warm = source === 'fork' && bench.room ? FORK_PER_DEGREE * (bench.room.tempC - 20) : 0;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className={WITH_COLUMN}>
        <section
          aria-label="Which pitch"
          tabIndex={0}
          className="min-w-0 overflow-y-auto px-5 py-3 max-md:overflow-visible"
        >
          <h1 className="pb-1 text-2xl font-bold">Which pitch do you tune by?</h1>
          <p className="pb-3 text-sm">
            In force: <b className="figure">{a4Hz.toFixed(1)} Hz</b>
            {reference &&
              `, ${reference.source ?? 'typed'}${reference.sigmaCents === undefined ? '' : ` ±${reference.sigmaCents.toFixed(2)} cents`}, since ${sinceTime(reference.atMs, now, zoneMin)}`}
            . What was read before keeps the reference that it was read by.
          </p>
          <h2 className="pb-1 font-semibold">Measure one</h2>
          <div role="group" aria-label="What is sounded" className="flex flex-wrap gap-2 pb-3">
            {NAMED.map((s, i) => (
              <Button
                key={s}
                hint={String(i + 1)}
                strong={measuring && s === source}
                aria-pressed={measuring && s === source}
                onClick={() => begin(s)}
              >
                {SOURCES[s].words}
              </Button>
            ))}
          </div>
          {average && (
            <p data-testid="result" className="max-w-2xl text-2xl leading-snug font-semibold">
              Your {it} stands at {average.frequencyHz.toFixed(1)} Hz ±{average.sigmaCents.toFixed(1)} cents,{' '}
              {signed(cents(average.frequencyHz, a4Hz))} from what is in force
              {found ? ': use it, or tell the others.' : '.'}
            </p>
          )}
          {readings.length > 0 && <Repeats readings={readings} average={average} a4Hz={a4Hz} />}
          {average && (
            <p className="pb-2 text-sm">
              {readings.length} repeats spread by {average.spreadCents.toFixed(2)} cents.
              {Math.abs(average.driftCents) > DRIFT_TOLD &&
                ` It went ${signed(average.driftCents)} from the first to the last: let it warm up, and measure again.`}
              {Math.abs(warm) > 0.3 && ` A steel fork stands ${signed(warm)} in this room against 20 °C.`}
            </p>
          )}
          <h2 className="pt-2 pb-1 font-semibold">Or take a standard</h2>
          <div role="group" aria-label="Standards" className="flex flex-wrap gap-2 pb-4">
            {STANDARDS.map((hz) => (
              <Button key={hz} aria-pressed={a4Hz === hz} strong={a4Hz === hz} onClick={() => standard(hz)}>
                {hz} Hz
              </Button>
            ))}
          </div>
          <ul aria-label="What stands off together" className="text-sm">
            {bench.instruments.flatMap((life) => {
              const off = commonOffset(life, a4Hz);
              return off ? [<li key={life.record.instrumentId}>{off.words}</li>] : [];
            })}
          </ul>
        </section>
        <WorkColumn
          heading={measuring ? `Repeat ${readings.length + 1}` : 'The reference'}
          note="A4"
          trace={sounding ? sound.trace : undefined}
          instruction={
            found
              ? 'Enter: use it'
              : measuring
                ? deaf
                  ? 'Press Space to listen'
                  : instruction
                : `Enter: measure the ${it}`
          }
          toleranceCents={TOLERANCE_CENTS}
          message={message}
        />
      </div>
      <BottomBar
        sound={sound}
        actions={[
          { words: found ? 'Use it' : measuring ? 'Take it' : 'Measure', hint: 'Enter', strong: !sounding, on: enter },
          ...(measuring ? [{ words: 'Begin anew', hint: 'R', on: stop }] : []),
          ...(demo && sounding ? [{ words: 'Sound it (simulated)', hint: 'P', on: () => pluck(0.4) }] : []),
        ]}
      />
    </div>
  );
}
