/** What can be seen of a page at a glance: what is cut off, too small, or scrolls where it must not. */
import { type Page } from 'puppeteer-core';

export interface Seen {
  /** Pixels that the page is wider or taller than the window. */
  over: { x: number; y: number };
  /** Controls under 28 pixels, words under 13, each with what they say. */
  small: string[];
  /** Words that run out of their box without an end that says so, and controls of which a part is outside of what holds them. */
  cut: string[];
  /** Controls whose middle lies under something else. */
  covered: string[];
}

/** Smallest side of a control, and of words, pixels. */
const LEAST = { control: 28, words: 13 };

export const seeAll = (page: Page): Promise<Seen> =>
  page.evaluate((least) => {
    const small: string[] = [];
    const cut: string[] = [];
    const covered: string[] = [];
    for (const element of document.querySelectorAll<HTMLElement>(
      'button, a[href], select, input, textarea, summary, [role="button"], [role="tab"]',
    )) {
      // What a label is around is pressed by it.
      const target = element.matches('input[type=checkbox], input[type=radio]') ? (element.closest('label') ?? element) : element;
      const box = target.getBoundingClientRect();
      const style = getComputedStyle(element);
      if (box.width === 0 || style.visibility === 'hidden' || style.opacity === '0' || element.closest('[aria-hidden="true"], .sr-only'))
        continue;
      // Links in running words are as high as the words (WCAG 2.2, 2.5.8), sliders as their track.
      if (style.display === 'inline' || element.matches('input[type=range], .sr-only')) continue;
      const name = `${element.tagName.toLowerCase()} “${(element.getAttribute('aria-label') ?? element.textContent ?? '').trim().slice(0, 40)}”`;
      const around = element.matches('input[type=checkbox]') ? -2 * parseFloat(getComputedStyle(element, '::before').top) || 0 : 0;
      const own = element.getBoundingClientRect();
      const sides = [Math.max(box.width, own.width + around), Math.max(box.height, own.height + around)];
      if (sides.some((side) => side < least.control - 0.5)) small.push(`${name} ${Math.round(box.width)}×${Math.round(box.height)}`);
      // What is scrolled out of its list is no fault, in the direction in which the list goes on.
      let inView = box.top >= 0 && box.bottom <= window.innerHeight && box.left >= 0 && box.right <= window.innerWidth;
      for (let holder = element.parentElement; holder && inView; holder = holder.parentElement) {
        const { overflowX, overflowY } = getComputedStyle(holder);
        if (overflowX === 'visible' && overflowY === 'visible') continue;
        const edge = holder.getBoundingClientRect();
        if (box.bottom > edge.bottom + 1 || box.top < edge.top - 1) inView = false;
        else if (box.left < edge.left - 1 || box.right > edge.right + 1) {
          if (!holder.matches('[role="tablist"], [data-scrolls-across]')) cut.push(name);
          inView = false;
        }
      }
      if (!inView) continue;
      const at = document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2);
      if (at && !element.contains(at) && !at.contains(element) && !target.contains(at))
        covered.push(`${name} under ${at.tagName.toLowerCase()}.${at.className}`.slice(0, 120));
    }
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const words = node.textContent?.trim() ?? '';
      const element = node.parentElement;
      if (words === '' || !element || element.closest('script, style, svg, .sr-only, [aria-hidden="true"], option')) continue;
      const box = element.getBoundingClientRect();
      if (box.width < 2 || box.height < 2) continue;
      const style = getComputedStyle(element);
      if (parseFloat(style.fontSize) < least.words) small.push(`words “${words.slice(0, 40)}” ${style.fontSize}`);
      const clips = style.overflowX === 'hidden' && style.textOverflow !== 'ellipsis';
      if (clips && element.scrollWidth > element.clientWidth + 1) cut.push(words.slice(0, 40));
    }
    const { scrollWidth, scrollHeight } = document.documentElement;
    return {
      over: { x: scrollWidth - window.innerWidth, y: scrollHeight - window.innerHeight },
      small: [...new Set(small)],
      cut: [...new Set(cut)],
      covered: [...new Set(covered)],
    };
  }, LEAST);

/** True when all of an element is inside the window. */
export const isInView = (page: Page, selector: string): Promise<boolean> =>
  page.evaluate((of) => {
    const box = document.querySelector(of)?.getBoundingClientRect();
    return (
      box !== undefined &&
      box.width > 0 &&
      box.top >= -1 &&
      box.left >= -1 &&
      box.bottom <= window.innerHeight + 1 &&
      box.right <= window.innerWidth + 1
    );
  }, selector);
