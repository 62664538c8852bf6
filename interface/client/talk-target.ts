/** Whom the key for one person alone speaks to: a choice of this operator, kept in this browser. */
import { create } from 'zustand';
import { type Listener } from '#core/sound/document';

const KEY = 'bivoca.talkTo';

export const useTalkTarget = create<{ chosen: string | null }>(() => ({ chosen: localStorage.getItem(KEY) }));

export function setTalkTarget(listenerId: string): void {
  localStorage.setItem(KEY, listenerId);
  useTalkTarget.setState({ chosen: listenerId });
}

/** The one who is spoken to: as chosen, otherwise the first guest, otherwise the first who gets talkback. */
export function talkTarget(listeners: readonly Listener[], chosen: string | null): Listener | undefined {
  const reachable = listeners.filter((l) => l.talkback);
  return reachable.find((l) => l.id === chosen) ?? reachable.find((l) => l.kind === 'guest') ?? reachable[0];
}
