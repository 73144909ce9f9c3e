import type { ImportRecord, LogRecord } from './records';

/** Corrected differently, on two devices that did not know of each other: one stands by rule, the others are kept beside it. */
export interface Contest {
  /** The entry that was corrected. */
  of: string;
  /** The correction that stands. */
  stands: LogRecord;
  /** Those that do not. */
  others: LogRecord[];
}

/** Which records no longer stand: those that others replace, that were taken back, or came with an import that was. */
export interface Succession {
  /** Takes in more records, in any order. @returns ids of those that stand otherwise than before */
  note(records: readonly LogRecord[]): string[];
  isGone(id: string): boolean;
  contests(): readonly Contest[];
}

/** A record's ids where it is an import that brought them. */
export const broughtBy = ({ ids }: Pick<ImportRecord, 'ids'>): string[] => ids.split('\n');

/** Of two records that replace the same one, the later written counts; of two at one moment that of the longer log. */
const written = (a: LogRecord, b: LogRecord): number =>
  (a.written?.atMs ?? a.atMs) - (b.written?.atMs ?? b.atMs) ||
  (a.written?.seq ?? -1) - (b.written?.seq ?? -1) ||
  (a.id < b.id ? -1 : 1);

/** Nobody takes back the taking back of taking back more often; a circle, which no log that was written has, ends there. */
const DEEPEST_UNDONE = 40;

/** Which records stand: what was corrected, taken back, brought back, with or without its import. */
export function createSuccession(): Succession {
  /** What replaces or takes back each id. */
  const successors = new Map<string, LogRecord[]>();
  const imports = new Map<string, ImportRecord>();
  let gone = new Set<string>();
  let contests: Contest[] = [];

  /** What was taken back of taking back: it takes nothing back. */
  const isUndone = (r: LogRecord, depth = 0): boolean =>
    r.type === 'taken-back' &&
    depth < DEEPEST_UNDONE &&
    (successors.get(r.id) ?? []).some((s) => s.type === 'taken-back' && !isUndone(s, depth + 1));
  /** A record with all that came of it. */
  const branch = (root: LogRecord): LogRecord[] => {
    const found = new Map([[root.id, root]]);
    for (const r of found.values())
      for (const s of successors.get(r.id) ?? []) if (!isUndone(s) && !found.has(s.id)) found.set(s.id, s);
    return [...found.values()];
  };
  const newest = (branch: readonly LogRecord[]): LogRecord => branch.reduce((a, b) => (written(a, b) > 0 ? a : b));

  /** What came with imports that were taken back: it has no part in anything. */
  const withdrawn = (): Set<string> => {
    const ids = new Set<string>();
    for (const [id, record] of imports)
      if (successors.get(id)?.some((r) => !isUndone(r))) for (const brought of broughtBy(record)) ids.add(brought);
    return ids;
  };

  const decide = (): void => {
    gone = withdrawn();
    contests = [];
    const without = new Set(gone);
    for (const [of, all] of successors) {
      const heirs = all.filter((r) => !isUndone(r) && !without.has(r.id));
      if (heirs.length === 0) continue;
      gone.add(of);
      if (heirs.length === 1) continue;
      const [first, ...others] = heirs
        .map((r) => ({ r, branch: branch(r), newest: newest(branch(r)) }))
        .sort((a, b) => written(b.newest, a.newest));
      for (const { branch } of others) for (const r of branch) gone.add(r.id);
      // Taken back twice is taken back.
      const differ = others.filter((o) => o.newest.type !== 'taken-back' || first!.newest.type !== 'taken-back');
      if (differ.length > 0) contests.push({ of, stands: first!.newest, others: differ.map((o) => o.newest) });
    }
  };
  return {
    note(records) {
      let changed = false;
      for (const r of records) {
        if (r.type === 'import') imports.set(r.id, r);
        if (r.type === 'import' && successors.has(r.id)) changed = true;
        if (!r.supersedes) continue;
        successors.set(r.supersedes, [...(successors.get(r.supersedes) ?? []), r]);
        changed = true;
      }
      if (!changed) return [];
      const before = gone;
      decide();
      return [...[...before].filter((id) => !gone.has(id)), ...[...gone].filter((id) => !before.has(id))];
    },
    isGone: (id) => gone.has(id),
    contests: () => contests,
  };
}

/** Does a record stand? What takes another one back is none that does. */
export const stands = (r: LogRecord, { isGone }: Pick<Succession, 'isGone'>): boolean =>
  !isGone(r.id) && r.type !== 'taken-back';
