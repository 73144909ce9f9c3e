/** What a write that the browser refused says: nothing is lost while the page is open. */
export const heldInMemory = (error: Error): string => `${error.message} It is held in memory: export the log now.`;
