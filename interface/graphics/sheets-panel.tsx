/** Sheets of the show: where their rows come from, how it stands with that, and the rows themselves. */
import { useEffect, useState } from 'react';
import { ChartBar, Globe, MessageSquare, Plus, Trash2 } from 'lucide-react';
import { type AddressSource, type Sheet } from '#core/sheets/document';
import { addressSource } from '#core/sheets/create';
import { formatAgo } from '#core/time/duration';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { FileButton, FilesButton } from '../parts/file-button';
import { region } from '../parts/region';
import { Choice, Line, Num } from '../parts/fields';
import { openGraphic, setGraphicsRoom, useGraphicsRoom } from './room-state';
import { addImages, canFollow, chooseToFollow, putRows, type ReadRows, rowsOfFile } from './sheet-files';
import { SheetGrid } from './sheet-grid';

/** The time of this machine, once a second, for what grows older. */
function useNow(): number {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  return now;
}

/** How it stands with the file or the address of a sheet, and what can be done about it. */
function Standing({ sheet }: { sheet: Sheet }) {
  const send = useSend();
  const client = useShowClient();
  const status = useShow(({ sheets }) => sheets[sheet.id]);
  const now = useNow();
  const good = status?.good ?? sheet.readAt;
  const trouble = status?.trouble ?? null;
  const { wants } = status ?? { wants: null };
  return (
    <p role="status" className={`flex flex-wrap items-center gap-2 text-sm ${trouble === null ? 'text-muted' : 'text-caution'}`}>
      <span>
        {trouble !== null && `${trouble} `}
        {good === null
          ? trouble === null
            ? 'Not read yet.'
            : 'There are no values yet.'
          : `${trouble === null ? 'Read' : 'The values here are from'} ${formatAgo((now - good) / 1000)}${trouble === null ? '.' : ', and stay.'}`}
        {sheet.source.kind === 'file' && !status && ' The file is not followed: choose it again to do so.'}
      </span>
      {wants?.kind === 'host' && (
        <Button look="straw" onClick={() => send('sheet.allow', { sheet: sheet.id, host: wants.host })}>
          Allow {wants.host}
        </Button>
      )}
      {wants?.kind === 'press' && (
        <Button look="straw" onClick={() => void client.files.sheets.again(sheet.id)}>
          Read the file again
        </Button>
      )}
    </p>
  );
}

function AddressFields({ sheet, source }: { sheet: Sheet; source: AddressSource }) {
  const send = useSend();
  const set = (change: Partial<AddressSource>) => send('sheet.set', { sheet: sheet.id, source: { ...source, ...change } });
  return (
    <>
      <label className="flex min-w-64 flex-1 flex-col gap-0.5">
        <span className="text-xs text-muted">Address (JSON or CSV)</span>
        <Line label="Address" value={source.address} max={2000} onSave={(address) => set({ address })} />
      </label>
      <div className="w-20">
        <Num label="Every" unit="s" min={0.5} max={86_400} value={source.everySeconds} onCommit={(everySeconds) => set({ everySeconds })} />
      </div>
      <div className="w-20">
        <Num
          label="Time-out"
          unit="s"
          min={0.5}
          max={60}
          value={source.timeoutSeconds}
          onCommit={(timeoutSeconds) => set({ timeoutSeconds })}
        />
      </div>
      <div className="w-20">
        <Num
          label="At most"
          unit="MB"
          min={0.01}
          max={50}
          digits={2}
          value={source.mostMegabytes}
          onCommit={(mostMegabytes) => set({ mostMegabytes })}
        />
      </div>
      {source.allowed.length > 0 && (
        <Button title={`Allowed: ${source.allowed.join(', ')}`} onClick={() => set({ allowed: [] })}>
          Allow none of {source.allowed.length}
        </Button>
      )}
    </>
  );
}

function Head({ sheet }: { sheet: Sheet }) {
  const send = useSend();
  const client = useShowClient();
  const put = (read: ReadRows | null) => void (read && putRows(client, { ...read, name: sheet.name }, sheet));
  const { source } = sheet;
  const polls = useShow(({ desk }) => desk.show.audience.polls);
  return (
    <div className="flex flex-col gap-1 px-1.5 pb-1.5">
      <div className="flex flex-wrap items-end gap-1.5">
        <label className="flex w-44 flex-col gap-0.5">
          <span className="text-xs text-muted">Name</span>
          <Line
            label="Name of the sheet"
            strong
            value={sheet.name}
            max={80}
            onSave={(name) => send('sheet.set', { sheet: sheet.id, name })}
          />
        </label>
        <Choice
          label="Rows are told apart by"
          value={sheet.key ?? ''}
          all={[['', 'their order'], ...sheet.columns.map((c) => [c, c] as const)]}
          onChange={(key) => send('sheet.set', { sheet: sheet.id, key: key === '' ? null : key })}
        />
        {source.kind === 'poll' && (
          <Choice
            label="Poll"
            value={source.pollId ?? ''}
            all={[['', 'the one that the audience sees'], ...polls.map((p) => [p.id, p.question] as const)]}
            onChange={(pollId) => send('sheet.set', { sheet: sheet.id, source: { kind: 'poll', pollId: pollId === '' ? null : pollId } })}
          />
        )}
        {source.kind === 'comments' || source.kind === 'poll' ? null : source.kind === 'address' ? (
          <AddressFields sheet={sheet} source={source} />
        ) : (
          <>
            {canFollow() ? <Button onClick={() => void chooseToFollow().then(put)}>Follow a file…</Button> : null}
            <FileButton label="Rows from a file" accept=".csv,.tsv,.txt,.json,.xlsx" onFile={(file) => void rowsOfFile(file).then(put)}>
              From a file…
            </FileButton>
          </>
        )}
        {source.kind !== 'typed' && (
          <Button
            title="Its rows stay, and are filled in here from now on"
            onClick={() => send('sheet.set', { sheet: sheet.id, source: { kind: 'typed' } })}
          >
            Type it here
          </Button>
        )}
        <FilesButton label="Images of the sheet" accept="image/*" onFiles={(files) => void addImages(client, sheet.id, files)}>
          {sheet.images.length === 0 ? 'Images…' : `Images (${sheet.images.length})…`}
        </FilesButton>
        <IconButton label={`Remove ${sheet.name}`} title="Remove the sheet" onClick={() => send('sheet.remove', { sheet: sheet.id })}>
          <Trash2 size={15} />
        </IconButton>
      </div>
      {(source.kind === 'file' || source.kind === 'address') && <Standing sheet={sheet} />}
      {source.kind === 'comments' && <p className="text-sm text-muted">It holds the comments that are chosen in Guests.</p>}
      {source.kind === 'poll' && <p className="text-sm text-muted">It holds the choices of a poll with their votes.</p>}
    </div>
  );
}

/** The sheets as tabs, the chosen one below. */
export function SheetsPanel() {
  const send = useSend();
  const client = useShowClient();
  const { sheetId, graphicId } = useGraphicsRoom();
  const { sheets, graphic } = useShow(({ desk: { show } }) => ({ sheets: show.sheets, graphic: openGraphic(show, graphicId) }));
  const [search, setSearch] = useState('');
  const sheet = sheets.find((s) => s.id === sheetId) ?? sheets.find((s) => s.id === graphic?.sheet?.sheetId) ?? sheets[0];
  const choose = (id: string | null) => id !== null && setGraphicsRoom({ sheetId: id });
  const add = (args: object) => {
    const done = client.dispatch({ type: 'sheet.add', args: { ...args } });
    if (done.ok) choose(String(done.result.id));
  };
  const tied = sheet && graphic?.sheet?.sheetId === sheet.id ? graphic : null;
  const pick = (key: string) => {
    const done = tied && client.dispatch({ type: 'entry.fromRow', args: { graphic: tied.id, key } });
    if (done?.ok) setGraphicsRoom({ panel: 'entries', entryId: String(done.result.id), search: '' });
    else if (done) send('entry.fromRow', { graphic: tied?.id, key });
  };
  return (
    <section {...region('sheets', 'Sheets')} className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-1 p-1.5">
        {sheets.map((s) => (
          <Button key={s.id} pressed={s.id === sheet?.id} onClick={() => choose(s.id)}>
            <span className="max-w-40 truncate">{s.name}</span>
          </Button>
        ))}
        <span className="ml-auto" />
        <Button title="An empty sheet, typed here" onClick={() => add({})}>
          <Plus size={15} /> Sheet
        </Button>
        <Button
          aria-label="New sheet from an address"
          title="Rows from an address that is asked again and again"
          onClick={() => add({ name: 'Address', source: addressSource('/simulated/standings.json') })}
        >
          <Globe size={15} /> Address
        </Button>
        <Button title="The comments that are chosen in Guests" onClick={() => add({ name: 'Comments', source: { kind: 'comments' } })}>
          <MessageSquare size={15} /> Comments
        </Button>
        <Button
          title="The choices of a poll with their votes"
          onClick={() => add({ name: 'Poll', source: { kind: 'poll', pollId: null } })}
        >
          <ChartBar size={15} /> Poll
        </Button>
        <FileButton
          label="New sheet from a file"
          accept=".csv,.tsv,.txt,.json,.xlsx"
          onFile={(file) => void rowsOfFile(file).then(async (read) => read && choose(await putRows(client, read, null)))}
        >
          File…
        </FileButton>
      </div>
      {!sheet ? (
        <p className="p-2 text-muted">
          No sheets yet. A sheet is rows of data: typed here, from a file, or from an address that is asked again and again. Graphics are
          tied to it with the button Sheet over their entries.
        </p>
      ) : (
        <>
          <Head key={`head ${sheet.id}`} sheet={sheet} />
          <div className="flex items-center gap-2 px-1.5 pb-1.5">
            <input
              type="search"
              aria-label={`Find in ${sheet.name}`}
              placeholder={`Find in ${sheet.rows.length} rows`}
              className="w-56"
              value={search}
              onChange={(e) => setSearch(e.target.value)}
              onKeyDown={(e) => e.key === 'Escape' && setSearch('')}
            />
            {sheet.source.kind === 'typed' && (
              <Button onClick={() => send('sheet.addRow', { sheet: sheet.id })}>
                <Plus size={15} /> Row
              </Button>
            )}
            <span className="ml-auto text-xs text-muted">
              {tied ? `A double click makes an entry of ${tied.name}` : graphic ? `${graphic.name} is not tied to this sheet` : ''}
            </span>
          </div>
          <SheetGrid key={`rows ${sheet.id}`} sheet={sheet} search={search} graphic={tied} onPick={pick} />
        </>
      )}
    </section>
  );
}
