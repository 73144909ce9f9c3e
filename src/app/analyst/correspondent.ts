/** What is spoken to by messages: a worker, or the same in this thread. */
export interface Correspondent<In, Out> {
  postMessage(message: In, transfer?: Transferable[]): void;
  onmessage: ((event: MessageEvent<Out>) => void) | null;
  onerror: ((event: ErrorEvent) => void) | null;
  terminate(): void;
}
