/** The command-line door: the app's core on files and JSON. See README. */
import { createInterface } from 'node:readline';
import { argv, exit, stderr, stdin, stdout } from 'node:process';
import { runCommand } from './commands';

// Who reads the answers may go away: then there is nobody to tell.
stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') exit(0);
  throw error;
});

const status = await runCommand(argv.slice(2), {
  input: () => createInterface({ input: stdin, crlfDelay: Infinity }),
  tell: (line) => stdout.write(line + '\n'),
  complain: (text) => stderr.write(text),
});
if (status !== 0) exit(status);
