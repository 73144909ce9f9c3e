import qrcode from 'qrcode-generator';
import { useEffect, useMemo, useState } from 'react';
import { flushSync } from 'react-dom';
import type { InstrumentLife } from '../../../core/log';

/** Error correction: a label gets dirty. */
const CORRECTION = 'M';

/** A QR code of an address, drawn in squares. */
function Code({ text }: { text: string }) {
  const { size, path } = useMemo(() => {
    const code = qrcode(0, CORRECTION);
    code.addData(text);
    code.make();
    const size = code.getModuleCount();
    let path = '';
    for (let y = 0; y < size; y++) for (let x = 0; x < size; x++) if (code.isDark(y, x)) path += `M${x} ${y}h1v1h-1z`;
    return { size, path };
  }, [text]);
  return (
    <svg viewBox={`-2 -2 ${size + 4} ${size + 4}`} className="h-24 w-24 shrink-0 bg-white" aria-hidden="true">
      <path d={path} fill="#000" />
    </svg>
  );
}

/** Whether the page is being printed. */
function usePrinting(): boolean {
  const [prints, setPrints] = useState(false);
  useEffect(() => {
    // Drawn before the paper is.
    const [begin, end] = [true, false].map((on) => () => flushSync(() => setPrints(on)));
    window.addEventListener('beforeprint', begin!);
    window.addEventListener('afterprint', end!);
    return () => {
      window.removeEventListener('beforeprint', begin!);
      window.removeEventListener('afterprint', end!);
    };
  }, []);
  return prints;
}

/**
 * Labels for cases and headstocks, on paper only: a large name, a short code, and an address that opens the instrument.
 * @param address where this app is found, with the log's path
 */
export function Labels({ lives, address }: { lives: readonly InstrumentLife[]; address: string }) {
  const prints = usePrinting();
  return (
    <ul aria-label="Labels" className="hidden grid-cols-2 gap-2 text-black print:grid">
      {prints &&
        lives.map(({ record: { instrumentId, name }, about }) => (
          <li
            key={instrumentId}
            className="flex items-center gap-3 border border-dashed border-black p-3 break-inside-avoid"
          >
            <Code text={`${address}/bench/${instrumentId}`} />
            <span>
              <span className="block text-2xl leading-tight font-bold">{name}</span>
              <span className="figure block text-lg">{about?.code ?? ''}</span>
              <span className="block text-sm">{[about?.owner, about?.place].filter(Boolean).join(', ')}</span>
            </span>
          </li>
        ))}
    </ul>
  );
}
