/** A record that is not one: it was not written, and nothing is held. */
export class FaultyRecord extends Error {}

/** What a write that the browser refused says: nothing is lost while the page is open. */
export const heldInMemory = (error: Error): string =>
  error instanceof FaultyRecord ? error.message : `${error.message} It is in memory only: export it now.`;
