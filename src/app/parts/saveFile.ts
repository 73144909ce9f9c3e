import { realClock } from '../world/clock';
import { MINUTE } from '../../core/base';

/** A name as a part of a file's name. */
export const fileName = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]+/g, '-');

const STILL_READ_MS = MINUTE;

/** Hands a file to the browser to keep. */
export function saveFile(name: string, content: string | Blob, type = ''): void {
  const url = URL.createObjectURL(typeof content === 'string' ? new Blob([content], { type }) : content);
  const a = document.createElement('a');
  a.href = url;
  a.download = name;
  a.click();
  // The download has begun with the click; the file itself may still be read.
  realClock.after(STILL_READ_MS, () => URL.revokeObjectURL(url));
}
