/** The stage: a graphic as it is drawn, whose elements are moved, sized and turned with the mouse. */
import { type KonvaEventObject } from 'konva/lib/Node';
import { nanoid } from 'nanoid';
import { type DragEvent, useRef, useState } from 'react';
import { Circle, Group, Layer, Rect as KonvaRect } from 'react-konva';
import { around, type Guide, guidesFor } from '#core/layout/arrange';
import { type Handle, isOn, moveDrag, resizeDrag, turnDrag, wholePixels } from '#core/layout/handles';
import { type Graphic } from '#core/graphics/document';
import { type Element } from '#core/graphics/element';
import { NO_VALUES } from '#core/graphics/find';
import { type Phase } from '#core/graphics/motion';
import { asDrawn, withValues } from '#core/graphics/values';
import { type Point, type Rect } from '#core/show/geometry';
import { type Raster } from '#core/show/raster';
import { useSendAll, useShow, useShowClient } from '../client/show-client';
import { DEEP, FittedStage, GuideLines, MUTED, pointOn, SafeAreas, SquareHandles, STRAW, useFitted } from '../parts/canvas';
import { GraphicPicture } from './graphic-picture';
import { useAddImage } from './images';
import { guideAt, pulled, rulerAt, Rulers } from './rulers';
import { setGraphicsRoom, useGraphicsRoom } from './room-state';

/** Pixels of the screen within which an edge snaps. */
const REACH = 6;
/** Pixels of the screen around the picture, for handles and for what reaches out of it. */
const MARGIN = 26;
/** Distance of the lines of the grid, as a share of the height. */
const GRID_SHARE = 1 / 36;

/** A guide that is pulled; `index` past the end is a new one. */
interface GuideDrag {
  index: number;
  axis: GuideAxis;
  guides: Graphic['guides'];
  gesture: string;
}

interface Drag {
  kind: 'move' | 'turn' | Handle;
  from: Point;
  gesture: string;
  ids: readonly string[];
  rect: Rect;
  rotation: number;
}

type GuideAxis = Graphic['guides'][number]['axis'];

const rectOf = ({ x, y, width, height }: Rect): Rect => ({ x, y, width, height });

/** Lines of the grid over a raster. */
function gridOf({ width, height }: Raster): Guide[] {
  const step = height * GRID_SHARE;
  const lines = (axis: Guide['axis'], length: number) =>
    Array.from({ length: Math.floor(length / step) }, (_, i): Guide => ({ axis, at: (i + 1) * step, what: 'grid' }));
  return [...lines('x', width), ...lines('y', height)];
}

/** Guides that were drawn, as lines to snap to. */
const ownGuides = ({ guides }: Graphic): Guide[] =>
  guides.map(({ axis, at }) => ({ axis: axis === 'down' ? 'x' : 'y', at, what: 'guide' }));

/** The whole drawing, with outlines of what is chosen over it. `phase` is where its moves are tried. */
export function GraphicStage({ graphic, phase, frame }: { graphic: Graphic; phase: Phase; frame: number }) {
  const addImage = useAddImage();
  const client = useShowClient();
  const sendAll = useSendAll();
  const { chosen, snap, grid, safe, trial } = useGraphicsRoom();
  const drag = useRef<Drag | null>(null);
  const guideDrag = useRef<GuideDrag | null>(null);
  const [missing, setMissing] = useState<readonly string[]>([]);
  const [held, setHeld] = useState<Guide[]>([]);
  const { raster } = graphic;
  const { room, size } = useFitted(raster, MARGIN);
  const scale = size.width / raster.width;
  // What the fields’ defaults say is what is seen, so that is what is taken hold of.
  const drawing = asDrawn(graphic);
  const shown = withValues(drawing, NO_VALUES);
  const picked = shown.filter((e) => chosen.includes(e.id));
  const single = picked.length === 1 ? picked[0] : undefined;
  const frameRect = picked.length > 0 ? around(picked.map(rectOf)) : null;

  const pointOf = (event: KonvaEventObject<MouseEvent>): Point => pointOn(event, MARGIN, scale);
  const hitAt = (point: Point): Element | undefined =>
    shown.findLast((e) => e.visible && !e.locked && e.content.kind !== 'group' && isOn(point, thick(e, scale), e.rotation));
  /** A press on something in a group takes the group; a second press what is in it. */
  const outermost = (hit: Element): Element => {
    if (chosen.includes(hit.id)) return hit;
    let found = hit;
    for (let id = hit.parentId; id !== null;) {
      const parent = shown.find((e) => e.id === id);
      if (!parent || chosen.includes(parent.id)) break;
      found = parent;
      id = parent.parentId;
    }
    return found;
  };
  const begin = (kind: Drag['kind'], from: Point, ids: readonly string[]) => {
    const free = shown.filter((e) => ids.includes(e.id) && !e.locked);
    if (free.length === 0) return;
    drag.current = {
      kind,
      from,
      gesture: nanoid(),
      ids: free.map((e) => e.id),
      rect: around(free.map(rectOf)),
      rotation: free[0]?.rotation ?? 0,
    };
  };
  const press = (event: KonvaEventObject<MouseEvent>) => {
    const point = pointOf(event);
    const hit = hitAt(point);
    const ruler = rulerAt(point, raster, scale);
    const index = ruler === null ? guideAt(point, graphic.guides, scale) : graphic.guides.length;
    const axis = ruler ?? graphic.guides[index]?.axis;
    if (axis !== undefined && !(hit && chosen.includes(hit.id))) {
      guideDrag.current = { index, axis, guides: graphic.guides, gesture: nanoid() };
      return undefined;
    }
    if (!hit) return setGraphicsRoom({ chosen: [] });
    const target = outermost(hit);
    const more = event.evt.shiftKey;
    const ids = more
      ? chosen.includes(target.id)
        ? chosen.filter((id) => id !== target.id)
        : [...chosen, target.id]
      : chosen.includes(target.id)
        ? [...chosen]
        : [target.id];
    setGraphicsRoom({ chosen: ids });
    if (!more) begin('move', point, ids);
    return undefined;
  };
  const guides = (): Guide[] => {
    if (!snap) return [];
    const others = shown.filter((e) => e.visible && !chosen.includes(e.id) && e.content.kind !== 'group').map(rectOf);
    return [...ownGuides(graphic), ...guidesFor(raster, others), ...(grid ? gridOf(raster) : [])];
  };
  const move = (event: KonvaEventObject<MouseEvent>) => {
    const point = pointOf(event);
    const g = guideDrag.current;
    if (g) {
      const args = { graphic: graphic.id, guides: pulled(g.guides, g.index, g.axis, point, raster) };
      sendAll([{ type: 'graphic.setGuides', args }], g.gesture);
      return;
    }
    const d = drag.current;
    if (!d) return;
    const [dx, dy] = [point.x - d.from.x, point.y - d.from.y];
    const near = event.evt.altKey ? [] : guides();
    const step = (type: string, args: Record<string, unknown>) =>
      sendAll([{ type, args: { graphic: graphic.id, elements: d.ids, ...args } }], d.gesture);
    if (d.kind === 'move') {
      const snapped = moveDrag(d.rect, dx, dy, near, REACH / scale);
      setHeld(snapped.held);
      step('element.place', { rect: { ...d.rect, x: Math.round(snapped.rect.x), y: Math.round(snapped.rect.y) } });
    } else if (d.kind === 'turn') {
      const degrees = turnDrag(d.rect, point);
      step('element.set', { rotation: event.evt.shiftKey ? Math.round(degrees / 15) * 15 : Math.round(degrees) });
    } else {
      const done = resizeDrag(d.rect, d.kind, dx, dy, {
        locked: event.evt.shiftKey,
        rotation: d.ids.length === 1 ? d.rotation : 0,
        guides: near,
        reach: REACH / scale,
      });
      setHeld(done.held);
      step('element.place', { rect: wholePixels(done.rect) });
    }
  };
  const release = () => {
    drag.current = null;
    guideDrag.current = null;
    setHeld([]);
  };
  const dropped = (event: DragEvent) => {
    event.preventDefault();
    const file = event.dataTransfer.files[0];
    if (!file) return;
    const box = event.currentTarget.getBoundingClientRect();
    const at = { x: (event.clientX - box.left) / scale, y: (event.clientY - box.top) / scale };
    void addImage(file).then((assetId) => {
      if (assetId === null) return;
      const [width, height] = [raster.width / 4, raster.height / 4];
      const rect = { x: Math.round(at.x - width / 2), y: Math.round(at.y - height / 2), width, height };
      const added = client.dispatch({ type: 'element.add', args: { graphic: graphic.id, kind: 'image', rect } });
      if (!added.ok) return;
      const element = String(added.result.id);
      client.dispatch({
        type: 'element.setContent',
        args: { graphic: graphic.id, element, content: { kind: 'image', assetId, fileName: file.name.slice(0, 256), fit: 'contain' } },
      });
      setGraphicsRoom({ chosen: [element] });
    });
  };
  return (
    <div ref={room} className="grid min-h-0 flex-1 place-items-center overflow-hidden bg-deep max-beside:min-h-[50vw]">
      <div
        className="relative"
        style={{ width: size.width, height: size.height }}
        onDragOver={(e) => e.preventDefault()}
        onDrop={dropped}
        data-testid="graphic-stage"
      >
        <GraphicPicture
          filled={{ graphic: drawing, values: NO_VALUES }}
          phase={phase}
          frame={frame}
          label={`Drawing of ${graphic.name}`}
          className="absolute inset-0 h-full w-full"
          live={scale}
          onMissing={setMissing}
        />
        <FittedStage size={size} margin={MARGIN} scale={scale} onPress={press} onMove={move} onRelease={release}>
          <Layer listening={false}>
            <Rulers raster={raster} scale={scale} />
            <KonvaRect width={raster.width} height={raster.height} stroke={MUTED} strokeWidth={1 / scale} />
            {grid && <GuideLines guides={gridOf(raster)} raster={raster} scale={scale} stroke={MUTED} opacity={0.25} strokeWidth={1} />}
            {safe && <SafeAreas raster={raster} scale={scale} />}
            <GuideLines guides={ownGuides(graphic)} raster={raster} scale={scale} opacity={0.7} strokeWidth={1} />
            {trial === null &&
              picked.map((e) => (
                <Group key={e.id} x={e.x + e.width / 2} y={e.y + e.height / 2} rotation={e.rotation}>
                  <KonvaRect
                    x={-e.width / 2}
                    y={-e.height / 2}
                    width={e.width}
                    height={e.height}
                    stroke={STRAW}
                    strokeWidth={1.5 / scale}
                    {...(e.content.kind === 'group' ? { dash: [6 / scale, 3 / scale] } : {})}
                  />
                </Group>
              ))}
            <GuideLines guides={held} raster={raster} scale={scale} />
          </Layer>
          <Layer>
            {frameRect && trial === null && picked.every((e) => !e.locked) && (
              <Handles
                rect={frameRect}
                rotation={single?.rotation ?? 0}
                scale={scale}
                turns={single !== undefined && single.content.kind !== 'group'}
                onPress={(kind, event) => {
                  event.cancelBubble = true;
                  begin(kind, pointOf(event), chosen);
                }}
              />
            )}
          </Layer>
        </FittedStage>
        <Missing graphic={graphic} assets={missing} />
      </div>
    </div>
  );
}

/** Says which elements are drawn without their file. */
function Missing({ graphic, assets }: { graphic: Graphic; assets: readonly string[] }) {
  const fonts = useShow(({ desk }) => desk.show.graphics.fonts);
  const names = graphic.elements.flatMap(({ name, content, fill }) => {
    const own = [
      content.kind === 'image' || content.kind === 'animation' ? content.assetId : null,
      fill.kind === 'picture' ? fill.assetId : null,
    ];
    return own.some((id) => id !== null && assets.includes(id)) ? [name] : [];
  });
  const families = fonts.filter(({ assetId }) => assets.includes(assetId)).map(({ family }) => `the font ${family}`);
  const all = [...names, ...families];
  if (all.length === 0) return null;
  return (
    <p role="status" className="absolute right-0 bottom-0 left-0 bg-panel/90 px-2 py-1 text-sm text-caution">
      Drawn without the file of {all.slice(0, 4).join(', ')}
      {all.length > 4 ? ` and ${all.length - 4} more` : ''}: it is gone from this browser, or cannot be read. Choose it again.
    </p>
  );
}

/** A line is as thick to the mouse as a finger is to it. */
function thick(e: Element, scale: number): Rect {
  const least = 10 / scale;
  const [w, h] = [Math.max(e.width, least), Math.max(e.height, least)];
  return { x: e.x + (e.width - w) / 2, y: e.y + (e.height - h) / 2, width: w, height: h };
}

function Handles({
  rect,
  rotation,
  scale,
  turns,
  onPress,
}: {
  rect: Rect;
  rotation: number;
  scale: number;
  turns: boolean;
  onPress: (kind: Drag['kind'], event: KonvaEventObject<MouseEvent>) => void;
}) {
  const own = { x: -rect.width / 2, y: -rect.height / 2, width: rect.width, height: rect.height };
  return (
    <Group x={rect.x + rect.width / 2} y={rect.y + rect.height / 2} rotation={rotation}>
      {turns && (
        <Circle
          y={-rect.height / 2 - 20 / scale}
          radius={6 / scale}
          fill={DEEP}
          stroke={STRAW}
          strokeWidth={2.5 / scale}
          onMouseDown={(event) => onPress('turn', event)}
        />
      )}
      <SquareHandles rect={own} scale={scale} onPress={onPress} />
    </Group>
  );
}
