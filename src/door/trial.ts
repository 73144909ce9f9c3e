import { array, number, object } from 'yup';
import { COLDEST_C, LONGEST_SPAN_MIN, MOST_CENTS, WARMEST_C } from '../core/limits';
import { judgeTrial } from '../core/trial';
import { checked, refused } from './lines';

const reading = object({
  t: number().strict().min(0).max(LONGEST_SPAN_MIN).required(),
  fall: number().strict().min(-MOST_CENTS).max(MOST_CENTS).required(),
  tempC: number().strict().min(COLDEST_C).max(WARMEST_C).optional(),
});
const side = () => array().of(reading.required()).max(5000).required();
const schema = object({
  pairs: array()
    .of(object({ treated: side(), control: side() }).required())
    .max(1000)
    .required(),
});

/** One `trial`: pairs of strings, treated and not, with their total falls; how their slopes compare. */
export function trialLine(item: Record<string, unknown>): object {
  const valid = checked(schema, item, 'bad-trial');
  if (!valid.ok) return valid;
  const trial = valid.value;
  const judged = judgeTrial(trial.pairs);
  if (!judged) return refused('too-few-readings', 'No pair has three readings at different ages on both strings.');
  return { ok: true, ratio: judged.ratio, pairs: judged.usable, verdict: judged.verdict };
}
