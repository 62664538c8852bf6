/** What leaves Replay as files: names, jobs, edit lists and clip lists. */
import Papa from 'papaparse';
import { type RollItem } from '#core/replay/air';
import { clipJson, ClipListError, clipRows, clipsOfJson, clipsOfRows, type ListContext, type ListedClip } from '#core/replay/clip-lists';
import { type Clip } from '#core/replay/document';
import { cmx3600, type EditEvent, eventsOf, eventsOfLog } from '#core/replay/edit-list';
import { type AngleFile, otioTimeline } from '#core/replay/otio';
import { itemsOf } from '#core/replay/roll';
import { pictureName, sourceBehind } from '#core/desk/pictures';
import { type Show } from '#core/desk/show';
import { type ShowClient, type ShowFiles } from '#engine/client/show-client';

/** A name that every file system takes. */
export const fileName = (name: string, ending: string): string =>
  `${
    name
      .replace(/[^\p{L}\p{N} ._-]+/gu, ' ')
      .replace(/\s+/g, ' ')
      .trim()
      .slice(0, 80) || 'clip'
  }.${ending}`;

export type Container = 'mp4' | 'webm';

const soundsOf = (show: Show): Record<string, string> =>
  Object.fromEntries(show.replay.angles.flatMap((a) => (a.soundId === null ? [] : [[a.pictureId, `sound-${a.soundId}`]])));

/** Adds the clips to the exports: one file each, or all joined. Resolves with the files as they are done. */
export function exportClips(
  host: ShowClient,
  name: string,
  clips: readonly Clip[],
  container: Container,
  joined: boolean,
  each: (file: File) => void,
): Promise<void> {
  const { show } = host.state.desk;
  const { megabits, blend, soundAtSpeed, join, joinFrames } = show.replay.settings;
  const job = (items: RollItem[]) => ({
    kind: 'clips' as const,
    items,
    joinFrames: join === 'dissolve' ? joinFrames : 0,
    container,
    bitrate: Math.round(megabits * 1e6 * 1.5),
    blend,
    soundAtSpeed,
  });
  const fallback = show.replay.angles[0]?.pictureId ?? null;
  const parts = joined
    ? [{ name, items: clips.flatMap((c) => itemsOf(c, fallback)) }]
    : clips.map((c) => ({ name: `${c.number} ${c.name}`, items: itemsOf(c, fallback) }));
  return Promise.all(
    parts.map(async (part) => {
      const file = await host.exports.add(fileName(part.name, container), job(part.items), soundsOf(show));
      if (file) each(file);
    }),
  ).then(() => undefined);
}

/** Adds the recordings of the angles that `events` use, each over all the time they use. */
export function exportAngles(host: ShowClient, events: readonly EditEvent[], each: (file: File) => void): Promise<void> {
  const { show } = host.state.desk;
  return Promise.all(
    [...anglesOf(show, events)].map(async ([angleId, { fileName: name, from, to }]) => {
      const file = await host.exports.add(name, { kind: 'angle', angleId, from, to }, soundsOf(show));
      if (file) each(file);
    }),
  ).then(() => undefined);
}

/** Spans of the angle recordings that edit lists refer to, by angle. */
function anglesOf(show: Show, events: readonly EditEvent[]): Map<string, AngleFile> {
  const spans = new Map<string, AngleFile>();
  for (const { angleId, angle, sourceIn, sourceOut } of events) {
    if (!show.sources.some((s) => s.id === angleId)) continue;
    const known = spans.get(angleId);
    spans.set(angleId, {
      fileName: fileName(`${show.name} ${angle}`, 'mp4'),
      from: Math.min(known?.from ?? Infinity, sourceIn),
      to: Math.max(known?.to ?? 0, sourceOut),
    });
  }
  return spans;
}

/** A reel as events of an edit list. */
export function reelEvents(show: Show, clips: readonly Clip[]): EditEvent[] {
  const { join, joinFrames } = show.replay.settings;
  const fallback = show.replay.angles[0]?.pictureId ?? null;
  return eventsOf(
    clips.flatMap((c) => itemsOf(c, fallback)),
    join === 'dissolve' ? joinFrames : 0,
    (id) => pictureName(show, id),
  );
}

/** What was on air, from the as-run log, as events against the angles. */
export async function programmeEvents(show: Show, files: Pick<ShowFiles, 'asRun'>, present: number): Promise<EditEvent[]> {
  const lines = await files.asRun();
  const angles = new Map(show.replay.angles.map((a) => [a.pictureId, pictureName(show, a.pictureId)]));
  return eventsOfLog(
    lines.map((l) => ({ ...l, sourceId: sourceBehind(show, l.pictureId ?? null) })),
    angles,
    present,
  );
}

export const edlFile = (show: Show, title: string, events: readonly EditEvent[]): File =>
  new File([cmx3600(title, events, show.rate)], fileName(title, 'edl'), { type: 'text/plain' });

export const otioFile = (show: Show, title: string, events: readonly EditEvent[]): File =>
  new File([otioTimeline(title, events, show.rate, anglesOf(show, events))], fileName(title, 'otio'), { type: 'application/json' });

function contextOf(show: Show): ListContext {
  return {
    rate: show.rate,
    angles: show.replay.angles,
    angleName: (id) => pictureName(show, id),
    reelName: (id) => show.replay.reels.find((r) => r.id === id)?.name ?? '',
  };
}

/** The clips as CSV. */
export const csvFile = (show: Show, title: string, clips: readonly Clip[]): File =>
  new File([`${Papa.unparse(clipRows(clips, contextOf(show)), { newline: '\r\n' })}\r\n`], fileName(title, 'csv'), { type: 'text/csv' });

export const jsonFile = (show: Show, title: string, clips: readonly Clip[]): File =>
  new File([clipJson(clips, contextOf(show))], fileName(title, 'json'), { type: 'application/json' });

/** Reads a list of clips. @throws ClipListError when it cannot be used, naming the lines. */
export async function readClipList(show: Show, file: File, present: number): Promise<ListedClip[]> {
  const text = await file.text();
  if (/\.json$/i.test(file.name)) return clipsOfJson(text, contextOf(show));
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: true });
  const fault = errors.find((e) => e.type === 'Quotes');
  if (fault) throw new ClipListError(`Line ${(fault.row ?? 0) + 1} of this list is damaged: ${fault.message}.`);
  return clipsOfRows(data, contextOf(show), present);
}
