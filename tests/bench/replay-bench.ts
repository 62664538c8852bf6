/** Replay: recording beside the demo, steps, seeks, reverse, grabs, memory, and thousands of clips. */
import { type CDPSession, type Page } from 'puppeteer-core';
import { filterClips } from '#core/replay/search';
import { type Clip } from '#core/replay/document';
import { pick, press, send, until, wait } from '../support/desk';
import { programmeShows } from '../support/strips';

const quantile = (list: readonly number[], q: number) =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))] ?? NaN;
const both = (list: readonly number[]) => ({ median: quantile(list, 0.5), p95: quantile(list, 0.95) });

/** Bytes of JavaScript in use after collection, page and workers together. */
async function heaps(page: Page): Promise<number> {
  const used = async (session: CDPSession) => {
    for (let i = 0; i < 2; i += 1) await session.send('HeapProfiler.collectGarbage');
    return ((await session.send('Runtime.getHeapUsage')) as { usedSize: number }).usedSize;
  };
  let sum = await used(await page.createCDPSession());
  for (const worker of page.workers()) sum += await used(worker.client).catch(() => 0);
  return sum;
}

const counts = (page: Page) =>
  pick(page, (s) => ({
    frame: s.frame,
    mixer: { ...s.mixer },
    tracks: (s.replay?.tracks ?? []).filter((t) => !t.id.startsWith('sound-')).map((t) => ({ frames: t.frames, missed: t.missed })),
  }));

/** Four angles recorded while the demo is mixed and recorded. */
async function recording(page: Page, minutes: number) {
  await send(page, 'replay.start');
  await send(page, 'output.startRecording');
  await wait(15_000);
  const memory = await heaps(page);
  // Looking into the workers stalls them; what is counted begins after that.
  await wait(15_000);
  const before = await counts(page);
  const started = Date.now();
  for (let i = 0; Date.now() - started < minutes * 60_000; i += 1) {
    await send(page, 'picture.setNext', { picture: ['line', 'mast', 'desk', 'shore'][i % 4] });
    await send(page, i % 2 === 0 ? 'picture.cut' : 'picture.take');
    await wait(4000);
  }
  const after = await counts(page);
  const hours = (Date.now() - started) / 3600_000;
  const growth = (await heaps(page)) - memory;
  const frames = after.frame - before.frame;
  const taken = after.tracks.map((t, i) => t.frames - (before.tracks[i]?.frames ?? 0));
  const missing = taken.map((n) => Math.max(0, frames - n));
  const result = {
    minutes,
    frames,
    missingPercent: (100 * missing.reduce((a, b) => a + b, 0)) / (frames * taken.length),
    refused: after.tracks.reduce((sum, t, i) => sum + t.missed - (before.tracks[i]?.missed ?? 0), 0),
    droppedPercent: (100 * (after.mixer.dropped - before.mixer.dropped)) / Math.max(1, frames),
    growthMB: growth / 1e6,
    growthPerHourMB: growth / 1e6 / hours,
  };
  await send(page, 'output.stopRecording');
  return result;
}

const probe = (page: Page, angle: string, frames: readonly number[], pauseMs = 0): Promise<number[]> =>
  page.evaluate(
    async (id, list, pause) => {
      const times: number[] = [];
      for (const f of list) {
        const started = performance.now();
        await window.bivocaHost?.replay.probe(id, f);
        times.push(performance.now() - started);
        // As fast as a hand turns the jog: a click a frame.
        if (pause > 0) await new Promise((resolve) => setTimeout(resolve, pause));
      }
      return times;
    },
    angle,
    frames,
    pauseMs,
  );

/** Seeks of a `<video>` element in a file of the same recording. */
async function videoSeeks(page: Page, from: number, to: number, times: readonly number[]): Promise<number[]> {
  return page.evaluate(
    async (first, end, places) => {
      const host = window.bivocaHost as NonNullable<typeof window.bivocaHost>;
      const file = await host.exports.add('seek.mp4', { kind: 'angle', angleId: 'line', from: first, to: end }, {});
      if (!file) throw new Error('no file to seek in');
      const video = document.createElement('video');
      video.muted = true;
      video.src = URL.createObjectURL(file);
      document.body.append(video);
      await new Promise((resolve) => video.addEventListener('loadeddata', resolve, { once: true }));
      const found: number[] = [];
      for (const at of places) {
        const started = performance.now();
        await new Promise<void>((resolve) => {
          video.addEventListener('seeked', () => resolve(), { once: true });
          video.currentTime = at;
        });
        found.push(performance.now() - started);
      }
      video.remove();
      return found;
    },
    from,
    to,
    times,
  );
}

/** From a step command to the first programme frame that shows another picture, milliseconds. */
async function stepOnAir(page: Page, frames: number): Promise<number> {
  return page.evaluate(
    (by) =>
      new Promise<number>((resolve) => {
        const host = window.bivocaHost as NonNullable<typeof window.bivocaHost>;
        let before: Uint8Array | null = null;
        let started = 0;
        const strip = (frame: VideoFrame) => {
          const canvas = new OffscreenCanvas(256, 12);
          const context = canvas.getContext('2d', { willReadFrequently: true });
          context?.drawImage(frame, 16, 32, 256, 12, 0, 0, 256, 12);
          return new Uint8Array(context?.getImageData(0, 0, 256, 12).data.buffer ?? new ArrayBuffer(0));
        };
        const end = host.outputFrames((frame) => {
          const arrived = performance.now();
          const now = strip(frame);
          frame.close();
          if (!before) {
            before = now;
            setTimeout(
              () => {
                started = performance.now();
                host.dispatch(by === 0 ? { type: 'deck.play', args: { deck: 1 } } : { type: 'deck.step', args: { deck: 1, frames: by } });
              },
              30 + Math.random() * 40,
            );
          } else if (started > 0 && now.some((v, i) => Math.abs(v - (before?.[i] ?? 0)) > 100)) {
            end();
            resolve(arrived - started);
          }
        });
        setTimeout(() => {
          end();
          resolve(NaN);
        }, 2000);
      }),
    frames,
  );
}

async function decks(page: Page) {
  const newest = (await counts(page)).frame - 30;
  const oldest = await pick(page, (s) => (s.desk.air.replay.kept?.from ?? 0) + 30);
  const any = () => oldest + Math.floor(Math.random() * (newest - oldest));
  const first = any();
  const forwards = await probe(
    page,
    'mast',
    Array.from({ length: 80 }, (_, i) => first + i),
    40,
  );
  const backwards = await probe(
    page,
    'desk',
    Array.from({ length: 80 }, (_, i) => Math.max(oldest, first - i)),
    40,
  );
  const places = Array.from({ length: 40 }, any);
  const seeks = await probe(page, 'line', places);
  const video = await videoSeeks(
    page,
    oldest,
    newest,
    places.map((f) => (f - oldest) / 25),
  );
  await send(page, 'picture.cut', { picture: 'deck-1' });
  await send(page, 'deck.setAngle', { deck: 1, angle: 'line' });
  await send(page, 'deck.goTo', { deck: 1, frame: newest - 200 });
  await wait(500);
  const onAir: number[] = [];
  for (let i = 0; i < 20; i += 1) onAir.push(await stepOnAir(page, i % 2 === 0 ? 1 : -1));
  const plays: number[] = [];
  for (let i = 0; i < 10; i += 1) {
    await send(page, 'deck.goTo', { deck: 1, frame: newest - 300 - i });
    await send(page, 'deck.pause', { deck: 1 });
    await wait(300);
    plays.push((await stepOnAir(page, 0)) / 40);
  }
  await send(page, 'deck.goTo', { deck: 1, frame: newest - 20 });
  await send(page, 'deck.setSpeed', { deck: 1, speed: 100 });
  await send(page, 'deck.reverse', { deck: 1 });
  await wait(500);
  const seen = (await programmeShows(page, 6000)).flatMap((f) => f.burned?.frame ?? []);
  await send(page, 'deck.pause', { deck: 1 });
  const cache = await pick(page, (s) => ({ bytes: s.replayCache, limit: s.desk.show.replay.settings.cacheMegabytes * 1e6 }));
  return {
    forwards: both(forwards),
    backwards: both(backwards),
    seek: both(seeks),
    video: both(video),
    seekGain: both(video).median / both(seeks).median,
    stepOnAir: both(onAir.filter((n) => !Number.isNaN(n))),
    playFrames: both(plays.filter((n) => !Number.isNaN(n))),
    reversePerSecond: new Set(seen).size / 6,
    cacheMB: cache.bytes / 1e6,
    cacheLimitMB: cache.limit / 1e6,
  };
}

/** From the key to the row in the list. */
async function grabs(page: Page): Promise<{ median: number; p95: number }> {
  await page.evaluate(() => {
    const w = window as unknown as { grabs: number[]; pressed: number };
    Object.assign(w, { grabs: [], pressed: 0 });
    window.addEventListener('keydown', (e) => (w.pressed = e.timeStamp), true);
    const list = document.querySelector('[role="listbox"]');
    let rows = window.bivocaHost?.state.desk.show.replay.clips.reduce((top, c) => Math.max(top, c.number), 0) ?? 0;
    if (list) {
      new MutationObserver(() => {
        // The newest stands last in its reel.
        const now = Math.max(
          ...[...list.querySelectorAll('[data-clip]')].map((r) => Number(r.querySelector('span:nth-child(2)')?.textContent ?? 0)),
        );
        if (now > rows && w.pressed > 0) {
          w.grabs.push(performance.now() - w.pressed);
          w.pressed = 0;
        }
        rows = Math.max(rows, now);
      }).observe(list, { childList: true, subtree: true, characterData: true });
    }
  });
  for (let i = 0; i < 8; i += 1) {
    await page.keyboard.press('KeyG');
    await wait(350);
  }
  return both(await page.evaluate(() => (window as unknown as { grabs: number[] }).grabs));
}

/** Ten thousand clips: filtering, and frames a second while list and timeline scroll. */
async function many(page: Page) {
  const base = await pick(page, (s) => s.desk.air.replay.kept?.from ?? 0);
  // Three hours of clips.
  const list = Array.from({ length: 10_000 }, (_, i) => ({
    name: `Clip about ${['kites', 'wind', 'pilots', 'crowd'][i % 4]} ${i}`,
    in: base + i * 27,
    out: base + i * 27 + 100,
    angleIds: ['line'],
    speed: 100,
    rating: i % 6,
    tags: i % 3 === 0 ? 'loop' : '',
    note: '',
  }));
  await send(page, 'clip.import', { reel: 'reel-2', list });
  await send(page, 'reel.choose', { reel: 'reel-2' });
  await wait(1500);
  const clips = list.map((c, i): Clip => ({ ...c, id: `c${i}`, number: i, reelId: 'r', colour: '#5aa9c9' }));
  const filter: number[] = [];
  for (const text of ['kites', 'loop 77', 'wind pilots', 'crowd 9', 'x', 'kites', 'loop', 'wind']) {
    const started = performance.now();
    filterClips(clips, { text, rating: 2, angleId: null, reelId: null });
    filter.push(performance.now() - started);
  }
  const rates = (drive: string) =>
    page.evaluate(
      (how) =>
        new Promise<number>((resolve) => {
          const room = document.querySelector('[role="listbox"]');
          const canvas = document.querySelector('canvas[aria-label="Angles, clips and playheads"]');
          let frames = 0;
          const started = performance.now();
          const step = () => {
            frames += 1;
            if (how === 'list') room?.scrollBy(0, 90);
            else
              canvas?.dispatchEvent(
                new WheelEvent('wheel', { deltaY: frames % 120 < 60 ? 40 : -40, shiftKey: true, bubbles: true, cancelable: true }),
              );
            if (performance.now() - started > 4000) resolve((frames * 1000) / (performance.now() - started));
            else requestAnimationFrame(step);
          };
          requestAnimationFrame(step);
        }),
      drive,
    );
  const grab = await grabs(page);
  const busy = { list: await rates('list'), timeline: await rates('timeline') };
  await send(page, 'replay.stop');
  await wait(1500);
  return { filter: both(filter), busy, listFps: await rates('list'), timelineFps: await rates('timeline'), grabAmongThem: grab };
}

export async function benchReplay(page: Page, minutes: number) {
  // The runner that strips types marks named functions with a helper that pages do not have.
  await page.evaluate('globalThis.__name = (f) => f');
  await press(page, 'Replay');
  await page.waitForSelector('canvas[aria-label="Picture of deck 1"]');
  await page.bringToFront();
  const recorded = await recording(page, minutes);
  const played = await decks(page);
  await send(page, 'deck.jump', { deck: 1, to: 'live' });
  const grab = await grabs(page);
  const clips = await many(page);
  await until(() => pick(page, (s) => s.replay !== null), 'the recorder');
  return { recorded, played, grab, clips };
}

export type ReplayFigures = Awaited<ReturnType<typeof benchReplay>>;

const ms = (n: number) => `${n.toFixed(1)} ms`;
const pair = (p: { median: number; p95: number }, unit = ms) => `${unit(p.median)} | ${unit(p.p95)}`;

export function replayLines({ recorded, played, grab, clips }: ReplayFigures): string[] {
  return [
    `## Replay: four angles 640×360 at 25 beside the demo, monitors on, the programme recorded too (${recorded.minutes} minutes)`,
    '',
    `Angle frames missing ${recorded.missingPercent.toFixed(2)} % (${recorded.refused} of them refused by an encoder), programme frames dropped ${recorded.droppedPercent.toFixed(2)} %, of ${recorded.frames}.`,
    `JavaScript in use grew by ${recorded.growthMB.toFixed(1)} MB after collection, page and workers together: ${recorded.growthPerHourMB.toFixed(1)} MB an hour at that pace.`,
    `Decoded frames kept after all of it: ${played.cacheMB.toFixed(0)} MB of the ${played.cacheLimitMB.toFixed(0)} MB set.`,
    '',
    '| while recording goes on | median | 95th percentile |',
    '|---|---|---|',
    `| reading the next frame (deck thread, there and back) | ${pair(played.forwards)} |`,
    `| reading the frame before | ${pair(played.backwards)} |`,
    `| step command to the programme frame that shows it | ${pair(played.stepOnAir)} |`,
    `| random seek, deck thread there and back | ${pair(played.seek)} |`,
    `| random seek, \`<video>\` in a file of the same recording (${played.seekGain.toFixed(1)} times as long) | ${pair(played.video)} |`,
    `| play command to the first moving programme frame, in frames | ${pair(played.playFrames, (n) => n.toFixed(2))} |`,
    `| Grab key to the row in the list | ${pair(grab)} |`,
    `| the same among 10,000 clips | ${pair(clips.grabAmongThem)} |`,
    `| filtering 10,000 clips | ${pair(clips.filter)} |`,
    '',
    `Reverse at full speed: ${played.reversePerSecond.toFixed(1)} frames a second. With 10,000 clips the list scrolls at ${clips.listFps.toFixed(0)} and the timeline at ${clips.timelineFps.toFixed(0)} frames a second; at ${clips.busy.list.toFixed(0)} and ${clips.busy.timeline.toFixed(0)} while four angles are encoded on the same two cores.`,
    '',
  ];
}
