/** What must hold between seats, framings, layouts, styles and transitions of a show. */
import { type Problem } from '../schema/check';
import { type BoxContent, type Layout } from './document';
import { cropLeaves, type Key } from './look';
import { circleThrough, findPicture } from '../desk/pictures';
import { type Show } from '../desk/show';
import { type Transition } from '../picture/document';

/** Everything that is switched, with the place of its identity: one space of identities and one of numbers. */
export function switchable(show: Show): { id: string; number: number | null; path: string }[] {
  const list = (name: string, items: { id: string; number?: number | null }[]) =>
    items.map(({ id, number = null }, i) => ({ id, number, path: `${name}[${i}]` }));
  return [
    ...list('sources', show.sources),
    ...list('framings', show.framings),
    ...list('layouts', show.layouts),
    ...list('presets', show.presets),
    ...list('seats', show.seats),
  ];
}

/** Faults of references, crops and circles; each names its place. */
export function layoutProblems(show: Show): Problem[] {
  const problems: Problem[] = [];
  const fault = (path: string, message: string) => problems.push({ path, message });
  const source = (id: string | null, path: string) => {
    if (id !== null && !show.sources.some((s) => s.id === id)) fault(path, `no source has the id "${id}"`);
  };
  const key = (value: Key | null, path: string) => {
    if (value?.kind === 'fill') source(value.keyId, `${path}.keyId`);
  };
  const content = (value: BoxContent | null, path: string) => {
    if (!value) return;
    if (value.kind === 'colour') {
      if (value.colour === undefined) fault(path, 'names no colour');
    } else if (value.id === undefined || findPicture(show, value.id)?.kind !== value.kind)
      fault(`${path}.id`, `no ${value.kind} has the id "${value.id ?? ''}"`);
  };
  show.seats.forEach((seat, i) => {
    const kind = findPicture(show, seat.occupantId)?.kind;
    if (seat.occupantId !== null && kind !== 'source' && kind !== 'framing')
      fault(`seats[${i}].occupantId`, `no source or framing has the id "${seat.occupantId}"`);
  });
  show.eyes.forEach((eye, i) => {
    if (!show.framings.some((f) => f.id === eye.sourceId)) source(eye.sourceId, `eyes[${i}].sourceId`);
  });
  show.framings.forEach((framing, i) => {
    source(framing.sourceId, `framings[${i}].sourceId`);
    key(framing.key, `framings[${i}].key`);
    if (!cropLeaves(framing.crop)) fault(`framings[${i}].crop`, `leaves nothing of ${framing.name}`);
  });
  const layout = (l: Layout, path: string) => {
    content(l.background, `${path}.background`);
    if (l.frameId !== null) source(l.frameId, `${path}.frameId`);
    const ids = new Set<string>();
    l.boxes.forEach((box, i) => {
      const at = `${path}.boxes[${i}]`;
      content(box.content, `${at}.content`);
      key(box.key, `${at}.key`);
      if (ids.has(box.id)) fault(`${at}.id`, `id ${box.id} is used twice`);
      ids.add(box.id);
      if (!cropLeaves(box.crop)) fault(`${at}.crop`, `leaves nothing of box ${box.name}`);
      if (box.styleId !== null && !show.styles.some((s) => s.id === box.styleId))
        fault(`${at}.styleId`, `no style has the id "${box.styleId}"`);
    });
    for (const inner of [l.background, ...l.boxes.map((b) => b.content)]) {
      if (inner?.kind !== 'layout' || inner.id === undefined) continue;
      const circle = circleThrough(show, l.id, inner.id);
      if (circle) fault(path, `shows itself: ${circle.join(' → ')}`);
    }
  };
  show.layouts.forEach((l, i) => layout(l, `layouts[${i}]`));
  show.presets.forEach((p, i) => layout(p, `presets[${i}]`));
  show.styles.forEach((style, i) => {
    if (style.framingId !== null && !show.framings.some((f) => f.id === style.framingId))
      fault(`styles[${i}].framingId`, `no framing has the id "${style.framingId}"`);
  });
  const transition = (t: Transition, path: string) => {
    source(t.imageId, `${path}.imageId`);
    source(t.stingerId, `${path}.stingerId`);
  };
  transition(show.transition, 'transition');
  show.transitions.forEach((t, i) => transition(t.settings, `transitions[${i}].settings`));
  show.overrides.forEach((o, i) => {
    transition(o.settings, `overrides[${i}].settings`);
    if (!findPicture(show, o.toId)) fault(`overrides[${i}].toId`, `no picture has the id "${o.toId}"`);
  });
  show.lanes.forEach((lane, i) => {
    key(lane.key, `lanes[${i}].key`);
    if (lane.whileId !== null && !findPicture(show, lane.whileId)) fault(`lanes[${i}].whileId`, `no picture has the id "${lane.whileId}"`);
  });
  return problems;
}
