/** Asks a worker one thing, and ends it: when it has answered, when it fails, or when it takes too long. */

export interface AskLimits {
  /** Milliseconds. */
  limitMs: number;
  /** What is thrown when it takes longer, and when the worker itself fails. */
  late: () => Error;
  failed: (message: string) => Error;
}

/** The worker's first answer. @throws whatever `late` and `failed` give */
export function askWorker<Answer>(worker: Worker, message: unknown, { limitMs, late, failed }: AskLimits): Promise<Answer> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  return new Promise<Answer>((resolve, reject) => {
    timer = setTimeout(() => reject(late()), limitMs);
    worker.onmessage = ({ data }: MessageEvent<Answer>) => resolve(data);
    worker.onerror = (event) => reject(failed(event.message));
    worker.postMessage(message);
  }).finally(() => {
    clearTimeout(timer);
    worker.terminate();
  });
}
