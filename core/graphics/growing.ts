/** Which texts have to be measured: those in boxes that grow and in tickers, of everything that is on air or may be shown next. */
import { type Desk } from '../desk/air';
import { lanePicturesOf } from '../picture/air';
import { type Filled } from './air';
import { type Graphic } from './document';
import { type Element } from './element';
import { filledOf, findGraphic } from './find';
import { meant } from './for-mixer';
import { type Growing } from './grow';
import { measuredIn } from './measured';
import { tickerTexts } from './ticker';
import { tickersIn } from './tickers-in';
import { withValues } from './values';

/** Sizes that air holds. */
export const MOST_SIZES = 2000;

const growers = new WeakMap<readonly Element[], boolean>();

function hasGrowing({ elements }: Graphic): boolean {
  let known = growers.get(elements);
  if (known === undefined) {
    known = elements.some(({ content }) => content.kind === 'ticker' || (content.kind === 'text' && content.style.overflow === 'grow'));
    if (Object.isFrozen(elements)) growers.set(elements, known);
  }
  return known;
}

const known = new WeakMap<object, WeakMap<object, readonly Growing[]>>();

/** The texts that grow in a filled graphic. What is stored is looked through once. */
function growingIn({ graphic, values }: Filled): readonly Growing[] {
  const kept = known.get(graphic.elements)?.get(values);
  if (kept) return kept;
  const growing = measuredIn(withValues(graphic, values));
  if (Object.isFrozen(graphic.elements) && Object.isFrozen(values)) {
    const byValues = known.get(graphic.elements) ?? new WeakMap<object, readonly Growing[]>();
    known.set(graphic.elements, byValues.set(values, growing));
  }
  return growing;
}

/** All texts whose size is wanted, by their keys: of copies on air, and of every entry of graphics that something refers to. */
export function wantedSizes(desk: Desk): ReadonlyMap<string, Growing> {
  const wanted = new Map<string, Growing>();
  if (!desk.show.graphics.list.some(hasGrowing) && Object.keys(desk.air.graphics.sizes).length === 0) return wanted;
  const add = (filled: Filled) => {
    if (!hasGrowing(filled.graphic)) return;
    for (const text of growingIn(filled)) if (wanted.size < MOST_SIZES) wanted.set(text.key, text);
  };
  for (const shown of [...Object.values(desk.air.graphics.shown), ...lanePicturesOf(desk.air.lanes)]) {
    add(shown);
    if (shown.before) add(shown.before);
  }
  // Urgent items are in no graphic.
  const urgent = Object.entries(desk.air.graphics.tickers).filter(([, run]) => run.urgent.length > 0);
  if (urgent.length > 0)
    for (const shown of [...Object.values(desk.air.graphics.shown), ...lanePicturesOf(desk.air.lanes)])
      for (const { content } of tickersIn(shown, desk.air.graphics.sizes))
        for (const text of urgent.flatMap(([, run]) => tickerTexts({ ...content, items: [] }, run.urgent))) wanted.set(text.key, text);
  const graphics = new Set<Graphic>();
  for (const id of meant(desk, [])) {
    const found = findGraphic(desk.show, id);
    if (!found) continue;
    add(filledOf(found));
    graphics.add(found.graphic);
  }
  for (const graphic of graphics) if (hasGrowing(graphic)) for (const entry of graphic.entries) add(filledOf({ graphic, entry }));
  return wanted;
}
