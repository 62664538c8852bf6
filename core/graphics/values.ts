/** What a graphic shows with its values filled in: elements as they are drawn, hidden ones left out, gaps closed. */
import { type Filled } from './air';
import { type EntryValue, type Field, type Graphic, type TargetProperty, type Value } from './document';
import { type Element } from './element';
import { type PartKind } from './animation/document';
import { closeGaps } from './flow';
import { type Growing, grown, growingOf, type Sizes } from './grow';
import { inGroup } from './in-group';
import { withTableCells } from './table-cells';

/** The value of a field: what is filled in, or its default where nothing of its kind is. */
export function valueOf(field: Field, values: readonly EntryValue[]): Value {
  const found = values.find((v) => v.fieldId === field.id)?.value;
  return found && found.kind === field.default.kind ? found : field.default;
}

/** A value as the words of a text element. */
export function wordsOf(value: Value): string {
  switch (value.kind) {
    case 'text':
      return value.text;
    case 'number':
      return String(value.number);
    case 'choice':
      return value.choice;
    case 'colour':
      return value.colour;
    case 'flag':
      return value.on ? 'on' : '';
    default:
      return '';
  }
}

/** True when a value gives nothing to show. */
export function isEmpty(value: Value): boolean {
  if (value.kind === 'image') return value.assetId === null;
  if (value.kind === 'clock') return value.clockId === null;
  if (value.kind === 'picture') return value.pictureId === null;
  return value.kind !== 'number' && wordsOf(value).trim() === '';
}

const drawings = new WeakMap<Graphic, Graphic>();

/** A graphic as its editor shows it: where a field gives nothing by default, what was drawn is seen. */
export function asDrawn(graphic: Graphic): Graphic {
  let drawing = drawings.get(graphic);
  if (!drawing) {
    const fields = graphic.fields.filter((f) => !isEmpty(f.default));
    Object.freeze(fields);
    drawings.set(graphic, (drawing = fields.length === graphic.fields.length ? graphic : { ...graphic, fields }));
  }
  return drawing;
}

type Change = Partial<Element>;

/** What a value given to the words, image, clock or picture of an element makes of it. */
function givenContent({ content }: Element, value: Value): Change {
  if (content.kind === 'text') return { content: { ...content, text: wordsOf(value) } };
  if (content.kind === 'image' && value.kind === 'image') return { content: { ...content, assetId: value.assetId } };
  if (content.kind === 'clock' && value.kind === 'clock') return { content: { ...content, clockId: value.clockId } };
  if (content.kind === 'window' && value.kind === 'picture') return { content: { ...content, pictureId: value.pictureId } };
  return {};
}

const numeric =
  (property: 'x' | 'y' | 'width' | 'height' | 'rotation', least = -20_000) =>
  (_: Element, value: Value): Change =>
    value.kind === 'number' ? { [property]: Math.min(20_000, Math.max(least, value.number)) } : {};

/** What a value is for a part of an animation; null where it gives nothing to that kind of part. */
function partValue(kind: PartKind, value: Value): string | null {
  if (kind === 'text') return wordsOf(value);
  if (kind === 'flag') return (value.kind === 'flag' ? value.on : !isEmpty(value)) ? 'on' : '';
  if (kind === 'colour') return value.kind === 'colour' ? value.colour : null;
  if (kind === 'window') return value.kind === 'picture' ? (value.pictureId ?? '') : null;
  return value.kind === 'image' ? (value.assetId ?? '') : null;
}

function givenPart({ content }: Element, value: Value, partId: string | null): Change {
  if (content.kind !== 'animation') return {};
  const part = content.parts.find((p) => p.id === partId);
  const given = part ? partValue(part.kind, value) : null;
  if (!part || given === null) return {};
  return { content: { ...content, given: [...content.given.filter((g) => g.partId !== part.id), { partId: part.id, value: given }] } };
}

/** How a value becomes each property; a value of another kind changes nothing. */
const GIVE: Record<TargetProperty, (element: Element, value: Value, part: string | null) => Change> = {
  part: givenPart,
  content: givenContent,
  fill: ({ fill }, value) => {
    if (value.kind === 'colour')
      return { fill: { kind: 'colour', colour: value.colour, opacity: 'opacity' in fill && fill.kind === 'colour' ? fill.opacity : 1 } };
    return value.kind === 'image' ? { fill: { kind: 'picture', assetId: value.assetId, fit: 'cover', opacity: 1 } } : {};
  },
  stroke: ({ stroke }, value) => (value.kind === 'colour' ? { stroke: { ...stroke, colour: value.colour } } : {}),
  visible: (_, value) => ({ visible: value.kind === 'flag' ? value.on : !isEmpty(value) }),
  opacity: (_, value) => (value.kind === 'number' ? { opacity: Math.min(1, Math.max(0, value.number)) } : {}),
  x: numeric('x'),
  y: numeric('y'),
  width: numeric('width', 0),
  height: numeric('height', 0),
  rotation: numeric('rotation', -3600),
  size: ({ content }, value) =>
    value.kind === 'number' && (content.kind === 'text' || content.kind === 'clock')
      ? { content: { ...content, style: { ...content.style, size: Math.min(2000, Math.max(1, value.number)) } } }
      : {},
};

/** Every element with the values given to it, in the order of the graphic; hidden where it is empty and hides then. */
export function withValues(graphic: Graphic, values: readonly EntryValue[]): Element[] {
  const given = new Map<string, Element>();
  for (const field of graphic.fields) {
    const value = valueOf(field, values);
    for (const { elementId, property, part } of field.targets) {
      const element = given.get(elementId) ?? graphic.elements.find((e) => e.id === elementId);
      if (!element) continue;
      const hidden = element.hideWhenEmpty && property === 'content' && isEmpty(value);
      given.set(elementId, { ...element, ...GIVE[property](element, value, part), ...(hidden && { visible: false }) });
    }
  }
  return graphic.elements.map((e) => given.get(e.id) ?? e);
}

/** An element as it is drawn, with what it has from its groups. */
export interface Drawn {
  element: Element;
  /** The element whose shape masks it. */
  mask: Element | null;
  /** Of the fields or moves of itself and its groups: it can change by itself, so it is a layer of its own. */
  alone: boolean;
}

/** The element with the moves and opacity of its groups where it has none of its own; null when one of them is hidden. */
function inGroups(element: Element, byId: ReadonlyMap<string, Element>): Element | null {
  let drawn = element;
  const seen = new Set<string>();
  for (let id = element.parentId; id !== null && !seen.has(id);) {
    seen.add(id);
    const group = byId.get(id);
    if (!group) break;
    if (!group.visible) return null;
    drawn = inGroup(drawn, group);
    id = group.parentId;
  }
  return drawn;
}

/** Elements of groups that flow, the groups themselves too: a change of values may push them. */
function flowingOf(elements: readonly Element[], byId: ReadonlyMap<string, Element>): ReadonlySet<string> {
  const flows = (id: string | null, depth = 0): boolean => {
    const e = id === null || depth > elements.length ? undefined : byId.get(id);
    return e !== undefined && ((e.content.kind === 'group' && e.content.flow !== 'none') || flows(e.parentId, depth + 1));
  };
  return new Set(elements.filter((e) => flows(e.id)).map((e) => e.id));
}

/** True when a group has something of its own to draw: it is a plate behind what is in it then. */
const hasPlate = ({ fill, stroke }: Element): boolean => fill.kind !== 'none' || (stroke.width > 0 && stroke.opacity > 0);

function draw(graphic: Graphic, values: readonly EntryValue[], sizes: Sizes): readonly Drawn[] {
  const { elements: filled, parts } = withTableCells(closeGaps(grown(withValues(graphic, values), sizes)));
  const byId = new Map(filled.map((e) => [e.id, e]));
  const masks = new Set(filled.flatMap((e) => (e.mask ? [e.mask.elementId] : [])));
  const flowing = flowingOf(filled, byId);
  const targets = new Set(graphic.fields.flatMap((f) => f.targets.map((t) => t.elementId)));
  return filled.flatMap((own) => {
    if (!own.visible || (own.content.kind === 'group' && !hasPlate(own)) || masks.has(own.id)) return [];
    const element = inGroups(own, byId);
    if (!element) return [];
    const { in: comes, out, change, hold, keyframes, content } = element;
    const alone =
      targets.has(own.id) ||
      flowing.has(own.id) ||
      comes !== null ||
      out !== null ||
      change !== null ||
      hold !== null ||
      keyframes.length > 0 ||
      content.kind === 'clock' ||
      content.kind === 'window' ||
      content.kind === 'animation' ||
      content.kind === 'ticker' ||
      parts.has(own.id);
    return [{ element, mask: maskOf(own, byId), alone }];
  });
}

/** The element that masks another, where its own groups place it. */
function maskOf({ mask }: Element, byId: ReadonlyMap<string, Element>): Element | null {
  const found = mask && byId.get(mask.elementId);
  return found ? (inGroups({ ...found, opacity: 1 }, byId) ?? found) : null;
}

interface KnownValues {
  /** Texts whose boxes grow, and the sizes that they were drawn with. */
  growing: readonly Growing[];
  sizes: string;
  drawn: readonly Drawn[];
}
interface Known {
  fields: Graphic['fields'];
  byValues: WeakMap<readonly EntryValue[], KnownValues>;
}
const known = new WeakMap<readonly Element[], Known>();

const NO_SIZES: Sizes = {};

const sizesOf = (growing: readonly Growing[], sizes: Sizes): string =>
  growing.map(({ key }) => `${sizes[key]?.width ?? '-'}×${sizes[key]?.height ?? '-'}`).join();

/**
 * The elements of a filled graphic as they are drawn, back to front. The same answer for the same elements, fields, values and sizes of the
 * words in boxes that grow.
 */
export function drawnElements({ graphic, values }: Filled, sizes: Sizes = NO_SIZES): readonly Drawn[] {
  const { elements, fields } = graphic;
  // What is stored never changes in place; drafts do, and are not kept.
  if (![elements, fields, values].every(Object.isFrozen)) return draw(graphic, values, sizes);
  let mine = known.get(elements);
  if (mine?.fields !== fields) known.set(elements, (mine = { fields, byValues: new WeakMap() }));
  const found = mine.byValues.get(values);
  const growing = found?.growing ?? growingOf(withValues(graphic, values));
  const measured = sizesOf(growing, sizes);
  if (found?.sizes === measured) return found.drawn;
  const drawn = draw(graphic, values, sizes);
  mine.byValues.set(values, { growing, sizes: measured, drawn });
  return drawn;
}
