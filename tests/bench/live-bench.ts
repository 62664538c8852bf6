/** Data that changes by itself: a sheet of 50,000 rows, and two animations with a ticker of 500 items beside the demo. */
import { type Page } from 'puppeteer-core';
import { foundRows } from '#core/sheets/rows';
import { passes, pick, send, until, wait } from '../support/desk';

const ROWS = 50_000;

export interface LiveFigures {
  /** Milliseconds from the choice of the file to its rows on the screen. */
  opens: number;
  /** Milliseconds of a search among them in core, and from the key to the table, medians. */
  search: { core: number; table: number };
  /** Frames a second while the table scrolls. */
  scrolls: number;
  /** A poll that changes one cell: milliseconds of the act, entries that it touches. */
  poll: { act: number; entries: number };
  run: { minutes: number; frames: number; dropped: number; without: number } | null;
}

const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? NaN;

const key = async (page: Page, code: 'KeyS') => {
  await page.keyboard.down('Alt');
  await page.keyboard.press(code);
  await page.keyboard.up('Alt');
};

async function sheet(page: Page): Promise<Omit<LiveFigures, 'run'>> {
  await page.keyboard.press('F4');
  await page.waitForSelector('main h1');
  await key(page, 'KeyS');
  await page.waitForSelector('input[aria-label="New sheet from a file"]');
  const opens = await page.evaluate(async (count) => {
    const lines = Array.from({ length: count }, (_, i) => `${i},Pilot ${i},Club ${i % 97},${(i * 7919) % 1000},Skerry Point,${i % 7}`);
    const file = new File([`Bib,Pilot,Club,Points,Place,Heat\n${lines.join('\n')}`], 'many.csv', { type: 'text/csv' });
    const input = document.querySelector<HTMLInputElement>('input[aria-label="New sheet from a file"]');
    const transfer = new DataTransfer();
    transfer.items.add(file);
    const begun = performance.now();
    if (input) input.files = transfer.files;
    input?.dispatchEvent(new Event('change', { bubbles: true }));
    while (!document.querySelector(`[role=table][aria-rowcount="${count}"]`)) await new Promise((r) => requestAnimationFrame(r));
    return performance.now() - begun;
  }, ROWS);
  const table: number[] = [];
  for (const word of ['4242', 'club 13', 'pilot 777', '31 club', '9999']) {
    await page.click('input[aria-label="Find in many.csv"]');
    await page.keyboard.press('Escape');
    await page.waitForSelector(`[role=table][aria-rowcount="${ROWS}"]`);
    await page.type('input[aria-label="Find in many.csv"]', word.slice(0, -1));
    await wait(400);
    table.push(
      await page.evaluate(async (last) => {
        const input = document.querySelector<HTMLInputElement>('input[aria-label="Find in many.csv"]');
        const grid = document.querySelector('[role=table][aria-rowcount]');
        const before = grid?.getAttribute('aria-rowcount');
        const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set;
        const begun = performance.now();
        set?.call(input, `${input?.value ?? ''}${last}`);
        input?.dispatchEvent(new Event('input', { bubbles: true }));
        while (grid?.getAttribute('aria-rowcount') === before && performance.now() - begun < 3000)
          await new Promise((r) => requestAnimationFrame(r));
        return performance.now() - begun;
      }, word.slice(-1)),
    );
  }
  await page.keyboard.press('Escape');
  await page.waitForSelector(`[role=table][aria-rowcount="${ROWS}"]`);
  const scrolls = await page.evaluate(async () => {
    const box = document.querySelector<HTMLElement>('[role=table][aria-rowcount]');
    const begun = performance.now();
    let frames = 0;
    while (performance.now() - begun < 3000) {
      await new Promise((r) => requestAnimationFrame(r));
      if (box) box.scrollTop += 240;
      frames += 1;
    }
    return (frames * 1000) / (performance.now() - begun);
  });
  const id = await pick(page, (s) => s.desk.show.sheets.at(-1)?.id ?? '');
  await send(page, 'sheet.set', { sheet: id, key: 'Bib' });
  const name = await pick(page, (s) => s.desk.show.graphics.list.find((g) => g.id === 'name-card')?.fields[0]?.id);
  await send(page, 'graphic.setSheet', {
    graphic: 'name-card',
    sheet: { sheetId: id, all: false, columns: [{ fieldId: name, column: 'Pilot' }] },
  });
  for (let i = 0; i < 200; i += 1) await send(page, 'entry.fromRow', { graphic: 'name-card', key: String(i * 11) });
  await key(page, 'KeyS');
  const found = await page.evaluate(async (sheetId) => {
    const host = window.bivocaHost;
    const acts: number[] = [];
    let touched = 0;
    for (let i = 0; i < 12; i += 1) {
      const { desk } = host?.state ?? {};
      const now = desk?.show.sheets.find((s) => s.id === sheetId);
      const rows = [...(now?.rows ?? [])];
      rows[i * 11] = (rows[i * 11] ?? '').replace('Pilot', `Captain ${i}`);
      const before = desk?.show.graphics.list.find((g) => g.id === 'name-card')?.entries ?? [];
      const begun = performance.now();
      host?.dispatch({ type: 'sheet.refresh', args: { sheet: sheetId, columns: now?.columns, rows } });
      acts.push(performance.now() - begun);
      const after = host?.state.desk.show.graphics.list.find((g) => g.id === 'name-card')?.entries ?? [];
      touched = after.filter((e, k) => e !== before[k]).length;
      await new Promise((r) => setTimeout(r, 700));
    }
    return { acts, touched };
  }, id);
  await send(page, 'sheet.remove', { sheet: id });
  return { opens, search: { core: 0, table: median(table) }, scrolls, poll: { act: median(found.acts), entries: found.touched } };
}

/** Two animations that come and go, with values that change by themselves, and a ticker of 500 items; dropped frames with and without them. */
async function run(page: Page, minutes: number): Promise<NonNullable<LiveFigures['run']>> {
  await page.keyboard.press('F2');
  await send(page, 'picture.cut', { picture: 'shore' });
  const count = async (ms: number, step: (i: number) => Promise<void>) => {
    const before = await pick(page, (s) => s.mixer);
    const end = Date.now() + ms;
    for (let i = 0; Date.now() < end; i += 1) {
      await step(i);
      await wait(4000);
    }
    const after = await pick(page, (s) => s.mixer);
    return { frames: after.frames - before.frames, dropped: after.dropped - before.dropped };
  };
  const without = await count((minutes * 60_000) / 4, () => Promise.resolve());
  const items = Array.from(
    { length: 500 },
    (_, i) => `Result ${i + 1}: pilot ${(i * 37) % 100} flies ${(i * 7919) % 1000} points at Skerry Point`,
  );
  const line = await pick(page, (s) =>
    s.desk.show.graphics.list.find((g) => g.id === 'news-line')?.elements.find((e) => e.content.kind === 'ticker'),
  );
  await send(page, 'element.setContent', { graphic: 'news-line', element: line?.id, content: { ...line?.content, sheetId: null, items } });
  for (const lane of ['lane-1', 'lane-3']) await send(page, 'lane.set', { lane, holdSeconds: null, follows: true });
  await send(page, 'lane.showPicture', { lane: 'lane-4', picture: 'news-line' });
  await until(() => pick(page, (s) => Object.values(s.desk.air.graphics.tickers).some((t) => t.list.length >= 500)), 'the ticker', 60_000);
  const dial = await pick(page, (s) => s.desk.show.graphics.list.find((g) => g.id === 'wind-dial')?.entries[0]?.id ?? 'wind-dial');
  await passes(page, 100);
  const found = await count(minutes * 60_000, async (i) => {
    await send(page, i % 2 === 0 ? 'lane.showPicture' : 'lane.hide', { lane: 'lane-1', ...(i % 2 === 0 && { picture: dial }) });
    await send(page, i % 3 === 0 ? 'lane.showPicture' : 'lane.hide', { lane: 'lane-3', ...(i % 3 === 0 && { picture: 'standings' }) });
  });
  return { minutes, ...found, without: (100 * without.dropped) / (without.frames + without.dropped) };
}

/** A search among as many rows in core: median of several, the first of which has to fold all of them. */
function benchSearch(): number {
  const rows = Array.from({ length: ROWS }, (_, i) => `${i}\tPilot ${i}\tClub ${i % 97}\t${(i * 7919) % 1000}\tSkerry Point\t${i % 7}`);
  return median(
    ['pilot 4242', 'club 13', '31 quay', 'nowhere', 'SKERRY 9'].map((words) => {
      const begun = performance.now();
      foundRows(rows, words);
      return performance.now() - begun;
    }),
  );
}

export async function benchLive(page: Page, minutes: number): Promise<LiveFigures> {
  const rows = await sheet(page);
  return { ...rows, search: { ...rows.search, core: benchSearch() }, run: minutes > 0 ? await run(page, minutes) : null };
}

export function liveLines({ opens, search, scrolls, poll, run: found }: LiveFigures): string[] {
  const ms = (n: number) => `${n.toFixed(1)} ms`;
  return [
    '## Live data',
    '',
    `A sheet of ${ROWS} rows and six columns: on the screen ${(opens / 1000).toFixed(2)} s after its file was chosen; a search ${ms(search.core)} in core, ${ms(search.table)} from the key to the table beside the running demo; scrolls at ${Math.round(scrolls)} frames a second. A poll that changes one cell: an act of ${ms(poll.act)}, ${poll.entries} of 200 entries touched.`,
    '',
    ...(found
      ? [
          `Two animations that come and go, with wind and standings that change by themselves, and a ticker of 500 items, beside the demo at 640×360 for ${found.minutes} minutes: ${found.dropped} of ${found.frames + found.dropped} frames dropped, ${((100 * found.dropped) / (found.frames + found.dropped)).toFixed(2)} %; without them ${found.without.toFixed(2)} %.`,
          '',
        ]
      : []),
  ];
}
