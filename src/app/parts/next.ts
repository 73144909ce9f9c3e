import type { NextThing } from '../../core/says';

/** Where the next thing of an instrument is done. */
export const pathToNext = (basePath: string, instrumentId: string, { to, stringId }: NextThing): string =>
  [basePath, to, instrumentId, stringId].filter((part) => part !== undefined).join('/');
