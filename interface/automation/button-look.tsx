/** How a button of a page looks, in the room and in a window of its own. */
import clsx from 'clsx';
import { ChevronRight } from 'lucide-react';
import { type ReactNode } from 'react';
import { type ButtonPage, type PageButton } from '#core/buttons/document';

/** The place of a button in a grid, from 1. */
export const gridPlace = (page: ButtonPage, place: number) => ({
  gridColumn: (place % page.columns) + 1,
  gridRow: Math.floor(place / page.columns) + 1,
});

export const gridOf = (page: ButtonPage) => ({
  gridTemplateColumns: `repeat(${page.columns}, minmax(0, 1fr))`,
  gridTemplateRows: `repeat(${page.rows}, minmax(0, 1fr))`,
});

/** Classes of a button: lit, its edge is bright and its colour full. */
export const buttonLook = (lit: boolean, more = ''): string =>
  clsx(
    'relative flex min-h-11 min-w-0 flex-col items-stretch justify-end overflow-hidden rounded-[4px] border-2 text-left',
    lit ? 'border-text' : 'border-transparent',
    more,
  );

/** Its colour, its picture, and what stands on it. */
export function ButtonFace({ button, words, lit, picture }: { button: PageButton; words: string; lit: boolean; picture?: ReactNode }) {
  return (
    <>
      <span className="absolute inset-0" style={{ background: button.colour, opacity: lit ? 1 : 0.55 }} aria-hidden />
      {picture && <span className="absolute inset-x-0 top-0 block aspect-video">{picture}</span>}
      <span className="relative flex items-center gap-1 bg-deep/75 px-1.5 py-1 leading-tight font-semibold text-text">
        <span className="line-clamp-2 min-w-0 flex-1">{words}</span>
        {button.act.kind === 'page' && <ChevronRight size={16} className="shrink-0" aria-label="opens a page" />}
      </span>
    </>
  );
}
