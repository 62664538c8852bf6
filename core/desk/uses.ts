/** Where something is used, and what that means for the audience. */
import { Layout, Framing, Preset, Seat, Style } from '../layout/document';
import { Graphic } from '../graphics/document';
import { lanePictures } from '../picture/air';
import { Lane } from '../picture/document';
import { runningTransition } from '../picture/transition';
import { type Constructor } from '../schema/fields';
import { type EntityKind, kindsOf } from '../schema/kinds';
import { type Air } from './air';
import { picturesWithin } from './pictures';
import { placeOf } from './places';
import { type FoundRef, pointsAt, walkRefs } from './refs';
import { Show } from './show';

export interface Use {
  place: string;
  /** Seen by the audience at this moment. */
  onAir: boolean;
}

const PICTURES: readonly Constructor[] = [Layout, Preset, Framing, Seat, Graphic];

/** What the audience sees at a moment. */
interface Seen {
  /** Every picture on air, alone or within another. */
  live: ReadonlySet<string>;
  /** What each lane shows, by the lane's identity, everything within included. */
  lanes: ReadonlyMap<string, ReadonlySet<string>>;
}

function seenAt(show: Show, air: Air, frame: number): Seen {
  const running = runningTransition(air, frame);
  const live = new Set([...picturesWithin(show, air.onAirId), ...picturesWithin(show, running?.fromId ?? null)]);
  const lanes = new Map<string, ReadonlySet<string>>();
  for (const lane of show.lanes) {
    const state = air.lanes[lane.id];
    const shown = state ? lanePictures(state, frame).map(({ picture }) => picture.id) : [];
    if (shown.length > 0) lanes.set(lane.id, new Set(shown.flatMap((id) => [id, ...picturesWithin(show, id)])));
  }
  return { live, lanes };
}

/** True when the picture that this reference is a part of shows it to the audience. */
function onAirBy(show: Show, { holders, ref }: FoundRef, seen: Seen): boolean {
  if (!ref.seen || holders.some((h) => h.value.visible === false)) return false;
  const anywhere = (id: string) => seen.live.has(id) || [...seen.lanes.values()].some((ids) => ids.has(id));
  const owner = [...holders].reverse().find((h) => PICTURES.includes(h.of) || h.of === Lane || h.of === Style);
  if (!owner) return false;
  const id = String(owner.value.id);
  if (owner.of === Lane) return holders.some((h) => h.field?.name === 'key') && seen.lanes.has(id);
  if (owner.of !== Style) return anywhere(id);
  return [...show.layouts, ...show.presets].some((l) => anywhere(l.id) && l.boxes.some((b) => b.visible && b.styleId === id));
}

/** Every place that uses the `kind` of thing with this identity at `frame`, those on air first. */
export function usesOf(show: Show, air: Air, kind: EntityKind, id: string, frame: number): Use[] {
  const uses: Use[] = [];
  const add = (place: string, onAir: boolean) => {
    const known = uses.find((u) => u.place === place);
    if (known) known.onAir ||= onAir;
    else uses.push({ place, onAir });
  };
  const seen = seenAt(show, air, frame);
  if (kindsOf('picture').includes(kind)) {
    const running = runningTransition(air, frame);
    if (air.onAirId === id) add('on air', true);
    if (running?.fromId === id || (running?.settings.kind === 'stinger' && running.settings.stingerId === id))
      add('the transition under way', true);
    for (const lane of show.lanes) if (seen.lanes.get(lane.id)?.has(id)) add(`${lane.name}, on air`, true);
  }
  const found = (ref: FoundRef) => {
    if (ref.ref.counts && pointsAt(ref, kind, id)) add(placeOf(show, ref), onAirBy(show, ref, seen));
  };
  walkRefs(Show, show, found, new Set([kind]));
  if (air.nextId === id && kindsOf('picture').includes(kind)) add('Next', false);
  return [...uses.filter((u) => u.onAir), ...uses.filter((u) => !u.onAir)];
}
