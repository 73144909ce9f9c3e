import type { Zone } from '../../../core/base';
import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/react';
import { ChevronDown } from 'lucide-react';
import { chanceWords } from '../../../core/check';
import { NoteName } from '../../parts/NoteName';
import { dueTime, plusMinus, signed } from '../../parts/format';
import { dashArray, strokeOf } from '../../parts/strokes';
import type { StringStory } from '../../../core/status';

interface Props {
  story: StringStory;
  index: number;
  shown: boolean;
  onShow: () => void;
  nowMs: number;
  zone: Zone;
  /** When it is to be looked at, in the words of the bench. */
  next: string;
}

const minus = (text: string) => text.replace('-', '−');
const FROM_WORDS = {
  thermometer: 'from the thermometer',
  'other strings': 'from the other strings',
  assumed: 'assumed',
} as const;
const cell = 'figure px-1.5 py-2 text-right text-sm';

/** One string in figures, a line; why, and what else is known, on demand. */
export function StringRow({ story: s, index, shown, onShow, nowMs, zone, next }: Props) {
  const stroke = strokeOf(index);
  const by = s.byCurtain;
  return (
    <Disclosure as="tbody" className="border-b border-line align-baseline">
      <tr>
        <th scope="row" className="py-2 pr-1 text-left">
          <label className="flex items-center gap-1.5 font-bold">
            <input type="checkbox" checked={shown} onChange={onShow} aria-label={`Show ${s.note}`} />
            <svg viewBox="0 0 18 8" className="h-2 w-4.5" aria-hidden="true">
              <path
                d="M0 4H18"
                stroke={`var(--${stroke.token})`}
                strokeWidth={3}
                strokeDasharray={dashArray[stroke.dash]}
              />
            </svg>
            <NoteName note={s.note} />
          </label>
        </th>
        <td className={cell}>{s.fallenCents === null ? 'not read' : minus(s.fallenCents.toFixed(0))}</td>
        <td className={cell}>{s.perHour === null ? '–' : minus(s.perHour.toFixed(1))}</td>
        <td className={cell}>{by ? signed(by.q50, 0) : '–'}</td>
        <td className={cell}>{s.chance === null ? '–' : `${(100 * s.chance).toFixed(0)} %`}</td>
        <td className={cell}>
          {s.chance === null ? '–' : s.keptReadyMs === null ? 'not in 2 weeks' : dueTime(s.keptReadyMs, nowMs, zone)}
        </td>
        <td>
          <DisclosureButton aria-label={`More about ${s.note}`} className="rounded-md p-1.5">
            <ChevronDown size={16} aria-hidden className="in-data-open:rotate-180" />
          </DisclosureButton>
        </td>
      </tr>
      <DisclosurePanel as="tr">
        <td colSpan={7} className="pb-2 text-sm leading-snug">
          {s.chance !== null && <p>If untouched: {chanceWords(s.chance)}.</p>}
          {by && (
            <p>
              At the show: {signed(by.q50, 0)} cents ({signed(by.q05, 0)} to {signed(by.q95, 0)}).
            </p>
          )}
          {next && <p className="first-letter:uppercase">{next}.</p>}
          {s.rounds && <p>{s.rounds}</p>}
          <p>{s.why}</p>
          {s.temperature && (
            <p>
              One degree warmer: {signed(s.temperature.centsPerC)} {plusMinus(s.temperature.sigma)} cents (
              {FROM_WORDS[s.temperature.from]}).
            </p>
          )}
        </td>
      </DisclosurePanel>
    </Disclosure>
  );
}
