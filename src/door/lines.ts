import { JSONParser, TokenType } from '@streamparser/json';
import { ValidationError, type Schema } from 'yup';
import { instantOfIso } from '../core/base';
import {
  brief,
  DEEPEST,
  EARLIEST_MS,
  hasHugeNumber,
  LATEST_MS,
  LARGEST_FILE,
  LARGEST_NUMBER,
  nestedTooDeep,
} from '../core/limits';

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

/** An instant as ms since 1970 or ISO 8601; undefined for anything else. */
export function instantFrom(value: unknown): number | undefined {
  const ms = typeof value === 'string' ? instantOfIso(value) : value;
  return typeof ms === 'number' && ms >= EARLIEST_MS && ms <= LATEST_MS ? ms : undefined;
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
  if (text.length > LARGEST_FILE) return refused(reason, `This is longer than ${LARGEST_FILE / 1e6} MB.`);
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

/** Where a document is read piece by piece: its lines so far, and what follows its grammar. */
interface Reading {
  lines: string[];
  /** Of the line that is being read. */
  pieces: string[];
  length: number;
  parser: JSONParser;
  depth: number;
}

/** A document that is still open is read on while it may become one; @returns 'over' where it ends with this piece. */
function readOn(reading: Reading, piece: string): 'open' | 'over' | 'broken' {
  reading.pieces.push(piece);
  reading.length += piece.length;
  // What is too long is gathered no further, and refused.
  if (reading.length > LARGEST_FILE) return 'broken';
  try {
    reading.parser.write(piece);
  } catch {
    return 'broken';
  }
  if (reading.depth > DEEPEST) return 'broken';
  return reading.depth === 0 && reading.parser.isEnded ? 'over' : 'open';
}

function beginReading(): Reading {
  // Nothing is built of it: it is only followed.
  const parser = new JSONParser({ paths: ['$.-'], keepStack: false });
  const reading: Reading = { lines: [], pieces: [], length: 0, parser, depth: 0 };
  parser.onError = (error) => {
    throw error;
  };
  parser.onValue = () => undefined;
  parser.onToken = ({ token }) => {
    if (token === TokenType.LEFT_BRACE || token === TokenType.LEFT_BRACKET) reading.depth++;
    else if (token === TokenType.RIGHT_BRACE || token === TokenType.RIGHT_BRACKET) reading.depth--;
  };
  return reading;
}

const textOf = ({ lines, pieces }: Reading): string => [...lines, pieces.join('')].join('\n');

/**
 * Tells documents apart in lines of text: each is handed on when it ends, several on one line too. One that breaks is handed on
 * as it is, with the rest of its line, and the next begins with the next line that begins with a brace.
 */
function createDocuments(take: (text: string, json?: Parsed) => void) {
  let reading: Reading | undefined;
  /** A document broke: its other lines say nothing one by one. */
  let passing = false;

  const readLine = (line: string): void => {
    if (!reading && line.trim() === '') return;
    if (passing && !line.startsWith('{')) return;
    passing = false;
    // A log is one long line, or thousands of short ones: most are whole.
    const whole = !reading && line.startsWith('{') ? parsed(line) : undefined;
    if (whole) return take(line, whole);
    const pieces = line.split(/(?<=[}\]])/);
    for (const [i, piece] of pieces.entries()) {
      if (!reading && piece.trim() === '') continue;
      const begins = reading === undefined;
      reading ??= beginReading();
      const is = begins && !piece.trimStart().startsWith('{') ? 'broken' : readOn(reading, piece);
      if (is === 'over') {
        take(textOf(reading));
        reading = undefined;
      } else if (is === 'broken') {
        const isOwnLine = reading.lines.length === 0;
        const broken = isOwnLine ? reading.pieces.join('') : reading.lines.join('\n');
        reading = undefined;
        take(isOwnLine ? [broken, ...pieces.slice(i + 1)].join('') : broken);
        // It was the one before that was not ended: this line may begin another.
        if (!isOwnLine && line.startsWith('{')) return readLine(line);
        passing = true;
        return;
      }
    }
    if (reading) {
      reading.lines.push(reading.pieces.join(''));
      reading.pieces = [];
    }
  };
  return {
    readLine,
    /** Nothing comes any more: one that has not ended is broken, and what stands behind its first line may be documents. */
    end(): void {
      while (reading) {
        const { lines } = reading;
        reading = undefined;
        const next = lines.findIndex((line, i) => i > 0 && line.startsWith('{'));
        if (next < 0) return take(lines.join('\n'));
        take(lines.slice(0, next).join('\n'));
        for (const line of lines.slice(next)) readLine(line);
      }
    },
  };
}

/**
 * Answers JSON documents, one on a line or over several, each as soon as it ends. A log export followed by the object that
 * goes with it is one document.
 */
export async function answerDocument(
  { answer, reason, isWhole }: DocumentCommand,
  input: AsyncIterable<string>,
  tell: Tell,
): Promise<void> {
  /** A document that the next one may belong to. */
  let first: { text: string; item: Item } | undefined;
  const settle = () => {
    if (first) tell(answerText(first.text, answer, reason, { value: first.item }));
    first = undefined;
  };
  const documents = createDocuments((text, known) => {
    const json = known ?? parsed(text);
    const item = json && typeof json.value === 'object' && json.value !== null ? (json.value as Item) : undefined;
    if (first && item && ('session' in item || 'now' in item) && !('records' in item)) {
      const value = { ...first.item, ...item };
      const both = `${first.text}\n${text}`;
      first = undefined;
      return tell(answerText(both, answer, reason, { value }));
    }
    settle();
    if (item && !isWhole(item)) first = { text, item };
    else tell(answerText(text, answer, reason, json));
  });
  for await (const line of input) documents.readLine(line);
  documents.end();
  settle();
}

/** What a text says in JSON; undefined where it is none. */
function parsed(text: string): Parsed | undefined {
  try {
    return { value: JSON.parse(text) };
  } catch {
    return undefined;
  }
}
