/** Entries from sheets: files of several kinds, pasted tables, a file that changes on the disk, and what is no sheet. */
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { openDemo, passes, pick, press, send, until, said as saidOn, uploadTo } from '../support/desk';
import { Downloads } from '../support/downloads';

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
  await page.keyboard.press('F4');
  await page.waitForSelector('main h1');
  await press(page, 'Name card, 3 entries');
});
afterAll(async () => {
  await downloads.close();
  await browser.close();
  await app.close();
});

const said = (words: string) => saidOn(page, words);
const upload = (name: string, data: string | Uint8Array) => uploadTo(page, 'Sheet file', downloads.folder, name, data);
const entries = () =>
  pick(page, (s) =>
    (s.desk.show.graphics.list.find((g) => g.id === 'name-card')?.entries ?? []).map((e) =>
      e.values.map((v) => (v.value.kind === 'text' ? v.value.text : '')).join(' / '),
    ),
  );

/** A workbook of one sheet, as small as they come. */
function workbook(rows: readonly (readonly string[])[], extra: Record<string, Uint8Array> = {}): Uint8Array {
  const cell = (text: string, r: number, c: number) =>
    `<c r="${String.fromCharCode(65 + c)}${r + 1}" t="inlineStr"><is><t>${text}</t></is></c>`;
  const sheet = rows.map((row, r) => `<row r="${r + 1}">${row.map((t, c) => cell(t, r, c)).join('')}</row>`).join('');
  const part = (xml: string) => strToU8(`<?xml version="1.0" encoding="UTF-8"?>${xml}`);
  const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
  const rel = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
  return zipSync({
    'xl/workbook.xml': part(
      `<workbook xmlns="${main}" xmlns:r="${rel}"><sheets><sheet name="One" sheetId="1" r:id="rId1"/></sheets></workbook>`,
    ),
    'xl/_rels/workbook.xml.rels': part(
      `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="${rel}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
    ),
    'xl/worksheets/sheet1.xml': part(`<worksheet xmlns="${main}"><sheetData>${sheet}</sheetData></worksheet>`),
    'xl/styles.xml': part(`<styleSheet xmlns="${main}"/>`),
    ...extra,
  });
}

it('fills entries in from a file: columns meet fields by name, or by hand, faults are named by row and column', async () => {
  await send(page, 'field.set', { graphic: 'name-card', field: 'role', longest: 12 });
  await press(page, 'Sheet');
  await said('Sheet for Name card');
  // Windows-1252, semicolons: as spreadsheets of many countries save.
  const text = 'NAME;Work\nÅsa Höjd;Judge\nEdda Quill;A role that is too long\n';
  await upload(
    'crew.csv',
    Uint8Array.from(text, (c) => c.charCodeAt(0)),
  );
  await said('crew.csv: 2 rows, 2 columns');
  await page.select('select[aria-label="Who that is (text)"]', 'Work');
  await page.select('select[aria-label="Rows are told apart by"]', 'NAME');
  await said('row 2, Work: has 23 characters, and Who that is holds 12');
  await press(page, 'Take the rows');
  await until(async () => (await entries()).length === 5, 'two more entries');
  expect((await entries()).slice(3)).toEqual(['Åsa Höjd / Judge', 'Edda Quill']);
  expect(await pick(page, (s) => s.desk.show.graphics.list.find((g) => g.id === 'name-card')?.sheet?.all)).toBe(true);
});

it('reads workbooks and pasted tables, and takes just what differs', async () => {
  await press(page, 'crew.csv');
  await upload(
    'crew.xlsx',
    workbook([
      ['NAME', 'Work'],
      ['Åsa Höjd', 'Head judge'],
      ['Bo Lind', 'Pilot'],
    ]),
  );
  await said('crew.xlsx: 2 rows');
  await press(page, 'Take the rows');
  // Edda is in no row any more.
  await until(async () => (await entries())[4] === 'Bo Lind / Pilot', 'the new row');
  expect((await entries()).slice(3)).toEqual(['Åsa Höjd / Head judge', 'Bo Lind / Pilot']);
  await press(page, 'crew.xlsx');
  await (await page.waitForSelector('textarea[aria-label="Pasted table"]'))?.type('NAME\tWork\nBo Lind\tCaptain');
  await press(page, 'Read it');
  await said('pasted table: 1 rows');
  await press(page, 'Take the rows');
  await until(async () => (await entries())[3] === 'Bo Lind / Captain', 'the pasted row');
});

it('follows a file that changes on the disk, on air too, and keeps what it had when the file is damaged', async () => {
  // A real file of the browser's own storage, as the picker of files would hand it over.
  await page.evaluate(async () => {
    const handle = await (await navigator.storage.getDirectory()).getFileHandle('live.csv', { create: true });
    const write = async (text: string) => {
      const stream = await handle.createWritable();
      await stream.write(text);
      await stream.close();
    };
    await write('Name,Who that is\nLive One,first\n');
    Object.assign(window, { showOpenFilePicker: () => Promise.resolve([handle]), writeSheet: write });
  });
  const write = (text: string) => page.evaluate((t) => (window as unknown as { writeSheet(x: string): Promise<void> }).writeSheet(t), text);
  await press(page, 'pasted table');
  await press(page, 'Choose a file to follow…');
  await said('live.csv: 1 rows');
  await page.select('select[aria-label="Rows are told apart by"]', 'Name');
  await press(page, 'Take the rows');
  const id = await until(
    () =>
      pick(
        page,
        (s) => s.desk.show.graphics.list.find((g) => g.id === 'name-card')?.entries.find((e) => e.rowKey === 'Live One')?.id ?? null,
      ),
    'the row',
  );
  await send(page, 'lane.set', { lane: 'lane-1', follows: true, holdSeconds: null });
  await send(page, 'lane.showPicture', { lane: 'lane-1', picture: id });
  await passes(page, 20);
  await write('Name,Who that is\nLive One,second\n');
  const shown = () => pick(page, (s) => JSON.stringify(s.desk.air.lanes['lane-1']?.picture));
  await until(async () => (await shown()).includes('second'), 'the changed row on air');
  await write('<html>gone</html>');
  await said('live.csv cannot be read any more');
  expect(await shown()).toContain('second');
  await write('Name,Who that is\nLive One,third\n');
  await until(async () => (await shown()).includes('third'), 'the file come back');
});

it('refuses what is no sheet, in words, and nothing changes', async () => {
  const before = await entries();
  await press(page, 'live.csv');
  for (const [name, data, why] of [
    ['page.csv', '<!doctype html><p>no', 'It is a page (HTML)'],
    ['torn.json', '[{"a":', 'It is no JSON'],
    ['torn.xlsx', Uint8Array.from([0x50, 0x4b, 3, 4, 9]), 'It is a damaged workbook'],
    ['other.xlsx', zipSync({ 'readme.txt': strToU8('x') }), 'no workbook (XLSX)'],
    ['bomb.xlsx', workbook([['a']], { 'xl/media/x.bin': new Uint8Array(250e6) }), 'It would unpack into 250 MB'],
    ['wide.csv', Array.from({ length: 10_000 }, (_, i) => `c${i}`).join(','), '10000 columns'],
    ['empty.csv', '', 'It is empty'],
  ] as const) {
    await upload(name, data);
    await said(why);
  }
  await page.keyboard.press('Escape');
  expect(await entries()).toEqual(before);
  expect(browser.troubles).toEqual([]);
});

it('marks an entry as done by a key, and sorts by a column', async () => {
  await page.click('[role="row"] ::-p-text(Maren Tolv)');
  await page.keyboard.down('Alt');
  await page.keyboard.press('KeyD');
  await page.keyboard.up('Alt');
  await until(
    () =>
      pick(page, (s) => s.desk.show.graphics.list.find((g) => g.id === 'name-card')?.entries.find((e) => e.id === 'card-1')?.done ?? false),
    'the mark',
  );
  await press(page, 'Sort by Name');
  await until(async () => (await entries()).join() === (await entries()).sort((a, b) => a.localeCompare(b)).join(), 'the order');
});
