/** `npm run bench`: measures what the project promises, in one run, and writes a table and JSON. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { type KeyInput, type Page } from 'puppeteer-core';
import { type MixerFigures } from '../harness/mixer-bench';
import { type PictureFigures } from '../harness/picture-bench';
import { automationLines, benchAutomation } from './automation-bench';
import { audienceLines, benchAudience } from './audience-bench';
import { benchGuestTraffic, guestTrafficLines } from './guest-traffic';
import { benchGuests, guestsLines } from './guests-bench';
import { benchPanels, panelsLines } from './panels-bench';
import { benchScreens, screensLines } from './screens-bench';
import { benchGraphics, graphicsLines } from './graphics-bench';
import { benchGround } from './ground-bench';
import { benchBusyPage, benchEverything } from './load-bench';
import { benchLive, liveLines } from './live-bench';
import { benchReplay, replayLines } from './replay-bench';
import { benchDesk, benchGraph, benchSoundRun, soundLines } from './sound-bench';
import { benchSize } from './size-bench';
import { benchStyle } from './style-bench';
import { startApp, startBrowser } from '../support/browser';
import { openDemo, pick, send, until, wait } from '../support/desk';
import { openHarness } from '../support/harness';
import { FIRST_PAINT, filesOf, weightOf } from '../support/weight';

const { values } = parseArgs({ options: { minutes: { type: 'string', default: '10' }, only: { type: 'string' } } });
const wanted = (part: string) => !values.only || values.only === part;

const ms = (n: number) => `${n.toFixed(1)} ms`;
const percent = (part: number, whole: number) => `${((100 * part) / Math.max(1, whole)).toFixed(2)} %`;
const quantile = (list: number[], q: number) =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))] ?? NaN;

const PICTURES = {
  sixteen: '16 boxes with border, shadow and rounded corners, background',
  glide: 'glide between two four-box layouts',
  key: 'chroma key of one full picture',
} as const;
const SCENES = { full: 'one full picture', dissolve: 'dissolve', boxes: 'four boxes, background, lane' } as const;

async function mixer(): Promise<MixerFigures[]> {
  const browser = await startBrowser();
  const harness = await openHarness(browser);
  const found: MixerFigures[] = [];
  for (const raster of [
    { width: 640, height: 360 },
    { width: 1280, height: 720 },
  ]) {
    for (const scene of ['full', 'dissolve', 'boxes'] as const)
      found.push(await harness.page.evaluate((r, s) => window.harness.benchMixer(r, s, 60), raster, scene));
  }
  await harness.close();
  await browser.close();
  return found;
}

/** From a key pressed to the first programme frame that shows it, in milliseconds, as the page receives frames. */
async function latency(page: Page): Promise<{ p50: number; p95: number; framesP95: number }> {
  for (const [id, colour] of [
    ['dark', '#101010'],
    ['light', '#f0f0f0'],
  ])
    await send(page, 'source.add', { name: id, settings: { kind: 'colour', colour } });
  const ids = await pick(page, (s) => s.desk.show.sources.slice(-2).map((source) => source.id));
  const numbers = [5, 6];
  for (const [i, number] of numbers.entries()) {
    await send(page, 'source.pin', { source: i === 0 ? 'bars' : 'sync', number: null });
    await send(page, 'source.pin', { source: ids[i], number });
  }
  await send(page, 'picture.cutByNumber', { number: numbers[0] });
  await wait(500);
  await page.evaluate(() => {
    const w = window as unknown as { waits: number[]; pressed: number; bright: boolean };
    Object.assign(w, { waits: [], pressed: 0, bright: false });
    window.addEventListener('keydown', (event) => (w.pressed = event.timeStamp), true);
    window.bivocaHost?.outputFrames((frame) => {
      const arrived = performance.now();
      const luma = new Uint8Array(frame.allocationSize());
      void frame.copyTo(luma).then(() => {
        const bright = (luma[1000] as number) > 128;
        if (bright !== w.bright && w.pressed > 0) {
          w.waits.push(arrived - w.pressed);
          w.bright = bright;
          w.pressed = 0;
        }
        frame.close();
      });
    });
  });
  for (let i = 0; i < 60; i += 1) {
    await page.keyboard.down('Shift');
    await page.keyboard.press(`Digit${(numbers[(i + 1) % 2] as number) % 10}` as KeyInput);
    await page.keyboard.up('Shift');
    // Not in step with the frames, so that every phase is met.
    await wait(180 + ((i * 37) % 90));
  }
  const waits = await page.evaluate(() => (window as unknown as { waits: number[] }).waits);
  return { p50: quantile(waits, 0.5), p95: quantile(waits, 0.95), framesP95: quantile(waits, 0.95) / 40 };
}

/** From the address of a show to its Desk painted as it was left, and to moving pictures, milliseconds. */
async function opening(page: Page, address: string): Promise<{ painted: number; moves: number }> {
  await page.goto('about:blank');
  await wait(1000);
  const started = Date.now();
  const opened = page.goto(address);
  const stands = (frames: number) =>
    page
      .evaluate(
        (least) =>
          document.querySelector('[title^="Take with"]') !== null && (least === 0 || (window.bivocaHost?.state.mixer.frames ?? 0) > least),
        frames,
      )
      .catch(() => false);
  await until(() => stands(0), 'the Desk');
  const painted = Date.now() - started;
  await until(() => stands(2), 'pictures that move');
  const moves = Date.now() - started;
  await opened;
  return { painted, moves };
}

async function heap(page: Page): Promise<number> {
  const session = await page.createCDPSession();
  for (let i = 0; i < 3; i += 1) await session.send('HeapProfiler.collectGarbage');
  const { usedSize } = (await session.send('Runtime.getHeapUsage')) as { usedSize: number };
  await session.detach();
  return usedSize;
}

async function soak(page: Page, minutes: number, troubles: string[]) {
  await send(page, 'picture.cut', { picture: 'shore' });
  await send(page, 'output.startRecording');
  await send(page, 'output.startStream');
  await wait(15_000);
  const before = { heap: await heap(page), mixer: await pick(page, (s) => s.mixer), encoder: await pick(page, (s) => s.encoder.doubled) };
  const end = Date.now() + minutes * 60_000;
  const cameras = ['line', 'mast', 'desk', 'shore'];
  for (let i = 0; Date.now() < end; i += 1) {
    await send(page, 'picture.setNext', { picture: cameras[i % 4] });
    await wait(4000);
    await send(page, i % 3 === 0 ? 'picture.cut' : 'picture.take');
    if (i % 2 === 0) await send(page, 'lane.toggle', { lane: 'lane-1' });
    await wait(4000);
  }
  const after = { heap: await heap(page), mixer: await pick(page, (s) => s.mixer), encoder: await pick(page, (s) => s.encoder) };
  const frames = after.mixer.frames - before.mixer.frames;
  const dropped = after.mixer.dropped - before.mixer.dropped;
  const result = {
    minutes,
    frames,
    dropped,
    droppedPercent: (100 * dropped) / (frames + dropped),
    late: after.mixer.late - before.mixer.late,
    monitorsSkipped: after.mixer.monitorsSkipped - before.mixer.monitorsSkipped,
    heapGrowthMB: (after.heap - before.heap) / 1e6,
    leakedFrames: troubles.filter((t) => /garbage collected/.test(t)).length,
    streamDropped: after.encoder.stream?.dropped ?? -1,
    silenceMs: after.encoder.silenceMs,
    clockErrorMs: await page.evaluate(() => Math.abs(window.bivocaHost?.sound.clockError ?? NaN) * 1000),
  };
  await send(page, 'output.stopStream');
  await send(page, 'output.stopRecording');
  return result;
}

async function main(): Promise<void> {
  const lines: string[] = [
    '# Measured',
    '',
    `By \`npm run bench\`, ${new Date().toISOString().slice(0, 10)}, ${cpus().length} cores (${cpus()[0]?.model.trim() ?? 'unknown'}), no GPU.`,
    '',
  ];
  const results: Record<string, unknown> = {};
  if (wanted('mixer')) {
    const found = await mixer();
    results.mixer = found;
    lines.push(
      '## A programme frame, from decoded frames to the frame handed on (medians of 60)',
      '',
      '| picture | raster | software mixer | WebGL2 on a software driver | 2D canvas | software mixer against 2D canvas |',
      '|---|---|---|---|---|---|',
    );
    for (const f of found)
      lines.push(
        `| ${SCENES[f.scene]} | ${f.raster} | ${ms(f.soft)} | ${ms(f.gl)} | ${ms(f.canvas2d)} | ${(f.canvas2d / f.soft).toFixed(1)} times as fast |`,
      );
    lines.push('');
  }
  if (wanted('pictures')) {
    const browser = await startBrowser();
    const harness = await openHarness(browser);
    const found: PictureFigures[] = [];
    for (const scene of ['sixteen', 'glide', 'key'] as const)
      found.push(await harness.page.evaluate((s) => window.harness.benchPictures({ width: 1280, height: 720 }, s, 40), scene));
    const windows = await harness.page.evaluate(() => window.harness.benchWindows(3840, 2160, 9));
    await harness.close();
    await browser.close();
    const style = benchStyle(100, 40);
    Object.assign(results, { pictures: found, windows, style });
    lines.push(
      '## Layouts, glide and key (medians of 40)',
      '',
      '| picture | raster | software mixer | WebGL2 on a software driver | 2D canvas | software mixer against 2D canvas |',
      '|---|---|---|---|---|---|',
    );
    for (const f of found)
      lines.push(
        `| ${PICTURES[f.scene]} | ${f.raster} | ${ms(f.soft)} | ${ms(f.gl)} | ${ms(f.canvas2d)} | ${(f.canvas2d / f.soft).toFixed(1)} times as fast |`,
      );
    lines.push(
      '',
      `Windows in artwork of 3840×2160 with ${windows.found} soft-edged openings, in the worker, from decoded pixels: median ${ms(windows.median)}, slowest ${ms(windows.slowest)}. From the PNG file to the answer: ${ms(windows.whole)}, most of it decoding.`,
      '',
      `A style change that touches 100 presets of four boxes, in core, with the list of places and the undo patches: median ${ms(style.median)}, slowest ${ms(style.slowest)}.`,
      '',
    );
  }
  const app = await startApp();
  const browser = await startBrowser({ stepsDown: true });
  const { page } = browser;
  await openDemo(page, app);
  const address = page.url();
  const openings: Awaited<ReturnType<typeof opening>>[] = [];
  for (let i = 0; i < 7; i += 1) openings.push(await opening(page, address));
  const half = (of: 'painted' | 'moves') =>
    quantile(
      openings.map((o) => o[of]),
      0.5,
    );
  const needed = ['index.html', ...filesOf(FIRST_PAINT)];
  results.opening = { painted: half('painted'), moves: half('moves'), bytes: weightOf(needed), files: needed.length };
  lines.push(
    '## Start',
    '',
    `From the address of the demo show, medians of ${openings.length}: the Desk is painted as it was left after ${Math.round(half('painted'))} ms, and usable after ${Math.round(half('moves'))} ms: pictures move, take works.`,
    `The first paint needs ${Math.round(weightOf(needed) / 1000)} kB over the line: ${needed.length} files of page, styles and code, compressed (Brotli).`,
    '',
  );
  if (wanted('latency')) {
    await wait(3000);
    const found = await latency(page);
    results.latency = found;
    lines.push(
      '## Key press to the first changed programme frame (60 presses)',
      '',
      `Median ${ms(found.p50)}, 95th percentile ${ms(found.p95)}: ${found.framesP95.toFixed(2)} frames of 40 ms.`,
      '',
    );
    await page.goto(address);
    await until(() => page.evaluate(() => (window.bivocaHost?.state.mixer.frames ?? 0) > 5).catch(() => false), 'the Desk');
  }
  if (wanted('replay')) {
    const found = await benchReplay(page, Math.min(3, Number(values.minutes)));
    results.replay = found;
    lines.push(...replayLines(found));
    await page.goto(address);
    await until(() => page.evaluate(() => (window.bivocaHost?.state.mixer.frames ?? 0) > 5).catch(() => false), 'the Desk');
    await send(page, 'replay.stop');
  }
  if (wanted('automation')) {
    const found = await benchAutomation(page);
    results.automation = found;
    lines.push(...automationLines(found));
    await page.goto(address);
    await until(() => page.evaluate(() => (window.bivocaHost?.state.mixer.frames ?? 0) > 5).catch(() => false), 'the Desk');
  }
  if (wanted('screens')) {
    const harness = await openHarness(browser);
    const found = await benchScreens(page, app.url, harness.page);
    await harness.close();
    results.screens = found;
    lines.push(...screensLines(found));
    await page.goto(address);
    await until(() => page.evaluate(() => (window.bivocaHost?.state.mixer.frames ?? 0) > 5).catch(() => false), 'the Desk');
  }
  if (wanted('panels')) {
    const found = await benchPanels(page, browser, app.url);
    results.panels = found;
    lines.push(...panelsLines(found));
    await page.goto(address);
    await until(() => page.evaluate(() => (window.bivocaHost?.state.mixer.frames ?? 0) > 5).catch(() => false), 'the Desk');
  }
  if (wanted('guests')) {
    const found = await benchGuests(page, browser, app.url);
    results.guests = found;
    lines.push(...guestsLines(found));
    await page.goto(address);
    await until(() => page.evaluate(() => (window.bivocaHost?.state.mixer.frames ?? 0) > 5).catch(() => false), 'the Desk');
  }
  if (wanted('audience')) {
    const found = await benchAudience(page, app.port);
    results.audience = found;
    lines.push('', '## Audience', '', ...audienceLines(found));
    await page.goto(address);
    await until(() => page.evaluate(() => (window.bivocaHost?.state.mixer.frames ?? 0) > 5).catch(() => false), 'the Desk');
  }
  if (wanted('live')) {
    const found = await benchLive(page, Number(values.minutes));
    results.live = found;
    lines.push(...liveLines(found));
    await page.goto(address);
    await until(() => page.evaluate(() => (window.bivocaHost?.state.mixer.frames ?? 0) > 5).catch(() => false), 'the Desk');
  }
  if (wanted('graphics')) {
    const harness = await openHarness(browser);
    const found = await benchGraphics(page, harness.page);
    await harness.close();
    results.graphics = found;
    lines.push(...graphicsLines(found));
    await page.goto(address);
    await until(() => page.evaluate(() => (window.bivocaHost?.state.mixer.frames ?? 0) > 5).catch(() => false), 'the Desk');
  }
  if (wanted('sound')) {
    const [graph, desk] = [benchGraph(), benchDesk(32, 8)];
    const run = Number(values.minutes) > 0 ? await benchSoundRun(page, browser, Number(values.minutes)) : null;
    results.sound = { graph, desk, run };
    lines.push(...soundLines(graph, desk, run));
    await page.goto(address);
    await until(() => page.evaluate(() => (window.bivocaHost?.state.mixer.frames ?? 0) > 5).catch(() => false), 'the Desk');
  }
  if (wanted('ground')) {
    const found = benchGround();
    results.ground = found;
    lines.push('## What the ground costs', '', '| step | the step | its patches, made small and written | bytes |', '|---|---|---|---|');
    for (const f of found) lines.push(`| ${f.name} | ${f.ms.toFixed(2)} ms | ${f.patchMs.toFixed(2)} ms | ${f.bytes} |`);
    lines.push('');
  }
  if (wanted('load')) {
    const busy = await benchBusyPage(browser, app, 20);
    const all = await benchEverything(page, app, Math.min(5, Number(values.minutes)));
    Object.assign(results, { busy, all });
    lines.push(
      `## A page that stands still for ${busy.seconds} s, monitors on, recording, frames wanted by a window`,
      '',
      `${busy.frames} frames mixed, ${busy.dropped} dropped, ${busy.late} late; memory of the browser ${Math.round(busy.memoryBeforeMB)} MB before, then ${busy.memoryMB.join(', ')} MB with each quarter of the time.`,
      '',
      `## Everything at once at 640×360: four angles recorded, recording, streaming, a take every 2 s, grabs, clips rolled to air (${all.minutes} minutes)`,
      '',
      `${all.frames} frames, ${percent(all.dropped, all.frames)} dropped, ${percent(all.late, all.frames)} late; ${all.notice || 'nothing reduced'}.`,
      '',
    );
    await send(page, 'replay.stop');
  }
  if (wanted('size')) {
    const found = [];
    for (const height of [360, 720, 1080]) found.push(await benchSize(page, app, height, Math.min(10, Number(values.minutes)) * 60));
    results.size = found;
    lines.push(
      '## The demo at its own size, recording, streaming, a take every two seconds, monitors on',
      '',
      '| size | frames | dropped | late | a frame | reduced at the end |',
      '|---|---|---|---|---|---|',
    );
    for (const f of found)
      lines.push(
        `| ${(f.height * 16) / 9}×${f.height} | ${f.frames} | ${percent(f.dropped, f.frames)} | ${percent(f.late, f.frames)} | ${ms(f.drawMs)} | ${f.notice || 'nothing'} |`,
      );
    lines.push('');
  }
  if (values.only === 'guest-traffic') {
    const found = await benchGuestTraffic(page, browser, app.url, Number(values.minutes));
    results.guestTraffic = found;
    lines.push('## Guests who come and go every 20 s', '', ...guestTrafficLines(found).flatMap((l) => [l, '']));
  }
  if (wanted('soak')) {
    const found = await soak(page, Number(values.minutes), browser.troubles);
    results.soak = found;
    lines.push(
      `## ${found.minutes} minutes of the demo: 640×360, 25 frames a second, four cameras, monitors on, recording and streaming`,
      '',
      `| frames | dropped | late | monitor pictures left out | page heap growth after collection | VideoFrames leaked | stream segments dropped | silence put in | clock off the sound device |`,
      '|---|---|---|---|---|---|---|---|---|',
      `| ${found.frames} | ${found.dropped} (${found.droppedPercent.toFixed(2)} %) | ${found.late} | ${found.monitorsSkipped} | ${found.heapGrowthMB.toFixed(1)} MB | ${found.leakedFrames} | ${found.streamDropped} | ${found.silenceMs} ms | ${found.clockErrorMs.toFixed(1)} ms |`,
      '',
    );
  }
  await browser.close();
  await app.close();
  const folder = fileURLToPath(new URL('../../bench-results/', import.meta.url));
  mkdirSync(folder, { recursive: true });
  writeFileSync(`${folder}latest.json`, JSON.stringify(results, null, 2));
  writeFileSync(`${folder}latest.md`, lines.join('\n'));
  console.log(lines.join('\n'));
}

await main();
process.exit(0);
