/** A canvas as it will be seen, with its screens, blends and layers drawn over it true to scale, moved by mouse and keys. */
import { nanoid } from 'nanoid';
import { type DragEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { type Guide, guidesFor, SAFE_AREAS } from '#core/layout/arrange';
import { type Handle, moveDrag, resizeDrag, wholePixels } from '#core/layout/handles';
import { effectiveBox } from '#core/layout/styles';
import { rectToCanvas, wayOf, areaOf } from '#core/screens/canvas';
import { overlaps } from '#core/screens/marks';
import { screenOutput } from '#core/screens/outputs';
import { type Layer, type Screen, type Surface } from '#core/screens/surface';
import { type Point, type Rect } from '#core/show/geometry';
import { type Show } from '#core/desk/show';
import { useSendAll, useShow } from '../client/show-client';
import { Monitor } from '../parts/monitor';
import { GUIDE, MUTED } from '../parts/canvas';
import { Gaps, Handles, LayerMark, ScreenMark } from './canvas-marks';
import { inShape, wholeView, zoomed } from './canvas-view';
import { PLACE_DRAG } from './edits';
import { setRoom, useScreensRoom } from './room-state';

/** Pixels of the page within which an edge snaps. */
const REACH = 7;
/** Milliseconds after the last step of zoom or pan at which the picture is drawn anew for it. */
const SETTLE_MS = 120;

interface Drag {
  kind: 'move' | 'pan' | Handle;
  from: Point;
  gesture: string;
  items: { id: string; rect: Rect }[];
  view: Rect;
}

/** Size of an element, followed. */
function useRoomSize() {
  const ref = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 640, height: 260 });
  useEffect(() => {
    const element = ref.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(() =>
      setSize({ width: Math.max(40, element.clientWidth), height: Math.max(30, element.clientHeight) }),
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return { ref, size };
}

/** A value that is taken over once it has stood for a moment. */
function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value);
  const key = JSON.stringify(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(JSON.parse(key) as T), SETTLE_MS);
    return () => clearTimeout(timer);
  }, [key]);
  return settled;
}

export function SurfaceCanvas({ surface }: { surface: Surface }) {
  const show = useShow(({ desk }) => desk.show);
  const { hand, screenIds, layerIds, unit, view: chosenView, light, snap, template, proportions, safe } = useScreensRoom();
  const sendAll = useSendAll();
  const { ref, size } = useRoomSize();
  const drag = useRef<Drag | null>(null);
  const [held, setHeld] = useState<Guide[]>([]);
  const whole = wholeView(surface, size);
  const view = chosenView ? inShape(chosenView, size) : whole;
  const drawn = useSettled(view);
  const scale = size.width / view.width;
  const px = 1 / scale;
  const layers = surface.look.layers;
  const items: readonly (Screen | Layer)[] = hand === 'screens' ? surface.screens : layers;
  const chosen = hand === 'screens' ? screenIds : layerIds;
  const rectOf = (item: Screen | Layer): Rect => (hand === 'screens' ? item.rect : effectiveBox(show, item as Layer).rect);
  const choose = (ids: readonly string[]) => setRoom(hand === 'screens' ? { screenIds: ids } : { layerIds: ids });

  const pointOf = (event: { clientX: number; clientY: number }): Point => {
    const box = ref.current?.getBoundingClientRect();
    return { x: view.x + (event.clientX - (box?.left ?? 0)) * px, y: view.y + (event.clientY - (box?.top ?? 0)) * px };
  };
  const at = (p: Point) =>
    items.findLast((item) => {
      const r = rectOf(item);
      return p.x >= r.x && p.y >= r.y && p.x < r.x + r.width && p.y < r.y + r.height;
    });
  const begin = (kind: Drag['kind'], event: PointerEvent, ids: readonly string[]) => {
    ref.current?.setPointerCapture(event.pointerId);
    drag.current = {
      kind,
      from: pointOf(event),
      gesture: nanoid(),
      items: items.filter((i) => ids.includes(i.id) && !i.locked).map((i) => ({ id: i.id, rect: rectOf(i) })),
      view,
    };
  };
  const place = (moved: readonly { id: string; rect: Rect }[], gesture: string) =>
    sendAll(
      moved.map(({ id, rect }) =>
        hand === 'screens'
          ? { type: 'surface.setScreens', args: { surface: surface.id, screens: [id], rect } }
          : { type: 'layer.set', args: { surface: surface.id, layers: [id], rect } },
      ),
      gesture,
    );
  const press = (event: PointerEvent) => {
    if (event.button === 1 || event.altKey) return begin('pan', event, []);
    if (event.button !== 0) return undefined;
    const hit = at(pointOf(event));
    if (!hit) {
      choose([]);
      return begin('pan', event, []);
    }
    const ids = event.shiftKey
      ? chosen.includes(hit.id)
        ? chosen.filter((id) => id !== hit.id)
        : [...chosen, hit.id]
      : chosen.includes(hit.id)
        ? chosen
        : [hit.id];
    choose(ids);
    return begin('move', event, ids);
  };
  const move = (event: PointerEvent) => {
    const d = drag.current;
    if (!d) return;
    const p = pointOf(event);
    if (d.kind === 'pan') {
      // The point that was taken stays under the mouse: the view moves beneath it.
      const [dx, dy] = [p.x - d.from.x, p.y - d.from.y];
      if (Math.hypot(dx, dy) > 2 * px && chosenView) setRoom({ view: { ...view, x: view.x - dx, y: view.y - dy } });
      return;
    }
    const [first] = d.items;
    if (!first) return;
    let [dx, dy] = [p.x - d.from.x, p.y - d.from.y];
    if (Math.hypot(dx, dy) < 2 * px) return;
    if (event.shiftKey && d.kind === 'move') {
      if (Math.abs(dx) >= Math.abs(dy)) dy = 0;
      else dx = 0;
    }
    const guides = snap
      ? guidesOf(
          show,
          surface,
          d.items.map((i) => i.id),
          hand,
        )
      : [];
    if (d.kind === 'move') {
      const snapped = moveDrag(first.rect, dx, dy, guides, REACH * px);
      setHeld(snapped.held);
      const by = { x: Math.round(snapped.rect.x) - first.rect.x, y: Math.round(snapped.rect.y) - first.rect.y };
      if (event.shiftKey) by[dx === 0 ? 'x' : 'y'] = 0;
      place(
        d.items.map(({ id, rect }) => ({ id, rect: { ...rect, x: rect.x + by.x, y: rect.y + by.y } })),
        d.gesture,
      );
      return;
    }
    const done = resizeDrag(first.rect, d.kind, dx, dy, { locked: event.shiftKey !== proportions, rotation: 0, guides, reach: REACH * px });
    setHeld(done.held);
    place([{ id: first.id, rect: wholePixels(done.rect) }], d.gesture);
  };
  const release = () => {
    drag.current = null;
    setHeld([]);
  };
  // Escape while dragging puts everything back where it was.
  useEffect(() => {
    const escape = (event: KeyboardEvent) => {
      const d = drag.current;
      if (event.key !== 'Escape' || !d || d.items.length === 0) return;
      event.stopPropagation();
      place(d.items, d.gesture);
      release();
    };
    window.addEventListener('keydown', escape, true);
    return () => window.removeEventListener('keydown', escape, true);
  });
  useEffect(() => {
    const element = ref.current;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      setRoom({ view: zoomed(view, event.deltaY < 0 ? 1 / 1.15 : 1.15, pointOf(event), whole) });
    };
    element?.addEventListener('wheel', wheel, { passive: false });
    return () => element?.removeEventListener('wheel', wheel);
  });
  const dropped = (event: DragEvent) => {
    const id = event.dataTransfer.getData(PLACE_DRAG);
    if (id === '') return;
    event.preventDefault();
    const hit = layers.findLast((l) => {
      const r = effectiveBox(show, l).rect;
      const p = pointOf(event);
      return p.x >= r.x && p.y >= r.y && p.x < r.x + r.width && p.y < r.y + r.height;
    });
    const ids = hit ? [hit.id] : layerIds;
    if (ids.length > 0) sendAll([{ type: 'layer.on', args: { surface: surface.id, layers: ids, place: id } }]);
  };

  const single = chosen.length === 1 ? items.find((i) => i.id === chosen[0] && !i.locked) : undefined;
  const percent = (n: number) => `${n * 100}%`;
  return (
    <div
      ref={ref}
      data-testid="surface"
      className="relative min-h-0 flex-1 touch-none overflow-hidden bg-deep"
      onPointerDown={press}
      onPointerMove={move}
      onPointerUp={release}
      onPointerCancel={release}
      onDragOver={(e) => e.dataTransfer.types.includes(PLACE_DRAG) && e.preventDefault()}
      onDrop={dropped}
    >
      {/* Drawn for where the view stood last: while it moves, that picture moves along. */}
      <div
        className="absolute"
        style={{
          left: percent((drawn.x - view.x) / view.width),
          top: percent((drawn.y - view.y) / view.height),
          width: percent(drawn.width / view.width),
          height: percent(drawn.height / view.height),
        }}
      >
        <Monitor
          picture={{ kind: 'canvas', surfaceId: surface.id, which: 'next', view: drawn, light, template }}
          label={`Next of ${surface.name}`}
          className="h-full w-full"
        />
      </div>
      <svg
        className="absolute inset-0 h-full w-full"
        viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`}
        preserveAspectRatio="none"
        role="group"
        aria-label={`${surface.name}, drawn to scale`}
      >
        <rect
          x={0}
          y={0}
          width={surface.width}
          height={surface.height}
          fill="none"
          stroke={MUTED}
          strokeWidth={px}
          strokeDasharray={`${5 * px} ${4 * px}`}
        />
        {hand === 'layers' &&
          layers.map((layer) => (
            <LayerMark key={layer.id} layer={layer} rect={effectiveBox(show, layer).rect} chosen={layerIds.includes(layer.id)} px={px} />
          ))}
        {overlaps(surface).map((r, i) => (
          <rect
            key={i}
            {...r}
            fill={GUIDE}
            fillOpacity={hand === 'screens' ? 0.18 : 0.08}
            stroke={GUIDE}
            strokeWidth={px}
            strokeDasharray={`${3 * px} ${3 * px}`}
          />
        ))}
        {surface.screens.map((screen, i) => (
          <ScreenMark
            key={screen.id}
            screen={screen}
            number={i + 1}
            output={screen.outputId === null ? null : (screenOutput(show, screen.outputId)?.name ?? null)}
            over={reachesOver(screen.rect, surface)}
            chosen={hand === 'screens' && screenIds.includes(screen.id)}
            worked={hand === 'screens'}
            px={px}
          />
        ))}
        {safe &&
          surface.screens.flatMap(({ id, rect }) =>
            SAFE_AREAS.map(({ name, share }) => (
              <rect
                key={`${id} ${name}`}
                x={rect.x + (rect.width * (1 - share)) / 2}
                y={rect.y + (rect.height * (1 - share)) / 2}
                width={rect.width * share}
                height={rect.height * share}
                fill="none"
                stroke="#e8efe9"
                strokeOpacity={0.6}
                strokeWidth={px}
                style={{ pointerEvents: 'none' }}
              />
            )),
          )}
        {hand === 'screens' && <Gaps screens={surface.screens} pitch={surface.pitch} unit={unit} px={px} />}
        {held.map((g, i) => (
          <line
            key={i}
            {...(g.axis === 'x'
              ? { x1: g.at, x2: g.at, y1: view.y, y2: view.y + view.height }
              : { y1: g.at, y2: g.at, x1: view.x, x2: view.x + view.width })}
            stroke={GUIDE}
            strokeWidth={px}
          />
        ))}
        {single && <Handles rect={rectOf(single)} px={px} onGrab={(handle, event) => begin(handle, event, [single.id])} />}
      </svg>
      {chosen.length > 1 && (
        <span className="figures pointer-events-none absolute right-2 bottom-1 text-4xl font-semibold text-straw" role="status">
          {chosen.length} chosen
        </span>
      )}
    </div>
  );
}

/** What edges snap to: the canvas, its screens, several of them together, halves and thirds of them, places and the other layers. */
function guidesOf(show: Show, surface: Surface, moving: readonly string[], hand: 'layers' | 'screens'): Guide[] {
  const others = surface.screens.filter((s) => !moving.includes(s.id)).map((s) => s.rect);
  const more: Guide[] =
    hand === 'screens'
      ? []
      : others.flatMap((r) =>
          [1 / 3, 2 / 3].flatMap((share): Guide[] => [
            { axis: 'x', at: r.x + r.width * share, what: 'third of a screen' },
            { axis: 'y', at: r.y + r.height * share, what: 'third of a screen' },
          ]),
        );
  const layers = hand === 'layers' ? surface.look.layers.filter((l) => !moving.includes(l.id)).map((l) => effectiveBox(show, l).rect) : [];
  const areas = hand === 'layers' ? surface.screens.flatMap((s) => areasOf(show, s)) : [];
  return [...guidesFor(surface, [...others, ...layers, ...areas, ...surface.places.map((p) => p.rect)]), ...more];
}

const reachesOver = (r: Rect, { width, height }: Surface): boolean =>
  r.x < 0 || r.y < 0 || r.x + r.width > width || r.y + r.height > height;

/** The masked parts of a screen, on the canvas: what is left between them is what it uses. */
function areasOf(show: Show, screen: Screen): Rect[] {
  const output = screen.outputId === null ? undefined : screenOutput(show, screen.outputId);
  const way = wayOf(screen, areaOf(screen, output?.raster ?? show.raster));
  return screen.masks.map((mask) => rectToCanvas(way, mask));
}
