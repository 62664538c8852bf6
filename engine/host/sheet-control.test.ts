/** Sheets kept up with where they come from: polls, failures, files, images, and the end of all of it. */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeHost } from '#tests/support/fake-host';
import { addressSource } from '#core/sheets/create';
import { AddressTrouble } from '../sheets/addresses';
import { type SheetRows } from '../sheets/messages';
import { SheetControl, type SheetOutside } from './sheet-control';

const settled = () => vi.advanceTimersByTimeAsync(0);

/** A host whose outside answers what a test says. */
function start(change: Partial<SheetOutside> = {}, before: (host: FakeHost) => void = () => undefined) {
  const host = new FakeHost();
  before(host);
  const asked: string[] = [];
  let answer: SheetRows | Error = { columns: ['Name'], rows: ['Ada'] };
  const outside: SheetOutside = {
    ask: ({ address }) => {
      asked.push(address);
      return answer instanceof Error ? Promise.reject(answer) : Promise.resolve({ data: new Blob(['x']), tag: '', kind: 'image/png' });
    },
    read: () => Promise.resolve(answer as SheetRows),
    store: ({ name }) => Promise.resolve(`asset-${name.replaceAll(/\W/g, '-')}`),
    handles: () => Promise.resolve([]),
    keepHandle: () => Promise.resolve(),
    ...change,
  };
  const control = new SheetControl('show', host, outside);
  host.follower = control;
  const status = () => Object.values(host.state().sheets)[0];
  return { host, control, asked, status, answer: (next: SheetRows | Error) => (answer = next) };
}

const refreshes = (host: FakeHost) => host.commands.filter((c) => c.type === 'sheet.refresh').map((c) => c.args?.rows);

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe('an address', () => {
  it('is asked every few seconds; only other rows are an act', async () => {
    const { host, asked, status, answer, control } = start();
    host.run('sheet.add', { source: addressSource('http://data.example/x', { everySeconds: 2 }) });
    await settled();
    await vi.advanceTimersByTimeAsync(4000);
    expect([asked.length, refreshes(host)]).toEqual([3, [['Ada']]]);
    answer({ columns: ['Name'], rows: ['Ada', 'Bo'] });
    await vi.advanceTimersByTimeAsync(2000);
    expect(refreshes(host)).toEqual([['Ada'], ['Ada', 'Bo']]);
    expect(status()).toMatchObject({ trouble: null, wants: null });
    control.close();
    await vi.advanceTimersByTimeAsync(60_000);
    expect(asked).toHaveLength(4);
  });

  it('that fails leaves the rows, is said once, and goes on when it comes back', async () => {
    const { host, status, answer } = start();
    host.run('sheet.add', { source: addressSource('http://data.example/x', { everySeconds: 2 }) });
    await settled();
    answer(new AddressTrouble('data.example sends on to other.example.', 'other.example'));
    await vi.advanceTimersByTimeAsync(10_000);
    expect(host.desk.show.sheets[0]?.rows).toEqual(['Ada']);
    expect(host.notices.filter((n) => n.includes('stay'))).toHaveLength(1);
    expect(status()).toMatchObject({ trouble: 'data.example sends on to other.example.', wants: { kind: 'host', host: 'other.example' } });
    expect(status()?.good).not.toBeNull();
    answer({ columns: ['Name'], rows: ['Cy'] });
    await vi.advanceTimersByTimeAsync(2000);
    expect([host.desk.show.sheets[0]?.rows, status()?.trouble]).toEqual([['Cy'], null]);
  });

  it('is asked anew when it changes, and no more when its sheet is typed or gone', async () => {
    const { host, asked, status } = start();
    host.run('sheet.add', { source: addressSource('http://data.example/x') });
    const sheet = host.desk.show.sheets[0]?.id;
    host.run('sheet.set', { sheet, source: addressSource('http://data.example/y') });
    await settled();
    expect(asked).toEqual(['http://data.example/x', 'http://data.example/y']);
    host.run('sheet.set', { sheet, source: { kind: 'typed' } });
    await vi.advanceTimersByTimeAsync(60_000);
    expect([asked.length, status()]).toEqual([2, undefined]);
  });

  it('brings the images that cells name, from hosts that are allowed, once each', async () => {
    const { host, asked, status, answer } = start();
    answer({ columns: ['Name', 'Face'], rows: ['Ada\thttp://data.example/ada.png', 'Bo\thttp://faces.example/bo.png'] });
    host.run('sheet.add', { source: addressSource('http://data.example/x', { everySeconds: 1000 }) });
    await settled();
    const sheet = host.desk.show.sheets[0]?.id;
    host.run('field.add', { graphic: 'names', kind: 'image', name: 'Face' });
    const field = host.desk.show.graphics.list[0]?.fields.at(-1)?.id;
    host.run('graphic.setSheet', { graphic: 'names', sheet: { sheetId: sheet, all: true, columns: [{ fieldId: field, column: 'Face' }] } });
    await settled();
    const faces = () =>
      host.desk.show.graphics.list[0]?.entries.slice(1).map((e) => e.values.find((v) => v.fieldId === field)?.value ?? null);
    expect(faces()).toEqual([{ kind: 'image', assetId: 'asset-ada-png' }, null]);
    expect(status()).toMatchObject({ wants: { kind: 'host', host: 'faces.example' } });
    expect(asked).toEqual(['http://data.example/x', 'http://data.example/ada.png']);
    host.run('sheet.allow', { sheet, host: 'faces.example' });
    await settled();
    expect(faces()?.[1]).toEqual({ kind: 'image', assetId: 'asset-bo-png' });
  });
});

describe('a file', () => {
  /** A file on the disk, as a browser hands it over. */
  const handle = (file: () => File, permission: () => PermissionState = () => 'granted') =>
    ({
      name: 'x.csv',
      getFile: () => Promise.resolve(file()),
      queryPermission: () => Promise.resolve(permission()),
    }) as unknown as FileSystemFileHandle;

  it('is read again when it changes on the disk; one from before a reload asks for a press', async () => {
    let file = new File(['a'], 'x.csv', { lastModified: 1 });
    let permission: PermissionState = 'prompt';
    let id = '';
    const { host, answer, status } = start(
      {
        handles: () =>
          Promise.resolve([
            {
              sheetId: id,
              handle: handle(
                () => file,
                () => permission,
              ),
            },
          ]),
      },
      (before) => {
        before.run('sheet.add', { source: { kind: 'file', fileName: 'x.csv' } });
        id = before.desk.show.sheets[0]?.id ?? '';
      },
    );
    await settled();
    expect([refreshes(host), status()?.wants]).toEqual([[], { kind: 'press' }]);
    permission = 'granted';
    await vi.advanceTimersByTimeAsync(3000);
    expect([refreshes(host), status()?.wants]).toEqual([[['Ada']], null]);
    file = new File(['b'], 'x.csv', { lastModified: 2 });
    answer({ columns: ['Name'], rows: ['Bo'] });
    await vi.advanceTimersByTimeAsync(1000);
    expect(refreshes(host)).toEqual([['Ada'], ['Bo']]);
  });
});
