/** Workers for tests outside a browser: they keep what they are told, and say what a test lets them say. */
import { vi } from 'vitest';

export class FakeWorker<In extends { type: string } = { type: string }, Out = unknown> {
  /** All that were started since `useFakeWorkers`, in order. */
  static started: FakeWorker[] = [];
  readonly told: In[] = [];
  onmessage: ((event: MessageEvent<Out>) => void) | null = null;
  onerror: ((event: { message: string }) => void) | null = null;
  terminated = false;

  constructor(readonly url: URL | string = '') {
    FakeWorker.started.push(this as unknown as FakeWorker);
  }

  postMessage(message: In): void {
    this.told.push(message);
  }

  terminate(): void {
    this.terminated = true;
  }

  /** What it was told of one type, in order. */
  heard<T extends In['type']>(type: T): Extract<In, { type: T }>[] {
    return this.told.filter((m): m is Extract<In, { type: T }> => m.type === type);
  }

  say(message: Out): void {
    this.onmessage?.({ data: message } as MessageEvent<Out>);
  }
}

/** Puts them in the place of the browser's until `vi.unstubAllGlobals`. */
export function useFakeWorkers(): void {
  FakeWorker.started = [];
  vi.stubGlobal('Worker', FakeWorker);
}

/** The worker whose script's name holds `name`. @throws when none was started. */
export function workerOf<In extends { type: string }, Out>(name: string): FakeWorker<In, Out> {
  const found = FakeWorker.started.findLast((w) => String(w.url).includes(name));
  if (!found) throw new Error(`no worker ${name} was started`);
  return found as unknown as FakeWorker<In, Out>;
}
