export { planCalendar, type CalendarNames } from './calendar';
export { logFileReader, readLogFile, writeLogFile, type LogFile, type LogFileOutcome } from './json';
export { localIso, readingsCsv } from './csv';
export { readWav, writeWav, type Sound, type WavOutcome } from './wav';
export { readTuningFile, writeTuningFile, type TuningFile, type TuningFileOutcome } from './tuning-file';
export { readText, UNREADABLE } from './read-text';
