/** Steps that alter what an earlier step has put on air, and where they would have to stand so that nobody sees it. */
import { type Patch } from 'immer';
import { type Desk } from '../desk/air';
import { tallyOf } from '../picture/tally';
import { type Macro } from './document';

/** What has to be known of a line of a dry run. */
interface TriedLine {
  stepId: string;
  macroId: string;
  refused: string | null;
  seen: boolean;
}

/** Commands that put something on air. */
const PUTS = /^(picture\.(take|cut|cutByNumber)|lane\.(show|showPicture|toggle|next)|tableau\.|roll\.toAir)/;

/** The place in a macro where a step would be unseen: before the last step that put something on air. Null where none did, or it is not seen. */
export function placeUnseen(macro: Macro, lines: readonly TriedLine[], index: number): number | null {
  const line = lines[index];
  if (!line?.seen || line.macroId !== macro.id) return null;
  for (let i = index - 1; i >= 0; i -= 1) {
    const before = lines[i];
    const at = macro.steps.findIndex((s) => s.id === before?.stepId);
    const act = macro.steps[at]?.act;
    if (before?.macroId === macro.id && before.refused === null && act?.kind === 'command' && PUTS.test(act.type)) return at;
  }
  return null;
}

/** Lists of the show whose things are pictures: where they are kept, from the root of the show. */
const PICTURE_LISTS = [['sources'], ['framings'], ['layouts'], ['presets'], ['seats'], ['graphics', 'list']] as const;

/** The picture that a change of the show reaches into, by its identity; null where it is none, or what is changed is only heard. */
function pictureOf({ show }: Desk, path: Patch['path']): string | null {
  for (const list of PICTURE_LISTS) {
    if (list.some((name, i) => path[i + 1] !== name)) continue;
    const [index, field] = path.slice(list.length + 1);
    const things = list.reduce((node: unknown, name) => (node as Record<string, unknown>)[name], show) as readonly { id: string }[];
    return field === 'sound' || field === 'name' || field === 'number' || typeof index !== 'number' ? null : (things[index]?.id ?? null);
  }
  return null;
}

/** True when changes reach into a picture that is on air, itself or as a part of what is. */
export function altersAir(before: Desk, patches: readonly Patch[], frame: number): boolean {
  const reached = patches.flatMap(({ path }) => (path[0] === 'show' ? (pictureOf(before, path) ?? []) : []));
  if (reached.length === 0) return false;
  const tally = tallyOf(before.show, before.air, frame);
  return reached.some((id) => {
    const graphic = before.show.graphics.list.find((g) => g.id === id);
    return [id, ...(graphic?.entries.map((e) => e.id) ?? [])].some((one) => tally[one]?.onAir || tally[one]?.inUse);
  });
}
