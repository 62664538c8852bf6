/** What every canvas that is worked with the mouse has: a picture as large as it goes, room for handles around it, guides over it. */
import { type Stage as KonvaStage } from 'konva/lib/Stage';
import { type KonvaEventObject } from 'konva/lib/Node';
import { type ReactNode, type RefObject, useEffect, useRef, useState } from 'react';
import { Line, Rect as KonvaRect, Stage } from 'react-konva';
import { type Guide, SAFE_AREAS } from '#core/layout/arrange';
import { type Handle, handlePlace, HANDLES } from '#core/layout/handles';
import { type Point, type Rect } from '#core/show/geometry';
import { type Raster } from '#core/show/raster';

export const STRAW = '#e2c48d';
export const MUTED = '#8fa5a3';
export const DEEP = '#0d1517';
export const GUIDE = '#4fd1a5';
/** Side of a handle, pixels of the screen. */
const HANDLE_SIZE = 11;

/** The largest size, pixels of the screen, at which a picture of `raster` and a margin around it fit into the element of the reference. */
export function useFitted({ width, height }: Raster, margin: number): { room: RefObject<HTMLDivElement | null>; size: Raster } {
  const room = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 480, height: 270 });
  useEffect(() => {
    const element = room.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(() => {
      const fit = Math.min((element.clientWidth - 2 * margin) / width, (element.clientHeight - 2 * margin) / height);
      setSize({ width: Math.max(16, Math.floor(width * fit)), height: Math.max(9, Math.floor(height * fit)) });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [width, height, margin]);
  return { room, size };
}

type Mouse = (event: KonvaEventObject<MouseEvent>) => void;

/** A stage over a picture of `size`, with a margin around it; what is in it has the picture's own coordinates, `scale` pixels of the screen each. */
export function FittedStage({
  size,
  margin,
  scale = 1,
  onPress,
  onMove,
  onRelease,
  onWheel,
  children,
}: {
  size: Raster;
  margin: number;
  scale?: number;
  onPress: Mouse;
  onMove: Mouse;
  onRelease: () => void;
  onWheel?: (event: KonvaEventObject<WheelEvent>) => void;
  children: ReactNode;
}) {
  return (
    <Stage
      width={size.width + 2 * margin}
      height={size.height + 2 * margin}
      x={margin}
      y={margin}
      scaleX={scale}
      scaleY={scale}
      className="absolute"
      style={{ left: -margin, top: -margin }}
      onMouseDown={onPress}
      onMouseMove={onMove}
      onMouseUp={onRelease}
      onMouseLeave={onRelease}
      {...(onWheel && { onWheel })}
    >
      {children}
    </Stage>
  );
}

/** Where the mouse is on a fitted stage, in the picture's own coordinates. */
export function pointOn(event: { target: { getStage(): KonvaStage | null } }, margin: number, scale: number): Point {
  const at = event.target.getStage()?.getPointerPosition();
  return { x: ((at?.x ?? 0) - margin) / scale, y: ((at?.y ?? 0) - margin) / scale };
}

/** The safe areas of a picture. */
export const SafeAreas = ({ raster: { width, height }, scale }: { raster: Raster; scale: number }) =>
  SAFE_AREAS.map(({ share, name }) => (
    <KonvaRect
      key={name}
      x={(width * (1 - share)) / 2}
      y={(height * (1 - share)) / 2}
      width={width * share}
      height={height * share}
      stroke={MUTED}
      strokeWidth={1 / scale}
      dash={[6 / scale, 4 / scale]}
    />
  ));

/** Lines across the whole picture: what holds an edge while it is dragged, guides, a grid. */
export const GuideLines = ({
  guides,
  raster: { width, height },
  scale,
  ...look
}: {
  guides: readonly Guide[];
  raster: Raster;
  scale: number;
  stroke?: string;
  opacity?: number;
  strokeWidth?: number;
}) =>
  guides.map(({ axis, at }, i) => (
    <Line
      key={`${axis}${at} ${i}`}
      points={axis === 'x' ? [at, 0, at, height] : [0, at, width, at]}
      {...{ stroke: GUIDE, ...look }}
      strokeWidth={(look.strokeWidth ?? 1.5) / scale}
    />
  ));

/** Eight handles around a rectangle, as large on the screen whatever the scale. */
export const SquareHandles = ({
  rect,
  scale = 1,
  hollow = false,
  onPress,
}: {
  rect: Rect;
  scale?: number;
  hollow?: boolean;
  onPress: (handle: Handle, event: KonvaEventObject<MouseEvent>) => void;
}) =>
  HANDLES.map((handle) => {
    const at = handlePlace(handle, rect);
    const side = HANDLE_SIZE / scale;
    return (
      <KonvaRect
        key={handle}
        x={at.x - side / 2}
        y={at.y - side / 2}
        width={side}
        height={side}
        fill={hollow ? DEEP : STRAW}
        stroke={hollow ? STRAW : DEEP}
        strokeWidth={2 / scale}
        onMouseDown={(event) => onPress(handle, event)}
      />
    );
  });
