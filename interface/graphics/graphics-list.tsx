/** The graphics of the show with true small pictures. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp, Copy, Download, FolderOpen, Plus, Trash2 } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { GALLERY } from '#core/graphics/gallery/gallery';
import { type Graphic } from '#core/graphics/document';
import { filledOf } from '#core/graphics/find';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { useTally } from '../client/use-tally';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Popover } from '../parts/popover';
import { region } from '../parts/region';
import { useRoving } from '../parts/roving';
import { bringGraphic, sendGraphic } from './graphic-files';
import { GraphicPicture } from './graphic-picture';
import { openGraphicById, setGraphicsRoom, useGraphicsRoom } from './room-state';
import { FileButton } from '../parts/file-button';

const ROW = 82;

function Row({ graphic, chosen }: { graphic: Graphic; chosen: boolean }) {
  const tally = useTally(graphic.id);
  const up = useShow(({ desk: { air } }) =>
    Object.values(air.lanes).some((l) => l.picture?.kind === 'graphic' && l.fade.to === 1 && l.picture.shown.graphic.id === graphic.id),
  );
  const onAir = tally.onAir || tally.inUse || up;
  // What an entry looks like says more than empty fields.
  const filled = filledOf({ graphic, entry: graphic.entries[0] ?? null });
  return (
    <button
      type="button"
      aria-pressed={chosen}
      aria-label={`${graphic.name}, ${graphic.entries.length} entries${onAir ? ', on air' : ''}`}
      className={`flex h-full w-full gap-2 border-l-2 p-1 text-left ${chosen ? 'border-straw bg-raised' : 'border-transparent hover:bg-panel'}`}
      onClick={() => openGraphicById(graphic.id)}
    >
      <span className="w-30 shrink-0">
        <GraphicPicture close filled={filled} label={`Picture of ${graphic.name}`} className="w-full" />
      </span>
      <span className="min-w-0 flex-1">
        <span className="block leading-tight font-semibold break-words">{graphic.name}</span>
        <span className="text-xs text-muted">{graphic.entries.length === 1 ? '1 entry' : `${graphic.entries.length} entries`}</span>
        {onAir && <span className="figures ml-1 bg-air px-1 text-[13px] font-semibold text-deep">AIR</span>}
      </span>
    </button>
  );
}

/** The list of what a new graphic can be. */
export function AddGraphic() {
  const client = useShowClient();
  const adding = useGraphicsRoom((s) => s.adding);
  const list = useRoving<HTMLDivElement>({ always: true });
  const done = (outcome: ReturnType<typeof client.dispatch>) => {
    if (outcome.ok) openGraphicById(String(outcome.result.id));
    setGraphicsRoom({ adding: false });
  };
  return (
    <Popover
      label="New graphic"
      align="start"
      open={adding}
      onOpenChange={(open) => setGraphicsRoom({ adding: open })}
      trigger={
        <Button title="New graphic">
          <Plus size={15} /> Graphic
        </Button>
      }
    >
      <div ref={list} className="flex w-72 flex-col gap-1">
        <Button
          className="justify-start!"
          onClick={() => {
            done(client.dispatch({ type: 'graphic.add' }));
            setGraphicsRoom({ tab: 'draw' });
          }}
        >
          Empty, to draw
        </Button>
        <p className="mt-1 text-xs text-muted">From the gallery</p>
        {GALLERY.map(({ id, about, make }) => (
          <Button
            key={id}
            className="justify-start! whitespace-normal! text-left!"
            onClick={() => done(client.dispatch({ type: 'graphic.bring', args: { graphic: make() } }))}
          >
            <span>
              {make().name} <span className="text-xs text-muted">{about}</span>
            </span>
          </Button>
        ))}
      </div>
    </Popover>
  );
}

/** All graphics; the chosen one is open in the rest of the room. */
export function GraphicsList() {
  const client = useShowClient();
  const send = useSend();
  const box = useRoving<HTMLElement>();
  const room = useRef<HTMLDivElement>(null);
  const list = useShow(({ desk: { show } }) => show.graphics.list);
  const openId = useGraphicsRoom((s) => s.graphicId);
  const at = Math.max(
    0,
    list.findIndex((g) => g.id === openId),
  );
  const rows = useVirtualizer({ count: list.length, getScrollElement: () => room.current, estimateSize: () => ROW, overscan: 3 });
  useEffect(() => {
    if (list.length > 0) rows.scrollToIndex(at);
    // Only when another is chosen: whoever scrolls is not pulled back.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at]);
  const open = list[at];
  return (
    <section
      ref={box}
      {...region('graphics', 'Graphics')}
      className="flex min-h-0 w-75 shrink-0 flex-col border-r border-line max-wide:w-56 max-beside:h-64 max-beside:w-full max-beside:border-b"
    >
      <div className="flex flex-wrap items-center gap-0.5 p-1.5">
        <AddGraphic />
        <FileButton label="Graphic file" accept=".bivoca-graphic,.zip,.json,.lottie" onFile={(file) => void bringGraphic(client, file)}>
          <FolderOpen size={15} aria-label="Open a graphic or an animation (Lottie)" />
        </FileButton>
        {open && (
          <>
            <IconButton label={`Save ${open.name} as a file`} title="Save as a file" onClick={() => void sendGraphic(client, open)}>
              <Download size={14} />
            </IconButton>
            {(
              [
                [-1, 'earlier', ArrowUp],
                [1, 'later', ArrowDown],
              ] as const
            ).map(([by, words, Icon]) => (
              <Button
                key={words}
                look="quiet"
                className="px-1!"
                aria-label={`${open.name} ${words} in the list`}
                title={`Move it ${words} in the list`}
                onClick={() => send('graphic.move', { graphic: open.id, index: Math.max(0, at + by) })}
              >
                <Icon size={14} />
              </Button>
            ))}
            <IconButton
              label={`Duplicate ${open.name}`}
              title="Duplicate the design"
              onClick={() => send('graphic.duplicate', { graphic: open.id })}
            >
              <Copy size={14} />
            </IconButton>
            <IconButton label={`Remove ${open.name}`} title="Remove" onClick={() => send('graphic.remove', { graphic: open.id })}>
              <Trash2 size={14} />
            </IconButton>
          </>
        )}
      </div>
      <div ref={room} className="min-h-0 flex-1 overflow-y-auto">
        {list.length === 0 && <p className="p-2 text-muted">No graphics yet. Take one from the gallery, or draw one.</p>}
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index, start }) => {
            const graphic = list[index];
            return (
              graphic && (
                <div key={graphic.id} className="absolute inset-x-0" style={{ top: start, height: ROW }}>
                  <Row graphic={graphic} chosen={index === at} />
                </div>
              )
            );
          })}
        </div>
      </div>
    </section>
  );
}
