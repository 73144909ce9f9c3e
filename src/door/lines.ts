import { createInterface } from 'node:readline';
import { stdin, stdout } from 'node:process';
import { ValidationError, type Schema } from 'yup';

/** A refused item: exit status 0, the line says why. */
export interface Refused {
  ok: false;
  reason: string;
  message: string;
}

export const refused = (reason: string, message: string): Refused => ({ ok: false, reason, message });

/** An item checked by its schema, or the refusal that says its first fault. */
export function checked<T>(schema: Schema<T>, item: unknown, reason: string): { ok: true; value: T } | Refused {
  try {
    return { ok: true, value: schema.validateSync(item, { strict: true }) };
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    return refused(reason, error.message);
  }
}

/** Answers every JSON line of standard input with one JSON line, in order. */
export async function answerLines(answer: (item: Record<string, unknown>) => object): Promise<void> {
  for await (const line of createInterface({ input: stdin, crlfDelay: Infinity })) {
    if (line.trim() === '') continue;
    stdout.write(JSON.stringify(answerLine(line, answer)) + '\n');
  }
}

function answerLine(line: string, answer: (item: Record<string, unknown>) => object): object {
  let item: unknown;
  try {
    item = JSON.parse(line);
  } catch {
    return refused('bad-line', 'This line is no JSON.');
  }
  if (typeof item !== 'object' || item === null || Array.isArray(item))
    return refused('bad-line', 'This line is no JSON object.');
  return answer(item as Record<string, unknown>);
}

/**
 * Answers a JSON document on standard input; several of them, a line each, are answered a line each. A log export followed by
 * the object that goes with it is one document too.
 */
export async function answerDocument(answer: (item: Record<string, unknown>) => object): Promise<void> {
  const text = (await readAll()).trim();
  const second = Math.max(0, ...[...text.matchAll(/\}\s*(?=\{\s*"(session|now)")/g)].map((m) => m.index + 1));
  const parts = isJson(text)
    ? [text]
    : second > 0 && isJson(text.slice(0, second)) && isJson(text.slice(second))
      ? [JSON.stringify({ ...JSON.parse(text.slice(0, second)), ...JSON.parse(text.slice(second)) })]
      : text.split('\n').filter((l) => l.trim() !== '');
  for (const part of parts) stdout.write(JSON.stringify(answerLine(part, answer)) + '\n');
}

function isJson(text: string): boolean {
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
}

/** All of standard input as text. */
export async function readAll(): Promise<string> {
  const parts: Buffer[] = [];
  for await (const part of stdin) parts.push(part as Buffer);
  return Buffer.concat(parts).toString('utf8');
}
