/** Commands for the elements of a graphic. Locked elements refuse changes. */
import { CommandError, defineCommand } from '../commands/command';
import { align, type Alignment, ALIGNMENTS, around, distribute } from '../layout/arrange';
import { check } from '../schema/check';
import { AnyObject, Flag, Id, Nested, Num, OneOf, Text, Variant, Whole } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { type Rect } from '../show/geometry';
import { createElement, KIND_NAMES, move as createMove } from './create';
import { type Graphic } from './document';
import { checkFree, checkWindow, clockOf, elementOf, elementsOf, graphicOf, withParts } from './edit';
import { type Content, contentClass, Element, type ElementKind, MOST_ELEMENTS } from './element';
import { ElementsArg, GraphicArg, KeyframesArgs, MoveArgs, PlaceField, SetArgs, TypeArgs } from './element-args';
import { designProblems } from './validate';

export const ADDED_KINDS = [
  'text',
  'rectangle',
  'ellipse',
  'polygon',
  'line',
  'image',
  'clock',
  'window',
] as const satisfies readonly ElementKind[];

class AddArgs extends GraphicArg {
  @OneOf(ADDED_KINDS, 'what it is') kind!: ElementKind;
  @Nested(() => PlaceField, 'place; without it, in the middle', { optional: true }) rect?: Rect;
}
class ContentArgs extends GraphicArg {
  @Id('element') element!: string;
  @Variant(contentClass, 'what it is from now on') content!: Content;
}
class WordsArgs extends GraphicArg {
  @Id('element') element!: string;
  @Text(10_000, 'the words') text!: string;
}
class NudgeArgs extends ElementsArg {
  @Num(-20000, 20000, 'pixels to the right') x!: number;
  @Num(-20000, 20000, 'pixels downwards') y!: number;
}
class PlaceArgs extends ElementsArg {
  @Nested(() => PlaceField, 'the rectangle around them, from now on') rect!: Rect;
}
class OrderArgs extends ElementsArg {
  @Whole(0, MOST_ELEMENTS, 'place among all elements, from 0, the backmost') index!: number;
}
class IntoArgs extends ElementsArg {
  @Id('group; null for none', { nullable: true }) group!: string | null;
}
class PasteArgs extends GraphicArg {
  @AnyObject('elements as a graphic has them, by a list `elements`') from!: { elements?: unknown };
}
class LookArgs extends ElementsArg {
  @Id('element whose look they get') from!: string;
}
class AlignArgs extends ElementsArg {
  @OneOf(ALIGNMENTS, 'edge or middle line') how!: Alignment;
  @Flag('to the picture rather than to each other', { optional: true }) toPicture?: boolean;
}
class DistributeArgs extends ElementsArg {
  @OneOf(['across', 'down'], 'direction') axis!: 'across' | 'down';
}

function checkRoom(graphic: Graphic, more = 1): void {
  if (graphic.elements.length + more > MOST_ELEMENTS)
    throw new CommandError('too-many', `A graphic holds at most ${MOST_ELEMENTS} elements.`);
}

/** A name that no element has yet: "Text 2". */
function freeName(graphic: Graphic, name: string): string {
  const taken = new Set(graphic.elements.map((e) => e.name));
  if (!taken.has(name)) return name;
  const plain = name.replace(/ \d+$/, '');
  for (let n = 2; ; n += 1) if (!taken.has(`${plain} ${n}`)) return `${plain} ${n}`.slice(0, 60);
}

/** Moves elements, those of groups with them. */
function shift(graphic: Graphic, ids: readonly string[], x: number, y: number): void {
  for (const e of withParts(graphic, ids)) {
    e.x += x;
    e.y += y;
  }
}

/** Puts elements where `rects` say, each with what is in it. */
function put(graphic: Graphic, elements: readonly Element[], rects: readonly Rect[]): void {
  elements.forEach((e, i) => {
    const r = rects[i] as Rect;
    shift(graphic, [e.id], r.x - e.x, r.y - e.y);
  });
}

/** @throws CommandError when the graphic is not sound any more. */
function checkSound(graphic: Graphic, field: string): void {
  const problem = designProblems(plainCopy(graphic), 'graphic')[0];
  if (problem) throw new CommandError('bad-argument', `${graphic.name}: ${problem.message}.`, field);
}

/** Groups stay next to what is in them: a group is the first of its elements. */
function tidy(graphic: Graphic): void {
  const order: Element[] = [];
  const add = (parentId: string | null) => {
    for (const e of graphic.elements) {
      if (e.parentId !== parentId) continue;
      order.push(e);
      if (e.content.kind === 'group') add(e.id);
    }
  };
  add(null);
  graphic.elements = order;
}

const LOOK = ['fill', 'stroke', 'shadow', 'glow', 'reflection', 'opacity', 'corners'] as const;

function giveLook(to: Element, from: Element): void {
  for (const key of LOOK) Object.assign(to, { [key]: plainCopy(from[key]) });
  if ('style' in to.content && 'style' in from.content) to.content.style = plainCopy(from.content.style);
}

export const elementCommands = [
  defineCommand({
    type: 'element.add',
    title: 'Add an element',
    about: 'Adds an element in front of the others. Returns its `id`.',
    args: AddArgs,
    run: (desk, { graphic: id, kind, rect }, { newId }) => {
      const graphic = graphicOf(desk, id);
      checkRoom(graphic);
      const { width, height } = graphic.raster;
      const place = rect ?? {
        x: Math.round(width * 0.35),
        y: Math.round(height * 0.4),
        width: Math.round(width * 0.3),
        height: Math.round(kind === 'text' || kind === 'clock' ? height * 0.1 : kind === 'line' ? 0 : height * 0.2),
      };
      const element = createElement(newId(), kind, place);
      element.name = freeName(graphic, KIND_NAMES[kind]);
      graphic.elements.push(element);
      return { id: element.id };
    },
  }),
  defineCommand({
    type: 'element.set',
    title: 'Set elements',
    about: 'Gives one or several elements the same values. Only what is named changes.',
    args: SetArgs,
    mergeKey: ({ graphic, elements, ...change }) => `element:${graphic}:${elements.join()}:${Object.keys(change).join()}`,
    run: (desk, { graphic: id, elements: ids, ...change }) => {
      const graphic = graphicOf(desk, id);
      const elements = elementsOf(graphic, ids);
      const only = Object.keys(change).every((k) => k === 'locked' || k === 'visible' || k === 'name');
      if (!only) checkFree(elements);
      for (const element of elements) {
        if (element.content.kind === 'group' && (change.x !== undefined || change.y !== undefined))
          shift(
            graphic,
            withParts(graphic, [element.id])
              .filter((e) => e !== element)
              .map((e) => e.id),
            (change.x ?? element.x) - element.x,
            (change.y ?? element.y) - element.y,
          );
        Object.assign(element, plainCopy(change));
      }
      if (change.mask) checkSound(graphic, 'mask');
    },
  }),
  defineCommand({
    type: 'element.setType',
    title: 'Set the type of texts',
    about: 'Gives texts and clocks the same font, size or alignment. Only what is named changes; other elements are passed over.',
    args: TypeArgs,
    mergeKey: ({ graphic, elements, ...change }) => `type:${graphic}:${elements.join()}:${Object.keys(change).join()}`,
    run: (desk, { graphic: id, elements: ids, ...change }) => {
      const elements = elementsOf(graphicOf(desk, id), ids);
      checkFree(elements);
      for (const { content } of elements) if ('style' in content) Object.assign(content.style, change);
    },
  }),
  defineCommand({
    type: 'element.setText',
    title: 'Write a text',
    about: 'The words of a text element; what a field gives stands in front of them.',
    args: WordsArgs,
    mergeKey: ({ graphic, element }) => `words:${graphic}:${element}`,
    run: (desk, { graphic, element: id, text }) => {
      const element = elementOf(graphicOf(desk, graphic), id);
      checkFree([element]);
      if (element.content.kind !== 'text') throw new CommandError('bad-argument', `${element.name} is no text.`, 'element');
      element.content.text = text;
    },
  }),
  defineCommand({
    type: 'element.setContent',
    title: 'Say what an element is',
    about: 'Text, shape, image, clock or window, with its own settings.',
    args: ContentArgs,
    mergeKey: ({ graphic, element, content }) => `content:${graphic}:${element}:${content.kind}`,
    run: (desk, { graphic: id, element: elementId, content }) => {
      const graphic = graphicOf(desk, id);
      const element = elementOf(graphic, elementId);
      checkFree([element]);
      if ((content.kind === 'group') !== (element.content.kind === 'group'))
        throw new CommandError('not-a-group', `${element.name} cannot become ${content.kind}: groups are made by grouping.`, 'content');
      if (content.kind === 'window') checkWindow(desk, graphic, content.pictureId, 'content.pictureId');
      if (content.kind === 'clock' && content.clockId !== null) clockOf(desk, content.clockId, 'content.clockId');
      element.content = content;
    },
  }),
  defineCommand({
    type: 'element.move',
    title: 'Set a move of elements',
    about: 'How elements come, go or change. What is not named stays, or is a fade of 12 frames at first.',
    args: MoveArgs,
    mergeKey: ({ graphic, elements, phase, ...change }) => `move:${graphic}:${elements.join()}:${phase}:${Object.keys(change).join()}`,
    run: (desk, { graphic, elements: ids, phase, ...change }) => {
      const elements = elementsOf(graphicOf(desk, graphic), ids);
      checkFree(elements);
      for (const e of elements) e[phase] = { ...(e[phase] ?? createMove('fade', 12)), ...change };
    },
  }),
  defineCommand({
    type: 'element.setKeyframes',
    title: 'Set keyframes',
    about: 'All keyframes of an element.',
    args: KeyframesArgs,
    mergeKey: ({ graphic, element }) => `keyframes:${graphic}:${element}`,
    run: (desk, { graphic, element: id, keyframes }) => {
      const element = elementOf(graphicOf(desk, graphic), id);
      checkFree([element]);
      element.keyframes = keyframes;
    },
  }),
  defineCommand({
    type: 'element.nudge',
    title: 'Nudge elements',
    about: 'Moves elements by a few pixels, groups with all that is in them.',
    args: NudgeArgs,
    mergeKey: ({ graphic, elements }) => `nudge:${graphic}:${elements.join()}`,
    run: (desk, { graphic: id, elements: ids, x, y }) => {
      const graphic = graphicOf(desk, id);
      checkFree(elementsOf(graphic, ids));
      shift(graphic, ids, x, y);
    },
  }),
  defineCommand({
    type: 'element.place',
    title: 'Place elements',
    about: 'Moves and resizes elements together, as dragging does.',
    args: PlaceArgs,
    mergeKey: ({ graphic, elements }) => `place:${graphic}:${elements.join()}`,
    run: (desk, { graphic: id, elements: ids, rect }) => {
      const graphic = graphicOf(desk, id);
      checkFree(elementsOf(graphic, ids));
      const all = withParts(graphic, ids);
      if (all.length === 0) return;
      const from = around(all);
      const [sx, sy] = [from.width > 0 ? rect.width / from.width : 1, from.height > 0 ? rect.height / from.height : 1];
      for (const e of all) {
        e.x = rect.x + (e.x - from.x) * sx;
        e.y = rect.y + (e.y - from.y) * sy;
        e.width *= sx;
        e.height *= sy;
        if (from.width === 0 && all.length === 1) e.width = rect.width;
        if (from.height === 0 && all.length === 1) e.height = rect.height;
      }
    },
  }),
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
  defineCommand({
    type: 'element.duplicate',
    title: 'Duplicate elements',
    about: 'Adds copies a little to the right and below. Returns their `ids`.',
    args: ElementsArg,
    run: (desk, { graphic: id, elements: ids }, { newId }) => {
      const graphic = graphicOf(desk, id);
      elementsOf(graphic, ids);
      const step = Math.round(graphic.raster.height / 45);
      return { ids: addCopies(graphic, plainCopy(withParts(graphic, ids)), newId, step) };
    },
  }),
  defineCommand({
    type: 'element.paste',
    title: 'Paste elements',
    about: 'Adds elements that were copied, of this graphic or another. Returns their `ids`.',
    args: PasteArgs,
    run: (desk, { graphic: id, from }, { newId }) => {
      const graphic = graphicOf(desk, id);
      const list = Array.isArray(from.elements) ? (from.elements as unknown[]) : [];
      if (list.length === 0) throw new CommandError('too-few', 'Nothing was copied that could be pasted here.', 'from');
      for (const [i, raw] of list.entries()) {
        const problem = check(Element, raw)[0];
        if (problem)
          throw new CommandError(
            'bad-argument',
            `What was copied is no element: ${problem.path} ${problem.message}.`,
            `from.elements[${i}]`,
          );
      }
      const ids = addCopies(graphic, plainCopy(list as Element[]), newId, 0);
      for (const e of elementsOf(graphic, ids)) {
        if (e.content.kind === 'window') checkWindow(desk, graphic, e.content.pictureId, 'from');
        if (
          e.content.kind === 'clock' &&
          !desk.show.graphics.clocks.some((c) => c.id === (e.content as { clockId: string | null }).clockId)
        )
          Object.assign(e.content, { clockId: null });
      }
      checkSound(graphic, 'from');
      return { ids };
    },
  }),
  defineCommand({
    type: 'element.giveLook',
    title: 'Give elements the look of another',
    about: 'Fill, stroke, effects, corners, opacity and type.',
    args: LookArgs,
    run: (desk, { graphic: id, elements: ids, from }) => {
      const graphic = graphicOf(desk, id);
      const elements = elementsOf(graphic, ids);
      checkFree(elements);
      const source = elementOf(graphic, from, 'from');
      for (const e of elements) if (e !== source) giveLook(e, source);
    },
  }),
  defineCommand({
    type: 'element.remove',
    title: 'Remove elements',
    about: 'With all that is in them. Fields that gave them something stay.',
    args: ElementsArg,
    run: (desk, { graphic: id, elements: ids }) => {
      const graphic = graphicOf(desk, id);
      const going = withParts(
        graphic,
        elementsOf(graphic, ids).map((e) => e.id),
      );
      checkFree(going);
      dropElements(graphic, new Set(going.map((e) => e.id)));
    },
  }),
];

function dropElements(graphic: Graphic, ids: ReadonlySet<string>): void {
  graphic.elements = graphic.elements.filter((e) => !ids.has(e.id));
  for (const e of graphic.elements) if (e.mask && ids.has(e.mask.elementId)) e.mask = null;
  for (const f of graphic.fields) f.targets = f.targets.filter((t) => !ids.has(t.elementId));
}

/** Adds copies with new identities, with the ties among them kept; returns those that are in no group of them. */
function addCopies(graphic: Graphic, copies: Element[], newId: () => string, step: number): string[] {
  checkRoom(graphic, copies.length);
  const ids = new Map(copies.map((e) => [e.id, newId()]));
  const here = new Set(graphic.elements.map((e) => e.id));
  const outer: string[] = [];
  for (const e of copies) {
    const id = ids.get(e.id) as string;
    if (e.parentId === null || !ids.has(e.parentId)) outer.push(id);
    e.id = id;
    e.parentId = e.parentId === null ? null : (ids.get(e.parentId) ?? (here.has(e.parentId) ? e.parentId : null));
    if (e.mask)
      e.mask = ids.has(e.mask.elementId)
        ? { ...e.mask, elementId: ids.get(e.mask.elementId) as string }
        : here.has(e.mask.elementId)
          ? e.mask
          : null;
    e.x += step;
    e.y += step;
    e.name = freeName(graphic, e.name);
    graphic.elements.push(e);
  }
  tidy(graphic);
  return outer;
}
