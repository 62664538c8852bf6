/**
 * What the screens of surfaces use of an output, drawn over its picture and dragged there: active areas, masks, and the four corners of a
 * fit. All places are pixels of the output.
 */
import { nanoid } from 'nanoid';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { guidesFor } from '#core/layout/arrange';
import { type Handle, moveDrag, resizeDrag, wholePixels } from '#core/layout/handles';
import { areaOf } from '#core/screens/canvas';
import { type Corners, type Screen, type Surface } from '#core/screens/surface';
import { type Point, type Rect } from '#core/show/geometry';
import { type Raster } from '#core/show/raster';
import { useSendAll, useShow } from '../client/show-client';
import { DEEP, GUIDE, STRAW } from '../parts/canvas';
import { Handles } from './canvas-marks';
import { setRoom, useScreensRoom } from './room-state';

/** Pixels of the page within which an edge snaps. */
const REACH = 7;

const CORNERS = ['topLeft', 'topRight', 'bottomRight', 'bottomLeft'] as const;
const STILL: Corners = {
  topLeft: { x: 0, y: 0 },
  topRight: { x: 0, y: 0 },
  bottomRight: { x: 0, y: 0 },
  bottomLeft: { x: 0, y: 0 },
};

/** What of a screen is worked on: its area, one of its masks, or one of its corners. */
type Part = { kind: 'area' } | { kind: 'mask'; index: number } | { kind: 'corner'; corner: (typeof CORNERS)[number] };

interface Fed {
  surface: Surface;
  screen: Screen;
  area: Rect;
}

interface Drag {
  fed: Fed;
  part: Part;
  how: 'move' | Handle;
  from: Point;
  gesture: string;
  /** Puts it back. */
  before: Partial<Pick<Screen, 'area' | 'masks' | 'corners'>>;
}

const cornerOf = ({ area, screen }: Fed, corner: (typeof CORNERS)[number]): Point => {
  const by = (screen.corners ?? STILL)[corner];
  const [right, low] = [corner.endsWith('Right'), corner.startsWith('bottom')];
  return { x: area.x + (right ? area.width : 0) + by.x, y: area.y + (low ? area.height : 0) + by.y };
};

/** The screens that an output feeds; drawn over the picture of the output, which fills the same box. */
export function OutputAreas({ outputId, raster }: { outputId: string; raster: Raster }) {
  const surfaces = useShow(({ desk }) => desk.show.screens.surfaces);
  const chosen = useScreensRoom((s) => s.screenIds);
  const sendAll = useSendAll();
  const svg = useRef<SVGSVGElement>(null);
  const drag = useRef<Drag | null>(null);
  const [px, setPx] = useState(1);
  const fed = surfaces.flatMap((surface) =>
    surface.screens.flatMap((screen): Fed[] => (screen.outputId === outputId ? [{ surface, screen, area: areaOf(screen, raster) }] : [])),
  );
  useEffect(() => {
    const element = svg.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(() => setPx(raster.width / Math.max(1, element.clientWidth)));
    observer.observe(element);
    return () => observer.disconnect();
  }, [raster.width]);
  const pointOf = (event: { clientX: number; clientY: number }): Point => {
    const box = svg.current?.getBoundingClientRect();
    return { x: (event.clientX - (box?.left ?? 0)) * px, y: (event.clientY - (box?.top ?? 0)) * px };
  };
  const set = ({ surface, screen }: Fed, change: object, gesture: string) =>
    sendAll([{ type: 'surface.setScreens', args: { surface: surface.id, screens: [screen.id], ...change } }], gesture);
  const begin = (of: Fed, part: Part, how: Drag['how'], event: PointerEvent) => {
    event.stopPropagation();
    setRoom({ screenIds: [of.screen.id] });
    svg.current?.setPointerCapture(event.pointerId);
    const { area, masks, corners } = of.screen;
    const before = part.kind === 'area' ? { area } : part.kind === 'mask' ? { masks } : { corners };
    drag.current = { fed: of, part, how, from: pointOf(event), gesture: nanoid(), before };
  };
  const move = (event: PointerEvent) => {
    const d = drag.current;
    if (!d) return;
    const p = pointOf(event);
    let [dx, dy] = [p.x - d.from.x, p.y - d.from.y];
    if (Math.hypot(dx, dy) < 2 * px) return;
    if (event.shiftKey && d.how === 'move') [dx, dy] = Math.abs(dx) >= Math.abs(dy) ? [dx, 0] : [0, dy];
    const { screen } = d.fed;
    if (d.part.kind === 'corner') {
      const now = screen.corners ?? STILL;
      const { x, y } = now[d.part.corner];
      set(d.fed, { corners: { ...now, [d.part.corner]: { x: Math.round(x + dx), y: Math.round(y + dy) } } }, d.gesture);
      return;
    }
    const index = d.part.kind === 'mask' ? d.part.index : -1;
    const start = screen.masks[index] ?? d.fed.area;
    const others = fed.flatMap((f) => (f.screen.id === screen.id && index < 0 ? [] : [f.area]));
    const guides = guidesFor(raster, others);
    const { rect } =
      d.how === 'move'
        ? moveDrag(start, dx, dy, guides, REACH * px)
        : resizeDrag(start, d.how, dx, dy, { locked: event.shiftKey, rotation: 0, guides, reach: REACH * px });
    const to = wholePixels(rect);
    set(d.fed, index < 0 ? { area: to } : { masks: screen.masks.map((m, i) => (i === index ? to : m)) }, d.gesture);
  };
  // Escape while dragging puts it back.
  useEffect(() => {
    const escape = (event: KeyboardEvent) => {
      const d = drag.current;
      if (event.key !== 'Escape' || !d) return;
      event.stopPropagation();
      set(d.fed, d.before, d.gesture);
      drag.current = null;
    };
    window.addEventListener('keydown', escape, true);
    return () => window.removeEventListener('keydown', escape, true);
  });
  if (fed.length === 0) return null;
  const handles = (of: Fed, part: Part, rect: Rect) => (
    <Handles rect={rect} px={px} onGrab={(handle, event) => begin(of, part, handle, event)} />
  );
  return (
    <svg
      ref={svg}
      className="absolute inset-0 h-full w-full touch-none overflow-visible"
      viewBox={`0 0 ${raster.width} ${raster.height}`}
      preserveAspectRatio="none"
      role="group"
      aria-label="What screens use of it"
      onPointerMove={move}
      onPointerUp={() => (drag.current = null)}
      onPointerCancel={() => (drag.current = null)}
    >
      {fed.map((of) => {
        const { screen, area } = of;
        const isChosen = chosen.includes(screen.id);
        return (
          <g key={screen.id} data-area={screen.id}>
            <rect
              {...area}
              fill="transparent"
              stroke={isChosen ? STRAW : GUIDE}
              strokeWidth={(isChosen ? 3 : 1.5) * px}
              style={{ cursor: 'move' }}
              onPointerDown={(event) => begin(of, { kind: 'area' }, 'move', event)}
            />
            <text
              x={area.x + 26 * px}
              y={area.y + 34 * px}
              fontSize={14 * px}
              fill="#e8efe9"
              stroke={DEEP}
              strokeWidth={3 * px}
              paintOrder="stroke"
              style={{ pointerEvents: 'none' }}
            >
              {`${screen.name}  ${area.width}×${area.height} at ${area.x},${area.y}`}
            </text>
            {screen.masks.map((mask, index) => (
              <g key={index}>
                <rect
                  {...mask}
                  fill={DEEP}
                  fillOpacity={0.5}
                  stroke={isChosen ? STRAW : GUIDE}
                  strokeDasharray={`${4 * px} ${3 * px}`}
                  strokeWidth={px}
                  style={{ cursor: 'move' }}
                  onPointerDown={(event) => begin(of, { kind: 'mask', index }, 'move', event)}
                />
                {isChosen && handles(of, { kind: 'mask', index }, mask)}
              </g>
            ))}
            {isChosen && !screen.corners && handles(of, { kind: 'area' }, area)}
            {screen.corners && (
              <polygon
                points={CORNERS.map((c) => cornerOf(of, c))
                  .map(({ x, y }) => `${x},${y}`)
                  .join(' ')}
                fill="none"
                stroke={GUIDE}
                strokeWidth={px}
                style={{ pointerEvents: 'none' }}
              />
            )}
            {screen.corners &&
              CORNERS.map((corner) => {
                const p = cornerOf(of, corner);
                return (
                  <circle
                    key={corner}
                    data-corner={corner}
                    cx={p.x}
                    cy={p.y}
                    r={7 * px}
                    fill={STRAW}
                    stroke={DEEP}
                    strokeWidth={px}
                    style={{ cursor: 'grab' }}
                    onPointerDown={(event) => begin(of, { kind: 'corner', corner }, 'move', event)}
                  />
                );
              })}
          </g>
        );
      })}
    </svg>
  );
}
