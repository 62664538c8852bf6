/** Sheets that come in: read, and put into the show, as new ones or in the place of rows that were there. */
import { nanoid } from 'nanoid';
import { type Command } from '#core/commands/command';
import { causeOf } from '#core/schema/cause';
import { type Sheet, type SheetSource } from '#core/sheets/document';
import { type ShowClient } from '#engine/client/show-client';
import { readSheet } from '#engine/sheets/sheets';
import { say } from '../client/say';
import { addImage } from './images';

/** Rows that have been read and are in no sheet of the show yet. */
export interface ReadRows {
  name: string;
  source: SheetSource;
  columns: string[];
  rows: string[];
  handle: FileSystemFileHandle | null;
}

/** The rows of a file; null, with the cause said, when it is none. */
export async function rowsOfFile(file: File, handle: FileSystemFileHandle | null = null): Promise<ReadRows | null> {
  try {
    const { columns, rows } = await readSheet(file, file.name);
    return { name: file.name, source: { kind: 'file', fileName: file.name.slice(0, 256) }, columns, rows, handle };
  } catch (error) {
    say.caution(causeOf(error));
    return null;
  }
}

/** The rows of a pasted table; null, with the cause said, when it is none. */
export async function rowsOfPaste(text: string): Promise<ReadRows | null> {
  const read = await rowsOfFile(new File([text], 'pasted table'));
  return read && { ...read, source: { kind: 'typed' } };
}

type Picker = () => Promise<FileSystemFileHandle[]>;
const picker = (): Picker | undefined => (window as unknown as { showOpenFilePicker?: Picker }).showOpenFilePicker?.bind(window);

/** True where this browser lets a file be followed as it changes on the disk. */
export const canFollow = (): boolean => picker() !== undefined;

/** Asks for a file that is followed from then on; null when nobody chose one, or it cannot be read. */
export async function chooseToFollow(): Promise<ReadRows | null> {
  const [handle] = (await picker()?.().catch(() => [])) ?? [];
  return handle ? rowsOfFile(await handle.getFile(), handle) : null;
}

/** Puts rows into a sheet of the show, a new one without `into`; more commands of the same step come after. Returns its identity; null when refused. */
export async function putRows(
  client: ShowClient,
  read: ReadRows,
  into: Sheet | null,
  more: (sheetId: string) => Command[] = () => [],
): Promise<string | null> {
  const gesture = nanoid();
  const run = (commands: Command[]) => {
    const done = client.dispatchAll(commands, gesture);
    if (!done.ok) say.caution(done.error.message);
    return done.ok ? done.results : null;
  };
  const name = read.name.slice(0, 80);
  const added = into
    ? run([{ type: 'sheet.set', args: { sheet: into.id, name, source: read.source } }])
    : run([{ type: 'sheet.add', args: { name, source: read.source } }]);
  const id = into?.id ?? (added?.[0]?.id as string | undefined);
  if (!added || id === undefined) return null;
  // A key that the new rows do not have tells nothing apart.
  const key = into && into.key !== null && !read.columns.includes(into.key) ? [{ type: 'sheet.set', args: { sheet: id, key: null } }] : [];
  const at = read.source.kind === 'typed' ? {} : { at: Date.now() };
  if (!run([...key, { type: 'sheet.take', args: { sheet: id, columns: read.columns, rows: read.rows, ...at } }, ...more(id)])) return null;
  if (read.handle) await client.files.sheets.follow(id, read.handle);
  return id;
}

/** Gives a sheet images by the names of their files, several at once. */
export async function addImages(client: ShowClient, sheetId: string, files: readonly File[]): Promise<void> {
  const images: { name: string; assetId: string }[] = [];
  for (const file of files.slice(0, 2000)) {
    const assetId = await addImage(client, file);
    if (assetId !== null) images.push({ name: file.name.slice(0, 300), assetId });
  }
  if (images.length === 0) return;
  const done = client.dispatch({ type: 'sheet.addImages', args: { sheet: sheetId, images } });
  if (done.ok) say.good(`${images.length} ${images.length === 1 ? 'image' : 'images'} brought in.`);
  else say.caution(done.error.message);
}
