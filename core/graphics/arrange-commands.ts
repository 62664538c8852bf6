/** Commands that arrange the elements of a graphic: alignment, order, groups. */
import { CommandError, defineCommand } from '../commands/command';
import { align, type Alignment, ALIGNMENTS, around, distribute } from '../layout/arrange';
import { Flag, Id, OneOf, Whole } from '../schema/fields';
import { createElement } from './create';
import { checkFree, elementOf, elementsOf, graphicOf, withParts } from './edit';
import { MOST_ELEMENTS } from './element';
import { ElementsArg } from './element-args';
import { checkRoom, checkSound, dropElements, freeName, put, tidy } from './element-edit';

class OrderArgs extends ElementsArg {
  @Whole(0, MOST_ELEMENTS, 'place among all elements, from 0, the backmost') index!: number;
}
class IntoArgs extends ElementsArg {
  @Id('group; null for none', { nullable: true }) group!: string | null;
}
class AlignArgs extends ElementsArg {
  @OneOf(ALIGNMENTS, 'edge or middle line') how!: Alignment;
  @Flag('to the picture rather than to each other', { optional: true }) toPicture?: boolean;
}
class DistributeArgs extends ElementsArg {
  @OneOf(['across', 'down'], 'direction') axis!: 'across' | 'down';
}

export const arrangeCommands = [
  defineCommand({
    type: 'element.align',
    title: 'Align elements',
    about: 'To each other, or to the picture; a single element always to the picture.',
    args: AlignArgs,
    run: (desk, { graphic: id, elements: ids, how, toPicture }) => {
      const graphic = graphicOf(desk, id);
      const elements = elementsOf(graphic, ids);
      checkFree(elements);
      const frame = toPicture || elements.length < 2 ? { x: 0, y: 0, ...graphic.raster } : around(elements);
      put(
        graphic,
        elements,
        align(
          elements.map(({ x, y, width, height }) => ({ x, y, width, height })),
          how,
          frame,
        ),
      );
    },
  }),
  defineCommand({
    type: 'element.distribute',
    title: 'Distribute elements',
    about: 'Makes the gaps between three or more elements equal.',
    args: DistributeArgs,
    run: (desk, { graphic: id, elements: ids, axis }) => {
      const graphic = graphicOf(desk, id);
      const elements = elementsOf(graphic, ids);
      if (elements.length < 3) throw new CommandError('too-few', 'Three elements at least have gaps to make equal.', 'elements');
      checkFree(elements);
      put(
        graphic,
        elements,
        distribute(
          elements.map(({ x, y, width, height }) => ({ x, y, width, height })),
          axis,
        ),
      );
    },
  }),
  defineCommand({
    type: 'element.fillPicture',
    title: 'Fill the picture with elements',
    about: 'Each becomes as large as the picture.',
    args: ElementsArg,
    run: (desk, { graphic: id, elements: ids }) => {
      const graphic = graphicOf(desk, id);
      const elements = elementsOf(graphic, ids);
      checkFree(elements);
      for (const e of elements) Object.assign(e, { x: 0, y: 0, ...graphic.raster, rotation: 0 });
    },
  }),
  defineCommand({
    type: 'element.order',
    title: 'Move elements to the front or back',
    about: 'Puts elements to a place among all, those of groups with them.',
    args: OrderArgs,
    run: (desk, { graphic: id, elements: ids, index }) => {
      const graphic = graphicOf(desk, id);
      elementsOf(graphic, ids);
      const moved = withParts(graphic, ids);
      const rest = graphic.elements.filter((e) => !moved.includes(e));
      graphic.elements = [...rest.slice(0, index), ...moved, ...rest.slice(index)];
      tidy(graphic);
    },
  }),
  defineCommand({
    type: 'element.group',
    title: 'Group elements',
    about: 'Puts elements into a new group. Returns its `id`.',
    args: ElementsArg,
    run: (desk, { graphic: id, elements: ids }, { newId }) => {
      const graphic = graphicOf(desk, id);
      const elements = elementsOf(graphic, ids);
      if (elements.length === 0) throw new CommandError('too-few', 'Choose the elements to group first.', 'elements');
      checkRoom(graphic);
      const first = Math.min(...elements.map((e) => graphic.elements.indexOf(e)));
      const group = createElement(newId(), 'group', around(elements), {
        name: freeName(graphic, 'Group'),
        parentId: elements[0]?.parentId ?? null,
      });
      for (const e of elements) e.parentId = group.id;
      graphic.elements.splice(first, 0, group);
      tidy(graphic);
      return { id: group.id };
    },
  }),
  defineCommand({
    type: 'element.ungroup',
    title: 'Take groups apart',
    about: 'What was in them stays where it is.',
    args: ElementsArg,
    run: (desk, { graphic: id, elements: ids }) => {
      const graphic = graphicOf(desk, id);
      for (const group of elementsOf(graphic, ids)) {
        if (group.content.kind !== 'group') throw new CommandError('not-a-group', `${group.name} is no group.`, 'elements');
        for (const e of graphic.elements) if (e.parentId === group.id) e.parentId = group.parentId;
        dropElements(graphic, new Set([group.id]));
      }
      tidy(graphic);
    },
  }),
  defineCommand({
    type: 'element.into',
    title: 'Put elements into a group',
    about: 'Or out of all groups.',
    args: IntoArgs,
    run: (desk, { graphic: id, elements: ids, group }) => {
      const graphic = graphicOf(desk, id);
      for (const e of elementsOf(graphic, ids)) e.parentId = group;
      if (group !== null && elementOf(graphic, group, 'group').content.kind !== 'group')
        throw new CommandError('not-a-group', 'Only groups can hold elements.', 'group');
      checkSound(graphic, 'group');
      tidy(graphic);
    },
  }),
];
