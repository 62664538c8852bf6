/** Rows of a sheet into the entries of a graphic, also again and again while its file is watched. */
import { type Graphic } from '#core/graphics/document';
import { type ColumnMap, rowsFor, type SheetFault } from '#core/sheets/match';
import { type Table } from '#core/sheets/table';
import { causeOf } from '#core/schema/cause';
import { type ShowClient } from '#engine/client/show-client';
import { readSheet } from '#engine/sheets/sheets';
import { say } from '../client/say';

/** How often a watched file is looked at, milliseconds. */
const LOOK_MS = 1000;

/** Columns by field, as a graphic is tied to its sheet. */
export const mapOf = ({ sheet }: Graphic): ColumnMap => Object.fromEntries(sheet?.columns.map((c) => [c.fieldId, c.column]) ?? []);

/** Takes the rows of a table into a graphic that is tied to it, and says what came of it. */
export function takeRows(client: ShowClient, graphicId: string, table: Table): { ok: boolean; faults: SheetFault[] } {
  const graphic = client.state.desk.show.graphics.list.find((g) => g.id === graphicId);
  if (!graphic?.sheet) return { ok: false, faults: [] };
  const { rows, faults } = rowsFor(graphic.fields, table, mapOf(graphic), graphic.sheet.key);
  const outcome = client.dispatch({ type: 'entry.takeRows', args: { graphic: graphicId, rows } });
  if (!outcome.ok) {
    say.caution(`${graphic.sheet.fileName}: ${outcome.error.message}`);
    return { ok: false, faults };
  }
  const { added, changed } = outcome.result as { added: number; changed: number };
  const [first] = faults;
  const wrong = first
    ? `; ${faults.length} ${faults.length === 1 ? 'cell' : 'cells'} left out, first row ${first.row}, ${first.column}: ${first.why}`
    : '';
  if (added > 0 || changed > 0 || first) say.good(`${graphic.sheet.fileName}: ${added} added, ${changed} changed${wrong}.`);
  return { ok: true, faults };
}

interface Watched {
  handle: FileSystemFileHandle;
  modified: number;
  timer: ReturnType<typeof setInterval>;
  troubled: boolean;
}

/** Files that are watched, by graphic; as long as the page lives, as handles to files do. */
const watched = new Map<string, Watched>();

function stopWatching(graphicId: string): void {
  const found = watched.get(graphicId);
  if (found) clearInterval(found.timer);
  watched.delete(graphicId);
}

/** The show is closed here: its files are followed no more. */
export const stopWatchingSheets = (): void => [...watched.keys()].forEach(stopWatching);

/** Reads a file again whenever it changes on the disk. One that vanishes or is damaged leaves the entries as they are. */
export function watchSheet(client: ShowClient, graphicId: string, handle: FileSystemFileHandle, modified: number): void {
  stopWatching(graphicId);
  const look = async () => {
    const own = watched.get(graphicId);
    if (!own) return;
    if (!client.state.desk.show.graphics.list.some((g) => g.id === graphicId && g.sheet !== null)) return stopWatching(graphicId);
    try {
      const file = await handle.getFile();
      if (file.lastModified === own.modified) return undefined;
      own.modified = file.lastModified;
      takeRows(client, graphicId, await readSheet(file, file.name));
      own.troubled = false;
    } catch (error) {
      if (!own.troubled) say.caution(`${handle.name} cannot be read any more (${causeOf(error)}). The entries stay as they are.`);
      own.troubled = true;
    }
    return undefined;
  };
  watched.set(graphicId, { handle, modified, troubled: false, timer: setInterval(() => void look(), LOOK_MS) });
}
