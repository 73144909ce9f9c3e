import { useState } from 'react';
import { stringTargetHz } from '../../../core/music';
import { turnsFor, type FittingStep, type SCHOOLS } from '../../../core/fitting';
import { type Verdict, figuresOf } from '../../../core/guided';
import type { InstrumentLife, Source, StringLife } from '../../../core/records';
import { adviseRounds } from '../../../core/settling';
import { traitsOf } from '../../../core/strings';
import { signed } from '../../parts/format';
import { TOLERANCE_CENTS } from '../../../core/check';
import { useWorld } from '../../world/world';
import type { Draft } from '../../../core/records';
import { useWriting } from '../../world/writing';
import { REMOVALS } from './removal';
import type { Progress } from './useFitting';
import { dropSince, type useRounds } from './useRounds';

/** A fresh simulated string begins this far below its target, cents. */
const SLACK_CENTS = 700;

interface Given {
  life: InstrumentLife;
  progress: Progress;
  step: FittingStep | undefined;
  /** The one string that the step is about. */
  own: StringLife | undefined;
  rounds: ReturnType<typeof useRounds>;
  school: (typeof SCHOOLS)[number];
  /** The string is read after it was stretched, or brought to two semitones under. */
  reading: boolean;
  under: boolean;
  note: string;
  say: (sentence: string) => void;
  /** The step is written down. */
  onDone: () => void;
}

/** Writes the steps of a fitting into the log: ticked, skipped, heard. */
export function useKeepingSteps(g: Given) {
  const { bench, a4Hz, demo } = useWorld();
  const { life, step, own, rounds, say } = g;
  const { instrumentId } = life.record;
  /** It came from above: once more from below. */
  const [again, setAgain] = useState(false);

  const write = useWriting(say);

  /** Ticks or skips the step in hand, with what else it writes. */
  const finish = (outcome: 'done' | 'skipped', words: string, more: Draft[] = []) => {
    if (!step) return;
    const about = step.stringIds.length === 1 ? { stringId: step.stringIds[0]! } : {};
    const ticked: Draft = {
      type: 'fitting',
      instrumentId,
      ...about,
      step: step.code,
      outcome,
      ...(words ? { note: words } : {}),
    };
    void write([...more, ticked], g.onDone);
  };

  function endRounds(count: number) {
    const stretched: Draft[] = [
      {
        type: 'treatment',
        instrumentId,
        stringIds: step!.stringIds,
        treatment: 'stretched',
        note: `${count} rounds, ${g.school.name.toLowerCase()}`,
      },
    ];
    finish('done', g.note, count > 0 ? stretched : []);
  }

  /** The string stands at pitch: on to the next step, or to the next round. */
  function goOn() {
    setAgain(false);
    if (step?.kind === 'raise') finish('done', g.note);
    else if (rounds.advice.stop) endRounds(rounds.drops.length);
    else rounds.setPhase('stretch');
  }

  const hear = (verdict: Verdict, source: Source) => {
    if (!own || !step) return;
    if (verdict.kind !== 'keep') {
      say(verdict.message);
      return;
    }
    const { reading: outcome, arrival, learned } = verdict;
    const { stringId } = own.plan;
    const taught: Draft[] = learned ? [{ type: 'tuner', instrumentId, stringId, ...learned }] : [];
    if (g.under) {
      finish('done', g.note, taught);
      return;
    }
    const figures = figuresOf(outcome);
    const kept: Draft = {
      type: 'reading',
      instrumentId,
      stringId,
      targetHz: stringTargetHz(own.plan, a4Hz)!,
      a4Hz,
      source,
      ...(bench.room ? { tempC: bench.room.tempC } : {}),
      ...figures,
      purpose: g.reading ? 'as-found' : 'as-left',
      ...(g.reading ? { stretched: true } : arrival ? { arrival } : {}),
    };
    if (g.reading) {
      const dropCents = dropSince(own.readings.at(-1), outcome);
      const drops = [...rounds.drops, dropCents];
      const said = adviseRounds(drops);
      const isLow = Math.abs(outcome.cents) > TOLERANCE_CENTS;
      void write([kept, { type: 'round', instrumentId, stringId, dropCents, school: g.progress.school }], () => {
        say(`Dropped ${dropCents.toFixed(1)} cents. ${said.advice}`);
        if (isLow) rounds.setPhase('up');
        else if (said.stop) endRounds(drops.length);
        else rounds.setPhase('stretch');
      });
      return;
    }
    const above = arrival === 'from above' || arrival === 'overshot';
    void write([kept, ...taught], () => {
      say(
        `${own.plan.note} as left ${signed(outcome.cents)} kept.${above ? ' It came from above and may fall: take it below and up, or go on.' : ''}`,
      );
      setAgain(above);
      if (!above) goOn();
    });
  };

  /** What was written of a string since this fitting began is not written again when one steps back and on. */
  const isSince = (atMs: number | null | undefined) => (atMs ?? -Infinity) >= g.progress.startedMs;

  /** A step without sound is done. */
  const tick = (removal: number) => {
    if (!step) return;
    const strings = life.strings.filter((s) => step.stringIds.includes(s.plan.stringId));
    if (step.kind === 'remove') {
      const why = REMOVALS[removal]!.removal;
      // Said again of a string that is off already, it corrects what was said; of the new one it says nothing.
      const off = strings.filter((s) => !isSince(s.strungMs));
      finish(
        'done',
        g.note,
        why ? off.map((s) => ({ type: 'removed', instrumentId, stringId: s.plan.stringId, ...why })) : [],
      );
    } else if (step.kind === 'on') {
      const { tuner } = traitsOf(life.record);
      const on = strings.filter((s) => !isSince(s.strungMs));
      for (const s of on) demo?.restring(instrumentId, s.plan.stringId, SLACK_CENTS);
      finish(
        'done',
        g.note,
        on.map(({ plan: { stringId, material } }) => ({
          type: 'fitted',
          instrumentId,
          stringId,
          windings: turnsFor(material, tuner),
        })),
      );
    } else if (step.kind === 'warm') finish('skipped', g.note || 'left cold');
    else finish('done', g.note);
  };

  const warmed =
    step?.kind === 'warm'
      ? () => {
          for (const id of step.stringIds) demo?.stretch(instrumentId, id);
          finish('done', g.note, [{ type: 'treatment', instrumentId, stringIds: step.stringIds, treatment: 'warmed' }]);
        }
      : undefined;
  return { again, setAgain, finish, endRounds, goOn, hear, tick, warmed };
}
