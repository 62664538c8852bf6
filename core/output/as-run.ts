/** The as-run log: what was on air, from when to when. */
import { type Air } from '../desk/air';
import { fadeLevel } from '../time/fade';
import { lanePictures } from '../picture/air';
import { pictureName } from '../desk/pictures';
import { shownWords } from '../graphics/find';
import { type Show } from '../desk/show';
import { formatTimecode } from '../time/timecode';
import { type Rate } from '../time/rate';
import { csvCell } from './csv';

/** Something on air at one moment. The same `place` and `what` on later frames is the same entry. */
export interface OnAirItem {
  place: string;
  what: string;
  /** How it came. */
  how: string;
  /** Identity of the picture; of lines from before Bivoca wrote it, and of cards, there is none. */
  pictureId?: string;
  /** With whose pass it was brought on; without it, at the window that runs the show, by a macro, or before Bivoca wrote it. */
  who?: string;
}

/** Everything on air at `frame`. */
export function onAirItems(show: Show, air: Air, frame: number): OnAirItem[] {
  const items: OnAirItem[] = [];
  if (air.onAirId !== null) {
    items.push({
      place: 'picture',
      what: pictureName(show, air.onAirId),
      pictureId: air.onAirId,
      how: air.transition?.toId === air.onAirId ? air.transition.settings.kind : 'cut',
    });
  }
  for (const lane of show.lanes) {
    const state = air.lanes[lane.id];
    const top = state && lanePictures(state, frame).at(-1)?.picture;
    if (!top) continue;
    const what = top.kind === 'graphic' ? shownWords(top.shown, pictureName(show, top.id)) : pictureName(show, top.id);
    items.push({ place: lane.name, what, how: state.fade.frames > 0 ? 'fade' : 'cut' });
  }
  if (fadeLevel(air.black, frame) >= 1) items.push({ place: 'black', what: 'Black', how: 'fade' });
  return items;
}

/** Something was on air from one frame to another. */
export interface AsRunLine extends OnAirItem {
  /** Wall time, milliseconds. */
  startedAt: number;
  startFrame: number;
  /** Null while it is on air. */
  endedAt: number | null;
  endFrame: number | null;
}

/** The log as CSV (RFC 4180), times in ISO 8601 and timecode; an open entry has no end. */
export function asRunCsv(lines: readonly AsRunLine[], rate: Rate): string {
  const rows = lines.map((l) => [
    l.place,
    l.what,
    l.how,
    l.who ?? '',
    new Date(l.startedAt).toISOString(),
    formatTimecode(l.startFrame, rate),
    l.endedAt === null ? '' : new Date(l.endedAt).toISOString(),
    l.endFrame === null ? '' : formatTimecode(l.endFrame, rate),
    l.endFrame === null ? '' : String(l.endFrame - l.startFrame),
  ]);
  const head = ['place', 'what', 'how', 'who', 'from', 'from timecode', 'to', 'to timecode', 'frames'];
  return [head, ...rows].map((row) => row.map(csvCell).join(',')).join('\r\n') + '\r\n';
}
