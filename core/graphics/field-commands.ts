/** Commands for the fields of a graphic. */
import { CommandError, defineCommand } from '../commands/command';
import { Flag, Id, Num, OneOf, Ref, Text, TextList, Variant, Whole } from '../schema/fields';
import { formulaOf } from '../formula/evaluate';
import { FormulaError } from '../formula/parse';
import { MOST_FORMULA } from '../formula/document';
import { type AnimationPart, type PartKind } from './animation/document';
import { createField, emptyValue } from './create';
import {
  FORMULA_KINDS,
  type Field,
  type FieldKind,
  type Graphic,
  MOST_FIELDS,
  TARGETS,
  type TargetProperty,
  type Value,
  valueClass,
} from './document';
import { checkValue, elementOf, fieldOf, graphicOf } from './edit';
import { type Element, MOST_TEXT } from './element';

export const FIELD_KINDS = [
  'text',
  'number',
  'image',
  'colour',
  'flag',
  'choice',
  'clock',
  'picture',
] as const satisfies readonly FieldKind[];

class GraphicArg {
  @Ref('graphic', 'graphic') graphic!: string;
}
class FieldArg extends GraphicArg {
  @Id('field of the graphic') field!: string;
}
class AddArgs extends GraphicArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @OneOf(FIELD_KINDS, 'kind of value; without it, what the element wants', { optional: true }) kind?: FieldKind;
  @Id('element that it gives something', { optional: true }) element?: string;
  @OneOf(TARGETS, 'property of the element', { optional: true }) property?: TargetProperty;
  @Id('part of the animation, for the property `part`', { optional: true }) part?: string;
}
class SetArgs extends FieldArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Text(200, 'hint', { optional: true }) hint?: string;
  @Variant(valueClass, 'default', { optional: true }) default?: Value;
  @Num(-1e12, 1e12, 'least', { optional: true, nullable: true }) least?: number | null;
  @Num(-1e12, 1e12, 'most', { optional: true, nullable: true }) most?: number | null;
  @Whole(1, MOST_TEXT, 'longest text, characters', { optional: true, nullable: true }) longest?: number | null;
  @TextList(100, 200, 'words to choose from', { optional: true }) choices?: string[];
  @Text(MOST_FORMULA, 'formula that fills it in; null for none', { optional: true, nullable: true }) formula?: string | null;
}
class TargetArgs extends FieldArg {
  @Id('element') element!: string;
  @OneOf(TARGETS, 'property of the element') property!: TargetProperty;
  @Id('part of the animation, for the property `part`', { optional: true }) part?: string;
  @Flag('true to give it, false no longer') on!: boolean;
}
class MoveArgs extends FieldArg {
  @Whole(0, MOST_FIELDS, 'place, from 0') index!: number;
}

/** What a kind of part takes, empty. */
const PART_VALUES: Record<PartKind, Value> = {
  text: { kind: 'text', text: '' },
  image: { kind: 'image', assetId: null },
  window: { kind: 'picture', pictureId: null },
  colour: { kind: 'colour', colour: '#e2c48d' },
  flag: { kind: 'flag', on: true },
};

/** @throws CommandError when the element has no such part. */
function partOf({ name, content }: Element, part: string | undefined): AnimationPart {
  const found = content.kind === 'animation' ? content.parts.find((p) => p.id === part) : undefined;
  if (!found) throw new CommandError('unknown-element', `${name} has no part "${part ?? ''}".`, 'part');
  return found;
}

const WANTED: Record<TargetProperty, (element: Element, part: string | undefined) => Value> = {
  part: (element, part) => PART_VALUES[partOf(element, part).kind],
  content: ({ content }) => {
    if (content.kind === 'image') return { kind: 'image', assetId: content.assetId };
    if (content.kind === 'clock') return { kind: 'clock', clockId: content.clockId };
    if (content.kind === 'window') return { kind: 'picture', pictureId: content.pictureId };
    return { kind: 'text', text: content.kind === 'text' ? content.text : '' };
  },
  fill: ({ fill }) => ({ kind: 'colour', colour: fill.kind === 'colour' ? fill.colour : '#e2c48d' }),
  stroke: ({ stroke }) => ({ kind: 'colour', colour: stroke.colour }),
  visible: ({ visible }) => ({ kind: 'flag', on: visible }),
  opacity: ({ opacity }) => ({ kind: 'number', number: opacity }),
  x: ({ x }) => ({ kind: 'number', number: x }),
  y: ({ y }) => ({ kind: 'number', number: y }),
  width: ({ width }) => ({ kind: 'number', number: width }),
  height: ({ height }) => ({ kind: 'number', number: height }),
  rotation: ({ rotation }) => ({ kind: 'number', number: rotation }),
  size: ({ content }) => ({ kind: 'number', number: 'style' in content ? content.style.size : 0 }),
};

/** A property is given by one field only: the last that was told to. */
function give(graphic: Graphic, field: Field, elementId: string, property: TargetProperty, part: string | null): void {
  for (const other of graphic.fields)
    other.targets = other.targets.filter((t) => t.elementId !== elementId || t.property !== property || t.part !== part);
  field.targets.push({ elementId, property, part });
}

export const fieldCommands = [
  defineCommand({
    type: 'field.add',
    title: 'Add a field',
    about: 'Adds a field to a graphic; with an element and a property it gives that, and begins with what stands there. Returns its `id`.',
    args: AddArgs,
    run: (desk, { graphic: id, name, kind, element: elementId, property = 'content', part }, { newId }) => {
      const graphic = graphicOf(desk, id);
      if (graphic.fields.length >= MOST_FIELDS) throw new CommandError('too-many', `A graphic has at most ${MOST_FIELDS} fields.`);
      const element = elementId === undefined ? null : elementOf(graphic, elementId);
      const wanted = element && WANTED[property](element, part);
      let value: Value = kind === undefined || wanted?.kind === kind ? (wanted ?? emptyValue(kind ?? 'text')) : emptyValue(kind);
      // A number in a text is a number already.
      if (kind === 'number' && wanted?.kind === 'text' && wanted.text.trim() !== '' && Number.isFinite(Number(wanted.text)))
        value = { kind: 'number', number: Math.min(1e12, Math.max(-1e12, Number(wanted.text))) };
      const field = createField(
        newId(),
        name ??
          (property === 'part' && element ? partOf(element, part).name.slice(0, 60) : element?.name) ??
          `Field ${graphic.fields.length + 1}`,
        value,
      );
      graphic.fields.push(field);
      if (element) give(graphic, field, element.id, property, part ?? null);
      return { id: field.id };
    },
  }),
  defineCommand({
    type: 'field.set',
    title: 'Set up a field',
    about: 'Name, hint, default and limits of a field. What entries hold beyond new limits stays until it is edited.',
    args: SetArgs,
    mergeKey: ({ graphic, field, ...change }) => `field:${graphic}:${field}:${Object.keys(change).join()}`,
    run: (desk, { graphic: id, field: fieldId, ...change }) => {
      const graphic = graphicOf(desk, id);
      const field = fieldOf(graphic, fieldId);
      const next = { ...field, ...change };
      if (next.least !== null && next.most !== null && next.least > next.most)
        throw new CommandError('bad-value', `${next.name}: the least, ${next.least}, is more than the most, ${next.most}.`, 'least');
      if (change.default) checkValue(desk, graphic, { ...next, default: field.default }, change.default, 'default');
      if (typeof change.formula === 'string') {
        const read = formulaOf(change.formula);
        if (read instanceof FormulaError)
          throw new CommandError('bad-value', `${field.name}, at character ${read.at + 1} of its formula: ${read.message}`, 'formula');
        if (!FORMULA_KINDS.includes(field.default.kind))
          throw new CommandError('bad-value', `${field.name} is a ${field.default.kind}, which no formula can give.`, 'formula');
      }
      Object.assign(field, change);
    },
  }),
  defineCommand({
    type: 'field.target',
    title: 'Let a field give a property',
    about: 'Says which properties of which elements a field gives; several elements may share one.',
    args: TargetArgs,
    run: (desk, { graphic: id, field: fieldId, element, property, part, on }) => {
      const graphic = graphicOf(desk, id);
      const field = fieldOf(graphic, fieldId);
      const found = elementOf(graphic, element);
      if (property === 'part') partOf(found, part);
      if (on) give(graphic, field, element, property, part ?? null);
      else field.targets = field.targets.filter((t) => t.elementId !== element || t.property !== property || t.part !== (part ?? null));
    },
  }),
  defineCommand({
    type: 'field.move',
    title: 'Move a field',
    about: 'Puts a field to another place in the order of filling in.',
    args: MoveArgs,
    run: (desk, { graphic: id, field: fieldId, index }) => {
      const graphic = graphicOf(desk, id);
      const field = fieldOf(graphic, fieldId);
      graphic.fields.splice(graphic.fields.indexOf(field), 1);
      graphic.fields.splice(Math.min(index, graphic.fields.length), 0, field);
    },
  }),
  defineCommand({
    type: 'field.remove',
    title: 'Remove a field',
    about: 'With what entries have filled in for it. Its elements keep what they were drawn with.',
    args: FieldArg,
    run: (desk, { graphic: id, field: fieldId }) => {
      const graphic = graphicOf(desk, id);
      fieldOf(graphic, fieldId);
      graphic.fields = graphic.fields.filter((f) => f.id !== fieldId);
      if (graphic.sheet) graphic.sheet.columns = graphic.sheet.columns.filter((c) => c.fieldId !== fieldId);
      for (const entry of graphic.entries) entry.values = entry.values.filter((v) => v.fieldId !== fieldId);
    },
  }),
];
