/** What a moving graphic costs: its layers moved by the mixer, against drawing all of it anew for each frame. */
import { createGraphicsAir } from '#core/graphics/air';
import { nameCard } from '#core/graphics/gallery/names';
import { graphicItems } from '#core/graphics/items';
import { type Paint, paintOf } from '#core/graphics/paint';
import { drawnElements } from '#core/graphics/values';
import { type DrawItem, plainPlan } from '#core/picture/draw';
import { type Raster } from '#core/show/raster';
import { type FromGraphics, type ToGraphics } from '#engine/graphics/messages';
import { PaintStore } from '#engine/picture/paint-store';
import { SoftRenderer } from '#engine/picture/soft-renderer';
import { decodedFrames } from './mixer-bench';

export interface GraphicFigures {
  raster: string;
  /** Milliseconds of a programme frame: without the graphic, with it as it moves, and drawn anew with canvas calls. Medians. */
  without: number;
  moving: number;
  anew: number;
}

const MOVE_FRAMES = 14;
const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1] ?? NaN;

export async function benchGraphic(raster: Raster, rounds: number): Promise<GraphicFigures> {
  const frames = await decodedFrames(raster, 8);
  const worker = new Worker(new URL('../../engine/graphics/graphics.worker.ts', import.meta.url), { type: 'module' });
  const open = () => {
    const { port1, port2 } = new MessageChannel();
    worker.postMessage({ type: 'port', port: port1 } satisfies ToGraphics, [port1]);
    return port2;
  };
  const store = new PaintStore(console.error, () => console.error('the worker is silent'));
  store.connect(open());
  const graphic = nameCard();
  const filled = { graphic, values: graphic.entries[0]?.values ?? [] };
  [graphic.elements, graphic.fields, filled.values].forEach(Object.freeze);
  const scale = raster.height / graphic.raster.height;
  const sizeOf = ({ bounds }: Paint) => ({ width: Math.round(bounds.width * scale), height: Math.round(bounds.height * scale) });
  const itemsAt = (frame: number): DrawItem[] =>
    graphicItems({
      filled,
      phase: { in: frame, out: null },
      frame,
      target: { x: 0, y: 0, ...raster },
      clocks: [],
      air: createGraphicsAir(),
      rate: { num: 25, den: 1 },
      slot: 'bench',
      window: () => null,
    });
  let round = 0;
  /** Each draw gets a frame that was not there before, as on air. */
  let drawn = 0;
  const renderer = new SoftRenderer(raster, (ref, size) => {
    if (ref.kind === 'paint') return store.find(ref.paint, ref.slot, size ?? sizeOf(ref.paint));
    return ref.kind === 'source'
      ? { image: frames[drawn % frames.length] as VideoFrame, ...raster, opaque: true, version: String(drawn) }
      : null;
  });
  const base: DrawItem[] = [{ texture: { kind: 'source', id: 'a' }, target: { x: 0, y: 0, ...raster }, fit: 'fill', opacity: 1 }];
  const draw = async (lanes: DrawItem[]) => {
    drawn += 1;
    const started = performance.now();
    // A clear strip, so that the frame is composed in both cases, not passed through.
    (await renderer.programme({ ...plainPlan(base), lanes, black: 0.001 }, raster, round, 40_000)).close();
    return performance.now() - started;
  };
  const there = async (items: DrawItem[]) => {
    for (const { texture } of items) if (texture.kind === 'paint') store.want(texture.paint, sizeOf(texture.paint));
    while (items.some(({ texture }) => texture.kind === 'paint' && !store.find(texture.paint, '', sizeOf(texture.paint))))
      await new Promise((r) => setTimeout(r, 5));
  };
  for (let f = 0; f < MOVE_FRAMES; f += 1) await there(itemsAt(f));
  const port = open();
  /** The whole graphic drawn anew: milliseconds in the worker. */
  const drawAnew = (n: number) => {
    const inked = drawnElements(filled).map(({ element }) => ({
      element: { ...element, opacity: 1 - (n % 50) / 1000 },
      mask: null,
      moment: null,
    }));
    const paint = paintOf(inked, graphic.raster);
    return new Promise<{ paint: Paint; millis: number }>((resolve) => {
      port.onmessage = ({ data }: MessageEvent<FromGraphics>) => resolve({ paint, millis: data.type === 'painted' ? data.millis : NaN });
      port.postMessage({ type: 'paint', paint, ...sizeOf(paint) } satisfies ToGraphics);
    });
  };
  const times = { without: [] as number[], moving: [] as number[], anew: [] as number[] };
  for (round = 0; round < rounds + 5; round += 1) {
    const without = await draw([]);
    const moving = await draw(itemsAt(round % MOVE_FRAMES));
    const { paint, millis } = await drawAnew(round);
    const item: DrawItem = { texture: { kind: 'paint', paint, slot: 'anew' }, target: paint.bounds, fit: 'fill', opacity: 1 };
    const target = {
      x: paint.bounds.x * scale,
      y: paint.bounds.y * scale,
      width: paint.bounds.width * scale,
      height: paint.bounds.height * scale,
    };
    await there([item]);
    const anew = millis + (await draw([{ ...item, target }]));
    if (round < 5) continue;
    times.without.push(without);
    times.moving.push(moving);
    times.anew.push(anew);
  }
  worker.terminate();
  frames.forEach((f) => f.close());
  return {
    raster: `${raster.width}×${raster.height}`,
    without: median(times.without),
    moving: median(times.moving),
    anew: median(times.anew),
  };
}
