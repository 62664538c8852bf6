/** What a button says and does. */
import { actWords, sentence } from '../automation/words';
import { type Command } from '../commands/command';
import { type Show } from '../desk/show';
import { type PageButton } from './document';

/** What stands on a button. */
export function buttonWords(show: Show, { name, act }: PageButton): string {
  if (name !== '') return name;
  if (act.kind === 'page') return show.pages.find((p) => p.id === act.pageId)?.name ?? 'no page yet';
  return sentence(actWords(show, act));
}

/** The command that a press sends; null for a button that opens a page. */
export const commandOf = ({ act }: PageButton): Command | null => (act.kind === 'command' ? { type: act.type, args: act.args } : null);
