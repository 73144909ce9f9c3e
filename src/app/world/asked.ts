import { useQueries, useQuery, useQueryClient, type QueryClient, type UseQueryOptions } from '@tanstack/react-query';
import type { Questions } from '../analyst/questions';
import type { Analyst } from '../analyst/client';
import { useWorld } from './world';
import type { StoreName } from '../store/database';

/** What is asked of the worker about one thing in the log. */
export interface Asked<K extends keyof Questions> {
  question: K;
  /** What it is about: an instrument's id, a trial's; the answer to another one never stands in. */
  subject: string;
  /** What the log says of it, or a number that grows with it: asked anew when that is another. */
  of: object | number;
  ask: Questions[K]['ask'];
  /** Gives way to other questions. */
  waits?: boolean;
  enabled?: boolean;
}

const revisions = new WeakMap<object, number>();
let newest = 0;
/** The revision of what the log says: the index gives it afresh when something was written of it. */
function revisionOf(of: object | number): number {
  if (typeof of === 'number') return of;
  const known = revisions.get(of) ?? ++newest;
  revisions.set(of, known);
  return known;
}

/** The one way to ask: keyed by world, question, subject, the log's revision of it, and what is asked. */
function askedOptions<K extends keyof Questions>(
  { question, subject, of, ask, waits = false, enabled = true }: Asked<K>,
  world: StoreName,
  askWorker: Analyst['ask'],
  client: QueryClient,
): UseQueryOptions<Questions[K]['answer'], Error> {
  const about = ['asked', world, question, subject];
  const options = {
    queryKey: [...about, revisionOf(of), ask],
    queryFn: ({ signal }: { signal: AbortSignal }) => askWorker(question, ask, { signal, waits }),
    enabled,
    gcTime: waits ? 600000 : 30000,
    // What was last known of it, while the new answer is worked out: nothing goes blank meanwhile.
    placeholderData: () =>
      client
        .getQueryCache()
        .findAll({ queryKey: about })
        .filter((q) => q.state.data !== undefined)
        .sort((a, b) => a.state.dataUpdatedAt - b.state.dataUpdatedAt)
        .at(-1)?.state.data as Questions[K]['answer'] | undefined,
  };
  // The library's types ask whether an answer may be a function: none of ours is.
  return options as unknown as UseQueryOptions<Questions[K]['answer'], Error>;
}

/** Asks the worker what follows from the log. An error is told where its answer would stand. */
export function useAsked<K extends keyof Questions>(asked: Asked<K>) {
  const { ask, world } = useWorld();
  const client = useQueryClient();
  const { data, error, isPlaceholderData } = useQuery(askedOptions(asked, world, ask, client));
  return { data, error, /** The answer is to what was asked before. */ stale: isPlaceholderData };
}

/** Asks the same of several; answers in their order. */
export function useAskedEach<K extends keyof Questions>(asked: readonly Asked<K>[]) {
  const { ask, world } = useWorld();
  const client = useQueryClient();
  return useQueries({
    queries: asked.map((a) => askedOptions(a, world, ask, client)),
    combine: (all) => ({
      data: all.map((r) => r.data as Questions[K]['answer'] | undefined),
      error: all.find((r) => r.error)?.error as Error | undefined,
    }),
  });
}
