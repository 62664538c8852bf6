/** After every act: every ticker on air has its run, with the items that it shows now; what is in the box stays where it is. */
import { type Patch, produceWithPatches } from 'immer';
import { type Shown, type TickerPiece, type TickerRun } from '../graphics/air';
import { type Element, type TickerContent } from '../graphics/element';
import { goOn, startRun, stepOf, type Strip, stripOf, urgentPieces } from '../graphics/ticker';
import { tickersIn } from '../graphics/tickers-in';
import { type Raster } from '../show/raster';
import { type Air, type Desk } from './air';

/** A ticker that the audience sees. */
export interface TickerOnAir {
  /** Under which air holds its run. */
  key: string;
  /** Where it is shown: another entry there goes on with the same run. */
  place: string;
  shown: Shown;
  element: Element;
  content: TickerContent;
  /** False while it leaves, or has left. */
  up: boolean;
}

/** Key of a run: where a graphic is shown, and which element it is. */
export const tickerKey = (slot: string, elementId: string): string => `${slot}/${elementId}`;

/** Every ticker on air, in lanes and in the picture. */
export function tickersOnAir({ lanes, graphics }: Pick<Air, 'lanes' | 'graphics'>): TickerOnAir[] {
  const found: TickerOnAir[] = [];
  const add = (slot: string, place: string, shown: Shown, up: boolean) => {
    for (const { element, content } of tickersIn(shown, graphics.sizes))
      found.push({ key: tickerKey(slot, element.id), place, shown, element, content, up });
  };
  for (const [id, { picture, fade, leaving }] of Object.entries(lanes)) {
    if (picture?.kind === 'graphic') add(`${id}/${picture.id}`, id, picture.shown, fade.to === 1);
    if (leaving?.picture.kind === 'graphic') add(`${id}/${leaving.picture.id}`, id, leaving.picture.shown, false);
  }
  for (const [id, shown] of Object.entries(graphics.shown)) add(id, id, shown, true);
  return found;
}

const scaleOf = (graphic: Raster, show: Raster): number => Math.min(show.width / graphic.width, show.height / graphic.height);

const sameList = (a: readonly TickerPiece[], b: readonly TickerPiece[]): boolean =>
  a === b || (a.length === b.length && a.every((p, i) => p.text === b[i]?.text && p.width === b[i].width && p.end === b[i].end));

const sameStrip = (run: TickerRun, strip: Strip): boolean =>
  run.step === strip.step && run.between === strip.between && run.loops === strip.loops && sameList(run.list, strip.list);

/** The run of a ticker as it is from `frame` on; the same one where nothing differs. */
function nextRun({ show, air }: Desk, ticker: TickerOnAir, before: TickerRun | undefined, frame: number): TickerRun | undefined {
  const { content, element, shown } = ticker;
  const step = stepOf(content.speed, scaleOf(shown.graphic.raster, show.raster), show.rate.num / show.rate.den);
  const strip = stripOf(content, air.graphics.sizes, step);
  const run = before?.since === shown.start ? before : undefined;
  if (!run) return strip ? startRun(strip, Math.max(frame, shown.start), shown.start) : undefined;
  const urgent = run.urgent.length > 0 ? urgentPieces(content, run.urgent, air.graphics.sizes) : null;
  if (!strip || (!urgent && sameStrip(run, strip))) return run;
  const kept = sameList(run.list, strip.list) ? { ...strip, list: run.list } : strip;
  return { ...goOn(run, kept, frame, element.width, urgent ?? []), urgent: urgent ? [] : run.urgent };
}

/** The desk with its tickers in order, with the patches of that; the same desk where nothing was to be done. */
export function keepTickers(desk: Desk, frame: number): readonly [Desk, Patch[], Patch[]] {
  const { tickers } = desk.air.graphics;
  const onAir = tickersOnAir(desk.air);
  const known = Object.keys(tickers);
  if (onAir.length === 0 && known.length === 0) return [desk, [], []];
  const next: Record<string, TickerRun> = {};
  for (const ticker of onAir) {
    // Another entry of the same showing: its ticker goes on.
    const other = known.find((k) => k.startsWith(`${ticker.place}/`) && k.endsWith(`/${ticker.element.id}`));
    const run = nextRun(desk, ticker, tickers[ticker.key] ?? (other === undefined ? undefined : tickers[other]), frame);
    if (run) next[ticker.key] = run;
  }
  const keys = Object.keys(next);
  if (keys.length === known.length && keys.every((k) => next[k] === tickers[k])) return [desk, [], []];
  return produceWithPatches(desk, (draft: Desk) => {
    for (const key of known) if (!next[key]) delete draft.air.graphics.tickers[key];
    for (const key of keys) if (next[key] !== tickers[key]) draft.air.graphics.tickers[key] = next[key] as TickerRun;
  });
}
