/** Commands for pages of buttons. A press sends what the button does: that is the command, and no other. */
import { checkThere } from '../desk/missing';
import { Condition } from '../automation/document';
import { CommandError, defineCommand } from '../commands/command';
import { remove } from '../desk/remove';
import { Colour, Nested, Ref, Text, Variant, Whole } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { createButton, createPage } from './create';
import { type ButtonAct, buttonActClass, MOST_COLUMNS, MOST_PAGES, MOST_ROWS, type PageButton } from './document';
import { buttonOf, pageOf } from './find';

class PageArg {
  @Ref('page', 'page of buttons') page!: string;
}
class AddPageArgs {
  @Text(40, 'name', { min: 1, optional: true }) name?: string;
}
class SetPageArgs extends PageArg {
  @Text(40, 'name', { min: 1, optional: true }) name?: string;
  @Whole(1, MOST_COLUMNS, 'buttons side by side', { optional: true }) columns?: number;
  @Whole(1, MOST_ROWS, 'rows of buttons', { optional: true }) rows?: number;
}
class MovePageArgs extends PageArg {
  @Whole(0, MOST_PAGES, 'place in the list, from 0') index!: number;
}
class ButtonFields {
  @Text(40, 'name; empty for what it does in words', { optional: true }) name?: string;
  @Colour('colour', { optional: true }) colour?: string;
  @Ref('picture', 'picture on it', { optional: true, nullable: true }) picture?: string | null;
  @Variant(buttonActClass, 'what it does', { optional: true }) act?: ButtonAct;
  @Nested(() => Condition, 'lit while this is so', { optional: true, nullable: true }) lit?: Condition | null;
}
class AddButtonArgs extends ButtonFields {
  @Ref('page', 'page of buttons') page!: string;
  @Whole(0, MOST_COLUMNS * MOST_ROWS - 1, 'place on the page; without it, the first that is free', { optional: true }) place?: number;
}
class ButtonArg {
  @Ref('button', 'button') button!: string;
}
class SetButtonArgs extends ButtonFields {
  @Ref('button', 'button') button!: string;
}
class MoveButtonArgs extends ButtonArg {
  @Whole(0, MOST_COLUMNS * MOST_ROWS - 1, 'place on its page; whoever is there changes places with it') place!: number;
}

/** The fields of a button that are given. */
const given = ({ name, colour, picture, act, lit }: ButtonFields): Partial<PageButton> => ({
  ...(name !== undefined && { name }),
  ...(colour !== undefined && { colour }),
  ...(picture !== undefined && { pictureId: picture }),
  ...(act !== undefined && { act: plainCopy(act) }),
  ...(lit !== undefined && { lit: plainCopy(lit) }),
});

export const buttonCommands = [
  defineCommand({
    type: 'page.add',
    unrecorded: true,
    title: 'Add a page of buttons',
    about: 'An empty page. Returns its `id`.',
    args: AddPageArgs,
    run: ({ show }, { name }, { newId }) => {
      if (show.pages.length >= MOST_PAGES) throw new CommandError('too-many', `A show has at most ${MOST_PAGES} pages of buttons.`);
      const page = createPage(newId(), name ?? `Page ${show.pages.length + 1}`);
      show.pages.push(page);
      return { id: page.id };
    },
  }),
  defineCommand({
    type: 'page.set',
    unrecorded: true,
    title: 'Set up a page of buttons',
    about: 'Its name and size. Refused while a button would lie outside of it.',
    args: SetPageArgs,
    mergeKey: ({ page, ...change }) => `page:${page}:${Object.keys(change).join()}`,
    run: (desk, { page: id, ...change }) => {
      const page = pageOf(desk, id);
      const [columns, rows] = [change.columns ?? page.columns, change.rows ?? page.rows];
      const moved = page.buttons.map((b) => ({ b, x: b.place % page.columns, y: Math.floor(b.place / page.columns) }));
      const out = moved.find(({ x, y }) => x >= columns || y >= rows);
      if (out) throw new CommandError('too-few', `A button stands in row ${out.y + 1}, column ${out.x + 1}: move or remove it first.`);
      // Each stays in its row and column.
      for (const { b, x, y } of moved) b.place = y * columns + x;
      Object.assign(page, change);
    },
  }),
  defineCommand({
    type: 'page.move',
    unrecorded: true,
    title: 'Move a page of buttons',
    about: 'To another place of the list: pages have numbers by it.',
    args: MovePageArgs,
    run: (desk, { page: id, index }) => {
      const page = pageOf(desk, id);
      const rest = desk.show.pages.filter((p) => p !== page);
      rest.splice(index, 0, page);
      desk.show.pages = rest;
    },
  }),
  defineCommand({
    type: 'page.remove',
    unrecorded: true,
    title: 'Remove a page of buttons',
    about: 'With its buttons. Buttons that open it stay, and open nothing.',
    args: PageArg,
    run: (desk, { page }) => remove(desk, 'page', pageOf(desk, page).id),
  }),
  defineCommand({
    type: 'button.add',
    unrecorded: true,
    title: 'Add a button',
    about: 'A button that does a command or opens a page. Returns its `id`.',
    args: AddButtonArgs,
    run: (desk, { page: id, place, ...fields }, { newId }) => {
      const page = pageOf(desk, id);
      const taken = new Set(page.buttons.map((b) => b.place));
      const size = page.columns * page.rows;
      const free = place ?? Array.from({ length: size }, (_, i) => i).find((i) => !taken.has(i)) ?? size;
      if (free >= size) throw new CommandError('too-many', `${page.name} has ${size} places, and no more.`, 'place');
      if (taken.has(free)) throw new CommandError('bad-argument', 'A button is there already.', 'place');
      checkThere(desk, AddButtonArgs, { page: id, ...fields });
      const button = createButton(newId(), free, { kind: 'page', pageId: null }, given(fields));
      page.buttons.push(button);
      return { id: button.id };
    },
  }),
  defineCommand({
    type: 'button.set',
    unrecorded: true,
    title: 'Set up a button',
    about: 'Its name, colour, picture, what it does and when it is lit.',
    args: SetButtonArgs,
    mergeKey: ({ button, ...change }) => `button:${button}:${Object.keys(change).join()}`,
    run: (desk, { button, ...fields }) => {
      checkThere(desk, SetButtonArgs, { button, ...fields });
      Object.assign(buttonOf(desk, button).button, given(fields));
    },
  }),
  defineCommand({
    type: 'button.move',
    unrecorded: true,
    title: 'Move a button',
    about: 'To another place of its page; whoever is there changes places with it.',
    args: MoveButtonArgs,
    run: (desk, { button: id, place }) => {
      const { page, button } = buttonOf(desk, id);
      if (place >= page.columns * page.rows) throw new CommandError('too-many', `${page.name} has no such place.`, 'place');
      const there = page.buttons.find((b) => b.place === place);
      if (there) there.place = button.place;
      button.place = place;
    },
  }),
  defineCommand({
    type: 'button.remove',
    unrecorded: true,
    title: 'Remove a button',
    about: 'Its place is free then.',
    args: ButtonArg,
    run: (desk, { button }) => remove(desk, 'button', buttonOf(desk, button).button.id),
  }),
];
