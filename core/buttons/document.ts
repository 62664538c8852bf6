/** Pages of large buttons for touch: each does a command, runs a macro or opens another page, and is lit by a condition. */
import { CommandAct, Condition } from '../automation/document';
import { byKind, Colour, Id, ListOf, Nested, OneOf, Ref, Text, Variant, Whole } from '../schema/fields';

export const MOST_PAGES = 50;
export const MOST_COLUMNS = 10;
export const MOST_ROWS = 8;

/** Opens another page. */
export class OpenPageAct {
  @OneOf(['page'], 'opens another page') kind!: 'page';
  @Ref('page', 'page that it opens', { nullable: true }) pageId!: string | null;
}
export type ButtonAct = CommandAct | OpenPageAct;
export const buttonActClass = byKind<ButtonAct['kind']>({ command: CommandAct, page: OpenPageAct });

export class PageButton {
  @Id('identity') id!: string;
  @Whole(0, MOST_COLUMNS * MOST_ROWS - 1, 'place on its page, row by row, from 0') place!: number;
  @Text(40, 'name; empty for what it does in words') name!: string;
  @Colour('colour') colour!: string;
  @Ref('picture', 'picture on it', { nullable: true, counts: false, seen: false }) pictureId!: string | null;
  @Variant(buttonActClass, 'what it does') act!: ButtonAct;
  @Nested(() => Condition, 'lit while this is so; null for what its act says', { nullable: true }) lit!: Condition | null;
}

export class ButtonPage {
  @Id('identity') id!: string;
  @Text(40, 'name', { min: 1 }) name!: string;
  @Whole(1, MOST_COLUMNS, 'buttons side by side') columns!: number;
  @Whole(1, MOST_ROWS, 'rows of buttons') rows!: number;
  @ListOf(() => PageButton, MOST_COLUMNS * MOST_ROWS, 'buttons') buttons!: PageButton[];
}
