/** One source in the list: its picture, number, name and tally. */
import clsx from 'clsx';
import { GripVertical, Pause, Pencil, Play, RotateCcw, TriangleAlert } from 'lucide-react';
import { type KeyboardEvent, type MouseEvent } from 'react';
import { playerState } from '#core/media/player';
import { type Source } from '#core/show/source';
import { isKind, traitsOf } from '#core/show/source-kinds';
import { useShowClient, useShow, useSend, useLive } from '../client/show-client';
import { focusSoon } from '../client/focus';
import { useTally } from '../client/use-tally';
import { Monitor } from '../parts/monitor';
import { TallyFrame, tallyWords } from '../parts/tally-frame';
import { TimeLeft } from '../parts/time-left';
import { dragOf, useDrop } from '../parts/use-drop';

/** Keys that move a tile by one place. */
const STEPS: Readonly<Record<string, 1 | -1>> = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 };

const small = 'absolute grid h-7 w-7 place-items-center rounded-[3px] bg-deep/80 text-muted hover:text-text';

function MediaKeys({ source }: { source: Source }) {
  const send = useSend();
  const playing = useLive(
    ({ desk: { show, air }, frame }) => isKind(source, 'media') && playerState(air, source.id, source.settings, frame, show.rate).playing,
  );
  return (
    <div className="absolute bottom-0 left-0 flex">
      <button
        type="button"
        className={`${small} static!`}
        aria-label={`${playing ? 'Pause' : 'Play'} ${source.name}`}
        onClick={() => send('media.toggle', { source: source.id })}
      >
        {playing ? <Pause size={15} /> : <Play size={15} />}
      </button>
      <button
        type="button"
        className={`${small} static!`}
        aria-label={`${source.name} back to its in point`}
        onClick={() => send('media.cue', { source: source.id })}
      >
        <RotateCcw size={14} />
      </button>
    </div>
  );
}

const SOURCE_DRAG = 'text/bivoca-source';

/** What takes a tile to another place in the list: by dragging it, or with Shift and an arrow. */
function Handle({ source, onMove }: { source: Source; onMove: SourceTileProps['onMove'] }) {
  const { onDragStart, draggable } = dragOf(SOURCE_DRAG, () => [source.id]);
  const key = (event: KeyboardEvent) => {
    const by = event.shiftKey ? STEPS[event.code] : undefined;
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onMove(source.id, by);
    // Where it has gone into another group, its tile is a new one.
    focusSoon(`[data-moves="${CSS.escape(source.id)}"]`);
  };
  return (
    <button
      type="button"
      data-moves={source.id}
      className={`${small} top-0 left-0 cursor-grab opacity-0 group-hover:opacity-100 focus:opacity-100`}
      aria-label={`Move ${source.name} in the list`}
      title="Drag it to another place; or Shift and an arrow"
      draggable={draggable}
      onDragStart={(event) => {
        const tile = event.currentTarget.closest('li');
        if (tile) event.dataTransfer.setDragImage(tile, 14, 14);
        onDragStart(event);
      }}
      onKeyDown={key}
    >
      <GripVertical size={14} />
    </button>
  );
}

interface SourceTileProps {
  source: Source;
  onEdit: (id: string) => void;
  /** To the place of another one, or by one place. */
  onMove: (id: string, to: string | 1 | -1) => void;
}

/** One source: its picture, number, name and tally. A press sets Next; with Shift it cuts to air. */
export function SourceTile({ source, onEdit, onMove }: SourceTileProps) {
  const host = useShowClient();
  const send = useSend();
  const tally = useTally(source.id);
  const { state, cause } = useShow(({ health }) => health[source.id] ?? { state: 'waiting', cause: '' });
  const { over, handlers } = useDrop(SOURCE_DRAG, ([id]) => id !== undefined && onMove(id, source.id));
  const press = (event: MouseEvent) => send(event.shiftKey ? 'picture.cut' : 'picture.setNext', { picture: source.id });
  const waitsForPress = traitsOf(source).needsPress && state === 'lost';
  return (
    <li className={clsx('group relative', over && 'outline-2 outline-straw')} {...handlers}>
      <button
        type="button"
        data-first={source.number === 1 ? '' : undefined}
        className="block w-full text-left"
        aria-label={`${source.number === null ? '' : `${source.number} `}${source.name}: ${tallyWords(tally)}${state === 'lost' ? `; ${cause}` : ''}`}
        onClick={press}
        title={source.feedsOnly ? `${source.name}: feeds lanes` : `${source.name}: press for Next, Shift and press for air`}
      >
        <span className="relative block aspect-video bg-black">
          <Monitor picture={{ kind: 'picture', id: source.id }} label="" className="h-full w-full" />
          <TallyFrame tally={tally} small />
        </span>
        <span className="flex items-center gap-1 border-l-4 bg-panel px-1 leading-6" style={{ borderColor: source.colour }}>
          {source.number !== null && <span className="figures min-w-4 font-semibold text-straw">{source.number}</span>}
          <span className="truncate text-[13px]">{source.name}</span>
          {state === 'lost' && <TriangleAlert size={14} className="ml-auto shrink-0 text-caution" aria-hidden />}
        </span>
      </button>
      <TimeLeft sourceId={source.id} className="pointer-events-none absolute right-0 bottom-6 text-sm" />
      {traitsOf(source).plays && (
        <div className="absolute bottom-6 left-0">
          <MediaKeys source={source} />
        </div>
      )}
      {state === 'lost' && (
        <button
          type="button"
          className="absolute top-1/2 left-1/2 -translate-x-1/2 -translate-y-1/2 rounded-[3px] bg-straw px-2 py-1 text-[13px] font-semibold text-deep"
          title={cause}
          onClick={() => (waitsForPress ? host.pressSource(source.id) : host.restartSource(source.id))}
        >
          {waitsForPress ? 'Start' : 'Try again'}
        </button>
      )}
      <button
        type="button"
        className={`${small} top-0 right-0 opacity-0 group-hover:opacity-100 focus:opacity-100`}
        aria-label={`Edit ${source.name}`}
        onClick={() => onEdit(source.id)}
      >
        <Pencil size={14} />
      </button>
      <Handle source={source} onMove={onMove} />
    </li>
  );
}
