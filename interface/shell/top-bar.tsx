/** The bar over every room: show, rooms, undo, how the engine fares, what is recorded and streamed. */
import { ChevronsDown, Circle, CircleHelp, Radio, Redo2, Search, TriangleAlert, Tv, TvMinimal, Undo2 } from 'lucide-react';
import { type ReactNode, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { Link, NavLink } from 'react-router';
import { CLEAN_OUTPUT } from '#core/screens/outputs';
import { formatDuration } from '#core/time/duration';
import { goToPart } from '../client/focus';
import { openPanel, useHere } from '../client/here';
import { useWorks } from '../client/use-rights';
import { useLive, useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { HoldButton } from '../parts/hold-button';
import { LoopBanner } from '../parts/loop-banner';
import { useRoving } from '../parts/roving';
import { openOutputWindow } from '../programme/open-window';
import { Running } from '../automation/running';
import { Crew, Listen } from './crew';
import { Leaving } from './leaving';
import { Notices } from './notices';
import { PanelState } from './panel-state';
import { RoomsNav } from './rooms-nav';
import { later } from '../parts/later';

const CommandFinder = later(() => import('./command-finder').then((m) => m.CommandFinder));
const KeysSheet = later(() => import('./keys-sheet').then((m) => m.KeysSheet));

function TimeOfDay() {
  const [now, setNow] = useState(() => new Date());
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date()), 500);
    return () => clearInterval(timer);
  }, []);
  return (
    <time className="figures text-lg" aria-label="Time of day">
      {now.toLocaleTimeString('en-GB')}
    </time>
  );
}

function RecordingState() {
  const send = useSend();
  const { on, seconds } = useShow(({ desk: { air }, encoder }) => ({
    on: air.recording !== null,
    seconds: Math.floor(encoder.recording?.seconds ?? 0),
  }));
  if (!on) {
    return (
      <Button onClick={() => send('output.startRecording')} title="Record the programme" keyFor="output.record">
        <Circle size={13} /> Record
      </Button>
    );
  }
  return (
    <HoldButton look="air" onHeld={() => send('output.stopRecording')} title="Hold to stop recording" keyFor="output.record">
      <Circle size={13} fill="currentColor" /> <span className="figures">REC {formatDuration(seconds)}</span>
    </HoldButton>
  );
}

function StreamState() {
  const send = useSend();
  const { on, seconds, state, queued } = useShow(({ desk: { air }, encoder }) => ({
    on: air.stream !== null,
    seconds: Math.floor(encoder.stream?.seconds ?? 0),
    state: encoder.stream?.state ?? 'connecting',
    queued: Math.round(encoder.stream?.queuedSeconds ?? 0),
  }));
  if (!on) {
    return (
      <Button onClick={() => send('output.startStream')} title="Stream the programme" keyFor="output.stream">
        <Radio size={14} /> Stream
      </Button>
    );
  }
  const trouble = state === 'retrying';
  return (
    <HoldButton
      look="air"
      onHeld={() => send('output.stopStream')}
      title="Hold to stop streaming"
      keyFor="output.stream"
      className={trouble ? 'border-caution! text-caution!' : ''}
    >
      {trouble ? <TriangleAlert size={14} /> : <Radio size={14} />}
      <span className="figures">
        {trouble ? `AWAY ${queued} s` : state === 'live' ? `LIVE ${formatDuration(seconds)}` : state.toUpperCase()}
      </span>
    </HoldButton>
  );
}

/** One glance at the engine: the cost of a frame, and what was given up. */
function EngineState() {
  const { ms, dropped, late, behind, failure, notice, brief } = useLive(({ mixer, samples, failure, working }) => {
    const minute = samples.at(-60)?.dropped ?? samples[0]?.dropped ?? 0;
    return {
      ms: Math.round(samples.at(-1)?.drawMs ?? mixer.drawMs),
      dropped: mixer.dropped - minute,
      late: mixer.late,
      behind: mixer.desksLate,
      failure,
      notice: working.notice,
      brief: working.brief,
    };
  });
  const bad = failure !== null || dropped > 0;
  return (
    <NavLink
      to="output"
      className={`figures flex min-h-7 items-center gap-1 text-[13px] ${bad ? 'text-caution' : 'text-muted'}`}
      title={[failure, notice, `${late} late since the start`, behind > 0 && `${behind} steps of macros came after their frame`]
        .filter(Boolean)
        .join('. ')}
      aria-label={`Engine: ${ms} milliseconds a frame, ${dropped} dropped in the last minute${notice ? `. ${notice}` : ''}`}
    >
      {bad && <TriangleAlert size={14} />}
      <span className="inline-block w-11 text-right max-beside:hidden">{ms} ms</span>
      <span className="inline-block min-w-16 text-right">{dropped} drop</span>
      {brief !== '' && (
        <span className="flex items-center gap-1 text-caution">
          <ChevronsDown size={14} /> {brief}
        </span>
      )}
    </NavLink>
  );
}

/** Undo, windows, the finder, the keys: one stop of Tab. */
function Tools() {
  const client = useShowClient();
  const send = useSend();
  const tools = useRoving<HTMLDivElement>();
  const { past, future } = useShow(({ history }) => ({ past: history.past.at(-1)?.title, future: history.future.at(-1)?.title }));
  const tool = (label: string, title: string, icon: ReactNode, keyFor: string, act: () => void, unusable: string | null = null) => (
    <IconButton label={label} title={title} keyFor={keyFor} unusable={unusable} onClick={act}>
      {icon}
    </IconButton>
  );
  const window = (label: string, title: string, icon: ReactNode, keyFor: string, output?: string) =>
    tool(label, title, icon, keyFor, () => openOutputWindow(client.showId, output));
  return (
    <div ref={tools} className="flex items-center" role="group" aria-label="Tools">
      {tool(
        'Undo',
        past ? `Undo: ${past}` : 'Undo',
        <Undo2 size={16} />,
        'history.undo',
        () => send('history.undo'),
        past ? null : 'There is nothing to undo.',
      )}
      {tool(
        'Redo',
        future ? `Redo: ${future}` : 'Redo',
        <Redo2 size={16} />,
        'history.redo',
        () => send('history.redo'),
        future ? null : 'There is nothing to redo.',
      )}
      {window('Programme in a window of its own', 'Programme in a window of its own', <Tv size={16} />, 'window.programme')}
      {window(
        'Clean programme in a window of its own',
        'Clean programme, below the lanes, in a window of its own',
        <TvMinimal size={16} />,
        'window.clean',
        CLEAN_OUTPUT,
      )}
      {tool('Find anything', 'Find anything by its name', <Search size={16} />, 'finder', () => openPanel('finder'))}
      {tool('Keys', 'Keys of this room', <CircleHelp size={16} />, 'keys', () => openPanel('keys'))}
    </div>
  );
}

/** Tells the page how high the bar is: in a narrow window it has more than one line, and rooms are as high as what is left. */
function useBarHeight() {
  const bar = useRef<HTMLElement>(null);
  useLayoutEffect(() => {
    const element = bar.current;
    if (!element) return undefined;
    const { style } = document.documentElement;
    const observer = new ResizeObserver(() => style.setProperty('--bar', `${element.offsetHeight}px`));
    observer.observe(element);
    return () => {
      observer.disconnect();
      style.removeProperty('--bar');
    };
  }, []);
  return bar;
}

/** The bar over every room: show, rooms, time, outputs, engine. */
export function Bar() {
  const bar = useBarHeight();
  const name = useShow(({ desk }) => desk.show.name);
  const open = useHere((s) => s.open);
  const room = useHere((s) => s.room);
  const { panel } = useShowClient();
  const works = useWorks('output');
  useEffect(() => {
    document.title = `${name} · Bivoca`;
  }, [name]);
  return (
    <header
      ref={bar}
      className="flex h-11 items-center gap-2 border-b border-line bg-panel px-3 whitespace-nowrap max-wide:h-auto max-wide:min-h-11 max-wide:flex-wrap"
    >
      <SkipLink />
      {!panel && (
        <Link to="/" className="flex min-h-7 shrink-0 items-center pr-1 text-muted hover:text-text" title="All shows">
          Shows
        </Link>
      )}
      <span className="max-w-44 min-w-16 shrink truncate font-semibold" title={name}>
        {name}
      </span>
      <RoomsNav />
      {panel && <PanelState panel={panel} room={room} />}
      <EngineState />
      {works && <RecordingState />}
      {works && <StreamState />}
      <Listen />
      <Crew />
      <Tools />
      <TimeOfDay />
      <CommandFinder open={open === 'finder'} onClose={() => openPanel(null)} />
      <KeysSheet open={open === 'keys'} onClose={() => openPanel(null)} />
      <Notices />
      {!panel && <Leaving />}
      <LoopBanner />
      <Running />
    </header>
  );
}

/** The first stop of Tab: straight into the room. */
function SkipLink() {
  return (
    <button
      type="button"
      className="absolute -top-20 left-2 z-50 rounded-b bg-straw px-3 py-1.5 font-semibold text-deep focus:top-0"
      onClick={() => goToPart(0)}
    >
      To the room
    </button>
  );
}
