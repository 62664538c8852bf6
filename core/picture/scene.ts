/** What a picture is drawn from: one path for a single source and for a layout of many boxes. */
import { traitsOf } from '../show/source-kinds';
import { effectiveBox } from '../layout/styles';
import { MOST, seenArea, type Weight } from '../layout/weight';
import { playerState } from '../media/player';
import { type DeckNumber } from '../replay/air';
import { deckPictures, deckPlace } from '../replay/deck';
import { type Air } from '../desk/air';
import { gatheredScene } from '../guests/gathered-scene';
import { type Gathering } from '../guests/document';
import { guestBehind, isSeen } from '../guests/let-in';
import { type FoundGraphic } from '../graphics/find';
import { graphicAsPaint, graphicItems } from '../graphics/items';
import { AT_REST } from '../graphics/motion';
import { shownOrStored } from '../graphics/showing';
import { containRect, fullRect, type Point, type Rect } from '../show/geometry';
import { type Box, type BoxContent, type Framing, type Layout, type Preset, type Seat } from '../layout/document';
import { type Key, NO_CROP } from '../layout/look';
import { findPicture, type Picture, type PictureKind } from '../desk/pictures';
import { findOutput } from '../screens/outputs';
import { type Show } from '../desk/show';
import { type Source } from '../show/source';
import { type DrawItem, type KeyPlan, type Scene, type TextureRef } from './draw';
import { isPlainGrade } from './grade';

/** Everything of an item but its place; a graphic in a scene of its own has the whole raster. */
type Content = Pick<DrawItem, 'texture' | 'framing' | 'grade' | 'key' | 'eye' | 'seatId' | 'sourceId'> & { fit: 'contain' | 'fill' };

/** Layouts inside layouts are drawn this deep; circles are refused before. */
const DEEPEST = 8;

/** What may still be drawn of one picture. An old show may hold more than commands let in now: what fits is drawn, from back to front. */
type Budget = Weight;

const eyeOf = (show: Show, sourceId: string): Point | undefined => {
  const eye = show.eyes.find((e) => e.pictureId === sourceId);
  return eye && { x: eye.x, y: eye.y };
};

export function keyPlan(show: Show, key: Key): KeyPlan | undefined {
  if (key.kind !== 'fill') return key;
  const source = show.sources.find((s) => s.id === key.keyId);
  return source && { kind: 'fill', texture: { kind: 'source', id: source.id }, premultiplied: key.premultiplied, invert: key.invert };
}

/** What a live deck shows of its angle: the picture itself, or what an output showed the frame before. */
function angleContent(show: Show, air: Air, id: string | null, frame: number, depth: number, budget: Budget): Content | null {
  const output = findOutput(show, id);
  if (output) return { texture: { kind: 'output', id: output.id }, fit: 'contain' };
  return depth >= DEEPEST ? null : pictureContent(show, air, id, frame, depth + 1, budget);
}

/** A deck: its angle while live, else what it plays; two pictures while it dissolves or blends. */
function deckContent(show: Show, air: Air, source: Source, number: DeckNumber, frame: number, depth: number, budget: Budget): Content {
  const deck = air.replay.decks[number];
  const place = deckPlace(deck, air.replay, frame, show.rate);
  const angle = place.live ? angleContent(show, air, place.angleId, frame, depth, budget) : null;
  if (angle) return { ...angle, sourceId: source.id };
  const [, second] = deckPictures(deck, place, show.replay.settings.blend);
  const own: TextureRef = { kind: 'source', id: source.id };
  if (!second) return { texture: own, fit: 'contain', sourceId: source.id };
  const target = fullRect(show.raster);
  const layers: Scene = [
    { texture: own, fit: 'contain', target, opacity: 1 },
    { texture: { ...own, second: true }, fit: 'contain', target, opacity: second.level },
  ];
  return { texture: { kind: 'scene', id: source.id, scene: layers }, fit: 'contain', sourceId: source.id };
}

function sourceContent(show: Show, air: Air, source: Source, frame: number, depth: number, budget: Budget): Content {
  const { settings } = source;
  if (settings.kind === 'deck') return deckContent(show, air, source, settings.deck, frame, depth, budget);
  // A guest who is not seen has a card in their place.
  if (!isSeen(show, air, source, frame)) {
    const { name } = guestBehind(show, source) ?? source;
    return { texture: { kind: 'seat', name, colour: source.colour }, fit: 'contain', sourceId: source.id };
  }
  const black = settings.kind === 'media' && playerState(air, source.id, settings, frame, show.rate).black;
  const texture: TextureRef = black ? { kind: 'colour', colour: '#000000' } : { kind: 'source', id: source.id };
  const eye = eyeOf(show, source.id);
  return { texture, fit: traitsOf(source).fills ? 'fill' : 'contain', sourceId: source.id, ...(eye && { eye }) };
}

function framingContent(show: Show, air: Air, framing: Framing, frame: number, depth: number, budget: Budget): Content | null {
  const source = show.sources.find((s) => s.id === framing.sourceId);
  if (!source) return null;
  const { crop, zoom, panX, panY, aspect, mirror, grade, key } = framing;
  const plannedKey = key && keyPlan(show, key);
  const eye = eyeOf(show, framing.id);
  return {
    ...sourceContent(show, air, source, frame, depth, budget),
    ...(eye && { eye }),
    framing: { crop, zoom, panX, panY, aspect, mirror },
    ...(grade && !isPlainGrade(grade) && { grade }),
    ...(plannedKey && { key: plannedKey }),
  };
}

function seatContent(show: Show, air: Air, seat: Seat, frame: number, depth: number, budget: Budget): Content {
  const filled = pictureContent(show, air, seat.occupantId, frame, depth, budget);
  if (filled) return { ...filled, seatId: seat.id };
  return { texture: { kind: 'seat', name: seat.name, colour: seat.colour }, fit: 'contain', seatId: seat.id };
}

/** What is drawn of a picture so deep in others, with what may still be drawn. */
interface Asked {
  show: Show;
  air: Air;
  frame: number;
  depth: number;
  budget: Budget;
}

/** How each kind of picture is drawn. */
const CONTENTS: { [K in PictureKind]: (picture: Extract<Picture, { kind: K }>, asked: Asked) => Content | null } = {
  source: ({ source }, { show, air, frame, depth, budget }) => sourceContent(show, air, source, frame, depth, budget),
  framing: ({ framing }, { show, air, frame, depth, budget }) => framingContent(show, air, framing, frame, depth, budget),
  seat: ({ seat }, { show, air, frame, depth, budget }) => seatContent(show, air, seat, frame, depth, budget),
  gathering: ({ id, gathering }, { show, air, frame, depth, budget }) =>
    depth >= DEEPEST
      ? null
      : {
          texture: { kind: 'scene', id, scene: gatheringScene(show, air, gathering, frame, depth + 1, budget) },
          fit: 'contain',
          sourceId: id,
        },
  graphic: ({ id, graphic, entry }, { show, air, frame, depth, budget }) => {
    if (depth >= DEEPEST) return null;
    // One picture, clear where nothing is drawn, and drawn at the size that it is shown at.
    const paint = graphicAsPaint({
      filled: shownOrStored(air, id, { graphic, entry }),
      clocks: show.graphics.clocks,
      air: air.graphics,
      frame,
      rate: show.rate,
    });
    return paint
      ? { texture: { kind: 'paint', paint, slot: `${id}/whole` }, fit: 'contain', sourceId: id }
      : {
          texture: {
            kind: 'scene',
            id,
            scene: graphicScene(show, air, id, { graphic, entry }, fullRect(show.raster), frame, depth, budget),
          },
          fit: 'contain',
          sourceId: id,
        };
  },
  layout: ({ id, layout }, { show, air, frame, depth, budget }) =>
    depth >= DEEPEST
      ? null
      : { texture: { kind: 'scene', id, scene: drawnLayout(show, air, layout, frame, depth + 1, budget) }, fit: 'contain', sourceId: id },
};

function pictureContent(show: Show, air: Air, id: string | null, frame: number, depth: number, budget: Budget): Content | null {
  const picture = findPicture(show, id);
  if (!picture) return null;
  const draw = CONTENTS[picture.kind] as (picture: Picture, asked: Asked) => Content | null;
  return draw(picture, { show, air, frame, depth, budget });
}

/** The layers of a graphic in a place: the copy that is on air, or the document's. What lies outside of the place is cut. */
function graphicScene(
  show: Show,
  air: Air,
  id: string,
  found: FoundGraphic,
  target: Rect,
  frame: number,
  depth: number,
  budget: Budget,
): Scene {
  const shown = shownOrStored(air, id, found);
  return graphicItems({
    filled: shown,
    before: shown.before ? { filled: shown.before, frames: frame - shown.before.start } : null,
    phase: shown.start === undefined ? AT_REST : { in: frame - shown.start, out: null },
    ...(shown.hold && { hold: { index: shown.hold.index, frames: frame - shown.hold.start } }),
    frame,
    target,
    cut: target.width < show.raster.width || target.height < show.raster.height,
    clocks: show.graphics.clocks,
    air: air.graphics,
    rate: show.rate,
    slot: id,
    window: windowsIn(show, air, frame, depth, budget),
  });
}

/** Draws what the windows of a graphic show. */
export const windowsIn =
  (show: Show, air: Air, frame: number, depth = 0, budget: Budget = { ...MOST }) =>
  (pictureId: string): Content | null =>
    boxContent(show, air, { kind: 'source', id: pictureId }, 1, frame, depth + 1, budget);

/** A content that takes `area` whole pictures to draw; null also when nothing more fits. */
function boxContent(
  show: Show,
  air: Air,
  content: BoxContent | null,
  area: number,
  frame: number,
  depth: number,
  budget: Budget,
): Content | null {
  if (!content || budget.items < 1 || budget.area < area) return null;
  budget.items -= 1;
  budget.area -= area;
  if (content.kind === 'colour') return { texture: { kind: 'colour', colour: content.colour ?? '#000000' }, fit: 'fill' };
  return content.id === undefined ? null : pictureContent(show, air, content.id, frame, depth, budget);
}

/** What any content is drawn from, as the first of its picture; null when there is nothing, or no more fits. */
export const contentOf = (show: Show, air: Air, content: BoxContent | null, frame: number, budget: Budget): Content | null =>
  boxContent(show, air, content, 1, frame, 0, budget);

/** A box by itself; `instead` is shown in the place of its content. */
export const boxItems = (show: Show, air: Air, box: Box, frame: number, budget: Budget, instead: Content | null): DrawItem[] =>
  boxItem(show, air, instead ? { ...box, content: null } : box, frame, 0, budget, instead);

/** One box, drawn as it and its styles say; nothing when it is hidden or empty. */
function boxItem(
  show: Show,
  air: Air,
  stored: Box,
  frame: number,
  depth: number,
  budget: Budget,
  instead: Content | null = null,
): DrawItem[] {
  if (!stored.visible) return [];
  const box = effectiveBox(show, stored);
  // A graphic in a plain box is drawn at the size of the box: its geometry is scaled, not its pixels.
  const found =
    stored.content?.kind === 'graphic' || stored.content?.kind === 'entry' ? findPicture(show, stored.content.id ?? null) : null;
  if (found?.kind === 'graphic' && isPlainBox(box)) {
    const target = box.fit === 'fill' ? box.rect : containRect(box.rect, found.graphic.raster.width / found.graphic.raster.height, 1);
    return depth >= DEEPEST ? [] : graphicScene(show, air, found.id, found, target, frame, depth, budget);
  }
  const content = instead ?? boxContent(show, air, stored.content, seenArea(box.rect, show.raster), frame, depth, budget);
  if (!content || box.opacity <= 0) return [];
  const item: DrawItem = {
    ...content,
    target: box.rect,
    fit: content.fit === 'fill' ? 'fill' : box.fit === 'eye' && !content.eye ? 'cover' : box.fit,
    opacity: box.opacity,
  };
  if (box.zoom !== 1 || box.crop !== NO_CROP) item.view = { crop: box.crop, zoom: box.zoom, panX: box.panX, panY: box.panY };
  if (box.rotation % 360 !== 0) item.rotation = box.rotation;
  if (box.radius > 0) item.radius = box.radius;
  if (box.border.width > 0) item.border = box.border;
  if (box.shadow.opacity > 0) item.shadow = box.shadow;
  const key = box.key && keyPlan(show, box.key);
  if (key) item.key = key;
  return [item];
}

/** True when nothing is done to what a box shows but placing it. */
const isPlainBox = (box: Box): boolean =>
  box.opacity >= 1 &&
  box.rotation % 360 === 0 &&
  box.radius <= 0 &&
  box.border.width <= 0 &&
  box.shadow.opacity <= 0 &&
  box.zoom === 1 &&
  Object.values(box.crop).every((cut) => cut === 0) &&
  !box.key &&
  (box.fit === 'contain' || box.fit === 'fill');

/** A whole layout: background, boxes from back to front, frame artwork; as much of it as can be drawn. */
export const layoutScene = (show: Show, air: Air, layout: Layout | Preset, frame: number): Scene =>
  drawnLayout(show, air, layout, frame, 0, { ...MOST });

function drawnLayout(show: Show, air: Air, layout: Layout | Preset, frame: number, depth: number, budget: Budget): Scene {
  const full = fullRect(show.raster);
  const art = layout.frameId === null ? null : boxContent(show, air, { kind: 'source', id: layout.frameId }, 1, frame, depth, budget);
  const frameArt = findPicture(show, layout.frameId);
  // Drawn layer by layer, as it is transparent.
  const drawnArt =
    frameArt?.kind === 'graphic'
      ? graphicScene(show, air, frameArt.id, frameArt, full, frame, depth, budget).map((item) => ({ ...item, layer: 'frame' as const }))
      : null;
  const background = boxContent(show, air, layout.background, 1, frame, depth, budget);
  return [
    ...(background
      ? [
          {
            ...background,
            target: full,
            fit: background.fit === 'fill' ? ('fill' as const) : ('cover' as const),
            opacity: 1,
            layer: 'background' as const,
          },
        ]
      : []),
    ...layout.boxes.flatMap((box) => boxItem(show, air, box, frame, depth, budget)),
    ...(drawnArt ?? (art ? [{ ...art, target: full, fit: 'fill' as const, opacity: 1, layer: 'frame' as const }] : [])),
  ];
}

/** A gathered view: its guests, each as one picture, as far as they fit. */
const gatheringScene = (show: Show, air: Air, gathering: Gathering, frame: number, depth = 0, budget: Budget = { ...MOST }): Scene =>
  gatheredScene(show, air, gathering, frame, (id) => boxContent(show, air, { kind: 'source', id }, 1 / 4, frame, depth, budget));

/** The scene of any picture; empty for none. A single picture is a layout of one full box. */
export function sceneOf(show: Show, air: Air, id: string | null, frame: number): Scene {
  const picture = findPicture(show, id);
  if (picture?.kind === 'graphic') return graphicScene(show, air, picture.id, picture, fullRect(show.raster), frame, 0, { ...MOST });
  if (picture?.kind === 'gathering') return gatheringScene(show, air, picture.gathering, frame);
  if (picture?.kind === 'layout') return layoutScene(show, air, picture.layout, frame);
  const content = pictureContent(show, air, id, frame, 0, { ...MOST });
  return content ? [{ ...content, target: fullRect(show.raster), opacity: 1 }] : [];
}
