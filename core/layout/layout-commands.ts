/** Commands for layouts and presets as a whole. */
import { CommandError, defineCommand } from '../commands/command';
import { plainCopy } from '../schema/plain-copy';
import { Nested, Num, OneOf, Ref, Text, Whole } from '../schema/fields';
import { cut, settle } from '../picture/mixer';
import { type Desk } from '../desk/air';
import { BoxContent, createBox, createLayout } from './document';
import { remove } from '../desk/remove';
import { usesOf } from '../desk/uses';
import { checkContent, requireOverlay, checkNumber, layoutOf } from './edit';
import { STARTER_NAMES, type Starter, starterBoxes, STARTERS, usualSpacing } from './starters';

class AddArgs {
  @Text(80, 'name', { min: 1, optional: true }) name?: string;
  @OneOf(STARTERS, 'boxes to begin with', { optional: true }) starter?: Starter;
  @Num(0, 2000, 'pixels to the edge', { optional: true }) margin?: number;
  @Num(0, 2000, 'pixels between boxes', { optional: true }) gap?: number;
}
class LayoutArg {
  @Ref('layout', 'layout or preset') layout!: string;
}
class EditArgs extends LayoutArg {
  @Text(80, 'name', { min: 1, optional: true }) name?: string;
  @Whole(1, 99, 'number on keys; null for none', { optional: true, nullable: true }) number?: number | null;
  @Nested(() => BoxContent, 'behind the boxes; null for black', { optional: true, nullable: true }) background?: BoxContent | null;
  @Ref('overlay', 'still, other source or graphic over the boxes; null for none', { optional: true, nullable: true }) frameId?:
    string | null;
}
class MoveArgs extends LayoutArg {
  @Whole(0, 199, 'place in the list, from 0') index!: number;
}
class StoreArgs {
  @Ref('layout', 'layout') layout!: string;
  @Text(80, 'name', { min: 1 }) name!: string;
}
class RecallArgs {
  @Ref('preset', 'preset') preset!: string;
  @OneOf(['next', 'layout', 'air'], 'into Next (default), back into its layout, or straight to air', { optional: true }) to?:
    'next' | 'layout' | 'air';
}

function presetOf(desk: Desk, id: string) {
  const preset = desk.show.presets.find((p) => p.id === id);
  if (!preset) throw new CommandError('unknown-preset', `There is no preset "${id}" in this show.`, 'preset');
  return preset;
}

export const layoutCommands = [
  defineCommand({
    type: 'layout.add',
    title: 'Add a layout',
    about: 'Adds a layout, empty or with boxes made from margins and gaps. Seats fill the boxes in their order. Returns its `id`.',
    args: AddArgs,
    run: ({ show }, { name, starter, margin, gap }, { newId }) => {
      if (show.layouts.length >= 200) throw new CommandError('too-many', 'A show holds at most 200 layouts.');
      const usual = usualSpacing(show.raster);
      const rects = starter ? starterBoxes(starter, show.raster, { margin: margin ?? usual.margin, gap: gap ?? usual.gap }) : [];
      const boxes = rects.map((rect, i) => {
        const seat = show.seats[i];
        return {
          ...createBox(newId(), seat?.name ?? `Box ${i + 1}`, rect, seat ? { kind: 'seat', id: seat.id } : null),
          fit: seat ? ('eye' as const) : ('cover' as const),
        };
      });
      const layout = createLayout(newId(), name ?? (starter ? STARTER_NAMES[starter] : `Layout ${show.layouts.length + 1}`), boxes);
      show.layouts.push(layout);
      return { id: layout.id };
    },
  }),
  defineCommand({
    type: 'layout.edit',
    title: 'Edit a layout',
    about: 'Name, number on keys, background and frame artwork of a layout.',
    args: EditArgs,
    mergeKey: ({ layout }) => `layout:${layout}`,
    run: (desk, { layout: id, ...change }) => {
      const layout = layoutOf(desk, id);
      if (change.background !== undefined) checkContent(desk, layout, change.background, 'background');
      if (change.frameId) requireOverlay(desk, change.frameId, 'frameId');
      checkNumber(desk, change.number, id);
      Object.assign(layout, change);
    },
  }),
  defineCommand({
    type: 'layout.duplicate',
    title: 'Duplicate a layout',
    about: 'Adds a copy under a new identity. Returns its `id`.',
    args: LayoutArg,
    run: (desk, { layout: id }, { newId }) => {
      const { background, boxes, frameId, name } = plainCopy(layoutOf(desk, id));
      const copy = {
        ...createLayout(
          newId(),
          `${name.slice(0, 72)} copy`,
          boxes.map((b) => ({ ...b, id: newId() })),
        ),
        background,
        frameId,
      };
      desk.show.layouts.push(copy);
      return { id: copy.id };
    },
  }),
  defineCommand({
    type: 'layout.move',
    title: 'Move a layout in the list',
    about: 'Changes the order of the layouts.',
    args: MoveArgs,
    run: (desk, { layout, index }) => {
      const list = desk.show.layouts;
      const from = list.findIndex((l) => l.id === layoutOf(desk, layout).id);
      const [moved] = from < 0 ? [] : list.splice(from, 1);
      if (moved) list.splice(Math.min(index, list.length), 0, moved);
    },
  }),
  defineCommand({
    type: 'layout.remove',
    title: 'Remove a layout or preset',
    about: 'Refused while it is on air or shown in another layout, naming the places.',
    args: LayoutArg,
    run: (desk, { layout: id }, { frame }) => {
      const layout = layoutOf(desk, id);
      const kind = desk.show.layouts.some((l) => l.id === id) ? 'layout' : 'preset';
      settle(desk.air, frame);
      const blocking = usesOf(desk.show, desk.air, kind, id, frame).filter((u) => u.place !== 'Next');
      if (blocking.length > 0)
        throw new CommandError('in-use', `${layout.name} is in use: ${blocking.map((u) => u.place).join('; ')}.`, 'layout');
      remove(desk, kind, id);
    },
  }),
  defineCommand({
    type: 'preset.store',
    title: 'Store a preset',
    about: 'Stores the whole state of a layout under a name. Returns its `id`.',
    args: StoreArgs,
    run: (desk, { layout, name }, { newId }) => {
      if (desk.show.presets.length >= 500) throw new CommandError('too-many', 'A show holds at most 500 presets.');
      const preset = { ...plainCopy(layoutOf(desk, layout)), id: newId(), name, number: null, layoutId: layout };
      desk.show.presets.push(preset);
      return { id: preset.id };
    },
  }),
  defineCommand({
    type: 'preset.recall',
    title: 'Recall a preset',
    about: 'Puts a stored state into Next; or back into its layout, which changes what is on air if that layout is; or straight to air.',
    args: RecallArgs,
    run: (desk, { preset: id, to = 'next' }, { frame }) => {
      const preset = presetOf(desk, id);
      if (to === 'next') desk.air.nextId = preset.id;
      if (to === 'air') cut(desk, frame, preset.id);
      if (to !== 'layout') return;
      const { background, boxes, frameId } = plainCopy(preset);
      if (preset.layoutId === null)
        throw new CommandError(
          'unknown-layout',
          `The layout that ${preset.name} was stored from is gone. Recall it into Next instead.`,
          'to',
        );
      Object.assign(layoutOf(desk, preset.layoutId), { background, boxes, frameId });
    },
  }),
];
