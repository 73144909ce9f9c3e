import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { causeBuildOf, frictionTests } from '../../../core/causes';
import type { Measure } from '../../../core/codes';
import type { InstrumentLife } from '../../../core/log';
import { traitsOf } from '../../../core/strings';
import { useDigits } from '../../keys/digits';
import { KEYS } from '../../keys/table';
import { BottomBar } from '../../guided/BottomBar';
import { soundActions, useActions } from '../../guided/useActions';
import { FirstStep } from '../../parts/FirstStep';
import { WITH_COLUMN } from '../../guided/WorkColumn';
import { useNow } from '../../world/now';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';
import { ProbeColumn } from '../../guided/ProbeColumn';
import { useProbe } from '../../guided/useProbe';
import { HeadField } from './HeadField';
import { Limits } from './Limits';
import { Past } from './Past';
import { Tricks } from './Tricks';
import { MINUTE } from '../../../core/base';
import { changeWords, trickWords, instrumentFriction, loseWords, bendWords, lastsWords } from '../../../core/friction';

/** What every string can lose to its nut, what a lubricant does to that and for how long, and the tricks where it cannot be cured. */
export function FrictionView({ life }: { life: InstrumentLife }) {
  const { bench, demo, basePath, zone } = useWorld();
  const now = useNow(MINUTE);
  const { instrumentId } = life.record;
  const friction = useMemo(() => instrumentFriction(life, bench), [life, bench]);
  const { holds, frets } = traitsOf(life.record);
  const [chosen, setChosen] = useState(life.strings[0]!.plan.stringId);
  /** What was measured in this sitting is done, unless it is wanted once more: Enter goes on to the next one. */
  const measured = (id: string) =>
    bench.tests.filter((t) => t.instrumentId === instrumentId && t.stringId === id && t.test === 'friction').length;
  const [before, setBefore] = useState<ReadonlyMap<string, number>>(
    () => new Map(life.strings.map(({ plan }) => [plan.stringId, measured(plan.stringId)])),
  );
  const isDone = (id: string) => measured(id) > (before.get(id) ?? 0);
  const [message, say] = useState('');
  const session = useProbe(frictionTests, life, say);
  const at = Math.max(
    0,
    life.strings.findIndex((s) => s.plan.stringId === (session.run?.stringId ?? chosen)),
  );
  const string = life.strings[at]!;
  const { stringId, note } = string.plan;
  const own = friction.strings[at]!;
  const figure = own.figures.at(-1)?.figure;
  const { run, sound } = session;
  const inHand = run?.stringId;
  useEffect(() => {
    if (inHand) setChosen(inHand);
  }, [inHand]);
  const write = useWriting(say);

  const begin = (measure: Measure, index = at) =>
    session.press({ do: 'begin', test: measure, stringId: life.strings[index]!.plan.stringId, why: null });
  const left = life.strings.findIndex((s) => !isDone(s.plan.stringId));
  const following = isDone(stringId) ? left : at;
  const enter = () => {
    if (session.enter()) return;
    if (following >= 0) begin('friction', following);
  };
  const toMeasure = (of: string) => setBefore((m) => new Map(m).set(of, measured(of)));
  const choose = (index: number) => {
    const to = life.strings[index];
    if (!to) return;
    session.end();
    setChosen(to.plan.stringId);
    toMeasure(to.plan.stringId);
    say('');
  };
  const lubricated = () => {
    session.end();
    demo?.mend(instrumentId, stringId, ['nut', 'tree']);
    toMeasure(stringId);
    void write([{ type: 'treatment', instrumentId, stringIds: [stringId], treatment: 'lubricated' }], () =>
      say(`${note}: lubricated. Press Enter to measure it again.`),
    );
  };
  const digit = useDigits(life.strings.length, choose, (d) => say(`String ${d} …`));
  const { actions, more } = useActions(KEYS.friction, [
    ...soundActions(sound),
    {
      key: 'take',
      words: session.part ? (session.sounding ? 'Save it' : 'Done') : 'Measure',
      strong: !session.sounding,
      disabled: !session.part && following < 0,
      on: enter,
    },
    run && { key: 'again', words: 'Start again', on: session.again },
    run && { key: 'end', words: 'Stop', on: session.end },
    { key: 'lubricated', words: run ? undefined : 'I lubricated it', on: lubricated },
    { key: 'routine', words: run ? undefined : 'Bend all', on: () => begin('routine', 0) },
    { key: 'up', words: 'Raise it without the tuner', menu: true, on: () => begin('wings-up') },
    { key: 'down', words: 'Lower it without the tuner', menu: true, on: () => begin('wings-down') },
    { key: 'choose', on: (_, key) => digit(Number(key)) },
    demo &&
      session.sounding && { key: 'pluck', words: 'Pluck (simulated)', on: (shift) => session.pluck(shift ? 1 : 0.4) },
  ]);
  const isMeasured = friction.strings.some((s) => s.figures.length > 0);

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className={WITH_COLUMN}>
        <section
          aria-label="Friction"
          tabIndex={0}
          className="min-w-0 overflow-y-auto px-4 py-2 max-md:overflow-visible"
        >
          {!isMeasured && (
            <FirstStep drawing={<LimitsSketch />}>
              A string that sticks at the nut can rest anywhere between two limits. A hard bend takes it to the flat
              limit, a press behind the nut to the sharp one. The distance is what you can lose. Press Enter to measure
              the first string.
            </FirstStep>
          )}
          <Limits strings={friction.strings} chosen={stringId} nowMs={now} zone={zone} onChoose={choose} />
          {figure && (
            <section aria-label={`The ${note}`} className="max-w-2xl py-3">
              <p className="text-2xl leading-snug font-semibold">{loseWords(figure.cents, note)}</p>
              <p data-testid="trick" className="pt-1 text-lg">
                {trickWords(figure)}
              </p>
              <p className="pt-1 text-sm">
                {bendWords(figure)}
                {changeWords(own)}
              </p>
            </section>
          )}
          <HeadField key={stringId} life={life} stringId={stringId} onRefused={say} />
          <Tricks friction={friction.strings} bench={`${basePath}/bench/${instrumentId}`} />
          {friction.lasts && (
            <p data-testid="lasts" className="pt-2 text-sm">
              {lastsWords(friction.lasts)}
            </p>
          )}
          <Past friction={friction} chart={document.documentElement.dataset['chart'] ?? ''} />
        </section>
        <ProbeColumn
          session={session}
          message={message}
          note={note}
          tree={causeBuildOf(life).tree}
          heading="Sticks at the nut"
          instruction={
            following < 0
              ? 'All are measured. Press a digit to measure one again'
              : following === at
                ? `Press Enter to measure ${note}`
                : `Press Enter for the next string, ${life.strings[following]!.plan.note}`
          }
        >
          <Advice keys="L">
            Lubricate: string off or lifted aside, the slot wiped, a trace, what is too much wiped off. A slot that is
            too narrow, too deep or cracked is a job for a repairer.
          </Advice>
          <Advice keys="G">
            Before a show, where it cannot be cured:{' '}
            {holds === 'springs'
              ? 'the bar down and up'
              : frets
                ? 'every string bent full'
                : 'every string drawn aside gently in its middle'}
            , then all from below. What that takes out is read.
          </Advice>
          <Advice keys="U D">
            Backstage: a press behind the nut raises a string a little, a pull in the middle lowers it. Both come back:
            how much is read, not believed.
          </Advice>
        </ProbeColumn>
      </div>
      <BottomBar sound={sound} actions={actions} more={more} />
    </div>
  );
}

const Advice = ({ keys, children }: { keys: string; children: ReactNode }) => (
  <p className="flex gap-2 text-sm leading-snug">
    <kbd className="figure shrink-0 max-lg:hidden">{keys}</kbd>
    <span>{children}</span>
  </p>
);

/** Two limits, and a string between them. */
const LimitsSketch = () => (
  <>
    <path d="M40 28V62M120 28V62" stroke="var(--ink)" strokeWidth={4} />
    <path d="M40 45H120" stroke="var(--deep)" />
    <circle cx={62} cy={45} r={6} fill="var(--sheet)" stroke="var(--ink)" />
  </>
);
