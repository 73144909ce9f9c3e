import { ValidationError, type Schema } from 'yup';
import { brief, hasHugeNumber, LARGEST_FILE, LARGEST_NUMBER, nestedTooDeep } from '../core/limits';

/** A refused item: exit status 0, the line says why. */
export interface Refused {
  ok: false;
  reason: string;
  message: string;
}

export const refused = (reason: string, message: string): Refused => ({ ok: false, reason, message: brief(message) });

/** An item checked by its schema, or the refusal that says its first fault. */
export function checked<T>(schema: Schema<T>, item: unknown, reason: string): { ok: true; value: T } | Refused {
  try {
    return { ok: true, value: schema.validateSync(item, { strict: true }) };
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    return refused(reason, error.message);
  }
}

type Item = Record<string, unknown>;
/** A text that was JSON. */
interface Parsed {
  value: unknown;
}
type Answer = (item: Item) => object;

type Tell = (answer: object) => void;

/** Answers every JSON line with one answer, in order. */
export async function answerLines(answer: Answer, input: AsyncIterable<string>, tell: Tell): Promise<void> {
  for await (const line of input) if (line.trim() !== '') tell(answerText(line, answer, 'bad-line'));
}

/**
 * One guard round every command: what is too long, too deep, too large or no JSON never reaches it.
 * @param known what the text says, where it was read already
 */
function answerText(text: string, answer: Answer, reason: string, known?: Parsed): object {
  if (text.length > LARGEST_FILE) return refused(reason, 'This is longer than 200 MB.');
  if (nestedTooDeep(text)) return refused(reason, 'This is nested too deep.');
  const json = known ?? parsed(text);
  if (!json) return refused(reason, 'This line is no JSON.');
  const item = json.value;
  if (typeof item !== 'object' || item === null || Array.isArray(item))
    return refused(reason, 'This line is no JSON object.');
  if (hasHugeNumber(item)) return refused('bad-number', `A number here is beyond ±${LARGEST_NUMBER}.`);
  try {
    return answer(item as Item);
  } catch (error) {
    // A fault of ours: it is said, and the next item is answered.
    return refused('internal', `This item could not be worked out (${(error as Error).message}).`);
  }
}

/** A command on documents of any layout. */
export interface DocumentCommand {
  answer: Answer;
  /** What a text is refused as that is no JSON object. */
  reason: string;
  /** False for a document that another object on the next line belongs to. */
  isWhole: (item: Item) => boolean;
}

/**
 * Answers JSON documents: each that stands on a line of its own at once, and one that goes over several lines
 * when it is whole. A log export followed by the object that goes with it is one document.
 */
export async function answerDocument(
  { answer, reason, isWhole }: DocumentCommand,
  input: AsyncIterable<string>,
  tell: Tell,
): Promise<void> {
  let pending: string[] = [];
  let length = 0;
  for await (const line of input) {
    if (line.trim() === '') continue;
    const json = pending.length === 0 && line.startsWith('{') ? parsed(line) : undefined;
    if (json && isWhole(json.value as Item)) {
      tell(answerText(line, answer, reason, json));
      continue;
    }
    length += line.length;
    // Beyond the largest file nothing is gathered any more: it is refused at the end.
    if (length <= LARGEST_FILE + 1) pending.push(line);
  }
  if (pending.length === 0) return;
  const text = pending.join('\n');
  pending = [];
  for (const part of partsOf(text)) tell(answerText(part, answer, reason));
}

/** A document, or a log export and the object that follows it as one, or else every line by itself. */
function partsOf(text: string): string[] {
  if (isJson(text)) return [text];
  const second = Math.max(0, ...[...text.matchAll(/\}\s*(?=\{\s*"(session|now)")/g)].map((m) => m.index + 1));
  const [first, rest] = [text.slice(0, second), text.slice(second)];
  if (second > 0 && isJson(first) && isJson(rest))
    return [JSON.stringify({ ...(JSON.parse(first) as Item), ...(JSON.parse(rest) as Item) })];
  const lines = text.split('\n');
  // Broken lines of one document say nothing one by one.
  return lines.some(isJson) ? lines : [text];
}

/** What a text says in JSON; undefined where it is none. */
function parsed(text: string): Parsed | undefined {
  try {
    return { value: JSON.parse(text) };
  } catch {
    return undefined;
  }
}

const isJson = (text: string): boolean => parsed(text) !== undefined;
