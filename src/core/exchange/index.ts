export { planCalendar } from './calendar';
export { logFileReader, readLogFile, writeLogFile, type LogFileOutcome } from './json';
export { readingsCsv } from './csv';
export { readWav, writeWav, type Sound, type WavOutcome } from './wav';
export { readTuningFile, writeTuningFile } from './tuning-file';
export {
  checkInventory,
  guessColumns,
  INVENTORY_FIELDS,
  inventoryDrafts,
  readTable,
  type Columns,
  type InventoryField,
} from './inventory';
export { readText, UNREADABLE } from './read-text';
export { backupName, generationOf, isBackup, spent } from './generations';
