import { array, mixed, number, object } from 'yup';
import { LEAST_SIGMA_CENTS, LONGEST_SPAN_MIN, MOST_CENTS } from '../core/limits';
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

/** What can happen to a string, by the version of the document. */
type EventKind = SettlingEvent['kind'];
const KINDS: Record<1 | 2, EventKind[]> = { 1: ['retune', 'read'], 2: ['retune', 'read', 'stretch', 'warm', 'play'] };
/** Nobody warms or plays a string for longer without a reading, min. */
const MOST_HAND_MIN = 1440;

const caseSchema = (version: 1 | 2) =>
  object({
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
          kind: mixed<EventKind>().oneOf(KINDS[version]).required(),
          minutes: number()
            .strict()
            .min(0.1)
            .max(MOST_HAND_MIN)
            .when('kind', { is: (k: string) => k === 'warm' || k === 'play', then: (s) => s.required() }),
          sigmaCents: number().strict().min(LEAST_SIGMA_CENTS).max(100),
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
function forecastCase(value: unknown, schema: ReturnType<typeof caseSchema>): object {
  const startedNs = process.hrtime.bigint();
  const valid = checked(schema, value, 'bad-case');
  if (!valid.ok) return { id: (value as { id?: unknown } | null)?.id ?? null, ...valid };
  const c = valid.value;
  const events = c.events
    .filter((e) => e.t <= c.issueT)
    .map((e): SettlingEvent => {
      if (e.kind === 'retune' || e.kind === 'stretch') return { t: e.t, kind: e.kind };
      if (e.kind !== 'read') return { t: e.t, kind: e.kind, minutes: e.minutes! };
      return {
        t: e.t,
        kind: 'read',
        cents: e.cents!,
        ...(e.sigmaCents === undefined ? {} : { sigmaCents: e.sigmaCents }),
        ...(typeof e.tempC === 'number' ? { tempC: e.tempC } : {}),
      };
    })
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

const SCHEMAS = new Map<unknown, ReturnType<typeof caseSchema>>([
  ['settle-cases/1', caseSchema(1)],
  ['settle-cases/2', caseSchema(2)],
]);

/** `forecast`: a settle-cases/1 or /2 document in, a settle-forecasts/1 document out. */
export function forecastDocument({ format, cases }: Record<string, unknown>): object {
  const schema = SCHEMAS.get(format);
  if (!schema || !Array.isArray(cases) || cases.length > MOST_CASES)
    return refused('bad-document', 'Expected {"format":"settle-cases/1" or "settle-cases/2","cases":[…]}.');
  return { format: 'settle-forecasts/1', forecasts: cases.map((c) => forecastCase(c, schema)) };
}
