/** Commands for the boxes of a layout. Locked boxes refuse changes of their place and look. */
import { CommandError, defineCommand } from '../commands/command';
import { Flag, Nested, Num, OneOf, Ref, Refs, SomeOf, Text, Whole } from '../schema/fields';
import { type Rect, RectField } from '../show/geometry';
import { type Box, BoxContent, type BoxLook, createBox, MOST_BOXES, STYLE_PROPERTIES, type StyleProperty } from './document';
import { withBoxChange } from './box-change';
import { align, type Alignment, ALIGNMENTS, around, distribute } from './arrange';
import { boxesOf, boxOf, checkContent, checkCrop, checkInside, checkKey, layoutOf } from './edit';
import { effectiveBox, propertiesOf, stylesOf, withProperties } from './styles';
import { type Show } from '../desk/show';

class LayoutArg {
  @Ref('layout', 'layout or preset') layout!: string;
}
class BoxArg extends LayoutArg {
  @Ref('box', 'box') box!: string;
}
class BoxesArg extends LayoutArg {
  @Refs('box', MOST_BOXES, 'boxes') boxes!: string[];
}
class AddArgs extends LayoutArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Nested(() => RectField, 'place; without it, a third of the picture in its middle', { optional: true }) rect?: Rect;
  @Nested(() => BoxContent, 'what it shows', { optional: true, nullable: true }) content?: BoxContent | null;
}
class SetArgs extends withBoxChange(BoxesArg) {}
class NudgeArgs extends BoxesArg {
  @Num(-4000, 4000, 'pixels to the right') x!: number;
  @Num(-4000, 4000, 'pixels downwards') y!: number;
}
class PlaceArgs extends LayoutArg {
  @Ref('box', 'box') box!: string;
  @Nested(() => RectField, 'place on the raster') rect!: Rect;
}
class AlignArgs extends BoxesArg {
  @OneOf(ALIGNMENTS, 'edge or middle line') how!: Alignment;
  @Flag('align to the picture rather than to each other', { optional: true }) toPicture?: boolean;
}
class DistributeArgs extends BoxesArg {
  @OneOf(['across', 'down'], 'direction') axis!: 'across' | 'down';
}
class OrderArgs extends BoxArg {
  @Whole(0, MOST_BOXES, 'place, from 0, the backmost') index!: number;
}
class PasteArgs extends BoxesArg {
  @Ref('layout', 'layout to copy from') fromLayout!: string;
  @Ref('box', 'box to copy from') fromBox!: string;
  @SomeOf(STYLE_PROPERTIES, 'what to copy; without it, position, size, crop, view, fit and rotation', { optional: true })
  properties?: StyleProperty[];
}

/** What "copy geometry" means when nothing else is said. */
export const GEOMETRY: readonly StyleProperty[] = ['position', 'size', 'crop', 'view', 'fit', 'rotation'];

/** What of `properties` a style governs becomes the box's own: set by hand, it follows no longer. */
function own(show: Show, box: Box, properties: readonly StyleProperty[]): void {
  const governed = stylesOf(show, box).flatMap((s) => s.properties);
  box.own = [...new Set([...box.own, ...properties.filter((p) => governed.includes(p))])];
}

/** Changes a box by hand. @throws CommandError when its look is locked. */
function changeByHand(show: Show, box: Box, shown: BoxLook, change: Partial<Box>): void {
  const touched = propertiesOf(change, shown);
  if (box.locked && change.locked !== false && touched.length > 0) {
    throw new CommandError('locked', `Box ${box.name} is locked. Unlock it first.`, 'boxes');
  }
  own(show, box, touched);
  Object.assign(box, change);
}

export const boxCommands = [
  defineCommand({
    type: 'box.add',
    title: 'Add a box',
    about: 'Adds a box in front of the others. Returns its `id`.',
    args: AddArgs,
    run: (desk, { layout: id, name, rect, content = null }, { newId }) => {
      const layout = layoutOf(desk, id);
      if (layout.boxes.length >= MOST_BOXES) throw new CommandError('too-many', `A layout holds at most ${MOST_BOXES} boxes.`);
      checkContent(desk, layout, content);
      const { width, height } = desk.show.raster;
      const place = rect ?? {
        x: Math.round(width / 3),
        y: Math.round(height / 3),
        width: Math.round(width / 3),
        height: Math.round(height / 3),
      };
      const box = createBox(newId(), name ?? `Box ${layout.boxes.length + 1}`, place, content);
      checkInside(place, desk.show.raster, box.name);
      layout.boxes.push(box);
      return { id: box.id };
    },
  }),
  defineCommand({
    type: 'box.set',
    title: 'Set boxes',
    about: 'Gives one or several boxes the same values. What a style governs becomes the box’s own.',
    args: SetArgs,
    mergeKey: ({ layout, boxes, ...change }) => `box:${layout}:${boxes.join()}:${Object.keys(change).join()}`,
    run: (desk, { layout: id, boxes, ...change }) => {
      const layout = layoutOf(desk, id);
      if (change.content !== undefined) checkContent(desk, layout, change.content);
      checkKey(desk, change.key);
      for (const box of boxesOf(layout, boxes)) {
        if (change.crop) checkCrop(change.crop, `box ${box.name}`);
        if (change.rect) checkInside(change.rect, desk.show.raster, box.name);
        changeByHand(desk.show, box, effectiveBox(desk.show, box), change);
      }
    },
  }),
  defineCommand({
    type: 'box.place',
    title: 'Place a box',
    about: 'Moves and resizes one box, as dragging does.',
    args: PlaceArgs,
    mergeKey: ({ layout, box }) => `place:${layout}:${box}`,
    run: (desk, { layout, box: id, rect }) => {
      const box = boxOf(layoutOf(desk, layout), id);
      checkInside(rect, desk.show.raster, box.name);
      changeByHand(desk.show, box, effectiveBox(desk.show, box), { rect });
    },
  }),
  defineCommand({
    type: 'box.nudge',
    title: 'Nudge boxes',
    about: 'Moves boxes by a few pixels.',
    args: NudgeArgs,
    mergeKey: ({ layout, boxes }) => `nudge:${layout}:${boxes.join()}`,
    run: (desk, { layout, boxes, x, y }) => {
      for (const box of boxesOf(layoutOf(desk, layout), boxes)) {
        const shown = effectiveBox(desk.show, box);
        const rect = { ...shown.rect, x: shown.rect.x + x, y: shown.rect.y + y };
        checkInside(rect, desk.show.raster, box.name);
        changeByHand(desk.show, box, shown, { rect });
      }
    },
  }),
  defineCommand({
    type: 'box.align',
    title: 'Align boxes',
    about: 'Aligns boxes to each other, or to the picture; a single box always to the picture.',
    args: AlignArgs,
    run: (desk, { layout, boxes: ids, how, toPicture }) => {
      const boxes = boxesOf(layoutOf(desk, layout), ids);
      const shown = boxes.map((b) => effectiveBox(desk.show, b));
      const rects = shown.map((b) => b.rect);
      const frame = toPicture || boxes.length < 2 ? { x: 0, y: 0, ...desk.show.raster } : around(rects);
      align(rects, how, frame).forEach((rect, i) => changeByHand(desk.show, boxes[i] as Box, shown[i] as Box, { rect }));
    },
  }),
  defineCommand({
    type: 'box.distribute',
    title: 'Distribute boxes',
    about: 'Makes the gaps between three or more boxes equal; the outermost stay.',
    args: DistributeArgs,
    run: (desk, { layout, boxes: ids, axis }) => {
      if (ids.length < 3) throw new CommandError('too-few', 'Choose three boxes or more to distribute.', 'boxes');
      const boxes = boxesOf(layoutOf(desk, layout), ids);
      const shown = boxes.map((b) => effectiveBox(desk.show, b));
      distribute(
        shown.map((b) => b.rect),
        axis,
      ).forEach((rect, i) => changeByHand(desk.show, boxes[i] as Box, shown[i] as Box, { rect }));
    },
  }),
  defineCommand({
    type: 'box.order',
    title: 'Order a box',
    about: 'Puts a box in front of others or behind them.',
    args: OrderArgs,
    run: (desk, { layout: id, box, index }) => {
      const layout = layoutOf(desk, id);
      const [moved] = layout.boxes.splice(layout.boxes.indexOf(boxOf(layout, box)), 1);
      if (moved) layout.boxes.splice(Math.min(index, layout.boxes.length), 0, moved);
    },
  }),
  defineCommand({
    type: 'box.duplicate',
    title: 'Duplicate boxes',
    about: 'Adds copies in front, a little to the right and below. Returns their `ids`.',
    args: BoxesArg,
    run: (desk, { layout: id, boxes }, { newId }) => {
      const layout = layoutOf(desk, id);
      if (layout.boxes.length + boxes.length > MOST_BOXES)
        throw new CommandError('too-many', `A layout holds at most ${MOST_BOXES} boxes.`);
      const copies = boxesOf(layout, boxes).map((box): Box => {
        const rect = effectiveBox(desk.show, box).rect;
        return {
          ...box,
          id: newId(),
          name: `${box.name.slice(0, 54)} copy`,
          locked: false,
          rect: { ...rect, x: rect.x + 16, y: rect.y + 16 },
          own: [...box.own],
        };
      });
      layout.boxes.push(...copies);
      for (const copy of copies) own(desk.show, copy, ['position']);
      return { ids: copies.map((c) => c.id) };
    },
  }),
  defineCommand({
    type: 'box.remove',
    title: 'Remove boxes',
    about: 'Takes boxes out of their layout. Locked boxes refuse.',
    args: BoxesArg,
    run: (desk, { layout: id, boxes: ids }) => {
      const layout = layoutOf(desk, id);
      const locked = boxesOf(layout, ids).find((b) => b.locked);
      if (locked) throw new CommandError('locked', `Box ${locked.name} is locked. Unlock it first.`, 'boxes');
      layout.boxes = layout.boxes.filter((b) => !ids.includes(b.id));
    },
  }),
  defineCommand({
    type: 'box.paste',
    title: 'Paste geometry',
    about: 'Gives boxes the geometry of another box, of this or another layout; or just the named properties.',
    args: PasteArgs,
    run: (desk, { layout, boxes, fromLayout, fromBox, properties = [...GEOMETRY] }) => {
      const from = effectiveBox(desk.show, boxOf(layoutOf(desk, fromLayout, 'fromLayout'), fromBox));
      for (const box of boxesOf(layoutOf(desk, layout), boxes)) {
        if (box.locked) throw new CommandError('locked', `Box ${box.name} is locked. Unlock it first.`, 'boxes');
        // What is not copied stays as it is seen now.
        Object.assign(box, withProperties(box, from, properties));
        own(desk.show, box, properties);
      }
    },
  }),
];
