/** The list of sources, in groups, in an order that the crew sets. */
import { ChevronDown, ChevronRight, FolderPlus, Plus } from 'lucide-react';
import { type DragEvent, useState } from 'react';
import { type Source } from '#core/show/source';
import { useShow, useSend, useSendAll, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { region } from '../parts/region';
import { useRoving } from '../parts/roving';
import { later } from '../parts/later';
import { SourceTile } from './source-tile';
import { useAddFiles } from './use-add-files';

const AddSource = later(() => import('./add-source').then((m) => m.AddSource));
const SourceDialog = later(() => import('./source-dialog').then((m) => m.SourceDialog));

interface Section {
  id: string | null;
  name: string;
  folded: boolean;
  sources: Source[];
}

/** The switching list: groups that fold, sources in their order, material for lanes folded away at the end. */
function useSections(): Section[] {
  const { sources, groups } = useShow(({ desk: { show } }) => ({ sources: show.sources, groups: show.groups }));
  const listed = sources.filter((s) => !s.feedsOnly);
  return [
    ...groups.map((g) => ({ ...g, sources: listed.filter((s) => s.groupId === g.id) })),
    { id: null, name: groups.length > 0 ? 'Others' : '', folded: false, sources: listed.filter((s) => s.groupId === null) },
  ].filter((section) => section.id !== null || section.sources.length > 0);
}

function SectionHead({ section }: { section: Section }) {
  const send = useSend();
  const { id, name, folded, sources } = section;
  if (id === null) return name ? <h3 className="px-1 text-xs font-semibold text-muted">{name}</h3> : null;
  return (
    <button
      type="button"
      className="flex min-h-7 w-full items-center gap-1 text-xs font-semibold text-muted hover:text-text"
      aria-expanded={!folded}
      onClick={() => send('group.edit', { group: id, folded: !folded })}
    >
      {folded ? <ChevronRight size={15} /> : <ChevronDown size={15} />}
      {name}
      <span className="figures ml-auto pr-1">{sources.length}</span>
    </button>
  );
}

/** Moves a source to the place of another, into its group too; or by one place, among those that are seen. */
function useMoves(sections: readonly Section[]): (id: string, to: string | 1 | -1) => void {
  const client = useShowClient();
  const sendAll = useSendAll();
  return (id, to) => {
    const { sources } = client.state.desk.show;
    const seen = sections.flatMap((s) => (s.folded ? [] : s.sources));
    const at = seen.findIndex((s) => s.id === id);
    const target = typeof to === 'string' ? sources.find((s) => s.id === to) : at < 0 ? undefined : seen[at + to];
    const source = sources.find((s) => s.id === id);
    if (!source || !target || source === target) return;
    const move = { type: 'source.move', args: { source: id, index: sources.indexOf(target) } };
    const group = { type: 'source.setGroup', args: { source: id, group: target.groupId } };
    sendAll(source.groupId === target.groupId ? [move] : [group, move]);
  };
}

export function SourceList() {
  const send = useSend();
  const sections = useSections();
  const { order, feeds } = useShow(({ desk: { show } }) => ({
    order: show.sources,
    feeds: show.sources.filter((s) => s.feedsOnly).length,
  }));
  const [editing, setEditing] = useState<string | null>(null);
  const [adding, setAdding] = useState(false);
  const [showFeeds, setShowFeeds] = useState(false);
  const addFiles = useAddFiles();
  const move = useMoves(sections);
  const box = useRoving<HTMLElement>();
  const dropped = (event: DragEvent) => {
    event.preventDefault();
    void addFiles([...event.dataTransfer.files]);
  };
  const tiles = (sources: Source[]) => (
    <ul className="grid grid-cols-2 gap-1.5 max-beside:grid-cols-3">
      {sources.map((source) => (
        <SourceTile key={source.id} source={source} onEdit={setEditing} onMove={move} />
      ))}
    </ul>
  );
  return (
    <section
      ref={box}
      {...region('sources', 'Sources')}
      className="desk-part sources flex flex-col"
      onDragOver={(e) => e.preventDefault()}
      onDrop={dropped}
    >
      <div className="flex items-center gap-1 px-2 py-1">
        <h2 className="font-semibold">Sources</h2>
        <Button
          look="quiet"
          className="ml-auto px-1.5!"
          aria-label="Add a group"
          title="Add a group"
          onClick={() => send('group.add', { name: 'New group' })}
        >
          <FolderPlus size={16} />
        </Button>
        <Button onClick={() => setAdding(true)}>
          <Plus size={15} /> Add
        </Button>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto px-2 pb-2">
        {order.length === 0 && (
          <p className="p-2 text-muted">No sources yet. Add a camera, a screen, a file or a test picture, or drop files here.</p>
        )}
        {sections.map((section) => (
          <div key={section.id ?? 'none'} className="mb-1.5">
            <SectionHead section={section} />
            {!section.folded && tiles(section.sources)}
          </div>
        ))}
        {feeds > 0 && (
          <div className="mb-1.5">
            <button
              type="button"
              className="flex min-h-7 w-full items-center gap-1 text-xs font-semibold text-muted hover:text-text"
              aria-expanded={showFeeds}
              onClick={() => setShowFeeds(!showFeeds)}
            >
              {showFeeds ? <ChevronDown size={15} /> : <ChevronRight size={15} />}
              Feeds lanes and layouts
              <span className="figures ml-auto pr-1">{feeds}</span>
            </button>
            {showFeeds && tiles(order.filter((s) => s.feedsOnly))}
          </div>
        )}
      </div>
      <AddSource open={adding} onClose={() => setAdding(false)} />
      <SourceDialog sourceId={editing} onClose={() => setEditing(null)} />
    </section>
  );
}
