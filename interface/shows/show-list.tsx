/** All shows of this browser. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { formatDistanceToNow } from 'date-fns';
import { Copy, Download, FolderInput, Pencil, Plus, Trash2, Wind } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { over, say, sayShare } from '../client/say';
import { causeOf } from '#core/schema/cause';
import { formatBytes } from '#core/time/duration';
import { exportShow, importShow } from '#engine/storage/show-file';
import { deleteShow, duplicateShow, listShows, renameShow, restoreShow, type ShowListItem } from '#engine/storage/shows';
import { Button } from '../parts/button';
import { FileButton } from '../parts/file-button';
import { saveFile } from '../parts/save-file';
import { type Raster } from '#core/show/raster';
import { DEMO_RASTER } from '#standins/show/demo-name';
import { NewShow } from './new-show';

const failed = (error: unknown) => void say.trouble(causeOf(error), { duration: 10_000 });

function Thumbnail({ blob }: { blob: Blob | null }) {
  const url = useMemo(() => (blob ? URL.createObjectURL(blob) : null), [blob]);
  useEffect(() => () => (url ? URL.revokeObjectURL(url) : undefined), [url]);
  return <div className="aspect-video w-40 shrink-0 bg-black bg-cover" style={url ? { backgroundImage: `url(${url})` } : {}} />;
}

function ShowRow({ show, refresh }: { show: ShowListItem; refresh: () => void }) {
  const [renaming, setRenaming] = useState(false);
  const act = (work: () => Promise<unknown>) => void work().then(refresh, failed);
  const remove = () =>
    act(async () => {
      await deleteShow(show.id);
      say.info(`${show.name} was deleted.`, {
        duration: 10_000,
        action: { label: 'Undo', onClick: () => act(() => restoreShow(show.id)) },
      });
    });
  const download = () =>
    act(async () => {
      const { id, share } = sayShare(`Putting ${show.name} into one file`);
      const { file, name, missing } = await exportShow(show.id, share).finally(() => over(id));
      saveFile(file, name);
      if (missing.length > 0) say.caution(`${missing.length} of its files are missing here and are not in the export.`);
    });
  return (
    <li className="flex items-center gap-4 border-b border-line py-3">
      <Link to={`/show/${show.id}/desk`} aria-label={`Open ${show.name}`}>
        <Thumbnail blob={show.thumbnail} />
      </Link>
      <div className="min-w-0 flex-1">
        {renaming ? (
          <input
            autoFocus
            aria-label="Name of the show"
            defaultValue={show.name}
            maxLength={120}
            onBlur={(e) => {
              setRenaming(false);
              const name = e.target.value.trim();
              if (name && name !== show.name) act(() => renameShow(show.id, name));
            }}
            onKeyDown={(e) => {
              if (e.key === 'Enter') e.currentTarget.blur();
              if (e.key === 'Escape') setRenaming(false);
            }}
          />
        ) : (
          <Link to={`/show/${show.id}/desk`} className="block truncate text-lg font-semibold hover:text-straw">
            {show.name}
          </Link>
        )}
        <p className="text-muted">
          opened {formatDistanceToNow(show.openedAt, { addSuffix: true })} · <span className="figures">{formatBytes(show.size)}</span>
        </p>
      </div>
      <div className="flex gap-1">
        <Button look="quiet" aria-label={`Rename ${show.name}`} title="Rename" onClick={() => setRenaming(true)}>
          <Pencil size={16} />
        </Button>
        <Button look="quiet" aria-label={`Duplicate ${show.name}`} title="Duplicate" onClick={() => act(() => duplicateShow(show.id))}>
          <Copy size={16} />
        </Button>
        <Button look="quiet" aria-label={`Export ${show.name}`} title="Export to one file" onClick={download}>
          <Download size={16} />
        </Button>
        <Button look="quiet" aria-label={`Delete ${show.name}`} title="Delete" onClick={remove}>
          <Trash2 size={16} />
        </Button>
      </div>
    </li>
  );
}

/** All shows in this browser. `makeDemo` stores the demo show anew and gives its identity. */
export function ShowList({ makeDemo }: { makeDemo: (raster?: Raster) => Promise<string> }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [making, setMaking] = useState(false);
  const shows = useQuery({ queryKey: ['shows'], queryFn: listShows });
  const refresh = () => void queries.invalidateQueries({ queryKey: ['shows'] });
  const demo = useMutation({
    mutationFn: (height: number) => makeDemo({ width: (height * 16) / 9, height }),
    onSuccess: (id) => void navigate(`/show/${id}/desk`),
    onError: failed,
  });
  useEffect(() => {
    document.title = 'Shows · Bivoca';
  }, []);
  const take = async (file: File) => {
    const { id, share } = sayShare(`Importing ${file.name}`);
    try {
      const { missing, copy } = await importShow(file, share);
      refresh();
      if (missing.length > 0) say.caution(`Imported; ${missing.length} of its files are not in the file. Their sources say so.`, { id });
      else say.good(copy === null ? 'Imported.' : `A show of this name is here already: it was imported as ${copy}.`, { id });
    } catch (error) {
      say.trouble(`${causeOf(error)} Nothing was changed.`, { id, duration: 12_000 });
    }
  };
  return (
    <main className="mx-auto flex max-w-4xl flex-col gap-4 p-6">
      <header className="flex items-end gap-3">
        <img src="/icon.svg" alt="" className="h-11 w-11" />
        <div>
          <h1 className="text-2xl font-semibold">Bivoca</h1>
          <p className="text-muted">Live production in this browser. Everything stays on this machine.</p>
        </div>
      </header>
      <div className="flex flex-wrap gap-2">
        <Button look="straw" onClick={() => setMaking(true)}>
          <Plus size={16} /> New show
        </Button>
        <Button onClick={() => demo.mutate(DEMO_RASTER.height)}>
          <Wind size={16} /> Demo show
        </Button>
        <Button onClick={() => demo.mutate(360)} title="The demo at 640×360, for small machines">
          <Wind size={16} /> Demo, small
        </Button>
        <FileButton label="Show file to import" accept=".bivoca,application/zip" onFile={(file) => void take(file)}>
          <FolderInput size={16} /> Import…
        </FileButton>
      </div>
      {shows.error && (
        <p role="alert" className="border-t border-line py-8 text-caution">
          The list cannot be read: {shows.error.message}
        </p>
      )}
      {shows.data?.length === 0 && (
        <p className="border-t border-line py-8 text-muted">
          No shows yet. Make a new one, import one, or open the demo: a kite contest with four simulated cameras.
        </p>
      )}
      <ul>
        {shows.data?.map((show) => (
          <ShowRow key={show.id} show={show} refresh={refresh} />
        ))}
      </ul>
      <NewShow open={making} onClose={() => setMaking(false)} />
    </main>
  );
}
