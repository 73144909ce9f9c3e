import { Link } from 'react-router';
import type { InstrumentLife } from '../../../core/log';
import { traitsOf } from '../../../core/strings';
import { useWorld } from '../../world/world';

/** What people come with, in their words, and where each is answered. */
export function Wishes({ life }: { life: InstrumentLife }) {
  const { basePath } = useWorld();
  const { instrumentId } = life.record;
  const { frets, bowed, holds } = traitsOf(life.record);
  const at = (view: string) => `${basePath}/${view}/${instrumentId}`;
  const wishes = [
    { words: 'I have just put on new strings', to: at('fitting') },
    { words: 'It goes flat when I bend or play', to: `${at('causes')}?when=bending` },
    ...(frets || bowed ? [{ words: 'Is the saddle right?', to: at('octave') }] : []),
    { words: 'We play tonight', to: `${basePath}/plan` },
    { words: 'I have no tuner here', to: at('ear') },
    { words: holds === 'springs' ? 'Another tuning, floating bridge' : 'I want another tuning', to: at('tuning') },
  ];
  return (
    <nav aria-label="What do you want to do?" className="pb-3">
      <p className="pb-2 font-semibold">Nothing is read yet. Press Enter to check all strings, or choose:</p>
      <div className="flex flex-wrap gap-2">
        {wishes.map(({ words, to }) => (
          <Link key={words} to={to} className="rounded-lg border border-deep bg-sheet px-3 py-2 font-medium text-deep">
            {words}
          </Link>
        ))}
      </div>
    </nav>
  );
}
