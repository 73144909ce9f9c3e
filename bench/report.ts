import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';

const FILE = 'docs/benchmarks.md';
const HEAD = '# Benchmarks\n\nWritten by the commands in `bench/`; do not edit by hand.\n';

/** Prints a benchmark's lines and puts them under their heading in docs/benchmarks.md, in place of the last run's. */
export function writeSection(title: string, lines: string[], cpuSeconds: number): void {
  const stamp = `_${new Date().toISOString().slice(0, 10)}, ${cpus().length} x ${cpus()[0]?.model.trim() ?? 'unknown'}, Node ${process.version}, ${cpuSeconds.toFixed(0)} s of CPU_`;
  const body = `## ${title}\n\n${stamp}\n\n${lines.join('\n')}\n`;
  process.stdout.write(body);
  const old = existsSync(FILE) ? readFileSync(FILE, 'utf8') : HEAD;
  const parts = old.split(/^(?=## )/m).filter((p) => !p.startsWith(`## ${title}\n`));
  writeFileSync(FILE, [...parts.map((p) => p.trimEnd() + '\n'), body].join('\n'));
}

/** The lines of a benchmark's section as it was last written; none where it never was. */
export function sectionLines(title: string): string[] {
  const old = existsSync(FILE) ? readFileSync(FILE, 'utf8') : '';
  return (old.split(/^(?=## )/m).find((p) => p.startsWith(`## ${title}\n`)) ?? '').split('\n').slice(1);
}
