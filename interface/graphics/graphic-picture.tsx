/** The true picture of a graphic, small or as a stage: drawn by the page's own graphics worker. */
import { useEffect, useRef } from 'react';
import { type Filled } from '#core/graphics/air';
import { AT_REST, type Phase } from '#core/graphics/motion';
import { type DrawItem } from '#core/picture/draw';
import { closeUp, fromCorner } from '#core/graphics/close-up';
import { pictureOfItems } from '#engine/graphics/pictures';
import { useGraphicItems } from './graphic-items';
import { GraphicWindows } from './graphic-windows';

/** What a picture depends on, as a text. */
const keyOf = (items: readonly DrawItem[]): string =>
  JSON.stringify(items, (name, value: unknown) => (name === 'inked' ? undefined : value));

/** Shows a filled graphic at rest, or at a phase of its moves, over a chequered ground. */
export function GraphicPicture({
  filled,
  phase = AT_REST,
  frame = 0,
  label,
  className,
  ground = true,
  close = false,
  live,
  onMissing,
}: {
  filled: Filled;
  phase?: Phase;
  frame?: number;
  label: string;
  className?: string;
  /** Chequered where it is clear. */
  ground?: boolean;
  /** Only the part in which something is drawn. */
  close?: boolean;
  /** Windows show their pictures; the place of the graphic is so many pixels of the screen for one of its own. */
  live?: number;
  /** Told which assets the picture is drawn without. */
  onMissing?: (assets: readonly string[]) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { graphic, values } = filled;
  const items = useGraphicItems({ graphic, values }, phase, frame);
  const key = keyOf(items);
  const now = useRef(items);
  now.current = items;
  const told = useRef(onMissing);
  told.current = onMissing;
  const windows = live === undefined ? [] : items.filter((item) => item.texture.kind !== 'paint');
  const holes = windows.length > 0;
  const { raster } = graphic;
  useEffect(() => {
    const room = canvas.current;
    if (!room) return undefined;
    let gone = false;
    const draw = () => {
      const width = Math.round(room.clientWidth * devicePixelRatio);
      const height = Math.round((width * raster.height) / raster.width);
      if (width < 4) return;
      const seen = close ? closeUp(now.current, raster) : { x: 0, y: 0, ...raster };
      void pictureOfItems(
        close ? fromCorner(now.current, seen) : now.current,
        { width: seen.width, height: seen.height },
        Math.min(1920, width),
        Math.min(1080, Math.max(2, height)),
        holes,
      ).then(({ image, missing }) => {
        if (!image) return;
        if (!gone) told.current?.(missing);
        if (!gone) {
          Object.assign(room, { width: image.width, height: image.height });
          room.getContext('2d')?.drawImage(image, 0, 0);
        }
        image.close();
      });
    };
    draw();
    const observer = new ResizeObserver(draw);
    observer.observe(room);
    return () => {
      gone = true;
      observer.disconnect();
    };
  }, [key, raster, close, holes]);
  const picture = (
    <canvas
      ref={canvas}
      role="img"
      aria-label={label}
      className={`${ground && !holes ? 'chequered' : ''} block ${className ?? ''}`}
      style={{ aspectRatio: `${raster.width} / ${raster.height}` }}
    />
  );
  if (!holes || live === undefined) return picture;
  return (
    <>
      {ground && <div className="chequered absolute inset-0" />}
      <GraphicWindows items={windows} raster={raster} scale={live} />
      {picture}
    </>
  );
}
