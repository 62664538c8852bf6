/** What the mixers draw of a graphic: its layers as items, with what their moves make of them at a frame. */
import { type DrawItem } from '../picture/draw';
import { type AnimationItem, animationPaints, type AnimationWindow, changingPaints, liveIn } from './animation/layers';
import { type AtHold, FIRST_HOLD, frameAt } from './animation/motion';
import { ease } from '../picture/easing';
import { uncovered } from '../picture/moving';
import { intersect, type Rect } from '../show/geometry';
import { type Raster } from '../show/raster';
import { type Rate } from '../time/rate';
import { around } from '../layout/arrange';
import { inkBounds } from './bounds';
import { type Filled, type GraphicsAir } from './air';
import { clockText } from './clocks';
import { type Clock, type Graphic } from './document';
import { type Element } from './element';
import { type Sizes } from './grow';
import { applied, changing, lengthOf, type Motion, motionOf, type Phase, progressOf, STILL } from './motion';
import { changeLength, inLength } from './lengths';
import { type Inked, layersOf, type Moment, type Paint, paintAlone, paintTogether, paintWhole } from './paint';
import { movedBy, placed, type Placing, toShow } from './placing';
import { rolled } from './rolled';
import { tickerItems } from './ticker-items';
import { type Drawn, drawnElements } from './values';

/** A graphic as it is to be drawn. */
export interface Asked {
  filled: Filled;
  /** What it showed before, with the frames since the change. */
  before?: { filled: Filled; frames: number } | null;
  phase: Phase;
  /** Where its animations wait; at their first hold point without it. */
  hold?: AtHold;
  frame: number;
  /** Where its raster lands, in pixels of the show's; proportions are kept. */
  target: Rect;
  /** Nothing is drawn outside of the target. */
  cut?: boolean;
  clocks: readonly Clock[];
  air: GraphicsAir;
  rate: Rate;
  /** Tells one showing from another, for what stands in while something is drawn. */
  slot: string;
  /** The picture of a window, placed by its element; null while there is none. */
  window: (
    pictureId: string,
  ) => (Pick<DrawItem, 'texture' | 'framing' | 'grade' | 'key' | 'eye' | 'seatId' | 'sourceId'> & { fit: DrawItem['fit'] }) | null;
}

interface Stage extends Placing {
  asked: Asked;
  raster: Raster;
}

const textOf = ({ content }: Element): string => (content.kind === 'text' ? content.text : '');

/** The moment of an element in a motion; null for its plain self, `gone` where it shows nothing at all. */
function momentOf(
  { clocks, air, frame, rate }: Pick<Asked, 'clocks' | 'air' | 'frame' | 'rate'>,
  { element }: Drawn,
  motion: Motion,
  countFrom: string,
): Moment | null | 'gone' {
  const { content } = element;
  const moment: Moment = {};
  if (content.kind === 'animation') moment.animation = { frame: frameAt(content, Infinity, null) ?? content.first, layers: null };
  if (content.kind === 'clock') {
    const clock = clocks.find((c) => c.id === content.clockId);
    const said = clockText(clock, air, content.format, content.lastSeconds, frame, rate);
    if (!said) return 'gone';
    moment.text = said.text;
    if (said.last) moment.colour = content.lastColour;
  }
  if (motion.count < 1 && content.kind === 'text') {
    const words = rolled(countFrom, content.text, motion.count);
    if (words !== null && words !== content.text) moment.text = words;
  }
  if (motion.blur > 0) moment.blur = motion.blur;
  if (motion.pieces && motion.pieces.share < 1) moment.pieces = { ...motion.pieces, share: Math.round(motion.pieces.share * 100) / 100 };
  return Object.keys(moment).length > 0 ? moment : null;
}

function paintItem(stage: Stage, paint: Paint, about: Rect, motion: Motion, slot: string): DrawItem | null {
  const place = placed(stage, paint.bounds, about, motion, 1);
  const scaled = motion.scaleX !== 1 || motion.scaleY !== 1;
  return (
    place && {
      ...place,
      ...(scaled && { scaled: true as const }),
      texture: { kind: 'paint', paint, slot: `${stage.asked.slot}/${slot}` },
      fit: 'fill',
    }
  );
}

function windowItem(stage: Stage, element: Element, motion: Motion): DrawItem | null {
  const { content } = element;
  const picture = content.kind === 'window' && content.pictureId !== null ? stage.asked.window(content.pictureId) : null;
  if (!picture || content.kind !== 'window') return null;
  const place = placed(stage, element, element, motion, element.opacity);
  if (!place) return null;
  const radius = Math.min(element.corners.topLeft, element.width / 2, element.height / 2) * stage.scale;
  return {
    ...picture,
    ...place,
    fit: picture.fit === 'fill' ? 'fill' : content.fit,
    ...(radius > 0 && { radius }),
    ...(element.rotation % 360 !== 0 && { rotation: element.rotation }),
    ...(element.stroke.width > 0 &&
      element.stroke.opacity > 0 && { border: { width: element.stroke.width * stage.scale, colour: element.stroke.colour } }),
    ...(element.shadow && {
      shadow: {
        x: element.shadow.x * stage.scale,
        y: element.shadow.y * stage.scale,
        blur: element.shadow.blur * stage.scale,
        opacity: element.shadow.opacity,
      },
    }),
  };
}

/** An element whose size or angle is keyed is drawn anew at each step of it. */
function reshaped(drawn: Drawn, { keyed }: Motion): Drawn {
  const { width, height, rotation, opacity } = keyed;
  if (width === undefined && height === undefined && rotation === undefined && opacity === undefined) return drawn;
  const { element } = drawn;
  return {
    ...drawn,
    element: {
      ...element,
      width: Math.max(0, Math.round(width ?? element.width)),
      height: Math.max(0, Math.round(height ?? element.height)),
      rotation: Math.round((rotation ?? element.rotation) * 2) / 2,
      opacity: opacity === undefined ? element.opacity : Math.round(Math.min(1, Math.max(0, opacity)) * 50) / 50,
    },
  };
}

function elementItems(stage: Stage, drawn: Drawn, motion: Motion, countFrom = '0'): DrawItem[] {
  const now = reshaped(drawn, motion);
  if (now.element.content.kind === 'window') {
    const item = windowItem(stage, now.element, motion);
    return item ? [item] : [];
  }
  const { content } = now.element;
  if (content.kind === 'animation')
    return animationItems(stage, now.element, animationPaints(now, content, stage.asked.phase, stage.asked.hold ?? FIRST_HOLD), motion);
  if (content.kind === 'ticker') {
    const { air, slot, frame } = stage.asked;
    const run = air.tickers[`${slot}/${now.element.id}`];
    return tickerItems(stage, now.element, content, motion, { run, sizes: air.sizes, frame, slot, raster: stage.raster });
  }
  const moment = momentOf(stage.asked, now, motion, countFrom);
  if (moment === 'gone') return [];
  const item = paintItem(stage, paintAlone(now, moment, stage.raster), drawn.element, motion, drawn.element.id);
  return item ? [item] : [];
}

const animationItems = (stage: Stage, element: Element, items: readonly AnimationItem[], motion: Motion): DrawItem[] =>
  items.flatMap((item) =>
    'place' in item
      ? (liveItem(stage, element, item, motion) ?? [])
      : (paintItem(stage, paintAlone(item.drawn, item.moment, stage.raster), element, motion, item.slot) ?? []),
  );

/** A live picture in an animation, placed in its element as the animation is. */
function liveItem(stage: Stage, element: Element, { pictureId, place }: AnimationWindow, motion: Motion): DrawItem | null {
  const { content } = element;
  const picture = content.kind === 'animation' ? stage.asked.window(pictureId) : null;
  if (!picture || content.kind !== 'animation') return null;
  const [across, down] = [element.width / content.width, element.height / content.height];
  const turned = (element.rotation * Math.PI) / 180;
  const [dx, dy] = [place.x * across - element.width / 2, place.y * down - element.height / 2];
  const [width, height] = [place.width * across, place.height * down];
  const rect = {
    x: element.x + element.width / 2 + Math.cos(turned) * dx - Math.sin(turned) * dy - width / 2,
    y: element.y + element.height / 2 + Math.sin(turned) * dx + Math.cos(turned) * dy - height / 2,
    width,
    height,
  };
  const at = width > 0 && height > 0 ? placed(stage, rect, element, motion, element.opacity * place.opacity) : null;
  const rotation = place.rotation + element.rotation;
  // As what is drawn of it, it ends where the animation does.
  const frame = element.rotation % 360 === 0 ? (placed(stage, element, element, motion, 1)?.target ?? null) : null;
  const clip = at && frame ? intersect(at.clip ?? frame, frame) : (at?.clip ?? null);
  if (frame && !clip) return null;
  return (
    at && {
      ...picture,
      ...at,
      ...(clip && { clip }),
      fit: picture.fit === 'fill' ? 'fill' : 'cover',
      ...(rotation % 360 !== 0 && { rotation }),
    }
  );
}

const sameInk = (a: Drawn, b: Drawn, raster: Raster): boolean =>
  a === b ||
  (a.element.content.kind === b.element.content.kind &&
    (a.element.content.kind === 'window'
      ? JSON.stringify(a.element.content) === JSON.stringify(b.element.content)
      : paintAlone(a, null, raster).key === paintAlone(b, null, raster).key));

/** Everything of a filled graphic at a frame, back to front. Only what differs from what it showed before moves, while its change lasts. */
export function graphicItems(asked: Asked): DrawItem[] {
  const { filled, before, phase, target } = asked;
  const { graphic } = filled;
  const { raster } = graphic;
  const scale = Math.min(target.width / raster.width, target.height / raster.height);
  const x = target.x + (target.width - raster.width * scale) / 2;
  const y = target.y + (target.height - raster.height * scale) / 2;
  const stage: Stage = { asked, raster, scale, x, y, clip: asked.cut ? target : null };
  const elements = drawnElements(filled, asked.air.sizes);
  const whole = wholeMotion(graphic, phase);
  // As one picture, so that what lies under others in it is not seen through them while it fades.
  const asOne =
    whole !== STILL &&
    !before &&
    elements.length > 0 &&
    elements.every(
      ({ element: e }) =>
        !e.in &&
        !e.out &&
        !e.hold &&
        e.keyframes.length === 0 &&
        e.content.kind !== 'window' &&
        e.content.kind !== 'clock' &&
        e.content.kind !== 'animation' &&
        e.content.kind !== 'ticker',
    );
  const items = asOne ? asOneItem(stage, elements) : layerItems(stage, elements);
  return whole === STILL ? items : items.flatMap((item) => throughWhole(stage, item, whole, toShow(stage, aroundElements(graphic))) ?? []);
}

/**
 * A graphic at rest as one paint of its whole raster, for places where it is one picture: a box with corners, a border, a key. Null for one with
 * live pictures between its elements, or a ticker, which no paint can hold.
 */
export function graphicAsPaint({
  filled,
  clocks,
  air,
  frame,
  rate,
}: Pick<Asked, 'filled' | 'clocks' | 'air' | 'frame' | 'rate'>): Paint | null {
  const elements = drawnElements(filled, air.sizes);
  if (elements.some(({ element: { content } }) => content.kind === 'window' || content.kind === 'ticker')) return null;
  if (elements.some(({ element: { content } }) => content.kind === 'animation' && liveIn(content).length > 0)) return null;
  const inked = elements.flatMap((drawn): Inked[] => {
    const moment = momentOf({ clocks, air, frame, rate }, drawn, STILL, '');
    return moment === 'gone' ? [] : [{ element: drawn.element, mask: drawn.mask, moment }];
  });
  return inked.length === 0 ? null : paintWhole(inked, elements, filled.graphic.raster);
}

/** The whole graphic as one paint. */
function asOneItem(stage: Stage, elements: readonly Drawn[]): DrawItem[] {
  const paint = paintTogether(elements, stage.raster);
  const item = paintItem(stage, paint, paint.bounds, STILL, 'all');
  return item ? [item] : [];
}

/** The layers of a graphic, each with its own motion; what a change hides goes between them. */
function layerItems(stage: Stage, elements: readonly Drawn[]): DrawItem[] {
  const { filled, before, phase } = stage.asked;
  const { raster } = stage;
  const comes = inLength(filled.graphic);
  const changes =
    before && before.frames < changeLength(filled.graphic) ? changesOf(before.filled, elements, raster, stage.asked.air.sizes) : null;
  const drawn = layersOf(elements).map((layer): Placed => {
    const first = layer[0] as Drawn;
    const ids = layer.map((d) => d.element.id);
    if (!first.alone) {
      const item = paintItem(stage, paintTogether(layer, raster), first.element, STILL, first.element.id);
      return { ids, items: item ? [item] : [] };
    }
    const motion = motionOf(first.element, phase, comes, raster);
    const old = changes?.get(first.element.id);
    if (!changes || old === undefined || !before) return { ids, items: elementItems(stage, first, motion) };
    return { ids, items: changedItems(stage, old, first, motion, before.frames) };
  });
  if (changes && before) addGone(stage, drawn, before, changes);
  return drawn.flatMap(({ items }) => items);
}

/** The items of one layer, with the elements that they are of. */
interface Placed {
  ids: string[];
  items: DrawItem[];
}

/** What the new values hide goes by its own move, between the elements that it stood between. */
function addGone(stage: Stage, drawn: Placed[], before: NonNullable<Asked['before']>, changes: ReadonlyMap<string, Drawn | null>): void {
  const old = drawnElements(before.filled, stage.asked.air.sizes);
  old.forEach((was, i) => {
    const { id } = was.element;
    if (!changes.has(id) || drawn.some(({ ids }) => ids.includes(id))) return;
    const items = changedItems(stage, was, null, STILL, before.frames);
    const under = old.slice(0, i).findLast((d) => drawn.some(({ ids }) => ids.includes(d.element.id)));
    const at = under ? drawn.findIndex(({ ids }) => ids.includes(under.element.id)) + 1 : 0;
    drawn.splice(at, 0, { ids: [id], items });
  });
}

/** An item as it is while its graphic moves as a whole, about the middle of `area`, in pixels of the show; null where nothing of it is seen. */
function throughWhole(stage: Stage, item: DrawItem, whole: Motion, area: Rect): DrawItem | null {
  if (whole.opacity <= 0 || Math.abs(whole.scaleX) < 1e-3) return null;
  const go = (r: Rect) => movedBy(r, area, whole, whole.x * stage.scale, whole.y * stage.scale);
  const seen = whole.wipe && go(uncovered(whole.wipe.edge, whole.wipe.share, area));
  const own = item.clip && go(item.clip);
  const clip = seen && own ? intersect(seen, own) : (seen ?? own);
  if ((seen ?? own) && !clip) return null;
  return {
    ...item,
    target: go(item.target),
    opacity: item.opacity * whole.opacity,
    ...(clip && { clip }),
    ...((whole.scaleX !== 1 || whole.scaleY !== 1) && { scaled: true as const }),
  };
}

function wholeMotion(graphic: Graphic, phase: Phase): Motion {
  if (!(graphic.in && phase.in < lengthOf(graphic.in)) && !(graphic.out && phase.out !== null)) return STILL;
  const area = aroundElements(graphic);
  let motion: Motion = STILL;
  if (graphic.in && phase.in < lengthOf(graphic.in))
    motion = applied(motion, graphic.in, progressOf(graphic.in, phase.in), area, graphic.raster);
  if (graphic.out && phase.out !== null)
    motion = applied(motion, graphic.out, 1 - progressOf(graphic.out, phase.out), area, graphic.raster);
  return motion;
}

/** The rectangle around everything that a graphic draws, in its own pixels. */
function aroundElements({ elements, raster }: Graphic): Rect {
  const shown = elements.filter((e) => e.visible && e.content.kind !== 'group');
  return shown.length > 0 ? around(shown.map((e) => inkBounds(e, raster))) : { x: 0, y: 0, ...raster };
}

/** Elements that differ from what was shown before, with what they were: null for those that were not there. */
function changesOf(before: Filled, now: readonly Drawn[], raster: Raster, sizes: Sizes): Map<string, Drawn | null> {
  const old = new Map(drawnElements(before, sizes).map((d) => [d.element.id, d]));
  const changes = new Map<string, Drawn | null>();
  for (const drawn of now) {
    const was = old.get(drawn.element.id);
    if (!was) changes.set(drawn.element.id, null);
    else if (!sameInk(was, drawn, raster)) changes.set(drawn.element.id, was);
    old.delete(drawn.element.id);
  }
  for (const [id, was] of old) changes.set(id, was);
  return changes;
}

/** True when an element differs just in its place or size: something that grew has pushed it. */
function onlyPushed(old: Drawn, now: Drawn, raster: Raster): boolean {
  const { x, y, width, height } = old.element;
  return (
    old.mask === now.mask &&
    paintAlone(old, null, raster).key === paintAlone({ ...now, element: { ...now.element, x, y, width, height } }, null, raster).key
  );
}

/** The motion of an element on its way from where it stood to where something that grew has pushed it, while the change lasts. */
function pushed(stage: Stage, from: Element, to: Element, motion: Motion, frames: number): Motion {
  const share = ease('in-out', Math.min(1, frames / Math.max(1, changeLength(stage.asked.filled.graphic))));
  const at = (property: 'x' | 'y' | 'width' | 'height') =>
    from[property] === to[property] ? {} : { [property]: from[property] + (to[property] - from[property]) * share };
  return { ...motion, keyed: { ...at('x'), ...at('y'), ...at('width'), ...at('height'), ...motion.keyed } };
}

function changedItems(stage: Stage, old: Drawn | null, now: Drawn | null, motion: Motion, frames: number): DrawItem[] {
  const { change } = (now ?? old)?.element ?? {};
  if (old && now?.element.content.kind === 'animation')
    return animationItems(stage, now.element, changingPaints(old, now, frames, stage.asked.hold ?? FIRST_HOLD), motion);
  // A ticker takes new items by itself.
  if (now?.element.content.kind === 'ticker') return elementItems(stage, now, motion);
  if (old && now && onlyPushed(old, now, stage.raster))
    return elementItems(stage, now, pushed(stage, old.element, now.element, motion, frames));
  if (!change) return now ? elementItems(stage, now, motion) : [];
  if (change.way === 'count') {
    if (!now) return [];
    const share = Math.min(1, Math.max(0, (frames - change.start) / Math.max(1, change.frames)));
    return elementItems(stage, now, { ...motion, count: share }, old ? textOf(old.element) : '0');
  }
  const { which, level } = changing(change, frames);
  const drawn = which === 'old' ? old : now;
  return drawn ? elementItems(stage, drawn, applied(motion, change, level, drawn.element, stage.raster)) : [];
}
