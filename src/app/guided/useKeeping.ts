import { useState } from 'react';
import { cents, stringTargetHz } from '../../core/music';
import { type PassStep, type TunerLearned, type Verdict } from '../../core/guided';
import { leadIn } from '../../core/check';
import type { InstrumentLife, ReadingRecord, Source } from '../../core/records';
import { signed } from '../parts/format';
import { figuresOf } from './figures';
import { heldInMemory } from '../world/held';
import { TOLERANCE_CENTS } from '../world/status';
import { useWorld } from '../world/world';
import type { useCheckPass } from './useCheckPass';

/** Standard error given to a figure typed from another device, cents (house estimate). */
export const TYPED_SIGMA = 1;
/** A second pluck this close to the first confirms that it moved at once, cents. */
const CONFIRM_CENTS = 2.5;
/** A start so much sharper than the note is told, cents. */
const HARD_CENTS = 4;

type Fields = Pick<ReadingRecord, 'purpose' | 'source' | 'frequencyHz' | 'cents' | 'sigmaCents' | 'partials'> &
  Partial<ReadingRecord>;

/** Keeps what was heard or typed of a string, and says so in words. */
export function useKeeping(life: InstrumentLife, pass: ReturnType<typeof useCheckPass>, say: (words: string) => void) {
  const { bench, a4Hz, append } = useWorld();
  const [insist, setInsist] = useState(false);
  const { instrumentId } = life.record;
  const { step } = pass;

  async function keep(stringId: string, heard: Fields, of: PassStep | undefined, learned?: TunerLearned) {
    const string = life.strings.find((s) => s.plan.stringId === stringId)!;
    const targetHz = stringTargetHz(string.plan, a4Hz)!;
    const leadCents = heard.purpose === 'as-left' ? leadIn(pass.pass, stringId) : 0;
    // What was heard of a string that is left above its target was counted from there.
    const fields = leadCents === 0 ? heard : { ...heard, cents: cents(heard.frequencyHz, targetHz) };
    const previous = string.readings[string.readings.length - 1];
    const leapt =
      of?.leapCents !== undefined && previous !== undefined && Math.abs(previous.cents - fields.cents) < CONFIRM_CENTS;
    const { note } = string.plan;
    const off = Math.abs(fields.cents - leadCents) > TOLERANCE_CENTS;
    const words = fields.purpose === 'as-found' ? 'as found' : off ? 'kept as it is,' : 'as left';
    let held = '';
    try {
      await append([
        {
          type: 'reading',
          instrumentId,
          stringId,
          targetHz,
          a4Hz,
          ...(bench.room ? { tempC: bench.room.tempC } : {}),
          ...(leapt ? { slip: true } : {}),
          ...(leadCents === 0 ? {} : { leadCents }),
          ...(pass.pass ? { passId: pass.pass.passId } : {}),
          ...fields,
        },
        ...(learned ? [{ type: 'tuner' as const, instrumentId, stringId, ...learned }] : []),
      ]);
      const hard =
        (fields.glideCents ?? 0) >= HARD_CENTS
          ? ` Plucked hard: ${fields.glideCents!.toFixed(0)} cents sharp at first.`
          : '';
      const meant = leadCents === 0 ? '' : ` It was to be left at ${signed(leadCents)}.`;
      say(`${note} ${words} ${signed(fields.cents)} ±${fields.sigmaCents.toFixed(1)} kept.${meant}${hard}`);
    } catch (error) {
      held = `${note} ${signed(fields.cents)}: ${heldInMemory(error as Error)}`;
      say(held);
    }
    const above = fields.arrival === 'from above' || fields.arrival === 'overshot';
    if (fields.purpose === 'as-left' && above) {
      pass.chooseIn(life, { stringId, purpose: 'left', again: true });
      if (!held) say(`${note} kept, but it came from above and may fall. Finish it from below, or press N to go on.`);
    } else pass.clearChoice();
    setInsist(false);
  }

  const hear = (verdict: Verdict, source: Source, note: string) => {
    if (verdict.kind !== 'keep') {
      say(verdict.message);
      return;
    }
    const figures = figuresOf(verdict.reading);
    if (!step) {
      say(`${note} stands at ${signed(figures.cents)}. Press Enter to start a check pass and keep readings.`);
      return;
    }
    const { arrival, learned } = verdict;
    const purpose = step.purpose === 'left' ? 'as-left' : 'as-found';
    void keep(step.stringId, { ...figures, source, purpose, ...(arrival ? { arrival } : {}) }, step, learned);
  };
  return { keep, hear, insist, setInsist };
}
