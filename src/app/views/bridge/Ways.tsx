import { counted } from '../../../core/base';
import { NotWorkedOut } from '../../parts/NotWorkedOut';
import { useAsked } from '../../world/asked';
import type { WaysAsk } from '../../analyst/questions';
import { inOneWords, WAY_WORDS } from '../../../core/bridge';

/** What each way to tune would take on this very bridge: imagined a few times over, as far as it is known. */
export function Ways({ instrumentId, ask }: { instrumentId: string; ask: WaysAsk }) {
  const { data, error } = useAsked({ question: 'ways', subject: instrumentId, of: 0, ask, waits: true });
  return (
    <section aria-label="Ways to tune it" className="w-96 max-w-full">
      <h2 className="text-xs text-ink2">What each way takes here, as far as it is known</h2>
      <NotWorkedOut error={error} waiting={!data} what="What each way takes" />
      <ul data-testid="ways" className="pt-1 text-sm">
        {(data ?? []).map(({ way, passes, afterOne }) => (
          <li key={way} className="flex gap-3 border-b border-line py-1">
            <span className="min-w-44 max-w-44">{WAY_WORDS[way]}</span>
            <b className="figure ml-auto">{passes >= 15 ? '15 or more passes' : counted(passes, 'pass', 'passes')}</b>
            <span className="figure w-24 text-right whitespace-nowrap text-ink2">{inOneWords(afterOne)}</span>
          </li>
        ))}
      </ul>
      <p className="max-w-sm pt-1 text-xs text-ink2">
        No order is faster than another. The mirror helps where all strings are off alike and springs are few. A block
        can fly out: slacken first, and hold it.
      </p>
    </section>
  );
}
