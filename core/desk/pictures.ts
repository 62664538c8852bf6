/** Everything that can be switched: sources, framings, layouts, presets and seats share one space of identities. */
import { type BoxContent, type Framing, type Layout, type Preset, type Seat } from '../layout/document';
import { type Show } from './show';
import { type Source } from '../show/source';

export type Picture =
  | { kind: 'source'; id: string; name: string; source: Source }
  | { kind: 'framing'; id: string; name: string; framing: Framing }
  | { kind: 'layout'; id: string; name: string; layout: Layout | Preset }
  | { kind: 'seat'; id: string; name: string; seat: Seat };

/** The picture with this identity; null when the show has none. */
export function findPicture(show: Show, id: string | null): Picture | null {
  if (id === null) return null;
  const source = show.sources.find((s) => s.id === id);
  if (source) return { kind: 'source', id, name: source.name, source };
  const framing = show.framings.find((f) => f.id === id);
  if (framing) return { kind: 'framing', id, name: framing.name, framing };
  const layout = show.layouts.find((l) => l.id === id) ?? show.presets.find((p) => p.id === id);
  if (layout) return { kind: 'layout', id, name: layout.name, layout };
  const seat = show.seats.find((s) => s.id === id);
  return seat ? { kind: 'seat', id, name: seat.name, seat } : null;
}

/** A picture's name; says so when it is gone. */
export const pictureName = (show: Show, id: string | null): string =>
  id === null ? 'Nothing' : (findPicture(show, id)?.name ?? 'Missing source');

/** The picture that wears this number on keys. */
export const pictureByNumber = (show: Show, number: number): { id: string; name: string } | undefined =>
  [...show.sources, ...show.framings, ...show.layouts, ...show.presets].find((p) => p.number === number);

/** What a layout refers to: background, visible boxes, frame. */
function contentsOf(layout: Layout): BoxContent[] {
  const boxes = layout.boxes.filter((b) => b.visible).map((b) => b.content);
  return [layout.background, ...boxes].filter((c): c is BoxContent => c !== null);
}

/** Identities of the pictures directly inside one: its occupant, its source, its boxes. Hidden boxes count with `all`. */
function inside(show: Show, id: string, all: boolean): string[] {
  const picture = findPicture(show, id);
  if (!picture) return [];
  switch (picture.kind) {
    case 'source':
      return [];
    case 'framing': {
      const { sourceId, key } = picture.framing;
      return key?.kind === 'fill' ? [sourceId, key.keyId] : [sourceId];
    }
    case 'seat':
      return picture.seat.occupantId === null ? [] : [picture.seat.occupantId];
    case 'layout': {
      const { layout } = picture;
      const contents = all
        ? [layout.background, ...layout.boxes.map((b) => b.content)].filter((c): c is BoxContent => c !== null)
        : contentsOf(layout);
      const keys = layout.boxes.flatMap((b) => (b.key?.kind === 'fill' ? [b.key.keyId] : []));
      return [...contents.flatMap((c) => c.id ?? []), ...keys, ...(layout.frameId === null ? [] : [layout.frameId])];
    }
  }
}

/** Every picture that is seen in one, itself included. With `all`, hidden boxes too. */
export function picturesWithin(show: Show, id: string | null, all = false): Set<string> {
  const found = new Set<string>();
  const visit = (next: string) => {
    if (found.has(next)) return;
    found.add(next);
    inside(show, next, all).forEach(visit);
  };
  if (id !== null) visit(id);
  return found;
}

/** The names along a circle that putting `inner` into `outer` would close; null when it would close none. */
export function circleThrough(show: Show, outer: string, inner: string): string[] | null {
  const path: string[] = [];
  const seen = new Set<string>();
  const search = (id: string): boolean => {
    path.push(pictureName(show, id));
    if (id === outer) return true;
    if (!seen.has(id)) {
      seen.add(id);
      if (inside(show, id, true).some(search)) return true;
    }
    path.pop();
    return false;
  };
  return search(inner) ? [pictureName(show, outer), ...path] : null;
}

/** The source that a source, framing or seat comes down to; null for layouts and empty seats. */
export function sourceBehind(show: Show, id: string | null): string | null {
  const picture = findPicture(show, id);
  if (!picture) return null;
  if (picture.kind === 'source') return picture.id;
  if (picture.kind === 'framing') return picture.framing.sourceId;
  return picture.kind === 'seat' ? sourceBehind(show, picture.seat.occupantId) : null;
}
