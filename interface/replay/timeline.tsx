/** The timeline: recorded angles in rows, clips, marks and playheads. */
import { X, ZoomIn, ZoomOut } from 'lucide-react';
import { type PointerEvent, useDeferredValue, useEffect, useMemo, useRef, useState, type WheelEvent } from 'react';
import { DECKS } from '#core/replay/air';
import { placeClips, type PlacedClip } from '#core/replay/clip-rows';
import { deckPlace } from '#core/replay/deck';
import { type Clip } from '#core/replay/document';
import { pictureName, findSource } from '#core/desk/pictures';
import { formatTimecode } from '#core/time/timecode';
import { type ShowClient } from '#engine/client/show-client';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { useKeyName } from '../client/hands';
import { Button, withKey } from '../parts/button';
import { region } from '../parts/region';
import { useRoving } from '../parts/roving';
import { TimecodeField } from '../parts/timecode-field';
import { type EdgeDrag, Magnifier } from './magnifier';
import { setRoom, useRoom, zoomView } from './room-state';
import { Thumbnails } from './thumbnails';
import { CLIP_ROW, CLIPS_TOP, drawTimeline, LANES_TOP } from './timeline-draw';
import { chooseClip } from './acts';

/** The live edge keeps this share of the width when the timeline follows. */
const FOLLOW_AT = 0.9;
/** Pixels beside an edge that take hold of it. */
const EDGE = 6;

function draw(
  host: ShowClient,
  canvas: HTMLCanvasElement,
  clips: readonly PlacedClip[],
  thumbnails: Thumbnails,
  drag: EdgeDrag | null,
): void {
  const context = canvas.getContext('2d', { alpha: false });
  if (!context) return;
  const {
    desk: { show, air },
    frame,
    replay,
  } = host.state;
  const { view, deck, chosen } = useRoom.getState();
  const ratio = window.devicePixelRatio;
  const [width, height] = [canvas.width / ratio, canvas.height / ratio];
  const heads = DECKS.map((n) => {
    const place = deckPlace(air.replay.decks[n], air.replay, frame, show.rate);
    return { deck: n, position: place.position, live: place.live, chosen: n === deck };
  });
  const moving = follow(
    view,
    heads.find((h) => h.chosen),
    frame,
    width,
  );
  const shown =
    drag === null ? clips : clips.map((p) => (p.clip.id === drag.clip ? { ...p, clip: { ...p.clip, [drag.edge]: drag.frame } } : p));
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  drawTimeline(context, {
    width,
    height,
    from: moving,
    scale: view.scale,
    rate: show.rate,
    now: frame,
    recording: air.replay.recording !== null,
    rows: show.replay.angles.map(({ pictureId: sourceId }) => ({
      id: sourceId,
      name: pictureName(show, sourceId),
      colour: findSource(show, sourceId)?.colour ?? '#8fa5a3',
      runs: replay?.runs[sourceId] ?? [],
    })),
    clips: shown,
    chosen: new Set(chosen),
    markIn: air.replay.markIn,
    markOut: air.replay.markOut,
    heads,
    picture: (row, at, step) => thumbnails.get(row, at, step),
  });
}

/** Left edge of the view; while it follows, the chosen deck stays in it. Written back without a new rendering. */
function follow(
  view: { from: number; scale: number; follow: boolean },
  head: { position: number; live: boolean } | undefined,
  frame: number,
  width: number,
): number {
  if (!view.follow || !head) return view.from;
  const span = width * view.scale;
  if (head.live) view.from = frame - span * FOLLOW_AT;
  else if (head.position < view.from + span * 0.05 || head.position > view.from + span * 0.95) view.from = head.position - span * 0.5;
  return view.from;
}

/** The timeline of the angles: scrub, zoom, choose clips and drag their edges. */
export function Timeline() {
  const host = useShowClient();
  const send = useSend();
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  // The list comes first: of thousands of clips the timeline may be a moment later.
  const clips = useDeferredValue(useShow(({ desk: { show } }) => show.replay.clips));
  const reelId = useShow(({ desk: { show } }) => show.replay.reelId);
  const { follow: follows } = useRoom((s) => s.view);
  const [drag, setDrag] = useState<EdgeDrag | null>(null);
  const placed = useMemo(() => placeClips(clips.filter((c) => c.reelId === reelId)), [clips, reelId]);
  const now = useRef({ placed, drag });
  now.current = { placed, drag };
  const scrub = useRef<{ kind: 'scrub' | 'edge'; wanted: number | null } | null>(null);

  useEffect(() => {
    const target = canvas.current;
    const room = box.current;
    if (!target || !room) return undefined;
    let asked = false;
    const redraw = () => {
      if (asked) return;
      asked = true;
      requestAnimationFrame(() => {
        asked = false;
        draw(host, target, now.current.placed, thumbnails, now.current.drag);
      });
    };
    const thumbnails = new Thumbnails(host, redraw);
    const observer = new ResizeObserver(([entry]) => {
      if (!entry) return;
      const ratio = window.devicePixelRatio;
      target.width = Math.max(1, Math.round(entry.contentRect.width * ratio));
      target.height = Math.max(1, Math.round(entry.contentRect.height * ratio));
      redraw();
    });
    observer.observe(room);
    const ticked = host.onTick(redraw);
    const chosen = useRoom.subscribe(redraw);
    return () => {
      observer.disconnect();
      ticked();
      chosen();
      thumbnails.close();
    };
  }, [host]);

  const frameAt = (clientX: number) => {
    const { view } = useRoom.getState();
    return view.from + (clientX - (canvas.current?.getBoundingClientRect().left ?? 0)) * view.scale;
  };

  /** What lies under the pointer in the rows of clips. */
  const clipAt = (event: PointerEvent): { clip: Clip; edge: 'in' | 'out' | null } | null => {
    const rect = canvas.current?.getBoundingClientRect();
    const y = event.clientY - (rect?.top ?? 0);
    if (y < CLIPS_TOP || y >= LANES_TOP) return null;
    const { view, chosen } = useRoom.getState();
    const frame = frameAt(event.clientX);
    const near = EDGE * view.scale;
    const row = Math.floor((y - CLIPS_TOP) / CLIP_ROW);
    const hits = placed.filter((p) => p.row === row && frame >= p.clip.in - near && frame <= p.clip.out + near).map((p) => p.clip);
    const clip = hits.find((c) => chosen.includes(c.id)) ?? hits[0];
    if (!clip) return null;
    const [a, b] = [Math.abs(frame - clip.in), Math.abs(frame - clip.out)];
    return { clip, edge: Math.min(a, b) > near ? null : a < b ? 'in' : 'out' };
  };

  /** At most one seek a picture: what the pointer passes in between is not asked for. */
  const seek = (frame: number) => {
    const active = scrub.current;
    if (!active) return;
    const idle = active.wanted === null;
    active.wanted = Math.max(0, Math.floor(frame));
    if (!idle) return;
    requestAnimationFrame(() => {
      const wanted = active.wanted;
      active.wanted = null;
      if (wanted !== null) send('deck.goTo', { deck: useRoom.getState().deck, frame: wanted });
    });
  };

  const down = (event: PointerEvent) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const hit = clipAt(event);
    const { show } = host.state.desk;
    if (hit) chooseClip(show, hit.clip.id, event.shiftKey, event.ctrlKey);
    if (hit?.edge) {
      scrub.current = { kind: 'edge', wanted: null };
      setDrag({ clip: hit.clip.id, edge: hit.edge, frame: hit.clip[hit.edge] });
      return;
    }
    if (hit) return;
    scrub.current = { kind: 'scrub', wanted: null };
    const { deck, view } = useRoom.getState();
    if (view.follow) setRoom({ view: { ...view, follow: false } });
    send('deck.pause', { deck });
    seek(frameAt(event.clientX));
  };

  const move = (event: PointerEvent) => {
    const active = scrub.current;
    if (!active) {
      const hit = clipAt(event);
      if (canvas.current) canvas.current.style.cursor = hit?.edge ? 'ew-resize' : hit ? 'pointer' : 'crosshair';
      return;
    }
    const frame = frameAt(event.clientX);
    if (active.kind === 'edge') setDrag((d) => d && { ...d, frame: Math.max(0, Math.round(frame)) });
    seek(frame);
  };

  const tools = useRoving<HTMLDivElement>();
  const up = () => {
    const active = scrub.current;
    scrub.current = null;
    if (active?.kind === 'edge' && drag) send('clip.edit', { clip: drag.clip, [drag.edge]: drag.frame });
    setDrag(null);
  };

  const wheel = (event: WheelEvent) => {
    const { view } = useRoom.getState();
    if (event.shiftKey) setRoom({ view: { ...view, follow: false, from: view.from + (event.deltaY || event.deltaX) * view.scale } });
    else zoomView(event.deltaY > 0 ? 1.25 : 0.8, view.follow ? null : frameAt(event.clientX));
  };

  return (
    <section {...region('timeline', 'Timeline')} className="relative flex min-h-0 flex-1 flex-col border-t border-line max-beside:min-h-80">
      <div ref={tools} className="flex flex-wrap items-center gap-1 bg-panel px-1.5 py-1">
        <GoTo />
        <Button
          className="px-1.5!"
          aria-label="Timeline wider"
          title="Wider, as by the wheel"
          keyFor="replay.wider"
          onClick={() => zoomView(1.5, null)}
        >
          <ZoomOut size={15} />
        </Button>
        <Button
          className="px-1.5!"
          aria-label="Timeline closer"
          title="Closer, as by the wheel"
          keyFor="replay.closer"
          onClick={() => zoomView(1 / 1.5, null)}
        >
          <ZoomIn size={15} />
        </Button>
        <Button
          pressed={follows}
          title="The chosen deck stays in view"
          keyFor="replay.follow"
          onClick={() => setRoom({ view: { ...useRoom.getState().view, follow: !follows } })}
        >
          {follows ? 'Follows' : 'Stays'}
        </Button>
        <Marks />
      </div>
      <div ref={box} className="min-h-0 flex-1">
        <canvas
          ref={canvas}
          className="block h-full w-full touch-none"
          role="img"
          aria-label="Angles, clips and playheads"
          onPointerDown={down}
          onPointerMove={move}
          onPointerUp={up}
          onPointerCancel={up}
          onWheel={wheel}
        />
      </div>
      {drag && <Magnifier drag={drag} />}
    </section>
  );
}

/** A timecode to go to. */
function GoTo() {
  const client = useShowClient();
  const send = useSend();
  const deck = useRoom((s) => s.deck);
  const rate = useShow(({ desk: { show } }) => show.rate);
  const key = useKeyName('replay.goTo');
  const from = () => {
    const { desk, frame } = client.state;
    return Math.floor(deckPlace(desk.air.replay.decks[deck], desk.air.replay, frame, rate).position);
  };
  return (
    <TimecodeField
      role="go-to"
      label={`Timecode for deck ${deck} to go to`}
      title={withKey('Go to a timecode: 115410, 54:00, +10', key)}
      className="w-[116px] px-1.5!"
      value={null}
      rate={rate}
      from={from}
      onCommit={(frame) => void send('deck.goTo', { deck, timecode: formatTimecode(frame, rate) })}
    />
  );
}

/** Marks, and what makes clips of them. */
function Marks() {
  const send = useSend();
  const deck = useRoom((s) => s.deck);
  const { markIn, markOut, rate, settings } = useShow(({ desk: { show, air } }) => ({
    markIn: air.replay.markIn,
    markOut: air.replay.markOut,
    rate: show.rate,
    settings: show.replay.settings,
  }));
  const code = (frame: number | null) => (frame === null ? '––:––:––:––' : formatTimecode(frame, rate));
  return (
    <div className="ml-auto flex flex-wrap items-center gap-1" role="group" aria-label="Marks and clips">
      <Button
        className="figures"
        pressed={markIn !== null}
        title="Mark in"
        keyFor="replay.markIn"
        onClick={() => send('mark.in', { deck })}
      >
        In {code(markIn)}
      </Button>
      <Button
        className="figures"
        pressed={markOut !== null}
        title="Mark out"
        keyFor="replay.markOut"
        onClick={() => send('mark.out', { deck })}
      >
        Out {code(markOut === null ? null : markOut - 1)}
      </Button>
      <Button
        look="quiet"
        className="px-0.5!"
        aria-label="Clear the marks"
        title="Clear the marks"
        keyFor="replay.clearMarks"
        unusable={markIn === null && markOut === null ? 'Nothing is marked.' : null}
        onClick={() => send('mark.clear')}
      >
        <X size={14} />
      </Button>
      <Button
        title="Make a clip of the marks"
        keyFor="replay.makeClip"
        unusable={markIn === null || markOut === null ? 'Mark in and out first.' : null}
        onClick={() => send('clip.add', { deck })}
      >
        Clip
      </Button>
      {[settings.grab1, settings.grab2, settings.grab3].map((seconds, i) => (
        <Button
          key={i}
          look={i === 0 ? 'straw' : 'plain'}
          title={`Make a clip of the last ${seconds} seconds`}
          keyFor="replay.grab"
          keyArgs={{ length: i + 1 }}
          onClick={() => send('clip.grab', { deck, length: i + 1 })}
        >
          {i === 0 && 'Grab '}
          <span className="figures">{seconds} s</span>
        </Button>
      ))}
    </div>
  );
}
