/** Commands for the elements of a graphic. Locked elements refuse changes. */
import { CommandError, defineCommand } from '../commands/command';
import { around } from '../layout/arrange';
import { check } from '../schema/check';
import { AnyObject, Id, Nested, Num, OneOf, Text, Variant } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { sheetOf } from '../sheets/edit';
import { type Rect } from '../show/geometry';
import { createElement, KIND_NAMES, move as createMove } from './create';
import { checkFree, checkWindow, clockOf, elementOf, elementsOf, graphicOf, withParts } from './edit';
import { type Content, contentClass, Element, type ElementKind } from './element';
import { addCopies, checkRoom, checkSound, dropElements, freeName, shift } from './element-edit';
import { ElementsArg, GraphicArg, KeyframesArgs, MoveArgs, AreaField, SetArgs, TypeArgs } from './element-args';

export const ADDED_KINDS = [
  'text',
  'rectangle',
  'ellipse',
  'polygon',
  'line',
  'image',
  'clock',
  'window',
  'ticker',
  'table',
] as const satisfies readonly ElementKind[];

class AddArgs extends GraphicArg {
  @OneOf(ADDED_KINDS, 'what it is') kind!: ElementKind;
  @Nested(() => AreaField, 'place; without it, in the middle', { optional: true }) rect?: Rect;
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
  @Nested(() => AreaField, 'the rectangle around them, from now on') rect!: Rect;
}
class PasteArgs extends GraphicArg {
  @AnyObject('elements as a graphic has them, by a list `elements`') from!: { elements?: unknown };
}
class LookArgs extends ElementsArg {
  @Id('element whose look they get') from!: string;
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
        height: Math.round(kind === 'text' || kind === 'clock' || kind === 'ticker' ? height * 0.1 : kind === 'line' ? 0 : height * 0.2),
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
      if ((content.kind === 'ticker' || content.kind === 'table') && content.sheetId !== null)
        sheetOf(desk, content.sheetId, 'content.sheetId');
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
        if (
          (e.content.kind === 'ticker' || e.content.kind === 'table') &&
          !desk.show.sheets.some((s) => 'sheetId' in e.content && s.id === e.content.sheetId)
        )
          e.content.sheetId = null;
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
