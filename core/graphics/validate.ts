/** What must hold inside graphics, besides that what they refer to in the show is there. */
import { circleThrough } from '../desk/pictures';
import { type Show } from '../desk/show';
import { type Problem } from '../schema/check';
import { type Graphic } from './document';
import { allWindowsOf } from './find';

/** Faults of identities, groups, masks, fields and windows; each names its place. */
export function graphicProblems(show: Show): Problem[] {
  const problems: Problem[] = [];
  show.graphics.list.forEach((graphic, i) => {
    problems.push(...designProblems(graphic, `graphics.list[${i}]`));
    for (const id of new Set(allWindowsOf(graphic))) {
      const circle = circleThrough(show, graphic.id, id);
      if (circle) problems.push({ path: `graphics.list[${i}]`, message: `shows itself: ${circle.join(' → ')}` });
    }
  });
  const clocks = new Set<string>();
  show.graphics.clocks.forEach(({ id }, i) => {
    if (clocks.has(id)) problems.push({ path: `graphics.clocks[${i}].id`, message: `id ${id} is used twice` });
    clocks.add(id);
  });
  return problems;
}

/** Faults of one graphic by itself; `path` is its place. */
export function designProblems(graphic: Graphic, path: string): Problem[] {
  const problems: Problem[] = [];
  const fault = (at: string, message: string) => problems.push({ path: `${path}.${at}`, message });
  const byId = new Map(graphic.elements.map((e) => [e.id, e]));
  if (byId.size < graphic.elements.length) {
    const seen = new Set<string>();
    graphic.elements.forEach((e, i) => {
      if (seen.has(e.id)) fault(`elements[${i}].id`, `id ${e.id} is used twice`);
      seen.add(e.id);
    });
  }
  graphic.elements.forEach((e, i) => {
    if (e.parentId !== null && byId.get(e.parentId)?.content.kind !== 'group')
      fault(`elements[${i}].parentId`, `no group has the id "${e.parentId}"`);
    if (goesRound(byId, e.id, (x) => byId.get(x)?.parentId ?? null)) fault(`elements[${i}].parentId`, `${e.name} would be in itself`);
    if (e.mask && !byId.has(e.mask.elementId)) fault(`elements[${i}].mask.elementId`, `no element has the id "${e.mask.elementId}"`);
    if (goesRound(byId, e.id, (x) => byId.get(x)?.mask?.elementId ?? null)) fault(`elements[${i}].mask`, `${e.name} would mask itself`);
  });
  const fields = new Map(graphic.fields.map((f) => [f.id, f]));
  if (fields.size < graphic.fields.length) fault('fields', 'the same id is used twice');
  graphic.fields.forEach((f, i) =>
    f.targets.forEach((t, k) => {
      if (!byId.has(t.elementId)) fault(`fields[${i}].targets[${k}].elementId`, `no element has the id "${t.elementId}"`);
    }),
  );
  return problems;
}

/** True when going on from `id` comes back to it. */
function goesRound(all: ReadonlyMap<string, unknown>, id: string, next: (id: string) => string | null): boolean {
  let at = next(id);
  for (let steps = 0; at !== null && steps <= all.size; steps += 1) {
    if (at === id) return true;
    at = next(at);
  }
  return false;
}
