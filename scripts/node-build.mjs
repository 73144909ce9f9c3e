/** Compiles the server and the door for Node.js into dist-node, unless what is there is newer than what it was made of. */
import { existsSync, mkdtempSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';

const OUT = 'dist-node';
const DOOR = `${OUT}/door/main.js`;

/** When the newest file in a folder was written, ms. */
export const newest = (folder) =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((f) => f.isFile())
    .reduce((t, f) => Math.max(t, statSync(`${f.parentPath ?? f.path}/${f.name}`).mtimeMs), 0);

export async function buildForNode() {
  const made = existsSync(DOOR) ? statSync(DOOR).mtimeMs : 0;
  if (made > Math.max(newest('src/core'), newest('src/door'), newest('src/server'), newest('demo'))) return;
  const { build } = await import('vite');
  // Made beside, then put in place at once: two that begin together do not meet half a build.
  const beside = mkdtempSync(`${OUT}-`);
  await build({
    configFile: false,
    logLevel: 'error',
    build: {
      ssr: true,
      outDir: beside,
      emptyOutDir: true,
      copyPublicDir: false,
      rollupOptions: {
        input: { 'door/main': 'src/door/main.ts', 'server/main': 'src/server/main.ts' },
        output: { entryFileNames: '[name].js' },
      },
    },
  });
  rmSync(OUT, { recursive: true, force: true });
  try {
    renameSync(beside, OUT);
  } catch {
    // Another one was there first, with the same.
    rmSync(beside, { recursive: true, force: true });
  }
}
