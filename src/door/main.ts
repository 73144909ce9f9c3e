/** The command-line door: the app's core on files and JSON. See README. */
import { closeSync, openSync, writeFileSync } from 'node:fs';
import { argv, exit, stderr, stdout } from 'node:process';
import { makeDemonstration } from '../../demo/make';
import { writeLogFile } from '../core/exchange';
import { forecastDocument } from './forecast';
import { answerLines, readAll, refused } from './lines';
import { changeLine, measureLine } from './measure';
import { roundsLine, stringLine } from './string';

const USAGE = `usage: npm run -s door -- COMMAND
  measure            JSON lines {"file","target","a4"?} in, one reading or refusal a line out
  change             JSON lines {"from","to","target","a4"?} in, how far the string moved out
  string             JSON lines {"material","gaugeMm","lengthMm","frequencyHz",…} in, its load out
  rounds             JSON lines {"dropsCents"} in, the next drop and what to do out
  forecast           a settle-cases/1 document in, a settle-forecasts/1 document out
  export-demo FILE   writes the demonstration's log as JSON
`;

const [command, ...rest] = argv.slice(2);
const lines = { measure: measureLine, change: changeLine, string: stringLine, rounds: roundsLine };
const wanted: Record<string, number> = { measure: 0, change: 0, string: 0, rounds: 0, forecast: 0, 'export-demo': 1 };
if (command === undefined || wanted[command] !== rest.length) {
  stderr.write(USAGE);
  exit(2);
}
if (command in lines) await answerLines(lines[command as keyof typeof lines]);
else if (command === 'forecast') stdout.write(JSON.stringify(forecastDocument(await readAll())) + '\n');
else {
  try {
    // Opened first: a place that cannot be written is told before the simulator has worked.
    const file = openSync(rest[0]!, 'w');
    const { records, startMs } = makeDemonstration();
    writeFileSync(file, writeLogFile(records, startMs));
    closeSync(file);
    stdout.write(JSON.stringify({ ok: true, file: rest[0], records: records.length }) + '\n');
  } catch (error) {
    stdout.write(
      JSON.stringify(refused('unwritable-file', `The file could not be written (${(error as Error).message}).`)) + '\n',
    );
  }
}
