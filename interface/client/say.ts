/** What is said to the crew: refusals, good news, long work, trouble. It has one place, the line at the foot of every page, and is kept in a list. */
import { nanoid } from 'nanoid';
import { create } from 'zustand';

export type Tone = 'info' | 'good' | 'working' | 'caution' | 'trouble';

export interface Said {
  id: string;
  tone: Tone;
  text: string;
  /** Wall time, milliseconds. */
  at: number;
  /** What it says is over, or has been read. */
  over: boolean;
  action?: { label: string; onClick: () => void } | undefined;
}

/** The newest last. */
export const useSaid = create<{ list: Said[] }>(() => ({ list: [] }));

const MOST = 60;

/** Milliseconds that a saying stands; those without one stand until they are over. */
const STANDS: Partial<Record<Tone, number>> = { info: 6000, good: 5000, caution: 8000, trouble: 15_000 };

const timers = new Map<string, ReturnType<typeof setTimeout>>();

/** What is said is over: it leaves the line, and stays in the list. */
export function over(id: string): void {
  clearTimeout(timers.get(id));
  timers.delete(id);
  useSaid.setState(({ list }) => ({ list: list.map((s) => (s.id === id ? { ...s, over: true } : s)) }));
}

interface Options {
  /** One with the same identity takes its place. */
  id?: string;
  /** Milliseconds; Infinity until it is over. */
  duration?: number;
  action?: Said['action'];
}

/** Says something. Returns its identity. */
function tell(tone: Tone, text: string, { id = nanoid(8), duration = STANDS[tone] ?? Infinity, action }: Options = {}): string {
  clearTimeout(timers.get(id));
  if (Number.isFinite(duration))
    timers.set(
      id,
      setTimeout(() => over(id), duration),
    );
  useSaid.setState(({ list }) => ({
    list: [...list.filter((s) => s.id !== id), { id, tone, text, at: Date.now(), over: false, action }].slice(-MOST),
  }));
  return id;
}

/**
 * Long work whose share is told as it goes: `words` and a percentage that stands until something else is said in its place (by `id`), or it is over.
 * Hundredths are enough: thousands of tellings would keep the page busy.
 */
export function sayShare(words: string): { id: string; share: (done: number) => void } {
  const id = tell('working', `${words}…`);
  let told = 0;
  const share = (done: number) => {
    const percent = Math.min(100, Math.floor(done * 100));
    if (percent <= told || useSaid.getState().list.find((s) => s.id === id)?.over !== false) return;
    told = percent;
    tell('working', `${words}: ${percent} %`, { id });
  };
  return { id, share };
}

export const say = {
  info: (text: string, options?: Options) => tell('info', text, options),
  good: (text: string, options?: Options) => tell('good', text, options),
  /** Long work: stands until it is over or something else is said in its place. */
  working: (text: string, options?: Options) => tell('working', text, options),
  caution: (text: string, options?: Options) => tell('caution', text, options),
  trouble: (text: string, options?: Options) => tell('trouble', text, options),
};
