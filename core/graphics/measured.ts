/** Texts of a graphic whose size has to be known before it is drawn. */
import { type Element } from './element';
import { type Growing, growingOf } from './grow';
import { tickerTexts } from './ticker';

/** The texts in boxes that grow, and those of tickers. */
export const measuredIn = (elements: readonly Element[]): Growing[] => [
  ...growingOf(elements),
  ...elements.flatMap((e) => (e.visible && e.content.kind === 'ticker' ? tickerTexts(e.content) : [])),
];
