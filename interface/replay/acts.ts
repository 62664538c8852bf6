/** What Replay does itself: choosing clips and reels, the timeline, typing. */
import { type Clip } from '#core/replay/document';
import { filterClips } from '#core/replay/search';
import { type Show } from '#core/desk/show';
import { type ActWorld, type Acts } from '../client/acts';
import { focusSoon } from '../client/focus';
import { say } from '../client/say';
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

/** Focuses a field of the clip editor; a clip must be chosen. */
function edit({ client, go }: ActWorld, selector: string): void {
  go('replay');
  if (chosenClips(client.state.desk.show).length === 0) {
    say.caution('No clip is chosen. Choose one in the list first.', { id: 'hands' });
    return;
  }
  setRoom({ tab: 'clips' });
  focusSoon(selector);
}

export const REPLAY_ACTS: Acts = {
  'replay.deck': (_, { deck }) => setRoom({ deck: deck === 1 || deck === 2 ? deck : useRoom.getState().deck === 1 ? 2 : 1 }),
  'replay.goTo': ({ go }) => {
    go('replay');
    focusSoon('[data-role="go-to"]');
  },
  'replay.editIn': (world) => edit(world, '[data-role="edge-in"]'),
  'replay.editOut': (world) => edit(world, '[data-role="edge-out"]'),
  'replay.editName': (world) => edit(world, '[data-role="clip-name"]'),
  'replay.search': ({ go }) => {
    go('replay');
    setRoom({ tab: 'clips' });
    focusSoon('[data-role="clip-search"]');
  },
  'replay.clipBefore': ({ client }) => move(client.state.desk.show, -1, false),
  'replay.clipAfter': ({ client }) => move(client.state.desk.show, 1, false),
  'replay.addBefore': ({ client }) => move(client.state.desk.show, -1, true),
  'replay.addAfter': ({ client }) => move(client.state.desk.show, 1, true),
  'replay.all': ({ client }) => setRoom({ chosen: listedClips(client.state.desk.show).map((c) => c.id) }),
  'replay.none': () => setRoom({ chosen: [], anchor: null }),
  'replay.newest': ({ client, send }) => {
    const { clips } = client.state.desk.show.replay;
    const newest = clips.reduce<Clip | null>((best, c) => (best && best.number > c.number ? best : c), null);
    if (!newest) return;
    if (newest.reelId !== client.state.desk.show.replay.reelId) send('reel.choose', { reel: newest.reelId });
    setRoom({ chosen: [newest.id], anchor: newest.id, tab: 'clips' });
  },
  'replay.reelBefore': ({ client, send }) => void send('reel.choose', { reel: chooseReel(client.state.desk.show, -1) }),
  'replay.reelAfter': ({ client, send }) => void send('reel.choose', { reel: chooseReel(client.state.desk.show, 1) }),
  'replay.target': ({ client }) => {
    const { show } = client.state.desk;
    const { reels } = show.replay;
    const at = reels.findIndex((r) => r.id === targetReel(show));
    setRoom({ target: reels[(at + 1) % reels.length]?.id ?? null });
  },
  'replay.closer': () => zoomView(1 / 1.5, null),
  'replay.wider': () => zoomView(1.5, null),
  'replay.follow': () => {
    const { view } = useRoom.getState();
    setRoom({ view: { ...view, follow: !view.follow } });
  },
  'replay.jogPanel': () => setRoom({ jogPanel: !useRoom.getState().jogPanel }),
};
