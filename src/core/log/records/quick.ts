import type { AnyObject, ISchema, ObjectSchema, SchemaFieldDescription } from 'yup';

type Holds = (value: unknown) => boolean;
interface Told {
  type: string;
  optional: boolean;
  nullable: boolean;
  oneOf: readonly unknown[];
  tests: readonly { name?: string; params?: Record<string, unknown> }[];
  /** A quick check of its own. */
  meta?: { surely?: Holds };
}

/** What the named tests of numbers and texts ask, by what a schema says of itself. */
const NUMBER: Record<string, (params: Record<string, unknown>) => (v: number) => boolean> = {
  finite: () => Number.isFinite,
  integer: () => Number.isInteger,
  min:
    ({ min, more }) =>
    (v) =>
      more === undefined ? v >= Number(min) : v > Number(more),
  max:
    ({ max }) =>
    (v) =>
      v <= Number(max),
};
const TEXT: Record<string, (params: Record<string, unknown>) => (v: string) => boolean> = {
  required: () => (v) => v.length > 0,
  max:
    ({ max }) =>
    (v) =>
      v.length <= Number(max),
  matches:
    ({ regex }) =>
    (v) =>
      v.search(regex as RegExp) !== -1,
};

/** The tests of a field, where every one of them is known here. */
function known<V>(tests: Told['tests'], table: Record<string, (params: Record<string, unknown>) => (v: V) => boolean>) {
  const all = tests.map(({ name = '', params = {} }) => table[name]?.(params));
  return all.every((t) => t !== undefined) ? (v: V) => all.every((t) => t(v)) : undefined;
}

/** Does a field surely hold? Where its schema asks for more than is known here, the schema itself is asked. */
function fieldHolds(schema: ISchema<unknown>, description: SchemaFieldDescription): Holds {
  const { type, optional, nullable, oneOf, tests, meta } = description as unknown as Told;
  const empty = (v: unknown) => (v === undefined ? optional : v === null && nullable);
  const asked: Holds = (v) => (schema as ObjectSchema<AnyObject>).isValidSync(v, { strict: true });
  const surely = meta?.surely;
  if (surely) return (v) => empty(v) || surely(v);
  if (type === 'object' && 'fields' in schema) {
    const inner = quickCheck(schema as ObjectSchema<AnyObject>);
    return (v) => empty(v) || inner(v);
  }
  if (oneOf.length > 0 && tests.length === 0) {
    const codes = new Set(oneOf);
    return (v) => empty(v) || codes.has(v);
  }
  const number = type === 'number' && oneOf.length === 0 ? known(tests, NUMBER) : undefined;
  if (number) return (v) => empty(v) || (typeof v === 'number' && number(v));
  const text = type === 'string' && oneOf.length === 0 ? known(tests, TEXT) : undefined;
  if (text) return (v) => empty(v) || (typeof v === 'string' && text(v));
  if (type === 'boolean' && oneOf.length === 0 && tests.length === 0) return (v) => empty(v) || typeof v === 'boolean';
  return asked;
}

/**
 * Compiled from a record's schema: true only of what the schema accepts; ten times as fast, for files of half a million records. What
 * it does not know is left to the schema, which alone says what is wrong.
 */
export function quickCheck(schema: ObjectSchema<AnyObject>): Holds {
  const { fields: described, tests } = schema.describe();
  const fields = Object.entries(schema.fields).map(
    ([key, field]) => [key, fieldHolds(field as ISchema<unknown>, described[key]!)] as const,
  );
  // What depends on another field, or on all of them, only the schema knows.
  const whole = Object.values(schema.fields).every((f) => (f as { deps?: readonly string[] }).deps?.length === 0);
  if (!whole || tests.some((t) => t.name !== 'noUnknown'))
    return (value) => schema.isValidSync(value, { strict: true });
  const names = new Set(Object.keys(schema.fields));
  return (value) => {
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
    for (const key in value) if (!names.has(key)) return false;
    for (const [key, holds] of fields) if (!holds((value as Record<string, unknown>)[key])) return false;
    return true;
  };
}
