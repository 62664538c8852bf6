/** A layout as it is drawn, whose boxes are moved, sized, turned and cropped with the mouse. */
import { type KonvaEventObject } from 'konva/lib/Node';
import { type DragEvent, useMemo, useRef, useState } from 'react';
import { Circle, Group, Layer, Rect as KonvaRect, Text } from 'react-konva';
import { type Guide, guidesFor } from '#core/layout/arrange';
import { cropDrag, type Handle, isOn, moveDrag, panDrag, resizeDrag, turnDrag, wholePixels } from '#core/layout/handles';
import { effectiveBox } from '#core/layout/styles';
import { type Point, type Rect } from '#core/show/geometry';
import { type Box } from '#core/layout/document';
import { MOST_ZOOM } from '#core/layout/look';
import { nanoid } from 'nanoid';
import { useShow, useSend, useSendAll } from '../client/show-client';
import { useTally } from '../client/use-tally';
import { FittedStage, GuideLines, MUTED, pointOn, SafeAreas, SquareHandles, STRAW, useFitted } from '../parts/canvas';
import { useHolders } from '../parts/held-by';
import { Monitor } from '../parts/monitor';
import { type CanvasTools } from './room-state';

/** Pixels of the screen within which an edge snaps. */
const REACH = 6;
/** Pixels of the screen around the picture, for handles and for boxes that reach out of it. */
const MARGIN = 24;

interface Drag {
  kind: 'move' | 'crop' | 'turn' | 'pan' | Handle;
  handle: Handle | null;
  from: Point;
  /** All that is done until it is let go is one step of undo. */
  gesture: string;
  boxes: { id: string; rect: Rect; box: Box }[];
}

interface CanvasProps {
  layoutId: string;
  boxes: readonly Box[];
  chosen: readonly string[];
  onChoose: (ids: string[]) => void;
  tools: CanvasTools;
  /** A file dropped on the picture. */
  onFile: (file: File) => void;
}

/** The layout's own picture from the mixer, with its boxes drawn as outlines that can be dragged. */
export function LayoutCanvas({ layoutId, boxes, chosen, onChoose, tools, onFile }: CanvasProps) {
  const send = useSend();
  const sendAll = useSendAll();
  const holderOf = useHolders();
  const tally = useTally(layoutId);
  const { raster, show } = useShow(({ desk: { show } }) => ({ raster: show.raster, show }));
  const { room, size } = useFitted(raster, MARGIN);
  const drag = useRef<Drag | null>(null);
  const [held, setHeld] = useState<Guide[]>([]);
  const scale = size.width / raster.width;
  const shown = useMemo(() => boxes.map((b) => effectiveBox(show, b)), [boxes, show]);

  const pointOf = (event: KonvaEventObject<MouseEvent | WheelEvent>): Point => pointOn(event, MARGIN, scale);
  const boxAt = (point: Point) => shown.findLast((b) => b.visible && isOn(point, b.rect, b.rotation));
  const begin = (kind: Drag['kind'], handle: Handle | null, from: Point, ids: readonly string[]) => {
    drag.current = {
      kind,
      handle,
      from,
      gesture: nanoid(),
      boxes: shown.filter((b) => ids.includes(b.id) && !b.locked).map((box) => ({ id: box.id, rect: box.rect, box })),
    };
  };
  const press = (event: KonvaEventObject<MouseEvent>) => {
    const point = pointOf(event);
    const hit = boxAt(point);
    if (!hit) return onChoose([]);
    const more = event.evt.shiftKey;
    const ids = more
      ? chosen.includes(hit.id)
        ? chosen.filter((id) => id !== hit.id)
        : [...chosen, hit.id]
      : chosen.includes(hit.id)
        ? [...chosen]
        : [hit.id];
    onChoose(ids);
    if (!more) begin(tools.crop ? 'pan' : 'move', null, point, ids);
  };
  const move = (event: KonvaEventObject<MouseEvent>) => {
    const d = drag.current;
    if (!d || d.boxes.length === 0) return;
    const point = pointOf(event);
    const [dx, dy] = [point.x - d.from.x, point.y - d.from.y];
    const guides =
      tools.snap && !event.evt.altKey
        ? guidesFor(
            raster,
            shown.filter((b) => b.visible && !d.boxes.some((own) => own.id === b.id)).map((b) => b.rect),
          )
        : [];
    const reach = REACH / scale;
    const first = d.boxes[0] as Drag['boxes'][0];
    const step = (type: string, args: Record<string, unknown>) => sendAll([{ type, args }], d.gesture);
    if (d.kind === 'move') {
      const snapped = moveDrag(first.rect, dx, dy, guides, reach);
      const by = { x: Math.round(snapped.rect.x) - first.rect.x, y: Math.round(snapped.rect.y) - first.rect.y };
      setHeld(snapped.held);
      const place = ({ id, rect }: Drag['boxes'][0]) => ({
        type: 'box.place',
        args: { layout: layoutId, box: id, rect: { ...rect, x: rect.x + by.x, y: rect.y + by.y } },
      });
      sendAll(d.boxes.map(place), d.gesture);
    } else if (d.kind === 'pan') {
      step('box.set', {
        layout: layoutId,
        boxes: [first.id],
        panX: panDrag(first.box.panX, dx, first.rect.width),
        panY: panDrag(first.box.panY, dy, first.rect.height),
      });
    } else if (d.kind === 'turn') {
      const degrees = turnDrag(first.rect, point);
      step('box.set', {
        layout: layoutId,
        boxes: [first.id],
        rotation: event.evt.shiftKey ? Math.round(degrees / 15) * 15 : Math.round(degrees),
      });
    } else if (d.kind === 'crop' && d.handle) {
      const visible = {
        width: first.rect.width / (1 - first.box.crop.left - first.box.crop.right),
        height: first.rect.height / (1 - first.box.crop.top - first.box.crop.bottom),
      };
      step('box.set', { layout: layoutId, boxes: [first.id], crop: cropDrag(first.box.crop, d.handle, dx, dy, visible) });
    } else if (d.handle) {
      const done = resizeDrag(first.rect, d.handle, dx, dy, {
        locked: tools.locked || event.evt.shiftKey,
        rotation: first.box.rotation,
        guides,
        reach,
      });
      setHeld(done.held);
      step('box.place', { layout: layoutId, box: first.id, rect: wholePixels(done.rect) });
    }
  };
  const release = () => {
    drag.current = null;
    setHeld([]);
  };
  const wheel = (event: KonvaEventObject<WheelEvent>) => {
    const box = shown.find((b) => b.id === chosen[0]);
    if (!box || box.locked || !isOn(pointOf(event), box.rect, box.rotation)) return;
    event.evt.preventDefault();
    send('box.set', {
      layout: layoutId,
      boxes: [box.id],
      zoom: Math.min(MOST_ZOOM, Math.max(1, Number((box.zoom * (event.evt.deltaY < 0 ? 1.04 : 1 / 1.04)).toFixed(3)))),
    });
  };
  const dropped = (event: DragEvent) => {
    event.preventDefault();
    const file = event.dataTransfer.files[0];
    const style = event.dataTransfer.getData('application/x-bivoca-style');
    if (file) return onFile(file);
    const box = event.currentTarget.getBoundingClientRect();
    const hit = boxAt({ x: (event.clientX - box.left) / scale, y: (event.clientY - box.top) / scale });
    if (style && hit) send('style.apply', { style, layout: layoutId, boxes: [hit.id] });
    return undefined;
  };

  const single = chosen.length === 1 ? shown.find((b) => b.id === chosen[0]) : undefined;
  return (
    <div ref={room} className="grid min-h-0 flex-1 place-items-center overflow-hidden bg-deep max-beside:min-h-[62vw]">
      <div
        className="relative"
        style={{ width: size.width, height: size.height }}
        onDragOver={(e) => e.preventDefault()}
        onDrop={dropped}
        data-testid="stage"
      >
        <Monitor picture={{ kind: 'picture', id: layoutId }} label="The layout" className="absolute inset-0" />
        <FittedStage size={size} margin={MARGIN} scale={scale} onPress={press} onMove={move} onRelease={release} onWheel={wheel}>
          <Layer listening={false}>
            {tools.safe && <SafeAreas raster={raster} scale={scale} />}
            {shown.map((box) => (
              <Outline key={box.id} box={box} chosen={chosen.includes(box.id)} scale={scale} holder={holderOf(box.id)} />
            ))}
            <GuideLines guides={held} raster={raster} scale={scale} />
          </Layer>
          <Layer>
            {single && !single.locked && (
              <Group x={single.rect.x + single.rect.width / 2} y={single.rect.y + single.rect.height / 2} rotation={single.rotation}>
                <Circle
                  y={Math.min(single.rect.height / 2 - 14 / scale, -single.rect.height / 2 + 26 / scale)}
                  radius={7 / scale}
                  fill="#0d1517"
                  stroke={STRAW}
                  strokeWidth={2.5 / scale}
                  onMouseDown={(event) => {
                    event.cancelBubble = true;
                    begin('turn', null, pointOf(event), [single.id]);
                  }}
                />
                <SquareHandles
                  rect={{ ...single.rect, x: -single.rect.width / 2, y: -single.rect.height / 2 }}
                  scale={scale}
                  hollow={tools.crop}
                  onPress={(handle, event) => {
                    event.cancelBubble = true;
                    begin(tools.crop ? 'crop' : handle, handle, pointOf(event), [single.id]);
                  }}
                />
              </Group>
            )}
          </Layer>
        </FittedStage>
        {(tally.onAir || tally.inUse) && (
          <span className="absolute -top-5 left-0 flex items-center gap-1.5 text-[13px]">
            <b className="figures bg-air px-1.5 text-deep">AIR</b> every change is seen at once
          </span>
        )}
        {tools.crop && (
          <span className="figures absolute top-1 left-1/2 -translate-x-1/2 bg-straw px-2 text-[13px] font-semibold text-deep">CROP</span>
        )}
      </div>
    </div>
  );
}

function Outline({ box, chosen, scale, holder }: { box: Box; chosen: boolean; scale: number; holder: string | null }) {
  const { rect } = box;
  const text = `${box.name}${holder === null ? '' : ` · ${holder} has it`}${box.locked ? ' · locked' : ''}${box.visible ? '' : ' · hidden'}`;
  return (
    <Group x={rect.x + rect.width / 2} y={rect.y + rect.height / 2} rotation={box.rotation}>
      <KonvaRect
        x={-rect.width / 2}
        y={-rect.height / 2}
        width={rect.width}
        height={rect.height}
        stroke={chosen ? STRAW : MUTED}
        strokeWidth={(chosen ? 2.5 : 1) / scale}
        {...(box.visible ? {} : { dash: [4 / scale, 4 / scale] })}
      />
      <Group x={-rect.width / 2} y={-rect.height / 2}>
        <KonvaRect width={(text.length * 7 + 10) / scale} height={18 / scale} fill={chosen ? STRAW : '#0d1517'} opacity={0.85} />
        <Text
          x={5 / scale}
          y={3 / scale}
          text={text}
          fontSize={13 / scale}
          fontFamily="Atkinson Hyperlegible Next"
          fill={chosen ? '#0d1517' : '#e8efe9'}
        />
      </Group>
    </Group>
  );
}
