/** Macros tried dry in a worker of the page's own, which is started when the first is. */
import { type DryLine } from '#core/automation/dry-run';
import { type Desk } from '#core/desk/air';

/** What a macro comes to. */
export interface Tried {
  lines: DryLine[];
  /** Frames that it takes. */
  frames: number;
  /** It had too many steps, and was cut off. */
  cut: boolean;
  /** The whole difference, in words. */
  whole: string[];
  /** Values that it leaves to chance. */
  chance: string[];
}
export interface DryAsked {
  id: number;
  desk: Desk;
  macroId: string;
  frame: number;
}
export type DryAnswer = { id: number; ok: true; tried: Tried } | { id: number; ok: false; message: string };

let worker: Worker | null = null;
let asked = 0;
const waiting = new Map<number, { resolve: (tried: Tried) => void; reject: (error: Error) => void }>();

function fail(message: string): void {
  worker?.terminate();
  worker = null;
  for (const { reject } of waiting.values()) reject(new Error(message));
  waiting.clear();
}

function start(): Worker {
  const made = new Worker(new URL('./dry-run.worker.ts', import.meta.url), { type: 'module' });
  made.onerror = (event) => fail(event.message || 'The worker that tries macros has stopped.');
  made.onmessage = ({ data }: MessageEvent<DryAnswer>) => {
    const who = waiting.get(data.id);
    waiting.delete(data.id);
    if (data.ok) who?.resolve(data.tried);
    else who?.reject(new Error(data.message));
  };
  return made;
}

/** Tries a macro of a desk as from `frame`. Nothing of the desk changes. @throws Error when it cannot be tried. */
export function tryDry(desk: Desk, macroId: string, frame: number): Promise<Tried> {
  worker ??= start();
  const id = (asked += 1);
  const { show, air } = desk;
  const answer = new Promise<Tried>((resolve, reject) => waiting.set(id, { resolve, reject }));
  worker.postMessage({ id, desk: { show, air }, macroId, frame } satisfies DryAsked);
  return answer;
}
