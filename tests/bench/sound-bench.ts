/** Figures of the sound desk: graph analysis, the audio thread's work, and a long run with everything metered and recorded. */
import { type Page } from 'puppeteer-core';
import { createAir, type Desk } from '#core/desk/air';
import { createShow } from '#core/desk/create';
import { createBus } from '#core/sound/document';
import { deskConfig } from '#core/sound/desk-config';
import { DeskProcessor } from '#core/sound/dsp/desk-processor';
import { BLOCK } from '#core/sound/dsp/stereo';
import { planSound } from '#core/sound/plan';
import { loopReport } from '#core/sound/routing/loops';
import { signalGraph } from '#core/sound/routing/signal-graph';
import { routingReport } from '#core/sound/routing/findings';
import { plainProcessing, plainStrip } from '#core/sound/strip';
import { diceFrom } from '../support/dice';
import { pick, send, wait } from '../support/desk';
import { apartOf } from './apart';
import { finishRecording } from '../support/recording';
import { openHarness } from '../support/harness';
import { type TestBrowser } from '../support/browser';

const quantile = (list: number[], q: number) =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))] ?? NaN;

const CARD = { deviceId: 'card', deviceLabel: 'Card' };

/** A desk of `channels` × `buses` with random sends; eight buses play into a room with eight microphone pairs. */
function bigDesk(channels: number, buses: number, seed: number, density: number, processing = plainProcessing()): Desk {
  const random = diceFrom(seed);
  const show = createShow('bench', 'Bench', { width: 640, height: 360 }, { num: 25, den: 1 });
  const { sound } = show;
  for (let i = 0; i < channels; i += 1) {
    const feed =
      i < 16
        ? ({ kind: 'device', ...CARD, first: (i % 8) * 2 + 1, stereo: true } as const)
        : ({ kind: 'device', deviceId: `line-${i}`, deviceLabel: `Line ${i}`, first: 1, stereo: true } as const);
    sound.inputs.push({ id: `c${i}`, name: `Channel ${i}`, colour: '#5aa9c9', feed, sound: plainStrip(structuredClone(processing)) });
  }
  for (let b = 1; b < buses; b += 1) sound.buses.push(createBus(`b${b}`, `Bus ${b}`, '#8fbf6a', 'live'));
  for (const { id: bus } of sound.buses) {
    for (const { id } of sound.inputs)
      if (random() < density) sound.sends.push({ fromId: id, busId: bus, on: true, levelDb: -6, tap: 'after' });
    for (const { id } of sound.buses)
      if (id !== bus && random() < 0.02) sound.sends.push({ fromId: id, busId: bus, on: true, levelDb: -6, tap: 'after' });
  }
  for (let p = 1; p <= Math.min(8, buses - 1); p += 1) {
    sound.patches.push({ id: `p${p}`, busId: `b${p}`, to: { ...CARD, pair: p } });
    for (let m = 1; m <= 8; m += 1)
      if (random() < 0.3)
        sound.paths.push({ id: `a${p}-${m}`, from: { ...CARD, pair: p }, to: { ...CARD, pair: m }, levelDb: -12, delayMs: 20, on: true });
  }
  return { show, air: createAir(show) };
}

interface GraphFigures {
  p50: number;
  p95: number;
  slowest: number;
  /** Loops found in the median routing. */
  loops: number;
  findings: { p50: number; p95: number };
  /** With loops in a tenth of the density: as people make them. */
  usual: { p50: number; p95: number; loops: number };
}

function timed<T>(run: () => T): [number, T] {
  const start = performance.now();
  const result = run();
  return [performance.now() - start, result];
}

/** Analysis of 128 channels × 32 buses: the graph and all its loops with their breaks, from nothing. */
export function benchGraph(): GraphFigures {
  const measure = (density: number) => {
    const times: number[] = [];
    const counts: number[] = [];
    const findings: number[] = [];
    const shows = Array.from({ length: 60 }, (_, i) => bigDesk(128, 32, 7919 + i * 31, density).show);
    for (let i = 0; i < 480; i += 1) {
      const show = shows[i % 60] as Desk['show'];
      // Copies, so that nothing kept from an earlier analysis helps.
      const fresh = () => ({ ...show, sources: [...show.sources], sound: { ...show.sound } });
      const [one, two] = [fresh(), fresh()];
      const [took, report] = timed(() => loopReport(one, signalGraph(one)));
      const [all] = timed(() => routingReport(two));
      // The first rounds compile the code.
      if (i < 180) continue;
      times.push(took);
      counts.push(report.loops.length);
      findings.push(all);
    }
    return { times, counts, findings };
  };
  const [dense, usual] = [measure(0.1), measure(0.01)];
  return {
    p50: quantile(dense.times, 0.5),
    p95: quantile(dense.times, 0.95),
    slowest: Math.max(...dense.times),
    loops: quantile(dense.counts, 0.5),
    findings: { p50: quantile(dense.findings, 0.5), p95: quantile(dense.findings, 0.95) },
    usual: { p50: quantile(usual.times, 0.5), p95: quantile(usual.times, 0.95), loops: quantile(usual.counts, 0.5) },
  };
}

/** Share of one core that the desk takes: 32 channels with everything switched on, 8 buses with loudness. */
export function benchDesk(channels: number, buses: number): { plain: number; full: number } {
  const share = (everything: boolean) => {
    const processing = plainProcessing();
    if (everything) for (const part of [processing.highPass, processing.gate, processing.eq, processing.compressor]) part.on = true;
    if (everything) for (const band of processing.eq.bands) band.gainDb = 3;
    const { show, air } = bigDesk(channels, buses, 11, 0.5, processing);
    const desk = new DeskProcessor(48_000);
    desk.configure(deskConfig(show, air));
    desk.setGains({ ...planSound(show, air, 0), held: [] });
    const noise = diceFrom(3);
    const block = {
      left: Float32Array.from({ length: BLOCK }, () => noise() * 0.2 - 0.1),
      right: Float32Array.from({ length: BLOCK }, () => noise() * 0.2 - 0.1),
    };
    const feeds = new Map(
      show.sound.inputs.flatMap(({ feed }) =>
        feed.kind === 'device' ? [[`input ${feed.deviceId} ${Math.ceil(feed.first / 2)}`, block] as const] : [],
      ),
    );
    for (let i = 0; i < 2000; i += 1) desk.process(feeds);
    const seconds = 5;
    const [took] = timed(() => {
      for (let i = 0; i < (48_000 * seconds) / BLOCK; i += 1) desk.process(feeds);
    });
    return took / 1000 / seconds;
  };
  return { plain: share(false), full: share(true) };
}

interface RunFigures {
  minutes: number;
  channels: number;
  buses: number;
  lateMs: number;
  underruns: number;
  underrunMs: number;
  resyncs: number;
  silenceMs: number;
  dropped: number;
  /** Sound against picture in the recording, ms: at its start and at its end; the mean of the beeps. */
  startMs: number;
  endMs: number;
}

/** Makes the demo a show of 32 channels and 8 buses, and records it with flash and beep on air. */
export async function benchSoundRun(page: Page, browser: TestBrowser, minutes: number): Promise<RunFigures> {
  await send(page, 'sound.setChannel', { channels: ['mic-presenter', 'mic-field', 'music'], muted: true });
  const count = () =>
    pick(page, (s) => ({
      channels:
        s.desk.show.sources.filter((x) => ['simulated', 'test', 'deck', 'camera'].includes(x.settings.kind)).length +
        s.desk.show.sound.inputs.length,
      buses: s.desk.show.sound.buses.length,
    }));
  for (let i = (await count()).channels; i < 32; i += 1)
    await send(page, 'sound.addChannel', {
      name: `Pier ${i}`,
      feed: { kind: 'device', deviceId: 'simulated-card', deviceLabel: 'Simulated sound card', first: (i % 3) * 2 + 1, stereo: true },
      anyway: true,
    });
  const added = await pick(page, (s) => s.desk.show.sound.inputs.filter((c) => c.name.startsWith('Pier ')).map((c) => c.id));
  if (added.length > 0) await send(page, 'sound.setChannel', { channels: added, faderDb: -60 });
  for (const channel of added)
    for (const part of ['HighPass', 'Gate', 'Compressor']) await send(page, `sound.set${part}`, { channel, on: true });
  for (let i = (await count()).buses; i < 8; i += 1) await send(page, 'sound.addBus', { name: `Bus ${i}` });
  for (const bus of await pick(page, (s) => s.desk.show.sound.buses.map((b) => b.id))) await send(page, 'loudness.start', { bus });
  await send(page, 'output.setRecording', { megabits: 0.3 });
  await send(page, 'picture.cut', { picture: 'sync' });
  await wait(3000);
  const { channels, buses } = await count();
  const stats = () =>
    page.evaluate(() => {
      const host = window.bivocaHost as NonNullable<typeof window.bivocaHost>;
      const played = (host.sound.context as unknown as { playbackStats?: { underrunEvents: number; underrunDuration: number } })
        .playbackStats;
      return {
        lateMs: host.sound.store.getState().lateMs,
        underruns: played?.underrunEvents ?? NaN,
        underrunMs: (played?.underrunDuration ?? NaN) * 1000,
        resyncs: host.sound.resyncs,
        silenceMs: host.state.encoder.silenceMs,
        dropped: host.state.mixer.dropped,
      };
    });
  const before = await stats();
  const outcome = await send(page, 'output.startRecording');
  await wait(minutes * 60_000);
  const after = await stats();
  const file = await finishRecording(page, outcome.ok ? String(outcome.result.id) : '');
  const harness = await openHarness(browser);
  const offset = async (from: number, to: number) => {
    const found = await harness.page.evaluate((data, span) => window.harness.analyseFile(data, span), file, { from, to });
    return apartOf(found, 4, 128);
  };
  const startMs = await offset(0, 15);
  const endMs = await offset(minutes * 60 - 17, minutes * 60 - 2);
  await harness.close();
  const gained = Object.fromEntries(
    Object.entries(after).map(([key, value]) => [key, value - before[key as keyof typeof before]]),
  ) as typeof after;
  return { minutes, channels, buses, ...gained, startMs, endMs };
}

const ms = (n: number) => `${n.toFixed(2)} ms`;

/** Lines for the table of results. */
export function soundLines(graph: GraphFigures, desk: ReturnType<typeof benchDesk>, run: RunFigures | null): string[] {
  return [
    '## Sound',
    '',
    '| what | median | 95 % |',
    '|---|---|---|',
    `| graph and loops of 128 channels × 32 buses, loops through patch and room (${graph.loops} listed) | ${ms(graph.p50)} | ${ms(graph.p95)} |`,
    `| the same with a tenth of the sends (${graph.usual.loops} loops) | ${ms(graph.usual.p50)} | ${ms(graph.usual.p95)} |`,
    `| everything else that is found, besides (self, crew, twice, unheard) | ${ms(graph.findings.p50)} | ${ms(graph.findings.p95)} |`,
    '',
    `32 channels into 8 buses on the audio thread, measured without a browser: ${(desk.plain * 100).toFixed(1)} % of a core, with high-pass, gate, four bands and compressor in every channel ${(desk.full * 100).toFixed(1)} %.`,
    '',
    ...(run
      ? [
          `${run.minutes} minutes of the demo with ${run.channels} channels and ${run.buses} buses, all metered, loudness of every bus, recording:`,
          '',
          '| sound that came late | device underruns | clock put together anew | silence put into the file | frames dropped | picture to sound at the start | at the end |',
          '|---|---|---|---|---|---|---|',
          `| ${run.lateMs} ms | ${run.underruns} (${run.underrunMs.toFixed(0)} ms) | ${run.resyncs} | ${run.silenceMs} ms | ${run.dropped} | ${run.startMs.toFixed(1)} ms | ${run.endMs.toFixed(1)} ms |`,
          '',
        ]
      : []),
  ];
}
