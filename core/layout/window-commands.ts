/** Laying boxes under the openings of frame artwork. */
import { CommandError, defineCommand } from '../commands/command';
import { requireSource } from '../show/edit';
import { ListOf, Num, Ref, Whole } from '../schema/fields';
import { RectField } from '../show/geometry';
import { type Box, createBox, MOST_BOXES } from './document';
import { layoutOf } from './edit';
import { boxUnder } from './find-windows';

class LayArgs {
  @Ref('layout', 'layout') layout!: string;
  @Ref('source', 'still that is the frame artwork') frame!: string;
  @ListOf(() => RectField, MOST_BOXES, 'openings, in pixels of the artwork') windows!: RectField[];
  @Whole(1, 32_768, 'width of the artwork, pixels') width!: number;
  @Whole(1, 32_768, 'height of the artwork, pixels') height!: number;
  @Num(0, 200, 'how far boxes reach under the artwork, pixels of the raster') bleed!: number;
}

/** Reading order: rows from the top, then from the left. */
const inOrder = (a: { x: number; y: number; height: number }, b: { x: number; y: number; height: number }) =>
  Math.abs(a.y - b.y) > Math.min(a.height, b.height) / 2 ? a.y - b.y : a.x - b.x;

export const windowCommands = [
  defineCommand({
    type: 'layout.layUnder',
    title: 'Lay boxes under the openings of artwork',
    about:
      'Puts artwork over a layout and a box exactly under each of its openings. Boxes that are there already are moved, in order; locked ones stay; more are added for what is left.',
    args: LayArgs,
    run: (desk, { layout: id, frame, windows, width, height, bleed }, { newId }) => {
      const layout = layoutOf(desk, id);
      requireSource(desk, frame, 'frame');
      if (windows.length === 0)
        throw new CommandError(
          'no-windows',
          'This artwork has no transparent openings. Make the places for pictures transparent and save it as PNG or WebP.',
          'windows',
        );
      const outside = windows.find((w) => w.x < 0 || w.y < 0 || w.x + w.width > width || w.y + w.height > height);
      if (outside)
        throw new CommandError(
          'outside',
          `An opening at ${outside.x}, ${outside.y} lies outside the artwork of ${width} × ${height}.`,
          'windows',
        );
      layout.frameId = frame;
      const rects = [...windows].sort(inOrder).map((w) => boxUnder(w, { width, height }, desk.show.raster, bleed));
      const free = layout.boxes.filter((b) => !b.locked);
      rects.forEach((rect, i) => {
        const known = free[i];
        if (known) Object.assign(known, { rect, rotation: 0, visible: true });
        else {
          const seat = desk.show.seats[i];
          const box: Box = {
            ...createBox(newId(), seat?.name ?? `Box ${i + 1}`, rect, seat ? { kind: 'seat', id: seat.id } : null),
            fit: seat ? 'eye' : 'cover',
          };
          layout.boxes.push(box);
        }
      });
      return { boxes: rects.length };
    },
  }),
];
