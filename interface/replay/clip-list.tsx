/** The clips of a reel, thousands of them, in playing order. */
import { useVirtualizer } from '@tanstack/react-virtual';
import clsx from 'clsx';
import { type DragEvent, memo, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { type Angle, type Clip } from '#core/replay/document';
import { clipsFrames } from '#core/replay/roll';
import { filterClips } from '#core/replay/search';
import { type Rate } from '#core/time/rate';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { useRoom } from './room-state';
import { useDo } from '../control/do';
import { chooseClip } from './acts';

import { formatLength } from '#core/time/spoken';

const ROW = 30;

interface RowProps {
  clip: Clip;
  chosen: boolean;
  playing: boolean;
  lost: boolean;
  angles: readonly Angle[];
  rate: Rate;
  top: number;
}

/** A row of the list: number, name, angles, speed, rating, running time. */
const Row = memo(function Row({ clip, chosen, playing, lost, angles, rate, top }: RowProps) {
  const rows = clip.angleIds.map((id) => angles.findIndex((a) => a.pictureId === id) + 1);
  return (
    <div
      role="option"
      id={`clip-${clip.id}`}
      data-clip={clip.id}
      aria-selected={chosen}
      draggable
      className={clsx(
        'absolute inset-x-0 grid cursor-default grid-cols-[6px_44px_minmax(0,1fr)_auto_48px_46px_72px] items-center gap-1.5 border-b border-line text-[13px]',
        chosen ? 'bg-straw/25' : 'hover:bg-raised',
        lost && 'opacity-50',
      )}
      style={{ height: ROW, top, contain: 'strict' }}
      title={[clip.name, clip.tags, clip.note, lost ? 'no longer recorded' : ''].filter(Boolean).join(' · ')}
    >
      <span className="h-full" style={{ background: clip.colour }} />
      <span className="figures text-right font-semibold">
        {playing ? '▶' : ''}
        {clip.number}
      </span>
      <span className="truncate">{clip.name}</span>
      <span className="figures text-muted" aria-label="Angles">
        {rows.map((n) => (n > 0 ? n : '×')).join(' ')}
      </span>
      <span className={clsx('figures text-right', clip.speed === 100 ? 'text-muted' : 'text-straw')}>{clip.speed} %</span>
      <span className="text-straw" aria-label={`Rating ${clip.rating}`}>
        {'★'.repeat(clip.rating)}
      </span>
      <span className="figures pr-1.5 text-right">{formatLength(clipsFrames([clip], 0), rate)}</span>
    </div>
  );
});

/** The clips of the reel, or of all reels. Thousands scroll: only what is seen is drawn. */
export function ClipList() {
  const host = useShowClient();
  const send = useSend();
  const act = useDo();
  const room = useRef<HTMLDivElement>(null);
  const chosen = useRoom((s) => s.chosen);
  const filter = useRoom((s) => s.filter);
  const { clips, reelId, angles, rate, from } = useShow(({ desk: { show, air } }) => ({
    clips: show.replay.clips,
    reelId: show.replay.reelId,
    angles: show.replay.angles,
    rate: show.rate,
    from: air.replay.kept?.from ?? null,
  }));
  const playing = useShow(({ desk: { air } }) =>
    [air.replay.decks[1], air.replay.decks[2]].map((d) => d.roll?.items[d.roll.index]?.clipId ?? '').join(' '),
  );
  const list = useMemo(() => filterClips(clips, { ...filter, reelId: filter.everywhere ? null : reelId }), [clips, filter, reelId]);
  const ids = useMemo(() => new Set(chosen), [chosen]);
  const [over, setOver] = useState<string | null>(null);
  const rows = useVirtualizer({ count: list.length, getScrollElement: () => room.current, estimateSize: () => ROW, overscan: 8 });
  const last = chosen.at(-1);
  const at = last === undefined ? -1 : list.findIndex((c) => c.id === last);
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at, { align: 'auto' });
    // Only when another clip was chosen.
  }, [at, rows]);

  const newest = useRef(clips.length);
  // Before anything is painted: a clip that has been grabbed is looked for at once.
  useLayoutEffect(() => {
    // A clip that has just been made is seen, without being chosen: an edit under way goes on with its own clip.
    if (clips.length === newest.current + 1) {
      const top = list.reduce((best, c, i) => (c.number > (list[best]?.number ?? 0) ? i : best), 0);
      if (list.length > 0) {
        rows.scrollToIndex(top, { align: 'auto' });
        // The browser tells of it a frame later, and what is scrolled to would be drawn a frame after that.
        room.current?.dispatchEvent(new Event('scroll'));
      }
    }
    newest.current = clips.length;
  }, [clips.length, list, rows]);

  const clipOf = (event: { target: EventTarget }) =>
    (event.target as HTMLElement).closest<HTMLElement>('[data-clip]')?.dataset.clip ?? null;
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(null);
    const before = clipOf(event);
    const moved = event.dataTransfer.getData('text/x-clips').split(' ').filter(Boolean);
    if (moved.length > 0) send('clip.move', { clips: moved, before });
  };
  return (
    <div
      ref={room}
      // Without clips it is no list that one could choose from.
      role={list.length === 0 ? 'group' : 'listbox'}
      aria-label="Clips"
      aria-multiselectable={list.length > 0 || undefined}
      tabIndex={0}
      aria-activedescendant={last === undefined ? undefined : `clip-${last}`}
      className="min-h-0 flex-1 overflow-y-auto bg-deep outline-none"
      // Scrolling through thousands must not lay the whole room out anew.
      style={{ contain: 'strict' }}
      onPointerDown={(e) => {
        const id = clipOf(e);
        if (id === null) return;
        // A press on one of several chosen may begin a drag of all of them.
        if (ids.has(id) && ids.size > 1 && !e.shiftKey && !e.ctrlKey) return;
        chooseClip(host.state.desk.show, id, e.shiftKey, e.ctrlKey || e.metaKey);
      }}
      onClick={(e) => {
        const id = clipOf(e);
        if (id !== null && ids.size > 1 && !e.shiftKey && !e.ctrlKey) chooseClip(host.state.desk.show, id, false);
      }}
      onDoubleClick={() => act('replay.cue')}
      onDragStart={(e) => {
        const id = clipOf(e);
        if (id !== null)
          e.dataTransfer.setData('text/x-clips', (ids.has(id) ? list.filter((c) => ids.has(c.id)).map((c) => c.id) : [id]).join(' '));
      }}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(clipOf(e));
      }}
      onDragLeave={() => setOver(null)}
      onDrop={drop}
    >
      {list.length === 0 && (
        <p className="p-3 text-muted">
          {filter.text !== '' || filter.rating > 0 || filter.angleId !== null
            ? 'No clip fits the search.'
            : 'No clips in this reel yet. Press G the moment something happens: the last seconds become a clip, wherever the decks stand.'}
        </p>
      )}
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const clip = list[index] as Clip;
          return (
            <Row
              key={clip.id}
              clip={clip}
              chosen={ids.has(clip.id)}
              playing={playing.split(' ').includes(clip.id)}
              lost={from === null || clip.out <= from}
              angles={angles}
              rate={rate}
              top={start}
            />
          );
        })}
        {over !== null && list.some((c) => c.id === over) && (
          <div
            className="pointer-events-none absolute inset-x-0 border-t-2 border-straw"
            style={{ transform: `translateY(${list.findIndex((c) => c.id === over) * ROW}px)` }}
          />
        )}
      </div>
    </div>
  );
}
