import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/react';
import { ChevronDown } from 'lucide-react';
import { shortFigure, type Statement, type StatementKind } from '../../../core/says';
import { NoteName } from '../../parts/NoteName';
import { Pending } from '../../parts/Pending';
import { dashArray, strokeOf } from '../../parts/strokes';
import type { SaidOf } from '../../world/said';

interface Props {
  stringId: string;
  note: string;
  said: SaidOf;
  /** The show that its column is of, ms; null where none is ahead. */
  showMs: number | null;
  index: number;
  shown: boolean;
  onShow: () => void;
}

/** What is told of a string on demand; after the first, how it will stand at the show. */
const MORE = [
  'hold-chance',
  'string-next',
  'rounds-did',
  'leap',
  'per-doubling',
  'room-change',
  'warmth',
  'no-forecast',
] as const;
const cell = 'figure px-1.5 py-2 text-right text-sm';

/** One string in figures, a line; why, and what else is known, on demand. */
export function StringRow({ stringId, note, said, showMs, index, shown, onShow }: Props) {
  const stroke = strokeOf(index);
  const of = (kind: StatementKind) => said.of(kind, stringId);
  const atShow = said.each('offset-at').find((s) => s.string === stringId && s.atMs === showMs);
  const column = (s: Statement | undefined, none = '–') => (
    <td className={cell}>{s ? shortFigure(s) : said.waiting ? <Pending /> : none}</td>
  );
  const more = [...MORE.slice(0, 1).map(of), atShow, ...MORE.slice(1).map(of)];
  return (
    <Disclosure as="tbody" className="border-b border-line align-baseline">
      <tr>
        <th scope="row" className="py-2 pr-1 text-left">
          <label className="flex items-center gap-1.5 font-bold">
            <input type="checkbox" checked={shown} onChange={onShow} aria-label={`Show ${note}`} />
            <svg viewBox="0 0 18 8" className="h-2 w-4.5" aria-hidden="true">
              <path
                d="M0 4H18"
                stroke={`var(--${stroke.token})`}
                strokeWidth={3}
                strokeDasharray={dashArray[stroke.dash]}
              />
            </svg>
            <NoteName note={note} />
          </label>
        </th>
        {column(of('fallen'), of('state')?.value === 'unread' ? 'not read' : '–')}
        {column(of('per-hour'))}
        {column(atShow)}
        {column(of('hold-chance'))}
        {column(of('ready-kept'))}
        <td>
          <DisclosureButton aria-label={`More about ${note}`} className="rounded-md p-1.5">
            <ChevronDown size={16} aria-hidden className="in-data-open:rotate-180" />
          </DisclosureButton>
        </td>
      </tr>
      <DisclosurePanel as="tr">
        <td colSpan={7} className="pb-2 text-sm leading-snug">
          {more.map((s) => s && <p key={s.kind}>{s.text}</p>)}
        </td>
      </DisclosurePanel>
    </Disclosure>
  );
}
