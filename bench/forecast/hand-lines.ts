/** How forecasts hold on strings that hands have stretched, warmed and played. */
import { quantile } from 'simple-statistics';
import { chanceToHold, fallAhead, fitSettling, mixtureQuantile, type SettlingEvent } from '../../src/core/settling';
import { GROUPS, handCase } from './hands';

const HORIZONS = [10, 90, 720];
const PERCENT = (n: number, of: number) => `${((100 * n) / Math.max(1, of)).toFixed(0)} %`;

/** What was done is known only as another tuning of unknown size, as before hands were told. */
const asRetunes = (events: readonly SettlingEvent[]): SettlingEvent[] =>
  events.map((e) => (e.kind === 'read' ? e : { t: e.t, kind: 'retune' }));

/** Lines of the report. @param count strings a group */
export function handLines(seed: number, count: number): string[] {
  const rows = GROUPS.flatMap((group) =>
    (['as retunings', 'as what it was'] as const).map((way) => {
      const errors: number[][] = HORIZONS.map(() => []);
      const covered = HORIZONS.map(() => 0);
      const n = { ready: 0, wrongly: 0, would: 0, missed: 0 };
      for (let id = 0; id < count; id++) {
        const c = handCase(group, id, seed, HORIZONS);
        const events = way === 'as retunings' ? asRetunes(c.events) : c.events;
        const fit = fitSettling({ material: c.material, events }, c.issueMin);
        HORIZONS.forEach((h, k) => {
          const mix = fallAhead(fit, h);
          const fall = c.centsAfter(0) - c.centsAfter(h);
          const [low, middle, high] = [0.05, 0.5, 0.95].map((p) => mixtureQuantile(mix, p));
          errors[k]!.push(Math.abs(middle! - fall));
          if (fall >= low! && fall <= high!) covered[k]!++;
        });
        const holds = Math.abs(c.centsAfter(0) - c.centsAfter(90)) <= 3;
        const said = chanceToHold(fit, 90, 3, 0) >= 0.85;
        if (said) n.ready++;
        if (said && !holds) n.wrongly++;
        if (holds) n.would++;
        if (holds && !said) n.missed++;
      }
      const medians = errors.map((e) => quantile(e, 0.5).toFixed(2)).join(' / ');
      return `| ${group} | ${way} | ${medians} | ${covered.map((v) => PERCENT(v, count)).join(' / ')} | ${PERCENT(n.wrongly, n.ready)} of ${n.ready} | ${PERCENT(n.missed, n.would)} of ${n.would} |`;
    }),
  );
  return [
    `${count} strings a line that hands have pulled, warmed or played, or not, by laws of this bench alone; seed ${seed}; cents.`,
    '',
    '| strings | what was done is taken | median error at 10 min / 90 min / 12 h | truth within nine of ten | said to hold ±3 for 90 min, and does not | would hold, and is not believed |',
    '|---|---|---|---|---|---|',
    ...rows,
  ];
}
