/** Draws meters outside of React, at the pace of the screen. */
import { type RefObject, useEffect } from 'react';
import { METER_FLOOR_DB, type MeterReading } from '#core/sound/meter';
import { useShowClient } from '../client/show-client';

/** Where the colours of the scale change, dBFS: working level ends, then little room is left. */
const WARM_DB = -20.4;
const HOT_DB = -6;
/** Lines across an upright meter, dBFS. */
const SCALE_DB = [-6, -12, -20, -30, -40, -50];
const COLOURS = { scale: 'rgb(232 239 233 / 0.3)', cool: '#3f9c86', warm: '#d9b25a', hot: '#ff5a4f', ground: '#0d1517', peak: '#e8efe9' };

const share = (db: number) => Math.max(0, Math.min(1, (db - METER_FLOOR_DB) / -METER_FLOOR_DB));

/** Draws both sides of a meter; along the width, or up the height. */
function draw(canvas: HTMLCanvasElement, readings: readonly MeterReading[], upright: boolean, overDb: number): void {
  const context = canvas.getContext('2d');
  if (!context) return;
  const { width, height } = canvas;
  const long = upright ? height : width;
  const thick = Math.floor(((upright ? width : height) - 1) / 2);
  const bar = (side: number, from: number, to: number, colour: string) => {
    const [a, b] = [Math.round(from * long), Math.round(to * long)];
    if (b <= a) return;
    context.fillStyle = colour;
    if (upright) context.fillRect(side * (thick + 1), long - b, thick, b - a);
    else context.fillRect(a, side * (thick + 1), b - a, thick);
  };
  context.clearRect(0, 0, width, height);
  readings.forEach(({ level, peak }, side) => {
    const [top, warm, hot] = [share(level), share(WARM_DB), share(HOT_DB)];
    bar(side, 0, 1, COLOURS.ground);
    bar(side, 0, Math.min(top, warm), COLOURS.cool);
    bar(side, warm, Math.min(top, hot), COLOURS.warm);
    bar(side, hot, top, COLOURS.hot);
    const at = share(peak);
    if (upright) for (const db of SCALE_DB) bar(side, share(db) - 1 / long, share(db), COLOURS.scale);
    bar(side, Math.max(0, at - 2 / long), at, peak > overDb ? COLOURS.hot : COLOURS.peak);
  });
}

/**
 * Keeps a canvas showing the level of a channel or bus, every second mixed frame, outside React. One canvas a meter, drawn only
 * while it can be seen and has changed by a pixel: dozens of them must not cost the page its time. `over` is where a held peak turns red, dBFS.
 */
export function useMeter(canvas: RefObject<HTMLCanvasElement | null>, id: string, upright: boolean, overDb: number): void {
  const host = useShowClient();
  useEffect(() => {
    const element = canvas.current;
    if (!element) return undefined;
    let seen = true;
    let last = '';
    const sight = new IntersectionObserver(([entry]) => {
      seen = entry?.isIntersecting ?? true;
    });
    sight.observe(element);
    const size = new ResizeObserver(() => {
      element.width = Math.max(1, element.clientWidth);
      element.height = Math.max(1, element.clientHeight);
      last = '';
    });
    size.observe(element);
    let turn = false;
    const stop = host.onTick(() => {
      turn = !turn;
      const readings = turn || !seen ? undefined : host.sound.readings.get(id);
      if (!readings) return;
      const long = upright ? element.height : element.width;
      const state = readings.map((r) => `${Math.round(share(r.level) * long)} ${Math.round(share(r.peak) * long)}`).join(' ');
      if (state === last) return;
      last = state;
      draw(element, readings, upright, overDb);
    });
    // For screen readers once a second: nobody hears 25 values.
    const spoken = setInterval(() => {
      const readings = host.sound.readings.get(id);
      if (readings) element.setAttribute('aria-valuenow', String(Math.round(Math.max(readings[0].level, readings[1].level))));
    }, 1000);
    return () => {
      stop();
      sight.disconnect();
      size.disconnect();
      clearInterval(spoken);
    };
  }, [host, canvas, id, upright, overDb]);
}
