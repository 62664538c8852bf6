/** Macros in the real interface: made, recorded, edited, run, tried, stopped; their steps on their frames in the picture. */
import { type KeyInput } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { chord as chordOn, keepOnly, openDemo, passes, pick, press, said as saidOn, send, until, uploadTo } from '../support/desk';
import { Downloads } from '../support/downloads';
import { openHarness } from '../support/harness';
import { finishRecording, records, startRecording } from '../support/recording';

let app: App;
let browser: TestBrowser;
let downloads: Downloads;
let page: TestBrowser['page'];
beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  ({ page } = browser);
  downloads = await Downloads.of(browser);
  await openDemo(page, app);
  await send(page, 'picture.cut', { picture: 'harbour' });
  await keepOnly(page, 'line', 'mast', 'bars', 'harbour');
  // The one of the demo lets a macro go on whenever the simulated kite leaves the line.
  await send(page, 'trigger.armAll', { armed: false });
});
afterAll(async () => {
  await downloads.close();
  await browser.close();
  await app.close();
});

const said = (words: string) => saidOn(page, words);
const chord = (held: ('Alt' | 'Shift' | 'Control')[], key: KeyInput) => chordOn(page, held, key);
const room = async () => {
  await chord(['Shift'], 'F4');
  await page.waitForSelector('[aria-label="Macros"]');
};
const runs = () =>
  pick(page, (s) => Object.values(s.desk.air.automation.runs).map((r) => ({ index: r.index, late: r.late, paused: r.pausedAt !== null })));
const macros = () => pick(page, (s) => s.desk.show.automation.macros.map((m) => ({ id: m.id, name: m.name, steps: m.steps.length })));
const steps = () => page.$$eval('[data-step]', (rows) => rows.map((r) => r.getAttribute('aria-label') ?? ''));

it('changes the picture on the very frames that its steps fall on', async () => {
  const cut = (picture: string) => ({ act: { kind: 'command', type: 'picture.cut', args: { picture } } });
  const wait = { act: { kind: 'wait', amount: 10, unit: 'frames' } };
  const list = [
    ...Array.from({ length: 12 }, (_, i) => [cut(i % 2 === 0 ? 'harbour' : 'bars'), wait]).flat(),
    { act: { kind: 'wait', amount: 400, unit: 'frames' } },
  ];
  const made = await send(page, 'macro.add', { name: 'Strobe', steps: list });
  const macro = await pick(page, (s) => s.desk.show.automation.macros.at(-1)?.id ?? '');
  expect(made).toBeTruthy();
  // What a page does at first takes longer than anything later.
  await passes(page, 75);
  const late = () => pick(page, (s) => s.mixer.desksLate);
  const lateBefore = await late();
  /** Which of two pictures each frame shows, by frame number. */
  const { frames, start } = await page.evaluate(
    (id) =>
      new Promise<{ frames: [number, boolean][]; start: number }>((resolve) => {
        const host = window.bivocaHost!;
        const rate = host.state.desk.show.rate;
        const list: [number, boolean][] = [];
        const context = new OffscreenCanvas(64, 36).getContext('2d', { willReadFrequently: true })!;
        let begins = 0;
        const stop = host.outputFrames((frame) => {
          context.drawImage(frame, 0, 0, 64, 36);
          const at = Math.round((frame.timestamp * rate.num) / rate.den / 1e6);
          frame.close();
          const pixel = context.getImageData(31, 10, 1, 1).data;
          // There the bars are green; the harbour is plain blue.
          list.push([at, (pixel[1] ?? 0) > (pixel[2] ?? 0) + 30]);
          if (begins === 0 || at < begins + 130) return;
          stop();
          resolve({ frames: list, start: begins });
        });
        host.dispatch({ type: 'macro.run', args: { macro: id } });
        begins = Object.values(host.state.desk.air.automation.runs)[0]?.start ?? 0;
      }),
    macro,
  );
  await send(page, 'run.stop');
  await send(page, 'macro.remove', { macro });
  await passes(page, 5);
  const judged = frames.flatMap(([at, green]) => {
    const step = Math.floor((at - start) / 10);
    return at < start || step >= 12 ? [] : [{ step, wrong: green !== (step % 2 === 1) }];
  });
  expect(judged.length).toBeGreaterThan(20);
  // A slow machine may not get to all steps in time: the mixer counts them, and no other is seen on a wrong frame.
  const wrong = new Set(judged.filter((f) => f.wrong).map((f) => f.step));
  expect(wrong.size).toBeLessThanOrEqual((await late()) - lateBefore);
  expect(wrong.size).toBeLessThan(12);
});

it('starts a phase of the event by one press from whatever state, waits for a press, and is held, run on and stopped from any room', async () => {
  await send(page, 'lane.showPicture', { lane: 'lane-1', picture: 'quote-1' });
  await send(page, 'clock.start', { clock: 'heat' });
  await chord(['Control', 'Alt'], '1');
  await until(async () => (await runs())[0]?.index === 10, 'the wait for a press');
  const up = () =>
    pick(page, (s) =>
      s.desk.show.lanes.filter((l) => s.desk.air.lanes[l.id]?.fade.to === 1).map((l) => [l.name, s.desk.air.lanes[l.id]?.picture?.id]),
    );
  expect((await up()).sort()).toEqual([
    ['Bug', 'wind-dial'],
    ['Clock', 'heat-clock'],
    ['Names', 'card-1'],
  ]);
  expect(await pick(page, (s) => s.desk.air.onAirId)).toBe('line');
  // At the foot of the Desk as of every room.
  await said('Launch window');
  await said('PRESS');
  await chord(['Alt'], 'h');
  await until(async () => (await runs())[0]?.paused === true, 'the pause');
  await chord(['Alt'], 'h');
  await until(async () => (await runs())[0]?.paused === false, 'running on');
  await chord(['Alt'], 'v');
  await until(async () => (await runs())[0]?.index === 13, 'the wait for the clock');
  expect((await up()).map(([name]) => name)).toEqual(['Clock']);
  // Nearly at its end: the wait is over on the frame on which the clock is.
  await send(page, 'clock.setTo', { clock: 'heat', seconds: 1 });
  await until(async () => (await up()).some(([, id]) => id === 'standings-table'), 'the standings');
  expect(await pick(page, (s) => s.desk.air.nextId)).toBe('mast');
  // After a control, the number keys still switch.
  await page.keyboard.press('5');
  await until(() => pick(page, (s) => s.desk.air.nextId === 'bars'), 'the key');
  await press(page, 'Stop Launch window');
  await until(async () => (await runs()).length === 0, 'the end');
  expect((await up()).map(([name]) => name).sort()).toEqual(['Clock', 'Names']);
});

it('is in the recording from start to end, by one press: clock, card, its going by a trigger, and the standings when the clock has ended', async () => {
  // Over a plain picture, and in seconds instead of minutes. What earlier tests have left up would lie over what is looked at.
  await send(page, 'picture.cut', { picture: 'bars' });
  for (const lane of ['lane-1', 'lane-2', 'lane-3', 'lane-4']) await send(page, 'lane.hide', { lane });
  await passes(page, 25);
  const launch = await pick(page, (s) => s.desk.show.automation.macros.find((m) => m.id === 'launch-window')!);
  const stepOf = (type: string) => launch.steps.find((s) => s.act.kind === 'command' && s.act.type === type)?.id ?? '';
  const set = (type: string, args: object) =>
    send(page, 'step.set', { macro: launch.id, steps: [stepOf(type)], act: { kind: 'command', type, args } });
  await set('picture.cut', { picture: 'harbour' });
  await set('clock.setTo', { clock: 'heat', seconds: 5 });
  const when = await pick(page, (s) => s.desk.show.automation.triggers[0]!.when);
  const trigger = await send(page, 'trigger.add', {
    when: { ...when, event: 'clock-passes', sheetId: null, row: '', column: '', value: '', clockId: 'heat', seconds: 2.5 },
    then: { kind: 'command', type: 'run.go', args: {} },
  });
  const recording = await startRecording(page);
  await records(page, 600);
  await page.keyboard.down('Control');
  await chord(['Alt'], '1');
  await page.keyboard.up('Control');
  await until(async () => (await runs())[0]?.index === 16, 'the last wait');
  await records(page, 1000);
  const file = await finishRecording(page, recording);
  const harness = await openHarness(browser);
  const { pictures } = await harness.page.evaluate((data) => window.harness.analyseFile(data), file);
  await harness.close();
  await page.bringToFront();
  /** The first picture from one on of which this is so: its place in the file. */
  const first = (from: number, so: (grid: (typeof pictures)[0]['grid']) => boolean): number => {
    const at = pictures.findIndex((p, i) => i >= from && so(p.grid));
    expect(at, 'what the recording should show').toBeGreaterThanOrEqual(from);
    return at;
  };
  /** Plain blue of the harbour, in a cell of nine. */
  const plain = (cell: number) => (grid: (typeof pictures)[0]['grid']) =>
    [0x16, 0x40, 0x5a].every((v, i) => Math.abs((grid[cell]?.[i] ?? 0) - v) < 14);
  expect(plain(4)(pictures[3]!.grid)).toBe(false);
  const cut = first(0, plain(4));
  const card = first(cut, (g) => !plain(6)(g));
  const gone = first(card, plain(6));
  const standings = first(gone, (g) => !plain(4)(g) || !plain(3)(g));
  const seconds = (a: number, b: number) => (pictures[b]?.time ?? 0) - (pictures[a]?.time ?? 0);
  // 15 frames to the card, which begins with the clock; it goes with 2.5 s left on it, and at its end the table comes: fades are longer by some
  // frames. A page that is busy may be late with the cut, which the run says.
  const late = (await pick(page, (s) => Math.max(0, ...Object.values(s.desk.air.automation.runs).map((r) => r.late)))) * 0.04;
  expect(seconds(cut, card)).toBeGreaterThan(0.5 - late);
  expect(seconds(cut, card)).toBeLessThan(1.6 + late);
  expect(seconds(card, gone)).toBeGreaterThan(1.9);
  expect(seconds(cut, standings)).toBeGreaterThan(5.4 - late);
  expect(seconds(cut, standings)).toBeLessThan(9);
  await send(page, 'run.stop');
  await send(page, 'trigger.remove', { trigger: trigger.ok ? trigger.result.id : '' });
  for (const { id, act } of launch.steps) await send(page, 'step.set', { macro: launch.id, steps: [id], act });
});

it('records what is done, in any room, with its waits; the macro is edited by key and runs', async () => {
  const before = await macros();
  await chord(['Alt'], 'm');
  await said('0 steps');
  await page.keyboard.press('5');
  await said('1 step');
  await passes(page, 15);
  await page.keyboard.press('Space');
  await said('2 steps');
  await chord(['Alt', 'Shift'], 'm');
  await said('3 steps');
  await chord(['Alt'], 'm');
  await until(async () => (await macros()).length === before.length + 1, 'the macro');
  await room();
  const id = (await macros()).at(-1)?.id ?? '';
  await page.click(`[data-macro="${id}"]`);
  const made = await steps();
  expect(made[0]).toBe('Step 1: Put Bars and tone into Next');
  expect(made[1]).toMatch(/^Step 2: Wait \d+ frames$/);
  expect(made[2]).toBe('Step 3: Take Next to air');
  // The wait goes, the take goes first, by key.
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Delete');
  await until(async () => (await steps()).length === made.length - 1, 'the step that is gone');
  await chord(['Alt'], 'ArrowUp');
  await until(async () => (await steps())[0] === 'Step 1: Take Next to air', 'the step further up');
  await page.keyboard.press('x');
  await until(() => pick(page, (s) => s.desk.show.automation.macros.at(-1)?.steps[0]?.on === false), 'the step that is off');
  // What it comes to is said before; nothing goes to air.
  await page.keyboard.press('t');
  await said('Bars and tone');
  await send(page, 'picture.setNext', { picture: 'harbour' });
  await page.keyboard.press('r');
  await until(() => pick(page, (s) => s.desk.air.nextId === 'bars'), 'what it does');
  await send(page, 'run.stop');
  await chord(['Control'], 'z');
});

it('takes parts of the show as they are now, sweeps a step, and says what is wrong', async () => {
  await press(page, 'Macro');
  const name = await page.waitForSelector('input[aria-label="Name of the macro"]');
  await name?.click({ count: 3 });
  await name?.type('Evening');
  await page.keyboard.press('Enter');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await send(page, 'clock.pause', { clock: 'heat' });
  await press(page, 'As it is now…');
  await said('Steps that set all values of these parts');
  await page.evaluate(() => {
    for (const label of document.querySelectorAll<HTMLLabelElement>('[role=dialog] label'))
      if (label.textContent === 'Heat clock') label.querySelector('input')?.click();
  });
  await press(page, 'Add 2 steps');
  await until(async () => (await steps()).some((s) => s.includes('Set Heat clock to')), 'the steps of the clock');
  await page.keyboard.press('s');
  const find = await page.waitForSelector('input[aria-label="Find a command"]');
  await find?.type('cut');
  await page.evaluate(() => {
    for (const b of document.querySelectorAll<HTMLElement>('[aria-label="Commands"] button'))
      if (b.textContent?.startsWith('Cut')) return b.click();
  });
  await until(async () => (await steps()).at(-1)?.endsWith(': Cut'), 'the step');
  await page.evaluate(() => document.querySelector<HTMLElement>('details summary')?.click());
  await page.evaluate(() => {
    for (const label of document.querySelectorAll<HTMLLabelElement>('[aria-label="Values"] label'))
      if (['Flight line', 'Mast overhead'].includes(label.textContent ?? '')) label.querySelector('input')?.click();
  });
  await press(page, 'Make 2 steps');
  await until(async () => (await steps()).filter((s) => s.includes('Cut to')).length === 2, 'a step for each');
  expect((await steps()).slice(-2)).toEqual([expect.stringContaining('Flight line'), expect.stringContaining('Mast overhead')]);
  // Both on one frame: nothing is seen of the first.
  await said('sets the same again on the same frame');
  const refused = await page.evaluate(() => {
    const { macros: list } = window.bivocaHost!.state.desk.show.automation;
    const macro = list.at(-1)?.id;
    return window.bivocaHost!.dispatch({
      type: 'step.add',
      args: { macro, steps: [{ act: { kind: 'command', type: 'macro.run', args: { macro } } }] },
    });
  });
  expect(refused.ok ? '' : refused.error.message).toContain('Evening would run itself');
  expect(browser.troubles).toEqual([]);
});

it('comes as a file: what clashes and what is missing is asked, and nothing is brought in by halves', async () => {
  const before = await macros();
  const text = await page.evaluate(() => {
    const { macros: list } = window.bivocaHost!.state.desk.show.automation;
    const around = structuredClone(list.find((m) => m.id === 'look-around')!);
    const act = around.steps[0]!.act;
    if (act.kind === 'command') act.args = { picture: 'from-elsewhere' };
    return JSON.stringify({
      format: 'bivoca-macros',
      version: 1,
      macros: [around],
      named: [{ id: 'from-elsewhere', to: 'picture', name: 'Lighthouse' }],
    });
  });
  const file = async (name: string, data: string) => {
    await press(page, 'File');
    await page.waitForSelector('input[aria-label="File of macros"]');
    await uploadTo(page, 'File of macros', downloads.folder, name, data);
  };
  await file('torn.macros.json', text.slice(0, 100));
  await said('torn.macros.json: The file is no JSON, or cut off');
  expect(await macros()).toEqual(before);
  await file('around.macros.json', text);
  await said('Look around is here already');
  await said('Lighthouse');
  await page.select('select[aria-label="In the place of Lighthouse"]', 'mast');
  await press(page, 'Bring it in');
  await until(async () => (await macros()).length === before.length + 1, 'the macro');
  expect(await pick(page, (s) => s.desk.show.automation.macros.at(-1)?.steps[0]?.act)).toMatchObject({ args: { picture: 'mast' } });
  await send(page, 'history.undo');
  expect(await macros()).toEqual(before);
});

it('does something by itself when something happens: on the frame on which a clock ends; held, nothing does', async () => {
  await page.waitForSelector('::-p-aria([name="Triggers"][role="tab"])').then((tab) => tab?.click());
  await press(page, 'Trigger');
  await page.select('select[aria-label="When"]', 'clock-ends');
  await until(() => pick(page, (s) => s.desk.show.automation.triggers.at(-1)?.when.event === 'clock-ends'), 'the event');
  await page.select('select[aria-label="When: which"]', 'heat');
  await page.select('select[aria-label="Then"]', 'picture.cut');
  await until(() => pick(page, (s) => s.desk.show.automation.triggers.at(-1)?.then.type === 'picture.cut'), 'the act');
  await page.waitForSelector('section[aria-label="Then"] select[aria-label="Source"]');
  await page.select(
    'section[aria-label="Then"] select[aria-label="Source"]',
    await page.$eval(
      'section[aria-label="Then"] select[aria-label="Source"]',
      (select) => [...(select as HTMLSelectElement).options].find((o) => o.text === 'Bars and tone')?.value ?? '',
    ),
  );
  await said('When a clock ends: Heat clock, then Cut to Bars and tone.');
  const run = async (frames: number) => {
    await send(page, 'picture.cut', { picture: 'harbour' });
    await send(page, 'clock.pause', { clock: 'heat' });
    await send(page, 'clock.setTo', { clock: 'heat', seconds: frames / 25 });
    await passes(page, 12);
    await send(page, 'clock.start', { clock: 'heat' });
    return pick(page, (s) => (s.desk.air.graphics.clocks.heat?.start ?? 0) - (s.desk.air.graphics.clocks.heat?.value ?? 0) + 90 * 25);
  };
  const end = await run(40);
  await until(() => pick(page, (s) => s.desk.air.onAirId === 'bars'), 'what it does');
  const line = await pick(page, (s) => s.desk.air.automation.log.at(-1));
  expect(line?.why).toBe(null);
  // On its frame, or on the first that a slow page gets to after it; never before.
  expect(line?.frame).toBeGreaterThanOrEqual(end);
  expect(line?.frame).toBeLessThan(end + 50);
  await said('acted');
  await chord(['Alt'], 'h');
  await said('Automatic: held');
  await run(20);
  await passes(page, 45);
  expect(await pick(page, (s) => s.desk.air.onAirId)).toBe('harbour');
  await chord(['Alt'], 'h');
  await send(page, 'trigger.armAll', { armed: false });
  expect(browser.troubles).toEqual([]);
});

it('is text too: what is typed counts when it has no faults; what it asks for is asked before it runs', async () => {
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await chord(['Shift'], 'KeyM');
  await page.waitForSelector('[data-macro="look-around"]');
  await page.click('[data-macro="look-around"]');
  await page.keyboard.press('v');
  await page.waitForSelector('[aria-label="Macro as text"]');
  const put = async (text: string) => {
    await page.click('[aria-label="Macro as text"]');
    await chord(['Control'], 'a');
    await page.keyboard.sendCharacter(text);
  };
  const look = () => pick(page, (s) => s.desk.show.automation.macros.find((m) => m.id === 'look-around')?.steps.map((x) => x.act) ?? []);
  const before = await look();
  await put('{ "steps": [ { "do": "picture.cut", "with": { "picture": "nowhere" } }, { "wait": "long" } ] }');
  await said('2 faults');
  await page.waitForSelector('.cm-lintRange-error');
  expect(await look()).toEqual(before);
  await put('{ "name": "One look", "steps": [ { "do": "picture.cut", "with": { "picture": "mast" } } ] }');
  await until(async () => (await look()).length === 1, 'what was typed');
  await until(async () => (await macros()).some((m) => m.name === 'One look'), 'its name');
  await page.keyboard.press('Escape');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('v');
  expect(await steps()).toEqual(['Step 1: Cut to Mast overhead']);
  // In the place of the picture stands what is asked for.
  await send(page, 'macro.setAsks', { macro: 'look-around', asks: [{ id: 'q', name: 'Camera', kind: 'source', otherwise: '' }] });
  await page.click('[data-step] button');
  await page.waitForSelector('select[aria-label$="as it is given"]');
  await page.select('select[aria-label$="as it is given"]', 'Camera');
  await until(async () => (await steps())[0] === 'Step 1: Cut to ‹Camera›', 'the value that is asked for');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('r');
  await said('It asks for this.');
  await page.select('[role=dialog] select[aria-label="Camera"]', 'line');
  await page.evaluate(() => document.querySelector<HTMLElement>('[role=dialog] button[type=submit]')?.click());
  await until(() => pick(page, (s) => s.desk.air.onAirId === 'line'), 'what it does');
  await until(async () => (await runs()).length === 0, 'its end');
});

it('shows what would be on air after each step, and lets a picture be chosen by seeing it', async () => {
  await room();
  const cut = (picture: string) => ({ act: { kind: 'command', type: 'picture.cut', args: { picture } } });
  await send(page, 'picture.cut', { picture: 'line' });
  await send(page, 'macro.add', { name: 'Seen', steps: [cut('bars'), cut('harbour')] });
  const row = await page.waitForSelector('::-p-xpath(//*[@aria-label="Macros"]//button[contains(., "Seen")])');
  await row?.click();
  await press(page, 'Try it dry');
  /** The middle of the picture after each step. */
  const seen = () =>
    page.$$eval('canvas[aria-label="On air after it"]', (all) =>
      all.map((canvas) => {
        const small = new OffscreenCanvas(16, 9).getContext('2d', { willReadFrequently: true })!;
        small.drawImage(canvas, 0, 0, 16, 9);
        return [...small.getImageData(8, 3, 1, 1).data].slice(0, 3);
      }),
    );
  const onAir = await pick(page, (s) => s.desk.air.onAirId);
  // The bars are magenta there; the harbour is plain blue.
  await until(async () => {
    const [bars, harbour] = await seen();
    return bars && harbour && (bars[0] ?? 0) > 120 && (harbour[0] ?? 0) < 60 && (harbour[2] ?? 0) > 60;
  }, 'both pictures');
  expect(await pick(page, (s) => s.desk.air.onAirId)).toBe(onAir);
  await page.click('[data-step]');
  await (await page.waitForSelector('::-p-xpath(//*[@role="tab"][.="Step"])'))?.click();
  await press(page, 'Source: choose by seeing it');
  const tile = await page.waitForSelector('::-p-xpath(//ul[@aria-label="Pictures"]//button[contains(., "Mast overhead")])');
  await tile?.click();
  const first = () =>
    pick(page, (s) => {
      const act = s.desk.show.automation.macros.at(-1)?.steps[0]?.act;
      return act?.kind === 'command' ? act.args.picture : null;
    });
  await until(async () => (await first()) === 'mast', 'the picture that was seen');
});

it('goes on where it was after the page was loaded anew', async () => {
  await send(page, 'macro.run', { macro: 'launch-window' });
  await until(async () => (await runs())[0]?.index === 10, 'the wait for a press');
  await until(() => pick(page, (s) => s.frame > 0), 'a frame');
  await passes(page, 30);
  await page.reload();
  await until(() => page.evaluate(() => (window.bivocaHost?.state.frame ?? 0) > 0), 'the show');
  expect((await runs())[0]?.index).toBe(10);
  await chord(['Alt'], 'v');
  await until(async () => (await runs())[0]?.index === 13, 'going on');
  await send(page, 'run.stop');
});
