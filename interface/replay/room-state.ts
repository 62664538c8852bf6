/** What the operator has chosen in Replay; lives as long as the page, so that a change of rooms loses nothing. */
import { create } from 'zustand';
import { type ClipFilter } from '#core/replay/search';

export interface TimelineView {
  /** Show frame at the left edge. */
  from: number;
  /** Show frames a pixel. */
  scale: number;
  follow: boolean;
}

interface RoomState {
  deck: 1 | 2;
  /** Clips, in playing order of the list. */
  chosen: string[];
  /** Clip from which Shift chooses a range. */
  anchor: string | null;
  /** Reel for copies; null for the one after the chosen reel. */
  target: string | null;
  filter: Omit<ClipFilter, 'reelId'> & { everywhere: boolean };
  view: TimelineView;
  jogPanel: boolean;
  tab: 'clips' | 'angles' | 'export';
}

export const useRoom = create<RoomState>(() => ({
  deck: 1,
  chosen: [],
  anchor: null,
  target: null,
  filter: { text: '', rating: 0, angleId: null, everywhere: false },
  view: { from: 0, scale: 1.2, follow: true },
  jogPanel: false,
  tab: 'clips',
}));

export const setRoom = (change: Partial<RoomState>): void => useRoom.setState(change);

/** Closest and widest views: a frame is 40 pixels wide, or a pixel four minutes of 25 frames a second. */
const CLOSEST = 1 / 40;
const WIDEST = 6000;

/** Zooms the timeline by a factor about a show frame. */
export function zoomView(factor: number, about: number | null): void {
  const { view } = useRoom.getState();
  const scale = Math.min(WIDEST, Math.max(CLOSEST, view.scale * factor));
  const from = about === null ? view.from : about - ((about - view.from) * scale) / view.scale;
  setRoom({ view: { ...view, scale, from } });
}
