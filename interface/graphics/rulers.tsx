/** Rulers along the upper and left edge of the stage: guides are pulled out of them, and put back into them. */
import { Line, Rect as KonvaRect, Text } from 'react-konva';
import { type Graphic } from '#core/graphics/document';
import { type Point } from '#core/show/geometry';
import { type Raster } from '#core/show/raster';
import { MUTED } from '../parts/canvas';

/** Width of a ruler, pixels of the screen. */
export const RULER = 18;
/** Pixels of the screen within which a guide is taken hold of. */
const GRIP = 3;

type Guides = Graphic['guides'];
type GuideAxis = Guides[number]['axis'];

/** Distance of the marks, pixels of the raster: a round number, some forty pixels of the screen or more. */
function stepOf(scale: number): number {
  const steps = [10, 20, 50, 100, 200, 500, 1000];
  return steps.find((s) => s * scale >= 40) ?? 2000;
}

/** The ruler at a point of the stage, in the picture's coordinates; null when there is none. */
export function rulerAt({ x, y }: Point, { width, height }: Raster, scale: number): GuideAxis | null {
  const reach = (RULER + 6) / scale;
  if (y < 0 && y >= -reach && x >= 0 && x <= width) return 'across';
  return x < 0 && x >= -reach && y >= 0 && y <= height ? 'down' : null;
}

/** The guide at a point; -1 when there is none. */
export const guideAt = ({ x, y }: Point, guides: Guides, scale: number): number =>
  guides.findIndex(({ axis, at }) => Math.abs((axis === 'down' ? x : y) - at) * scale <= GRIP);

/** Guides with the one at `index` (past the end: a new one) pulled to a point; gone when it was put back over the edge of the picture. */
export function pulled(guides: Guides, index: number, axis: GuideAxis, { x, y }: Point, { width, height }: Raster): Guides {
  const at = Math.round(axis === 'down' ? x : y);
  const inside = at >= 0 && at <= (axis === 'down' ? width : height);
  return [...guides.slice(0, index), ...(inside ? [{ axis, at }] : []), ...guides.slice(index + 1)];
}

export function Rulers({ raster, scale }: { raster: Raster; scale: number }) {
  const thick = RULER / scale;
  const step = stepOf(scale);
  const marks = (length: number) => Array.from({ length: Math.floor(length / step) + 1 }, (_, i) => i * step);
  const look = { fill: MUTED, fontSize: 9 / scale, fontFamily: 'IBM Plex Mono' };
  return (
    <>
      <KonvaRect x={0} y={-thick} width={raster.width} height={thick} fill={MUTED} opacity={0.12} />
      <KonvaRect x={-thick} y={0} width={thick} height={raster.height} fill={MUTED} opacity={0.12} />
      {marks(raster.width).map((at) => (
        <Line key={`x${at}`} points={[at, -thick / 2, at, 0]} stroke={MUTED} strokeWidth={1 / scale} />
      ))}
      {marks(raster.width).map((at) => (
        <Text key={`tx${at}`} x={at + 2 / scale} y={-thick + 1 / scale} text={String(at)} {...look} />
      ))}
      {marks(raster.height).map((at) => (
        <Line key={`y${at}`} points={[-thick / 2, at, 0, at]} stroke={MUTED} strokeWidth={1 / scale} />
      ))}
      {marks(raster.height).map((at) => (
        <Text key={`ty${at}`} x={-thick + 1 / scale} y={at - 2 / scale} text={String(at)} {...look} rotation={-90} />
      ))}
    </>
  );
}
