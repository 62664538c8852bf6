/** What keys and controllers do in the room Replay. */
import { useCallback, useEffect } from 'react';
import { toast } from 'sonner';
import { type Clip } from '#core/replay/document';
import { filterClips } from '#core/replay/search';
import { type Show } from '#core/desk/show';
import { useShowClient, useSend } from '../client/show-client';
import { argsFor, findAction } from './actions';
import { replayKeyFor } from './keys';
import { setRoom, useRoom, zoomView } from './room-state';

/** Clips of the list as it is filtered now. */
export function listedClips(show: Show): Clip[] {
  const { filter } = useRoom.getState();
  return filterClips(show.replay.clips, { ...filter, reelId: filter.everywhere ? null : show.replay.reelId });
}

/** The reel that copies go to: the chosen target, or the one after the chosen reel. */
export function targetReel({ replay }: Show): string {
  const { target } = useRoom.getState();
  if (target !== null && replay.reels.some((r) => r.id === target)) return target;
  const at = replay.reels.findIndex((r) => r.id === replay.reelId);
  return (replay.reels[(at + 1) % replay.reels.length] ?? replay.reels[0])?.id ?? replay.reelId;
}

/** Chosen clips that still exist, in playing order. */
export function chosenClips(show: Show): Clip[] {
  const chosen = new Set(useRoom.getState().chosen);
  return chosen.size === 0 ? [] : show.replay.clips.filter((c) => chosen.has(c.id));
}

/** Chooses one clip, or everything from the anchor to it. */
export function chooseClip(show: Show, id: string, range: boolean, add = false): void {
  const { chosen, anchor } = useRoom.getState();
  if (add) return setRoom({ chosen: chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id], anchor: id });
  if (!range || anchor === null) return setRoom({ chosen: [id], anchor: id });
  const list = listedClips(show).map((c) => c.id);
  const [a, b] = [list.indexOf(anchor), list.indexOf(id)];
  setRoom({ chosen: a < 0 || b < 0 ? [id] : list.slice(Math.min(a, b), Math.max(a, b) + 1) });
}

function move(show: Show, by: 1 | -1, extend: boolean): void {
  const { chosen, anchor } = useRoom.getState();
  const list = listedClips(show).map((c) => c.id);
  const ends = chosen.map((id) => list.indexOf(id)).filter((i) => i >= 0);
  const anchorAt = list.indexOf(anchor ?? '');
  // Extending moves the end that is away from the anchor.
  const from =
    ends.length === 0
      ? by > 0
        ? -1
        : list.length
      : extend && anchorAt >= 0
        ? ends.includes(anchorAt) && Math.max(...ends) > anchorAt
          ? Math.max(...ends)
          : Math.min(...ends)
        : by > 0
          ? Math.max(...ends)
          : Math.min(...ends);
  const next = list[Math.min(list.length - 1, Math.max(0, from + by))];
  if (next !== undefined) chooseClip(show, next, extend);
}

function chooseReel(show: Show, by: 1 | -1): string | undefined {
  const { reels, reelId } = show.replay;
  return reels[(reels.findIndex((r) => r.id === reelId) + by + reels.length) % reels.length]?.id;
}

const focusOn = (selector: string) => document.querySelector<HTMLInputElement>(selector)?.select();

/** Does an action of Replay, by its name. */
export function useAct(): (id: string) => void {
  const host = useShowClient();
  const send = useSend();
  return useCallback(
    (id) => {
      const { show } = host.state.desk;
      const { deck, view, jogPanel } = useRoom.getState();
      const action = findAction(id);
      if (!action) return;
      if (action.type) {
        const args = argsFor(action, { deck, clips: chosenClips(show).map((c) => c.id), target: targetReel(show) });
        if (!args) toast.warning('No clip is chosen. Choose one in the list first.', { id: 'no-clips' });
        else send(action.type, args);
        return;
      }
      const here: Record<string, () => void> = {
        'other-deck': () => setRoom({ deck: deck === 1 ? 2 : 1 }),
        'go-to': () => focusOn('[data-role="go-to"]'),
        search: () => focusOn('[data-role="clip-search"]'),
        'clip-before': () => move(show, -1, false),
        'clip-after': () => move(show, 1, false),
        'add-before': () => move(show, -1, true),
        'add-after': () => move(show, 1, true),
        all: () => setRoom({ chosen: listedClips(show).map((c) => c.id) }),
        none: () => setRoom({ chosen: [], anchor: null }),
        'reel-before': () => send('reel.choose', { reel: chooseReel(show, -1) }),
        'reel-after': () => send('reel.choose', { reel: chooseReel(show, 1) }),
        target: () => {
          const { reels } = show.replay;
          const at = reels.findIndex((r) => r.id === targetReel(show));
          setRoom({ target: reels[(at + 1) % reels.length]?.id ?? null });
        },
        closer: () => zoomView(1 / 1.5, null),
        wider: () => zoomView(1.5, null),
        follow: () => setRoom({ view: { ...view, follow: !view.follow } }),
        'jog-panel': () => setRoom({ jogPanel: !jogPanel }),
      };
      here[id]?.();
    },
    [host, send],
  );
}

/** Where keys mean text or belong to a control. */
const TEXT = 'input:not([type=checkbox]):not([type=range]), textarea, select, [contenteditable], [role=dialog], [role=menu]';

/** The keys of Replay, while its room is open. */
export function useReplayKeys(): void {
  const act = useAct();
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null;
      if (event.defaultPrevented || target?.closest(TEXT)) return;
      // A button that was reached by Tab keeps Space and Enter.
      if ((event.code === 'Space' || event.code === 'Enter') && target?.matches('button:focus-visible, [role=tab]:focus-visible')) return;
      const key = replayKeyFor(event);
      if (!key) return;
      event.preventDefault();
      if (!event.repeat || key.repeats) act(key.action);
    };
    window.addEventListener('keydown', down);
    return () => window.removeEventListener('keydown', down);
  }, [act]);
}
