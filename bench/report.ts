import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';

const FILE = 'docs/benchmarks.md';
const HEAD = '# Benchmarks\n\nWritten by the commands in `bench/`; do not edit by hand.\n';

/** The page in pieces: its head, then every benchmark's section. */
const sections = (): string[] => (existsSync(FILE) ? readFileSync(FILE, 'utf8') : HEAD).split(/^(?=## )/m);
const isOf = (section: string, title: string): boolean => section.startsWith(`## ${title}\n`);

/** Prints a benchmark's lines and puts them under their heading in docs/benchmarks.md, in place of the last run's. */
export function writeSection(title: string, lines: string[], cpuSeconds: number): void {
  const stamp = `_${new Date().toISOString().slice(0, 10)}, ${cpus().length} x ${cpus()[0]?.model.trim() ?? 'unknown'}, Node ${process.version}, ${cpuSeconds.toFixed(0)} s of CPU_`;
  const body = `## ${title}\n\n${stamp}\n\n${lines.join('\n')}\n`;
  process.stdout.write(body);
  const parts = sections().filter((p) => !isOf(p, title));
  writeFileSync(FILE, [...parts.map((p) => p.trimEnd() + '\n'), body].join('\n'));
}

/** The lines of a benchmark's section as it was last written; none where it never was. */
export function sectionLines(title: string): string[] {
  return (sections().find((p) => isOf(p, title)) ?? '').split('\n').slice(1);
}
