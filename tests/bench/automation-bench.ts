/** Macros and triggers: steps on their frames beside the demo, and what they cost. */
import { type Page } from 'puppeteer-core';
import { carryOut } from '#core/automation/carry-out';
import { commandAct, createMacro, createStep, createTrigger, createWhen, untilAct, waitAct } from '#core/automation/create';
import { type StepAct } from '#core/automation/document';
import { dryRun } from '#core/automation/dry-run';
import { nextDue } from '#core/automation/runs';
import { WHEN_EVENTS } from '#core/automation/document';
import { type Facts, happened } from '#core/automation/watch';
import { type Desk } from '#core/desk/air';
import { executeAll } from '#core/desk/execute';
import { createDemoShow } from '#standins/show/demo';
import { passes, pick, send, until } from '../support/desk';

export interface AutomationFigures {
  /** A macro that cuts every five frames: frames that were seen, and those that showed the wrong picture. */
  frames: { seen: number; wrong: number };
  /** A macro of 500 steps at one frame: frames from the press to it, frames by which its steps came late, milliseconds of the page. */
  atOnce: { frames: number; late: number };
  /** Milliseconds a frame of 50 macros that wait and 200 armed triggers, in core. */
  idle: number;
  /** Milliseconds of a dry run of 500 steps. */
  dry: number;
  /** The log with 100,000 lines: megabytes, frames a second while it scrolls beside the demo, and a row a frame. */
  log: { megabytes: number; fast: number; slow: number };
}

const ART = { bug: 'a1', frame: 'a2', sail: 'a3', swell: 'a4', templates: {}, heats: { columns: [], rows: [] }, port: 4300 };

const steps = (acts: readonly StepAct[]) => acts.map((act, i) => createStep(`s${i}`, act));

function inCore(): Pick<AutomationFigures, 'idle' | 'dry'> {
  const demo = createDemoShow('bench', ART);
  const five = Array.from({ length: 500 }, (_, i) =>
    i % 10 === 9
      ? waitAct(5, 'frames')
      : i % 3 === 0
        ? commandAct('picture.cut', { picture: i % 2 === 0 ? 'shore' : 'line' })
        : commandAct('sound.setFader', { channel: 'shore', db: -(i % 40) }),
  );
  const macro = createMacro('five', 'Five hundred', 0, { steps: steps(five), onFailure: 'go-on' });
  const waiting = createMacro('waits', 'Waits', 1, { steps: steps([untilAct('press'), commandAct('picture.take')]) });
  const triggers = Array.from({ length: 200 }, (_, i) =>
    createTrigger(
      `t${i}`,
      `Trigger ${i}`,
      createWhen(WHEN_EVENTS[i % 11] ?? 'next', { pictureId: 'mast', laneId: 'lane-1', clockId: 'heat' }),
      {
        kind: 'command',
        type: 'run.go',
        args: {},
      },
    ),
  );
  let desk: Desk = { show: { ...demo.show, automation: { macros: [macro, waiting], triggers } }, air: demo.air };
  dryRun(desk, macro, 0, true);
  const began = performance.now();
  dryRun(desk, macro, 0, true);
  const dry = performance.now() - began;
  let ids = 0;
  for (let i = 0; i < 50; i += 1) {
    const done = executeAll(desk, [{ type: 'macro.run', args: { macro: 'waits' } }], { frame: 0, newId: () => `r${(ids += 1)}` });
    if (done.ok) desk = done.desk;
  }
  let facts: Facts | null = null;
  const look = (frames: number, from: number) => {
    for (let frame = from; frame < from + frames; frame += 1) {
      ({ facts } = happened(facts, desk, frame, 6));
      const due = nextDue(desk, frame + 6);
      if (due) carryOut(due, () => ({ ok: true }));
    }
  };
  look(100, 0);
  const started = performance.now();
  look(1000, 100);
  return { dry, idle: (performance.now() - started) / 1000 };
}

async function inThePicture(page: Page): Promise<AutomationFigures['frames']> {
  const cut = (picture: string) => ({ act: commandAct('picture.cut', { picture }) });
  const list = Array.from({ length: 250 }, (_, i) => [cut(i % 2 === 0 ? 'harbour' : 'bars'), { act: waitAct(5, 'frames') }]).flat();
  await send(page, 'macro.add', { name: 'Strobe', steps: list });
  await passes(page, 75);
  return page.evaluate(
    () =>
      new Promise<{ seen: number; wrong: number }>((resolve) => {
        const host = window.bivocaHost!;
        const { rate, automation } = host.state.desk.show;
        const context = new OffscreenCanvas(64, 36).getContext('2d', { willReadFrequently: true })!;
        let start = Infinity;
        const count = { seen: 0, wrong: 0 };
        const stop = host.outputFrames((frame) => {
          context.drawImage(frame, 0, 0, 64, 36);
          const at = Math.round((frame.timestamp * rate.num) / rate.den / 1e6) - start;
          frame.close();
          if (at < 0) return;
          if (at >= 1245) {
            stop();
            resolve(count);
            return;
          }
          const [, g = 0, b = 0] = context.getImageData(31, 10, 1, 1).data;
          count.seen += 1;
          if (g > b + 30 !== (Math.floor(at / 5) % 2 === 1)) count.wrong += 1;
        });
        host.dispatch({ type: 'macro.run', args: { macro: automation.macros.at(-1)?.id } });
        start = Object.values(host.state.desk.air.automation.runs)[0]?.start ?? Infinity;
      }),
  );
}

async function atOnce(page: Page): Promise<AutomationFigures['atOnce']> {
  const acts = Array.from({ length: 500 }, (_, i) => ({ act: commandAct('sound.setFader', { channel: 'shore', db: -(i % 40) }) }));
  await send(page, 'macro.add', { name: 'At once', steps: [...acts, { act: waitAct(400, 'frames') }] });
  const pressed = await page.evaluate(() => {
    const host = window.bivocaHost!;
    const { frame } = host.state;
    host.dispatch({ type: 'macro.run', args: { macro: host.state.desk.show.automation.macros.at(-1)?.id } });
    return frame;
  });
  await until(() => pick(page, (s) => Object.values(s.desk.air.automation.runs)[0]?.index === 500), 'its steps');
  const run = await pick(page, (s) => Object.values(s.desk.air.automation.runs)[0]);
  await send(page, 'run.stop');
  return { frames: (run?.start ?? 0) - pressed, late: run?.late ?? NaN };
}

/** Fills the log of the day and scrolls it. */
async function theLog(page: Page): Promise<AutomationFigures['log']> {
  const session = await page.createCDPSession();
  const used = async () => {
    await session.send('HeapProfiler.collectGarbage');
    return page.evaluate(() => (performance as unknown as { memory: { usedJSHeapSize: number } }).memory.usedJSHeapSize);
  };
  const before = await used();
  await page.evaluate(() => {
    const { log } = window.bivocaHost!;
    for (let i = 0; i < 100_000; i += 1) {
      if (i % 5 === 0) log.add(i, 'sent', 'lamps', `lamp ${i % 8} ${i % 2 === 0 ? 'air' : 'off'} ${i}`);
      else log.add(i, 'here', 'lane.showPicture', JSON.stringify({ lane: `lane-${(i % 4) + 1}`, picture: 'card-1', note: i }));
    }
  });
  await passes(page, 50);
  const megabytes = ((await used()) - before) / 1e6;
  await page.keyboard.down('Shift');
  await page.keyboard.press('F4');
  await page.waitForSelector('[role=tab]');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('KeyD');
  await page.keyboard.up('Shift');
  await page.waitForSelector('[data-line]');
  const scroll = (by: number) =>
    page.evaluate(async (pixels) => {
      const box = document.querySelector<HTMLElement>('[aria-label="Log of the day"]');
      if (box) box.scrollTop = 0;
      const begun = performance.now();
      let frames = 0;
      while (performance.now() - begun < 3000) {
        await new Promise((r) => requestAnimationFrame(r));
        if (box) box.scrollTop += pixels;
        frames += 1;
      }
      return (frames * 1000) / (performance.now() - begun);
    }, by);
  return { megabytes, fast: await scroll(320), slow: await scroll(40) };
}

export async function benchAutomation(page: Page): Promise<AutomationFigures> {
  return { frames: await inThePicture(page), atOnce: await atOnce(page), ...inCore(), log: await theLog(page) };
}

export const automationLines = (f: AutomationFigures): string[] => [
  '## Macros and triggers',
  '',
  `A macro of 500 steps that cuts every five frames, beside the demo: ${f.frames.wrong} of ${f.frames.seen} frames that were seen showed another picture than its steps say. 500 steps at one frame: begun ${f.atOnce.frames} frames after the last that was mixed at the press, ${f.atOnce.late} frames late. 50 macros that wait and 200 armed triggers: ${f.idle.toFixed(2)} ms a frame. A dry run of 500 steps with its pictures: ${f.dry.toFixed(0)} ms. The log with 100,000 lines: ${f.log.megabytes.toFixed(0)} MB; it scrolls at ${f.log.fast.toFixed(0)} frames a second at eight lines a frame, ${f.log.slow.toFixed(0)} at one, beside the demo.`,
  '',
];
