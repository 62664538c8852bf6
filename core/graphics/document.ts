/** Graphics in the show document: designs with fields and entries, clocks, and finishes kept by name. */
import { byKind, Colour, Flag, Id, ListOf, Nested, Num, OneOf, Ref, Text, TextList, Variant, Whole } from '../schema/fields';
import { MOST_FORMULA } from '../formula/document';
import { Raster } from '../show/raster';
import { Element, WholeMove, MOST_ELEMENTS, MOST_TEXT } from './element';
import { StoredFinish } from './fill';

export const MOST_GRAPHICS = 300;
export const MOST_ENTRIES = 1000;
export const MOST_FIELDS = 60;

export class TextValue {
  @OneOf(['text'], 'text') kind!: 'text';
  @Text(MOST_TEXT, 'the words') text!: string;
}
export class ImageValue {
  @OneOf(['image'], 'image') kind!: 'image';
  @Ref('asset', 'asset that holds the bytes', { nullable: true }) assetId!: string | null;
}
export class ColourValue {
  @OneOf(['colour'], 'colour') kind!: 'colour';
  @Colour('the colour') colour!: string;
}
export class NumberValue {
  @OneOf(['number'], 'number') kind!: 'number';
  @Num(-1e12, 1e12, 'the number') number!: number;
}
export class FlagValue {
  @OneOf(['flag'], 'on or off') kind!: 'flag';
  @Flag('on') on!: boolean;
}
export class ChoiceValue {
  @OneOf(['choice'], 'one of several words') kind!: 'choice';
  @Text(200, 'the word') choice!: string;
}
export class ClockValue {
  @OneOf(['clock'], 'clock') kind!: 'clock';
  @Ref('clock', 'the clock', { nullable: true }) clockId!: string | null;
}
export class PictureValue {
  @OneOf(['picture'], 'picture of the show') kind!: 'picture';
  @Ref('picture', 'the picture', { nullable: true }) pictureId!: string | null;
}
export type Value = TextValue | ImageValue | ColourValue | NumberValue | FlagValue | ChoiceValue | ClockValue | PictureValue;
export type FieldKind = Value['kind'];
export const valueClass = byKind<FieldKind>({
  text: TextValue,
  image: ImageValue,
  colour: ColourValue,
  number: NumberValue,
  flag: FlagValue,
  choice: ChoiceValue,
  clock: ClockValue,
  picture: PictureValue,
});

/** Kinds of fields that formulas can give. */
export const FORMULA_KINDS: readonly FieldKind[] = ['text', 'number', 'colour', 'flag', 'choice'];

export const TARGETS = [
  'content',
  'fill',
  'stroke',
  'visible',
  'opacity',
  'x',
  'y',
  'width',
  'height',
  'rotation',
  'size',
  'part',
] as const;
/** Which property of an element a field gives: its words, image, clock or picture (`content`), a colour, a number, whether it shows, or a part of an animation. */
export type TargetProperty = (typeof TARGETS)[number];

export class FieldTarget {
  @Id('element of the same graphic') elementId!: string;
  @OneOf(TARGETS, 'property that it gives') property!: TargetProperty;
  @Id('part of the animation that it gives; null for other properties', { nullable: true }) part!: string | null;
}

export class Field {
  @Id('identity in its graphic') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Text(200, 'hint for whoever fills it in') hint!: string;
  @Variant(valueClass, 'what stands there until it is filled in; its kind is the field’s') default!: Value;
  @Num(-1e12, 1e12, 'least, for numbers; null for none', { nullable: true }) least!: number | null;
  @Num(-1e12, 1e12, 'most, for numbers; null for none', { nullable: true }) most!: number | null;
  @Whole(1, MOST_TEXT, 'longest text, characters; null for no limit', { nullable: true }) longest!: number | null;
  @TextList(100, 200, 'words to choose from') choices!: string[];
  @ListOf(() => FieldTarget, 100, 'what it gives') targets!: FieldTarget[];
  @Text(MOST_FORMULA, 'formula that fills it in (docs/formulas.md); null for none', { nullable: true }) formula!: string | null;
}

/** Which column fills a field in. */
export class SheetColumn {
  @Id('field of the same graphic') fieldId!: string;
  @Text(200, 'name of the column') column!: string;
}

export class EntryValue {
  @Id('field of the same graphic') fieldId!: string;
  @Variant(valueClass, 'what is filled in') value!: Value;
}

/** The sheet that a graphic's entries come from. */
export class SheetLink {
  @Ref('sheet', 'the sheet') sheetId!: string;
  @Flag('every row has an entry; otherwise those that are picked') all!: boolean;
  @ListOf(() => SheetColumn, MOST_FIELDS, 'columns that fields are filled from') columns!: SheetColumn[];
}

/** One filled-in set of values. It can be shown like any picture. */
export class Entry {
  @Id('identity; never changes and is never used again') id!: string;
  @Whole(1, 9999, 'number by which it is found; null for none', { nullable: true }) number!: number | null;
  @ListOf(() => EntryValue, MOST_FIELDS, 'what is filled in; other fields have their default') values!: EntryValue[];
  @Text(200, 'row of the sheet that it comes from, by its key; null when it was filled in by hand', { nullable: true }) rowKey!:
    string | null;
  @Flag('has been shown, and is passed over by “next”') done!: boolean;
}

/** A line to snap to, pixels of the graphic's raster. */
export class Guide {
  @OneOf(['across', 'down'], 'a level line, or an upright one') axis!: 'across' | 'down';
  @Num(-20000, 20000, 'place, pixels') at!: number;
}

export class Graphic {
  @Id('identity; never changes and is never used again') id!: string;
  @Id('what it is a duplicate of, or itself: graphics of one design change into each other') designId!: string;
  @Text(80, 'name', { min: 1 }) name!: string;
  @Whole(1, 99, 'number on keys; null for none', { nullable: true }) number!: number | null;
  @Nested(() => Raster, 'the raster that it is drawn for') raster!: Raster;
  @ListOf(() => Element, MOST_ELEMENTS, 'elements, back to front; those of a group stand after it') elements!: Element[];
  @ListOf(() => Field, MOST_FIELDS, 'fields in the order of filling in') fields!: Field[];
  @ListOf(() => Entry, MOST_ENTRIES, 'entries in order') entries!: Entry[];
  @Nested(() => WholeMove, 'how it comes as a whole; null leaves it to its elements, or to the lane', { nullable: true })
  in!: WholeMove | null;
  @Nested(() => WholeMove, 'how it goes as a whole', { nullable: true }) out!: WholeMove | null;
  @Whole(1, 3000, 'length as a stinger, frames') stingerFrames!: number;
  @Whole(0, 3000, 'frame at which the picture changes under it as a stinger') cutFrame!: number;
  @ListOf(() => Guide, 60, 'guides of the editor') guides!: Guide[];
  @Nested(() => SheetLink, 'sheet that its entries come from', { nullable: true }) sheet!: SheetLink | null;
}

export const CLOCK_KINDS = ['down', 'up', 'until', 'day'] as const;
export const CLOCK_ENDS = ['stop', 'below', 'hide', 'show'] as const;

export class Clock {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Whole(1, 99, 'number on keys; null for none', { nullable: true }) number!: number | null;
  @OneOf(CLOCK_KINDS, 'down from a length, up from it, down to a time of day, or the time of day') kind!: (typeof CLOCK_KINDS)[number];
  @Num(0, 359_999, 'length that it begins with, seconds; for `until` the time of day in seconds after midnight') seconds!: number;
  @OneOf(CLOCK_ENDS, 'at the end it stops, goes on below zero, hides what shows it, or shows words') atEnd!: (typeof CLOCK_ENDS)[number];
  @Text(80, 'words that it shows at its end, where it is to') endWords!: string;
}

/** A font of one's own: a file kept in this browser's storage, under the name by which texts call it. */
export class OwnFont {
  @Id('identity') id!: string;
  @Text(80, 'family, as texts name it', { min: 1 }) family!: string;
  @Ref('asset', 'asset that holds the bytes') assetId!: string;
  @Text(256, 'name of the file as it came') fileName!: string;
}

export class Graphics {
  @ListOf(() => Graphic, MOST_GRAPHICS, 'graphics in order') list!: Graphic[];
  @ListOf(() => Clock, 100, 'clocks') clocks!: Clock[];
  @ListOf(() => StoredFinish, 200, 'finishes kept by name') finishes!: StoredFinish[];
  @ListOf(() => OwnFont, 100, 'fonts of one’s own') fonts!: OwnFont[];
}
