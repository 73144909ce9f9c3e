import { useState } from 'react';
import type { InstrumentLife, StringRef, TrialRecord } from '../../../core/log';
import { trialSides, holdsAsked } from '../../../core/says';
import { verdictWords } from '../../../core/trial';
import { Button } from '../../parts/Button';
import { fileName, saveFile } from '../../parts/saveFile';
import { NotWorkedOut } from '../../parts/NotWorkedOut';
import { useAsked } from '../../world/asked';
import { useNow } from '../../world/now';
import { useSaidEach } from '../../world/said';
import { HOLD_MIN, TOLERANCE_CENTS } from '../../../core/check';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';
import { PairsDrawing } from './PairsDrawing';
import { MINUTE } from '../../../core/base';

const STEP_MS = MINUTE;

/** How one trial stands. */
export function TrialResult({ trial, instruments }: { trial: TrialRecord; instruments: readonly InstrumentLife[] }) {
  const now = Math.ceil(useNow(10000) / STEP_MS) * STEP_MS;
  const { bench } = useWorld();
  const [message, say] = useState('');
  const write = useWriting(say);
  const lifeOf = ({ instrumentId, stringId }: StringRef) =>
    instruments.find((i) => i.record.instrumentId === instrumentId)?.strings.find((s) => s.plan.stringId === stringId);
  const present = trial.pairs.filter((p) => lifeOf(p.treated) && lifeOf(p.control));
  const { data: judged, error } = useAsked({
    question: 'trial',
    subject: trial.trialId,
    of: bench,
    ask: { pairs: present, endedMs: trial.over ? trial.atMs : null },
  });
  const concerned = instruments.filter((i) =>
    present.some((p) => [p.treated, p.control].some((r) => r.instrumentId === i.record.instrumentId)),
  );
  const said = useSaidEach(concerned, now);
  const sides = trialSides(present, said.all);
  const { what, trialId, byLot, pairs } = trial;
  const end = () =>
    void write([{ type: 'trial', trialId, what, byLot, pairs, over: true }], () =>
      say('Ended: later readings do not count.'),
    );
  const give = () =>
    saveFile(
      `comparison-${fileName(what)}.json`,
      JSON.stringify({ what, byLot, pairs, over: trial.over ?? false, result: judged ?? null }, null, 2),
      'application/json',
    );
  const sameInstrument = trial.pairs.every((p) => p.treated.instrumentId === p.control.instrumentId);
  return (
    <article aria-labelledby={`trial-${trial.trialId}`} className="pb-6">
      <h2 id={`trial-${trial.trialId}`} className="text-xl font-bold">
        {trial.what}
      </h2>
      <p className="pb-2 text-sm text-ink2">
        {trial.over && 'ended, '}
        {trial.pairs.length} pairs,{' '}
        {sameInstrument
          ? trial.byLot
            ? 'by lot within the instrument'
            : 'chosen by hand'
          : 'these two instruments only'}
      </p>
      <NotWorkedOut error={error ?? said.error} waiting={judged === undefined} what="What it has shown" />
      {judged ? (
        <>
          <p data-testid="verdict" className="max-w-3xl pb-3 text-2xl font-semibold leading-snug">
            {verdictWords(judged)}
            {!sameInstrument && ' This is true of these two instruments only.'}
          </p>
          <PairsDrawing
            trial={judged}
            names={present.map((p) => `${lifeOf(p.treated)!.plan.note} treated, ${lifeOf(p.control)!.plan.note} not`)}
          />
          <p className="pt-1 text-xs text-ink2">
            Slope of the treated string over that of its untreated neighbour at equal age, 90 % intervals. Left of the
            line: it fell less. A verdict wants four pairs and leaves out 1 with 95 %.
          </p>
        </>
      ) : judged === null ? (
        <p data-testid="verdict">No pair has three readings on both strings yet: go on reading all of them.</p>
      ) : null}
      {sides.length === 2 && (
        <table className="mt-3 text-left text-sm">
          <thead>
            <tr className="text-ink2">
              <th scope="col" className="pr-6 font-normal" />
              <th scope="col" className="pr-6 font-normal">
                still to fall in one day
              </th>
              <th scope="col" className="font-normal">
                {holdsAsked(TOLERANCE_CENTS, HOLD_MIN)}
              </th>
            </tr>
          </thead>
          <tbody className="figure">
            {sides.map((side) => (
              <tr key={side.name} className="border-t border-line">
                <th scope="row" className="pr-6 font-sans">
                  {side.name}
                </th>
                <td>{side.perDay}</td>
                <td>{side.holds}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="flex flex-wrap gap-2 pt-3 print:hidden">
        {!trial.over && <Button onClick={end}>End it</Button>}
        <Button onClick={() => window.print()}>Print</Button>
        <Button onClick={give}>Export (JSON)</Button>
        <span role="status" className="self-center text-sm">
          {message}
        </span>
      </p>
      <p className="pt-2 text-xs text-ink2">
        This shows how the strings settle, not whether the treatment is safe. Ask the maker or a repairer.
      </p>
    </article>
  );
}
