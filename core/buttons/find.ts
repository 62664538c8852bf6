/** Finds pages and buttons. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { type Show } from '../desk/show';
import { type ButtonPage, type PageButton } from './document';

/** @throws CommandError when the show has no such page. */
export function pageOf({ show }: Pick<Desk, 'show'>, id: string, field = 'page'): ButtonPage {
  const found = show.pages.find((p) => p.id === id);
  if (!found) throw new CommandError('unknown-page', `There is no page of buttons "${id}" in this show.`, field);
  return found;
}

/** A button and the page that it is on. @throws CommandError when no page has it. */
export function buttonOf({ show }: Pick<Desk, 'show'>, id: string, field = 'button'): { page: ButtonPage; button: PageButton } {
  for (const page of show.pages) {
    const button = page.buttons.find((b) => b.id === id);
    if (button) return { page, button };
  }
  throw new CommandError('unknown-button', `No page of this show has the button "${id}".`, field);
}

/** The button at a place of a page, by their numbers from 1; undefined where none is. */
export const buttonAt = ({ pages }: Pick<Show, 'pages'>, page: number, place: number): PageButton | undefined =>
  pages[page - 1]?.buttons.find((b) => b.place === place - 1);
