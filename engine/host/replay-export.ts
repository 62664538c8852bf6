/** Runs exports of replay one at a time, with progress, time left and cancel. */
import { nanoid } from 'nanoid';
import { type Follower } from './follower';
import { createStore, type StoreApi } from 'zustand/vanilla';
import { causeOf } from '#core/schema/cause';
import { type Run } from '#core/replay/timeline';
import { type Rate } from '#core/time/rate';
import { type ExportJob, type ExportTask, type FromExport, type ToExport } from '../replay/export-messages';
import { type ShowExports } from '../client/show-client';
import { folder, removeFile } from '../storage/opfs';

interface Queued {
  task: ExportTask;
  job: ExportJob;
  sounds: Record<string, string>;
  finish: (file: File | null) => void;
}

/** A file of which nothing more comes for so long is given up, so that the next one is made, milliseconds. */
const STUCK_MS = 60_000;

export class ReplayExport implements ShowExports, Follower {
  readonly store: StoreApi<{ tasks: ExportTask[] }> = createStore(() => ({ tasks: [] as ExportTask[] }));
  private queue: Queued[] = [];
  private running: { queued: Queued; worker: Worker } | null = null;
  private watch: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly showId: string,
    private readonly rate: Rate,
    private readonly recorder: {
      /** Puts what is recorded so far on disk. */
      closeSegments: () => Promise<void>;
      /** What is recorded, by track. */
      runs: () => Record<string, Run[]>;
    },
  ) {}

  /** Adds a file to make. Resolves with it, or with null when it failed or was cancelled; the list of tasks says why. */
  add(name: string, job: ExportJob, sounds: Record<string, string>): Promise<File | null> {
    const task: ExportTask = { id: nanoid(8), name, state: 'waiting', share: 0, startedAt: 0, message: '', copied: false, frames: 0 };
    this.store.setState(({ tasks }) => ({
      tasks: [
        ...tasks.filter((t) => t.state === 'waiting' || t.state === 'running').slice(-60),
        ...tasks.filter((t) => t.state !== 'waiting' && t.state !== 'running').slice(-8),
        task,
      ],
    }));
    return new Promise((finish) => {
      this.queue.push({ task, job, sounds, finish });
      void this.next();
    });
  }

  private change(id: string, change: Partial<ExportTask>): void {
    this.store.setState(({ tasks }) => ({ tasks: tasks.map((t) => (t.id === id ? { ...t, ...change } : t)) }));
  }

  private async next(): Promise<void> {
    if (this.running) return;
    const queued = this.queue.shift();
    if (!queued) return;
    const worker = new Worker(new URL('../replay/export.worker.ts', import.meta.url), { type: 'module' });
    this.running = { queued, worker };
    const { id } = queued.task;
    this.change(id, { state: 'running', startedAt: Date.now() });
    const failed = (message: string) => void this.end(queued, worker, { state: 'failed', message }, null);
    this.alive(queued, worker);
    const recorded = this.recorder.runs();
    try {
      await this.recorder.closeSegments();
    } catch (error) {
      return failed(causeOf(error));
    }
    worker.onmessage = ({ data }: MessageEvent<FromExport>) => void this.receive(queued, worker, data);
    worker.onerror = (event) => failed(event.message);
    worker.postMessage({
      type: 'start',
      showId: this.showId,
      rate: this.rate,
      fileName: id,
      job: queued.job,
      sounds: queued.sounds,
      recorded,
    } satisfies ToExport);
  }

  /** Begins to wait for what `worker` says next. */
  private alive(queued: Queued, worker: Worker): void {
    clearTimeout(this.watch);
    this.watch = setTimeout(
      () =>
        void this.end(
          queued,
          worker,
          { state: 'failed', message: `nothing has come of it for ${STUCK_MS / 1000} seconds; try it again` },
          null,
        ),
      STUCK_MS,
    );
  }

  private async receive(queued: Queued, worker: Worker, message: FromExport): Promise<void> {
    if (this.running?.worker !== worker) return;
    this.alive(queued, worker);
    if (message.type === 'progress') return this.change(queued.task.id, { share: message.done / message.total });
    if (message.type === 'failed') return this.end(queued, worker, { state: 'failed', message: message.message }, null);
    const file = await (await (await folder('exports')).getFileHandle(queued.task.id)).getFile();
    return this.end(
      queued,
      worker,
      { state: 'done', share: 1, copied: message.copied, frames: message.frames },
      new File([file], queued.task.name, { type: queued.task.name.endsWith('webm') ? 'video/webm' : 'video/mp4' }),
    );
  }

  private async end(queued: Queued, worker: Worker, change: Partial<ExportTask>, file: File | null): Promise<void> {
    worker.terminate();
    if (this.running?.worker !== worker) return;
    clearTimeout(this.watch);
    this.running = null;
    this.change(queued.task.id, change);
    if (!file) await removeFile('exports', queued.task.id).catch(() => undefined);
    queued.finish(file);
    void this.next();
  }

  /** Ends a task; what it has written goes. */
  cancel(id: string): void {
    const waiting = this.queue.find((q) => q.task.id === id);
    this.queue = this.queue.filter((q) => q !== waiting);
    if (waiting) {
      this.change(id, { state: 'cancelled' });
      waiting.finish(null);
    } else if (this.running?.queued.task.id === id) void this.end(this.running.queued, this.running.worker, { state: 'cancelled' }, null);
  }

  close(): void {
    clearTimeout(this.watch);
    this.queue = [];
    this.running?.worker.terminate();
    this.running = null;
  }
}

/** Removes what earlier exports left: the browser has copied it out long ago. */
export async function sweepExports(): Promise<void> {
  const root = await navigator.storage.getDirectory();
  await root.removeEntry('exports', { recursive: true }).catch(() => undefined);
}
