/** The true picture of a graphic, small or as a stage: drawn by the page's own graphics worker. */
import { useEffect, useMemo, useRef } from 'react';
import { type Filled, type GraphicsAir } from '#core/graphics/air';
import { type Clock } from '#core/graphics/document';
import { graphicItems } from '#core/graphics/items';
import { AT_REST, type Phase } from '#core/graphics/motion';
import { type DrawItem } from '#core/picture/draw';
import { closeUp, fromCorner } from '#core/graphics/close-up';
import { type Rate } from '#core/time/rate';
import { pictureOfItems } from '#engine/graphics/pictures';
import { useShow } from '../client/show-client';

const NO_AIR: GraphicsAir = { shown: {}, clocks: {}, day: { frame: 0, millis: 0 } };

/** What the picture of windows is here: a pane in its place. */
const PANE = () => ({ texture: { kind: 'colour' as const, colour: '#1b2a2e' }, fit: 'fill' as const });

/** Items of a filled graphic over its own raster; clocks stand at their beginning. */
function itemsOf(filled: Filled, phase: Phase, frame: number, clocks: readonly Clock[], rate: Rate): DrawItem[] {
  return graphicItems({
    filled,
    phase,
    frame,
    target: { x: 0, y: 0, ...filled.graphic.raster },
    clocks,
    air: NO_AIR,
    rate,
    slot: 'screen',
    window: PANE,
  });
}

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
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { clocks, rate } = useShow(({ desk: { show } }) => ({ clocks: show.graphics.clocks, rate: show.rate }));
  const { graphic, values } = filled;
  const items = useMemo(() => itemsOf({ graphic, values }, phase, frame, clocks, rate), [graphic, values, phase, frame, clocks, rate]);
  const key = keyOf(items);
  const now = useRef(items);
  now.current = items;
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
      ).then((image) => {
        if (!image) return;
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
  }, [key, raster, close]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={label}
      className={`${ground ? 'chequered' : ''} block ${className ?? ''}`}
      style={{ aspectRatio: `${raster.width} / ${raster.height}` }}
    />
  );
}
