/** The tickers of a filled graphic. */
import { type Filled } from './air';
import { type Element, type TickerContent } from './element';
import { type Sizes } from './grow';
import { drawnElements } from './values';

export interface FoundTicker {
  element: Element;
  content: TickerContent;
}

const NONE: readonly FoundTicker[] = [];
const hasTicker = new WeakMap<readonly Element[], boolean>();
const found = new WeakMap<readonly unknown[], readonly FoundTicker[]>();

/** Tickers that are seen in a filled graphic, where they stand. */
export function tickersIn(filled: Filled, sizes: Sizes): readonly FoundTicker[] {
  const { elements } = filled.graphic;
  let some = hasTicker.get(elements);
  if (some === undefined) {
    some = elements.some((e) => e.content.kind === 'ticker');
    if (Object.isFrozen(elements)) hasTicker.set(elements, some);
  }
  if (!some) return NONE;
  const drawn = drawnElements(filled, sizes);
  let tickers = found.get(drawn);
  if (!tickers) {
    tickers = drawn.flatMap(({ element }) => (element.content.kind === 'ticker' ? [{ element, content: element.content }] : []));
    found.set(drawn, tickers);
  }
  return tickers;
}
