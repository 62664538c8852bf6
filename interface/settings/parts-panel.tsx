/** Parts of the show: saved to a file, or brought in from one, with what goes along and what clashes listed before anything changes. */
import { nanoid } from 'nanoid';
import { useEffect, useMemo, useState } from 'react';
import { type Decision } from '#core/parts/bring';
import { PARTS, partsOf } from '#core/parts/kinds';
import { causeOf } from '#core/schema/cause';
import { say } from '../client/say';
import { useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { FileButton } from '../parts/file-button';
import { HoldButton } from '../parts/hold-button';
import { saveFile } from '../parts/save-file';
import { bringCommands, broughtBy, changesAir, type Coming, comingOf } from '#core/parts/coming';
import { PartsList } from './parts-list';
import { decidePart, leaveOut, setSettingsRoom, useSettingsRoom, workOnParts, workOnPartsOf } from './room-state';

const counted = (n: number): string => `${n} ${n === 1 ? 'part' : 'parts'}`;

/** One that goes along, or clashes: what becomes of it. */
function ComingRow({ row, entering }: { row: Coming; entering: boolean }) {
  const { key, part, by, like, only, as } = row;
  const decide = (value: string) => {
    if (by !== null) leaveOut(key, value === 'out');
    if (value !== 'out') decidePart(key, value as Decision['as']);
  };
  const options: [string, string][] =
    like === null
      ? [['new', entering ? 'comes in' : 'goes along']]
      : [...(only ? [] : [['new', 'beside it'] as [string, string]]), ['use', 'the one here serves'], ['replace', 'in its place']];
  return (
    <li className="flex items-center gap-2 py-0.5 text-sm" data-coming={key}>
      <span className="min-w-0 flex-1">
        <span className="block truncate" title={part.name}>
          <strong>{part.name}</strong> <span className="text-muted">{PARTS[part.kind].one}</span>
        </span>
        <span className="block truncate text-[13px] text-muted">
          {like && <span className="text-caution">{like.name === part.name ? 'is here already' : `${like.name} is here`}</span>}
          {like && by !== null && ' · '}
          {by !== null && `for ${by}`}
        </span>
      </span>
      <select aria-label={`What becomes of ${part.name}`} className="max-w-44" value={as ?? 'out'} onChange={(e) => decide(e.target.value)}>
        {options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
        {by !== null && <option value="out">stays out</option>}
      </select>
    </li>
  );
}

/** Chooses parts of this show to save them, or of a file to bring them in. */
export function PartsPanel() {
  const client = useShowClient();
  const show = useShow(({ desk }) => desk.show);
  const { file, chosen, without, decided, output } = useSettingsRoom();
  const [busy, setBusy] = useState(false);
  useEffect(() => workOnPartsOf(show.id), [show.id]);
  const from = file?.content.show ?? show;
  const parts = useMemo(() => partsOf(from), [from]);
  const into = file ? show : null;
  const list = useMemo(() => comingOf(from, into, { chosen, without, decided }), [from, into, chosen, without, decided]);
  const along = useMemo(() => new Set(list.filter((c) => c.by !== null && c.as !== null && c.as !== 'use').map((c) => c.key)), [list]);
  const said = list.filter((c) => c.by !== null || c.like !== null);
  const going = list.filter((c) => c.as !== null && c.as !== 'use');
  const nothing = going.length === 0 && !output ? 'Choose a part first.' : null;
  const seen = useShow(({ desk }) => into !== null && changesAir(desk, list));
  const failed = (error: unknown) => void say.trouble(`${causeOf(error)} Nothing was changed.`, { duration: 12_000 });
  const work = (act: () => Promise<void>) => {
    setBusy(true);
    void act()
      .catch(failed)
      .finally(() => setBusy(false));
  };
  const read = (chosenFile: File) =>
    work(async () => workOnParts({ name: chosenFile.name, content: await client.files.parts.read(chosenFile) }));
  const save = () =>
    work(async () => {
      const saved = await client.files.parts.save(new Set(going.map((c) => c.key)), output);
      saveFile(saved.file, saved.name);
      if (saved.missing.length > 0) say.caution(`${saved.missing.length} files of these parts are missing here and are not in the file.`);
    });
  const bring = () =>
    work(async () => {
      if (!file) return;
      const { content, name } = file;
      const brought = broughtBy(client.state.desk.show, content.show, list, () => nanoid(12));
      const missing = await client.files.parts.keep(content.assets, brought.things);
      const done = client.dispatchAll(bringCommands(brought, output));
      if (!done.ok) return void say.trouble(`${name}: ${done.error.message} Nothing was changed.`, { duration: 12_000 });
      workOnParts(null);
      say.good(`${counted(brought.things.length)} brought in. Triggers come disarmed, and devices off.`, {
        action: { label: 'Undo', onClick: () => client.dispatch({ type: 'history.undo' }) },
      });
      const { lost } = brought;
      if (lost.length > 0)
        say.caution(
          `Without what was left out could not come: ${lost
            .slice(0, 5)
            .map((p) => p.name)
            .join(', ')}${lost.length > 5 ? ' and more' : ''}.`,
        );
      if (missing.length > 0) say.caution(`${missing.length} files of these parts are not in the file. Their sources say so.`);
      return undefined;
    });
  return (
    <div className="flex h-full min-h-0 max-beside:flex-col">
      <div className="min-h-0 min-w-0 flex-1 overflow-y-auto p-4">
        <div className="mb-3 flex flex-wrap items-center gap-3">
          <h2 className="min-w-0 truncate font-semibold">{file ? `Parts of ${file.name}` : 'Parts of this show'}</h2>
          <Button onClick={() => setSettingsRoom({ chosen: new Set() })} unusable={chosen.size > 0 ? null : 'Nothing is chosen.'}>
            Choose none
          </Button>
          <span className="ml-auto flex gap-2">
            {file && <Button onClick={() => workOnParts(null)}>Back to this show</Button>}
            <FileButton label="Show file whose parts come in" accept=".bivoca,application/zip" onFile={read}>
              {file ? 'Another file…' : 'Bring in from a file…'}
            </FileButton>
          </span>
        </div>
        {parts.length > 0 ? (
          <PartsList parts={parts} chosen={chosen} along={along} />
        ) : (
          <p className="text-muted">There is nothing in {file ? 'this file' : 'this show'} yet.</p>
        )}
      </div>
      <aside
        className="flex w-96 shrink-0 flex-col gap-2 border-l border-line p-4 max-beside:max-h-1/2 max-beside:w-full max-beside:border-t max-beside:border-l-0"
        aria-label="What goes along"
      >
        <p className="text-[13px] text-muted">
          {file
            ? 'What chosen parts need comes along, unless something here serves. Nothing changes before they are brought in; it is one step of undo.'
            : 'What chosen parts need goes along. The file opens as a show by itself, and its parts can be brought into another.'}
        </p>
        <label className="flex items-center gap-2 text-sm">
          <input type="checkbox" checked={output} onChange={(e) => setSettingsRoom({ output: e.target.checked })} />
          Settings of recording and stream, with the stream’s key
        </label>
        <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Parts that go along or are here already">
          {said.slice(0, 300).map((row) => (
            <ComingRow key={row.key} row={row} entering={file !== null} />
          ))}
          {said.length > 300 && <li className="text-[13px] text-muted">and {said.length - 300} more</li>}
        </ul>
        {!file && (
          <Button look="straw" onClick={save} unusable={busy ? 'The file is being made.' : nothing}>
            Save {counted(going.length)}
          </Button>
        )}
        {file && !seen && (
          <Button look="straw" onClick={bring} unusable={busy ? 'They are being brought in.' : nothing}>
            Bring {counted(going.length)} in
          </Button>
        )}
        {file && seen && (
          <HoldButton
            look="air"
            title="What is on air is replaced: hold"
            onHeld={bring}
            unusable={busy ? 'They are being brought in.' : nothing}
          >
            Hold to bring {counted(going.length)} in: on air at once
          </HoldButton>
        )}
      </aside>
    </div>
  );
}
