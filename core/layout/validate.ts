/** What must hold inside framings, layouts and their boxes, besides that what they refer to is there. */
import { circleThrough } from '../desk/pictures';
import { type Show } from '../desk/show';
import { type Problem } from '../schema/check';
import { type BoxContent, type Layout } from './document';
import { cropLeaves } from './look';

/** Faults of crops, contents and circles; each names its place. */
export function layoutProblems(show: Show): Problem[] {
  const problems: Problem[] = [];
  const fault = (path: string, message: string) => problems.push({ path, message });
  const content = (value: BoxContent | null, path: string) => {
    if (value?.kind === 'colour' && value.colour === undefined) fault(path, 'names no colour');
    if (value && value.kind !== 'colour' && value.id === undefined) fault(`${path}.id`, `names no ${value.kind}`);
  };
  show.framings.forEach((framing, i) => {
    if (!cropLeaves(framing.crop)) fault(`framings[${i}].crop`, `leaves nothing of ${framing.name}`);
  });
  const layout = (l: Layout, path: string) => {
    content(l.background, `${path}.background`);
    const ids = new Set<string>();
    l.boxes.forEach((box, i) => {
      const at = `${path}.boxes[${i}]`;
      content(box.content, `${at}.content`);
      if (ids.has(box.id)) fault(`${at}.id`, `id ${box.id} is used twice`);
      ids.add(box.id);
      if (!cropLeaves(box.crop)) fault(`${at}.crop`, `leaves nothing of box ${box.name}`);
    });
    for (const inner of [l.background, ...l.boxes.map((b) => b.content)]) {
      if (!inner || inner.kind === 'colour' || inner.id === undefined) continue;
      const circle = circleThrough(show, l.id, inner.id);
      if (circle) fault(path, `shows itself: ${circle.join(' → ')}`);
    }
  };
  show.layouts.forEach((l, i) => layout(l, `layouts[${i}]`));
  show.presets.forEach((p, i) => layout(p, `presets[${i}]`));
  return problems;
}
