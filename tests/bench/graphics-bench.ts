/** Graphics: what a moving name card costs, how soon it is seen, what one field redraws, and many of them in Fill. */
import { type Page } from 'puppeteer-core';
import { type AnimationFigures } from '../harness/animation-bench';
import { type GraphicFigures } from '../harness/graphics-bench';
import { passes, pick, send, wait } from '../support/desk';

export interface GraphicsFigures {
  cards: GraphicFigures[];
  /** Frames from the press of Show to the first frame that shows it, 40 presses of 40 entries never shown before. */
  press: { p50: number; p95: number };
  /** One field of a graphic of 100 elements: paints and pixels drawn, and pixels of the element's own rectangle. */
  field: { paints: number; pixels: number };
  /** Paints drawn during 50 frames with a graphic up and nothing changing. */
  atRest: number;
  /** 200 graphics of 50 entries: milliseconds until the table stands, and frames a second while it scrolls. */
  fill: { opens: number; scrolls: number; edit: number };
  /** An animation of 60 layers, 640×360. */
  animation: AnimationFigures;
}

const quantile = (list: number[], q: number) =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))] ?? NaN;

/** Presses Show for entries that were never shown; counts frames between the frame of the command and the first that differs. */
async function press(page: Page): Promise<{ p50: number; p95: number }> {
  await send(page, 'picture.cut', { picture: 'harbour' });
  const made = await send(page, 'graphic.add', { name: 'Bench' });
  const graphic = made.ok ? String(made.result.id) : '';
  await send(page, 'element.add', { graphic, kind: 'rectangle', rect: { x: 0, y: 0, width: 320, height: 180 } });
  const text = await send(page, 'element.add', { graphic, kind: 'text', rect: { x: 0, y: 0, width: 320, height: 90 } });
  await send(page, 'field.add', { graphic, element: text.ok ? text.result.id : '', property: 'content', name: 'Words' });
  await send(page, 'lane.set', {
    lane: 'lane-1',
    holdSeconds: null,
    in: { kind: 'fade', edge: 'left', easing: 'linear', frames: 0 },
    out: { kind: 'fade', edge: 'left', easing: 'linear', frames: 0 },
  });
  const field = await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.fields[0]?.id ?? '');
  const counts: number[] = [];
  for (let i = 0; i < 40; i += 1) {
    const added = await send(page, 'entry.add', {
      graphic,
      values: [{ fieldId: field, value: { kind: 'text', text: `Never before ${i}` } }],
    });
    const entry = added.ok ? String(added.result.id) : '';
    await send(page, 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: entry } });
    await wait(300 + ((i * 37) % 90));
    counts.push(
      await page.evaluate(
        () =>
          new Promise<number>((resolve) => {
            const host = window.bivocaHost;
            if (!host) return;
            let pressed = Infinity;
            const stop = host.outputFrames((frame) => {
              const number = Math.round((frame.timestamp * 25) / 1e6);
              const luma = new Uint8Array(frame.allocationSize());
              void frame.copyTo(luma).then(() => {
                frame.close();
                // The plate is darker than the harbour.
                if (number >= pressed && (luma[300 + 640 * 170] as number) < 57) {
                  stop();
                  resolve(number - pressed);
                }
              });
            });
            setTimeout(() => {
              host.dispatch({ type: 'lane.show', args: { lane: 'lane-1' } });
              pressed = host.state.desk.air.lanes['lane-1']?.fade.start ?? 0;
            }, 120);
          }),
      ),
    );
    await send(page, 'lane.hide', { lane: 'lane-1' });
    await passes(page, 3);
  }
  await send(page, 'graphic.remove', { graphic });
  return { p50: quantile(counts, 0.5), p95: quantile(counts, 0.95) };
}

/** One field of a hundred elements on air. */
async function oneField(page: Page): Promise<{ paints: number; pixels: number; atRest: number }> {
  const made = await send(page, 'graphic.add', { name: 'Hundred' });
  const graphic = made.ok ? String(made.result.id) : '';
  for (let i = 0; i < 100; i += 1) {
    const rect = { x: (i % 10) * 60, y: Math.floor(i / 10) * 34, width: 56, height: 24 };
    const added = await send(page, 'element.add', { graphic, kind: 'text', rect });
    await send(page, 'field.add', { graphic, element: added.ok ? added.result.id : '', property: 'content', name: `F${i}`.slice(0, 60) });
  }
  const fields = await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.fields.map((f) => f.id) ?? []);
  const added = await send(page, 'entry.add', {
    graphic,
    values: fields.map((fieldId, i) => ({ fieldId, value: { kind: 'text', text: `No ${i}` } })),
  });
  const entry = added.ok ? String(added.result.id) : '';
  await send(page, 'lane.showPicture', { lane: 'lane-1', picture: entry });
  await passes(page, 60);
  const rest = await pick(page, (s) => s.mixer.paints.drawn);
  await passes(page, 50);
  const before = await pick(page, (s) => ({ ...s.mixer.paints }));
  await send(page, 'entry.set', { entry, field: fields[7], value: { kind: 'text', text: 'Changed' } });
  await send(page, 'lane.show', { lane: 'lane-1' });
  await passes(page, 30);
  const after = await pick(page, (s) => ({ ...s.mixer.paints }));
  await send(page, 'lane.hide', { lane: 'lane-1' });
  await passes(page, 20);
  await send(page, 'graphic.remove', { graphic });
  return { paints: after.drawn - before.drawn, pixels: after.pixels - before.pixels, atRest: before.drawn - rest };
}

/** 200 graphics of 50 entries each in Fill. */
async function many(page: Page): Promise<GraphicsFigures['fill']> {
  await page.evaluate(() => {
    const host = window.bivocaHost;
    const first = host?.state.desk.show.graphics.list[0];
    if (!host || !first) return;
    for (let g = 0; g < 188; g += 1) {
      const entries = Array.from({ length: 50 }, (_, i) => ({
        id: `e${g}-${i}`,
        number: i + 1,
        values: [
          { fieldId: 'name', value: { kind: 'text', text: `Pilot ${g} ${i}` } },
          { fieldId: 'role', value: { kind: 'text', text: `Heat ${i}` } },
        ],
      }));
      host.dispatch({ type: 'graphic.bring', args: { graphic: { ...first, id: `g${g}`, name: `Graphic ${g}`, entries } } });
    }
  });
  await wait(3000);
  // As texts: the functions that a bundler has named would not be known in the page.
  const opens = (await page.evaluate(`new Promise((resolve) => {
    const begun = performance.now();
    const look = () => (document.querySelectorAll('[role=table] [role=row]').length > 3 ? resolve(performance.now() - begun) : requestAnimationFrame(look));
    window.dispatchEvent(new KeyboardEvent('keydown', { code: 'F4', key: 'F4', bubbles: true, cancelable: true }));
    look();
  })`)) as number;
  await wait(1500);
  const scrolls = (await page.evaluate(`new Promise((resolve) => {
    const list = document.querySelector('[data-region="graphics"] .overflow-y-auto');
    const begun = performance.now();
    let frames = 0;
    const step = () => {
      frames += 1;
      list.scrollBy(0, 30);
      if (performance.now() - begun > 3000) resolve((frames * 1000) / (performance.now() - begun));
      else requestAnimationFrame(step);
    };
    requestAnimationFrame(step);
  })`)) as number;
  const edits: number[] = [];
  for (let i = 0; i < 20; i += 1) {
    edits.push(
      await page.evaluate((n) => {
        const begun = performance.now();
        const entry = window.bivocaHost?.state.desk.show.graphics.list.at(-1)?.entries[3]?.id;
        window.bivocaHost?.dispatch({ type: 'entry.set', args: { entry, field: 'name', value: { kind: 'text', text: `Edited ${n}` } } });
        return performance.now() - begun;
      }, i),
    );
    await wait(100);
  }
  return { opens, scrolls, edit: quantile(edits, 0.5) };
}

/** Everything about graphics, at the demo's 640×360. `harness` measures what needs no show. */
export async function benchGraphics(page: Page, harness: Page): Promise<GraphicsFigures> {
  const cards: GraphicFigures[] = [];
  for (const raster of [
    { width: 640, height: 360 },
    { width: 1920, height: 1080 },
  ])
    cards.push(await harness.evaluate((r) => window.harness.benchGraphic(r, 84), raster));
  await page.bringToFront();
  const shown = await press(page);
  const animation = await harness.evaluate(() => window.harness.benchAnimation(60, { width: 640, height: 360 }));
  const { atRest, ...field } = await oneField(page);
  const fill = await many(page);
  return { cards, press: shown, field, atRest, fill, animation };
}

export function graphicsLines({ cards, press: shown, field, atRest, fill, animation }: GraphicsFigures): string[] {
  const ms = (n: number) => `${n.toFixed(1)} ms`;
  return [
    '## Graphics',
    '',
    '| a name card while it moves | a frame without it | with it | what it costs | drawn anew with canvas calls |',
    '|---|---|---|---|---|',
    ...cards.map(
      (c) =>
        `| ${c.raster} | ${ms(c.without)} | ${ms(c.moving)} | ${ms(c.moving - c.without)} | ${ms(c.anew - c.without)}, ${((c.anew - c.without) / Math.max(0.05, c.moving - c.without)).toFixed(1)} times as much |`,
    ),
    '',
    `From the press of Show to the first frame that shows it, 40 entries never shown before: median ${shown.p50}, 95th percentile ${shown.p95} frames.`,
    '',
    `An animation of 60 layers (Lottie) at 640×360 costs ${animation.p50.toFixed(1)} ms a frame while all of them move, ${animation.p95.toFixed(1)} ms at the 95th percentile, in the graphics worker; its first frame ${animation.first.toFixed(1)} ms. While it waits nothing is drawn.`,
    '',
    `One field of a graphic of 100 elements on air: ${field.paints} paints, ${field.pixels} pixels drawn, those of the monitors' sizes included. At rest ${atRest} paints in 50 frames.`,
    '',
    `200 graphics of 50 entries: Fill opens in ${Math.round(fill.opens)} ms, scrolls at ${Math.round(fill.scrolls)} frames a second; an edit takes ${ms(fill.edit)}.`,
    '',
  ];
}
