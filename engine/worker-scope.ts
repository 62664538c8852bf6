/** The global scope of a dedicated worker, as far as the engine uses it (the DOM and worker libraries exclude each other). */
export interface WorkerScope {
  onmessage: ((event: MessageEvent) => void) | null;
  postMessage(message: unknown, transfer?: Transferable[]): void;
}

export const workerScope = self as unknown as WorkerScope;
