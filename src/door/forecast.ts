import { array, mixed, number, object } from 'yup';
import { LONGEST_SPAN_MIN, MOST_CENTS } from '../core/limits';
import {
  chanceToHold,
  fallAhead,
  fitSettling,
  MATERIAL_CODES,
  mixtureMean,
  mixtureQuantile,
  type SettlingEvent,
  type SettlingMaterial,
} from '../core/settling';
import { checked, refused } from './lines';

const minutes = () => number().strict().min(0).max(LONGEST_SPAN_MIN).required();
const MOST_CASES = 100000;
const MOST_EVENTS = 5000;

const caseSchema = object({
  id: mixed<string | number>().required(),
  material: mixed<SettlingMaterial>().oneOf(MATERIAL_CODES).required(),
  issueT: minutes(),
  horizonsMin: array().of(number().strict().positive().max(LONGEST_SPAN_MIN).required()).max(1000).required(),
  tolerances: array().of(number().strict().positive().max(MOST_CENTS).required()).max(100).required(),
  performanceMin: number().strict().positive().max(LONGEST_SPAN_MIN).required(),
  events: array()
    .of(
      object({
        t: minutes(),
        kind: mixed<'retune' | 'read'>().oneOf(['retune', 'read']).required(),
        cents: number()
          .strict()
          .min(-MOST_CENTS)
          .max(MOST_CENTS)
          .when('kind', { is: 'read', then: (s) => s.required() }),
        tempC: number().strict().nullable().min(-60).max(90),
      }),
    )
    .max(MOST_EVENTS)
    .required(),
});

const QUANTILES = { q05: 0.05, q10: 0.1, q50: 0.5, q90: 0.9, q95: 0.95 };

/** Answers one case: the string's history in, its fall ahead and its chance to hold out. */
function forecastCase(value: unknown): object {
  const startedNs = process.hrtime.bigint();
  const valid = checked(caseSchema, value, 'bad-case');
  if (!valid.ok) return { id: (value as { id?: unknown } | null)?.id ?? null, ...valid };
  const c = valid.value;
  const events = c.events
    .filter((e) => e.t <= c.issueT)
    .map((e): SettlingEvent =>
      e.kind === 'retune'
        ? { t: e.t, kind: 'retune' }
        : { t: e.t, kind: 'read', cents: e.cents!, ...(typeof e.tempC === 'number' ? { tempC: e.tempC } : {}) },
    )
    .sort((a, b) => a.t - b.t);
  const fit = fitSettling({ material: c.material, events }, c.issueT);
  const fall = Object.fromEntries(
    c.horizonsMin.map((h) => {
      const mix = fallAhead(fit, h);
      const quantiles = Object.entries(QUANTILES).map(([name, p]) => [name, mixtureQuantile(mix, p)]);
      return [String(h), { mean: mixtureMean(mix), ...Object.fromEntries(quantiles) }];
    }),
  );
  const pHold = Object.fromEntries(
    c.tolerances.map((tol) => [String(tol), chanceToHold(fit, c.performanceMin, tol, 0)]),
  );
  return { id: c.id, ms: Number(process.hrtime.bigint() - startedNs) / 1e6, fall, pHold };
}

/** `forecast`: a settle-cases/1 document in, a settle-forecasts/1 document out. */
export function forecastDocument({ format, cases }: Record<string, unknown>): object {
  if (format !== 'settle-cases/1' || !Array.isArray(cases) || cases.length > MOST_CASES)
    return refused('bad-document', 'Expected {"format":"settle-cases/1","cases":[…]}.');
  return { format: 'settle-forecasts/1', forecasts: cases.map(forecastCase) };
}
