import { noticedWords, toldInPractice } from '../../../core/by-ear';
import { useState } from 'react';
import {
  BEGIN_REFERENCE,
  referenceAt,
  referenceProcedure,
  repeatsTold,
  stringsOf,
  type Sounded,
  averageWords,
  forkWords,
  octavesWords,
} from '../../../core/reference';
import { cents, ratioOfCents } from '../../../core/music';
import { forkTruth, reedTruth, STEEL_PER_DEGREE } from '../../../core/simulate';
import { KEYS } from '../../keys/table';
import { BottomBar } from '../../guided/BottomBar';
import { useActions } from '../../guided/useActions';
import { usePlayer } from '../../guided/useProcedure';
import { useListening } from '../../guided/useListening';
import { Button } from '../../parts/Button';
import { sinceTime, plusMinus } from '../../parts/format';
import { WITH_COLUMN, WorkColumn } from '../../guided/WorkColumn';
import { useNow } from '../../world/now';
import { useStatuses } from '../../world/status';
import { TOLERANCE_CENTS } from '../../../core/check';
import { useWorld } from '../../world/world';
import { HeldTone } from './Held';
import { OtherDevice } from './OtherDevice';
import { OwnA4 } from './OwnA4';
import { Repeats } from './Repeats';
import { MINUTE } from '../../../core/base';
import { commonOffset } from '../../../core/status';

/** What can be sounded, in our words. */
const SOURCES: Record<Sounded, { words: string; it: string; sound: string }> = {
  fork: { words: 'A fork', it: 'fork', sound: 'Strike the fork and hold its foot to wood' },
  reed: { words: 'A pitch pipe or reed', it: 'reed', sound: 'Play its A evenly' },
  keyboard: { words: 'A keyboard', it: 'keyboard', sound: 'Hold its A4 down' },
  player: { words: 'Another player', it: 'other player', sound: 'Ask for a long A' },
  string: { words: 'A string', it: 'string', sound: 'Pluck it and let it ring' },
};
const NAMED = Object.keys(SOURCES) as (keyof typeof SOURCES)[];
const STANDARDS = [440, 441, 442, 443, 415, 392, 430, 432, 466];
/** What sounds in the demonstration: a fork, a pipe, the harmonium of the cabin, somebody else. */
/** How much wider than pure the harmonium's octaves are, cents. */
const STRETCH = 0.8;
const SOUNDED = { fork: forkTruth(440), reed: reedTruth(439.2), keyboard: reedTruth(441.3), player: reedTruth(440.6) };

/** Which pitch is tuned by: a standard, or a fork, reed, keyboard or player measured. */
export function ReferenceView() {
  const { bench, a4Hz, demo, nowMs, zone } = useWorld();
  const now = useNow(MINUTE);
  const firstId = bench.instruments[0]?.record.instrumentId ?? '';
  const { of: statuses } = useStatuses(bench.instruments, now, bench.curtain?.curtainMs ?? null, firstId);
  const [message, say] = useState('');
  const player = usePlayer(referenceProcedure, BEGIN_REFERENCE, ({ bench, a4Hz }) => ({ bench, a4Hz }), [bench], say);
  const { source, measuring, readings, others } = player.state;
  const at = referenceAt({ bench, a4Hz }, player.state);
  const { average, usable, found, octave, string, plan, perA4, note, sounding, stretch, drift } = at;
  const strings = stringsOf({ bench });
  const { it, sound: instruction } = SOURCES[source];
  const sound = useListening(player, nowMs, say);
  const deaf = sound.listening === undefined;
  const measure = (which = source) => {
    player.press({ do: 'measure', source: which });
    if (deaf) sound.open();
  };
  const enter = () => {
    if (usable) player.press({ do: 'use' });
    else if (!measuring) measure();
    else if (deaf) sound.open();
  };
  const stop = () => player.press({ do: 'stop' });
  const askStretch = () => player.press({ do: 'stretch' });
  const inForce = (hz: number, standard: boolean) => player.press({ do: 'put', a4Hz: hz, standard });
  const pluck = (hardness: number) => {
    if (!sounding) return;
    if (plan && string) {
      sound.pluck(() => demo!.stringOf(string.record.instrumentId, plan.stringId)!, hardness);
      return;
    }
    const truth = source === 'string' ? SOUNDED.fork : SOUNDED[source];
    const up = octave ?? 0;
    sound.pluck(() => ({ ...truth, targetHz: truth.targetHz * 2 ** up * ratioOfCents(STRETCH * up) }), hardness);
  };
  const { actions } = useActions(KEYS.reference, [
    { key: 'listen', on: sound.toggle },
    {
      key: 'take',
      words: usable ? 'Use it' : 'Measure',
      strong: usable !== undefined || !sounding,
      disabled: measuring && !usable && !deaf,
      on: enter,
    },
    {
      key: 'choose',
      on: (_, k) => {
        const which = NAMED[Number(k) - 1];
        if (which) measure(which);
      },
    },
    found !== undefined &&
      source === 'keyboard' &&
      !others && { key: 'stretch', words: 'Its octaves too', on: askStretch },
    measuring && { key: 'again', words: 'Start again', on: stop },
    demo && sounding && { key: 'pluck', words: 'Sound it (simulated)', on: (shift) => pluck(shift ? 1 : 0.4) },
  ]);

  const { reference } = bench;
  const tells = toldInPractice(bench.exercises, 'against-a-tone');
  const warm = source === 'fork' && bench.room ? STEEL_PER_DEGREE * (bench.room.tempC - 20) : 0;
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
            In use: <b className="figure">{a4Hz.toFixed(1)} Hz</b>
            {reference &&
              `, ${reference.source ?? 'typed'}${reference.sigmaCents === undefined ? '' : ` ${plusMinus(reference.sigmaCents, 2)} cents`}, since ${sinceTime(reference.atMs, now, zone)}`}
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
                onClick={() => measure(s)}
              >
                {SOURCES[s].words}
              </Button>
            ))}
          </div>
          {average && (
            <p data-testid="result" className="max-w-2xl text-2xl leading-snug font-semibold">
              {averageWords(
                plan ? `By your ${note} the A4 is` : `Your ${it} is`,
                average,
                cents(average.frequencyHz, a4Hz),
              )}
              {found ? '. Use it, or tell the others.' : '.'}
            </p>
          )}
          {readings.length > 0 && <Repeats readings={readings} average={average} a4Hz={a4Hz} />}
          {average && (
            <p className="pb-2 text-sm">
              {repeatsTold(average, readings.length, drift, source).join(' ')}
              {plan && ' Then all are in tune with each other.'}
              {tells !== undefined && ` ${noticedWords(cents(average.frequencyHz, a4Hz), tells)}`}
              {Math.abs(warm) > 0.3 && ` ${forkWords(warm)}`}
            </p>
          )}
          {found && <OtherDevice frequencyHz={found.frequencyHz} />}
          {found && source === 'keyboard' && (
            <p data-testid="stretch" className="pb-2 text-sm">
              {stretch === undefined
                ? 'Press S to read its other As: that shows how wide its octaves are.'
                : octavesWords(stretch, (others?.length ?? 0) + 1)}
            </p>
          )}
          {source === 'string' && (
            <p className="pb-2 text-sm">
              <label>
                The string{' '}
                <select
                  className="rounded-md border border-ink2 bg-sheet px-2 py-1"
                  value={string?.key}
                  onChange={(e) => player.press({ do: 'string', key: e.target.value })}
                >
                  {strings.map((s) => (
                    <option key={s.key} value={s.key}>
                      {s.record.name}, {s.plan.note}
                    </option>
                  ))}
                </select>
              </label>
            </p>
          )}
          <h2 className="pt-2 pb-1 font-semibold">Or use a standard, or your own</h2>
          <div role="group" aria-label="Standards" className="flex flex-wrap gap-2 pb-4">
            {STANDARDS.map((hz) => (
              <Button key={hz} aria-pressed={a4Hz === hz} strong={a4Hz === hz} onClick={() => inForce(hz, true)}>
                {hz} Hz
              </Button>
            ))}
          </div>
          <OwnA4 say={say} onUse={(hz) => inForce(hz, false)} />
          <ul aria-label="What stands off together" className="text-sm">
            {bench.instruments.flatMap((life) => {
              const off = commonOffset(life, statuses.get(life.record.instrumentId) ?? [], a4Hz);
              return off ? [<li key={life.record.instrumentId}>{off.words}</li>] : [];
            })}
          </ul>
        </section>
        <WorkColumn
          heading={octave !== undefined ? 'Its other As' : sounding ? `Repeat ${readings.length + 1}` : 'The reference'}
          note={note}
          instruction={
            sounding
              ? deaf
                ? 'Press Space to listen'
                : octave === undefined
                  ? instruction
                  : `Hold its ${note} down`
              : found
                ? 'Press Enter to use it'
                : `Press Enter to measure the ${it}`
          }
          hint={sounding && <HeldTone trace={sound.trace} fromHz={a4Hz * perA4} />}
          toleranceCents={TOLERANCE_CENTS}
          message={message}
        />
      </div>
      <BottomBar sound={sound} actions={actions} />
    </div>
  );
}
