/** What a gathered view is drawn from: places, names, and the way from how it was. `content` gives what is drawn of a picture. Pure. */
import { type Air } from '../desk/air';
import { type Show } from '../desk/show';
import { type DrawItem, type Scene } from '../picture/draw';
import { glide } from '../picture/glide';
import { fullRect, type Rect } from '../show/geometry';
import { type Gathering, type Guest } from './document';
import { arrangement, inOrder, turnShare } from './gathered';

export type ContentFor = (pictureId: string) => (Pick<DrawItem, 'texture' | 'sourceId'> & Partial<DrawItem>) | null;

/** Share of a picture's height that its name takes: the strip at the foot of a card. */
const NAME_SHARE = 0.2;
/** How high the strip is in the picture, as a share of its height; it stands at the left. */
const STRIP = 0.13;

function nameStrip(guest: Guest, colour: string, { x, y, width, height }: Rect): DrawItem {
  const h = height * STRIP;
  return {
    texture: { kind: 'seat', name: guest.name, colour },
    // As much narrower as it is lower: letters keep their shape.
    target: { x, y: y + height - h, width: (width * STRIP) / NAME_SHARE, height: h },
    fit: 'fill',
    view: { crop: { left: 0, right: 0, top: 1 - NAME_SHARE, bottom: 0 }, zoom: 1, panX: 0, panY: 0 },
    opacity: 0.85,
    sourceId: `name of ${guest.id}`,
  };
}

function pictureIn(content: ReturnType<ContentFor>, target: Rect): DrawItem[] {
  return content ? [{ ...content, target, fit: content.fit === 'fill' ? 'fill' : 'cover', opacity: 1 }] : [];
}

function everyone(show: Show, gathering: Gathering, ids: readonly string[], content: ContentFor): Scene {
  const guests = show.guests.list.filter((g) => ids.includes(g.id));
  const places = arrangement(guests.length, show.raster);
  return inOrder(show, guests, gathering.order).flatMap((guest, i) => {
    const place = places[i];
    if (!place) return [];
    const colour = show.sources.find((s) => s.id === guest.sourceId)?.colour ?? '#33566b';
    return [...pictureIn(content(guest.sourceId), place), ...(gathering.names ? [nameStrip(guest, colour, place)] : [])];
  });
}

/** One guest, as large as the picture. */
function alone(show: Show, gathering: Gathering, id: string | null, content: ContentFor): Scene {
  return id === null ? rest(show, gathering, content) : everyone(show, gathering, [id], content);
}

/** What is shown while there is nobody: the picture that was chosen for that, or nothing. */
function rest({ raster }: Show, { restId }: Gathering, content: ContentFor): Scene {
  return restId === null
    ? []
    : pictureIn(content(restId), fullRect(raster)).map((item) => ({ ...item, fit: item.fit === 'fill' ? 'fill' : 'contain' }));
}

function sharedScreen(show: Show, air: Air, gathering: Gathering, id: string | null, content: ContentFor): Scene {
  const screenId = show.guests.list.find((g) => g.id === id)?.screenId ?? null;
  if (screenId !== null) return pictureIn(content(screenId), fullRect(show.raster)).map((item) => ({ ...item, fit: 'contain' }));
  // It gives back to who speaks, or to the picture that was chosen.
  return gathering.restId === null ? alone(show, gathering, air.guests.gathered.speaker.now, content) : rest(show, gathering, content);
}

/** A view at a frame; between two arrangements on its way. */
export function gatheredScene(show: Show, air: Air, gathering: Gathering, frame: number, content: ContentFor): Scene {
  const { crowd, speaker, shared } = air.guests.gathered;
  const between = <T>(turn: { now: T; before: T; since: number }, draw: (of: T) => Scene): Scene => {
    const share = turnShare(turn, frame, gathering.frames);
    return share >= 1 ? draw(turn.now) : glide(draw(turn.before), draw(turn.now), share * share * (3 - 2 * share));
  };
  switch (gathering.kind) {
    case 'everyone':
      return between(crowd, (ids) => (ids.length === 0 ? rest(show, gathering, content) : everyone(show, gathering, ids, content)));
    case 'speaker':
      return between(speaker, (id) => alone(show, gathering, id, content));
    case 'shared':
      return between(shared, (id) => sharedScreen(show, air, gathering, id, content));
  }
}
