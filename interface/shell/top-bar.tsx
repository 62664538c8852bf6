/** The bar over every room: show, rooms, undo, how the engine fares, what is recorded and streamed. */
import { ChevronsDown, Circle, CircleHelp, Radio, Redo2, Search, Settings, TriangleAlert, Tv, TvMinimal, Undo2, X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, NavLink, useNavigate } from 'react-router';
import { formatDuration } from '#core/time/duration';
import { CommandFinder } from './command-finder';
import { KeysSheet } from './keys-sheet';
import { useShowClient, useShow, useSend, useLive } from '../client/show-client';
import { openOutputWindow } from '../programme/open-window';
import { CLEAN_OUTPUT } from '#core/screens/outputs';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { LoopBanner } from '../parts/loop-banner';

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
      <Button onClick={() => send('output.startRecording')} title="Record the programme (Alt R)">
        <Circle size={13} /> Record
      </Button>
    );
  }
  return (
    <HoldButton look="air" onHeld={() => send('output.stopRecording')} title="Hold to stop recording (Alt Shift R)">
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
      <Button onClick={() => send('output.startStream')} title="Stream the programme (Alt L)">
        <Radio size={14} /> Stream
      </Button>
    );
  }
  const trouble = state === 'retrying';
  return (
    <HoldButton
      look="air"
      onHeld={() => send('output.stopStream')}
      title="Hold to stop streaming (Alt Shift L)"
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
  const { ms, dropped, late, failure, notice, brief } = useLive(({ mixer, samples, failure, working }) => {
    const minute = samples.at(-60)?.dropped ?? samples[0]?.dropped ?? 0;
    return {
      ms: Math.round(samples.at(-1)?.drawMs ?? mixer.drawMs),
      dropped: mixer.dropped - minute,
      late: mixer.late,
      failure,
      notice: working.notice,
      brief: working.brief,
    };
  });
  const bad = failure !== null || dropped > 0;
  return (
    <NavLink
      to="output"
      className={`figures flex items-center gap-1 text-[13px] ${bad ? 'text-caution' : 'text-muted'}`}
      title={[failure, notice, `${late} late since the start`].filter(Boolean).join('. ')}
      aria-label={`Engine: ${ms} milliseconds a frame, ${dropped} dropped in the last minute${notice ? `. ${notice}` : ''}`}
    >
      {bad && <TriangleAlert size={14} />}
      <span className="inline-block w-11 text-right">{ms} ms</span>
      <span className="inline-block min-w-14">{dropped} drop</span>
      {brief !== '' && (
        <span className="flex items-center gap-1 text-caution">
          <ChevronsDown size={14} /> {brief}
        </span>
      )}
    </NavLink>
  );
}

function Notices() {
  const host = useShowClient();
  const notices = useShow((s) => s.notices);
  const failure = useShow((s) => s.failure);
  if (notices.length === 0 && !failure) return null;
  const tone = { info: 'border-next', caution: 'border-caution', trouble: 'border-air' };
  return (
    <div className="fixed top-12 right-2 z-30 flex w-96 whitespace-normal max-w-[94vw] flex-col gap-1" role="status">
      {failure && <p className="border-l-4 border-air bg-raised px-3 py-2">{failure} Reload the page to start it again.</p>}
      {notices.map((n) => (
        <div key={n.id} className={`flex items-start gap-2 border-l-4 bg-raised px-3 py-2 shadow-lg ${tone[n.tone]}`}>
          <span className="flex-1">{n.text}</span>
          <button
            type="button"
            aria-label="Read"
            className="grid h-7 w-7 place-items-center text-muted hover:text-text"
            onClick={() => host.dismiss(n.id)}
          >
            <X size={15} />
          </button>
        </div>
      ))}
    </div>
  );
}

/** Leaving ends the show's outputs: a press is enough when there are none, otherwise it must be held. */
function LeaveShow() {
  const navigate = useNavigate();
  const running = useShow(({ desk: { air } }) => air.recording !== null || air.stream !== null);
  useEffect(() => {
    if (!running) return undefined;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [running]);
  if (running) {
    return (
      <HoldButton look="quiet" onHeld={() => void navigate('/')} title="Hold to leave: recording and stream are ended">
        Shows
      </HoldButton>
    );
  }
  return (
    <Link to="/" className="shrink-0 px-2.5 text-muted hover:text-text" title="All shows">
      Shows
    </Link>
  );
}

const room = ({ isActive }: { isActive: boolean }) =>
  `px-2 leading-[40px] border-b-2 ${isActive ? 'border-straw text-text' : 'border-transparent text-muted hover:text-text'}`;

/** The bar over every room: show, rooms, time, outputs, engine. */
export function Bar() {
  const client = useShowClient();
  const send = useSend();
  const [finding, setFinding] = useState(false);
  const [keys, setKeys] = useState(false);
  const { name, past, future } = useShow(({ desk, history }) => ({
    name: desk.show.name,
    past: history.past.at(-1)?.title,
    future: history.future.at(-1)?.title,
  }));
  useEffect(() => {
    document.title = `${name} · Bivoca`;
  }, [name]);
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.code === 'KeyK') {
        event.preventDefault();
        setFinding(true);
      } else if (event.key === '?' && !(event.target as HTMLElement).closest('input, textarea, [role=dialog]')) setKeys(true);
    };
    window.addEventListener('keydown', down);
    return () => window.removeEventListener('keydown', down);
  }, []);
  return (
    <header className="flex min-h-11 items-center gap-2 border-b max-[1099px]:flex-wrap border-line bg-panel px-3 whitespace-nowrap">
      <LeaveShow />
      <span className="max-w-56 truncate font-semibold">{name}</span>
      <nav className="ml-2 flex" aria-label="Rooms">
        <NavLink to="desk" className={room}>
          Desk
        </NavLink>
        <NavLink to="replay" className={room}>
          Replay
        </NavLink>
        <NavLink to="sound" className={room}>
          Sound
        </NavLink>
        <NavLink to="layouts" className={room}>
          Layouts
        </NavLink>
        <NavLink to="output" className={room}>
          Output
        </NavLink>
      </nav>
      <Button
        look="quiet"
        className="px-1!"
        aria-label="Undo"
        title={past ? `Undo: ${past} (Ctrl Z)` : undefined}
        unusable={past ? null : 'There is nothing to undo.'}
        onClick={() => send('history.undo')}
      >
        <Undo2 size={16} />
      </Button>
      <Button
        look="quiet"
        className="px-1!"
        aria-label="Redo"
        title={future ? `Redo: ${future}` : undefined}
        unusable={future ? null : 'There is nothing to redo.'}
        onClick={() => send('history.redo')}
      >
        <Redo2 size={16} />
      </Button>
      <div className="ml-auto flex items-center gap-2 max-[1099px]:flex-wrap">
        <EngineState />
        <RecordingState />
        <StreamState />
        <Button
          look="quiet"
          className="px-1.5!"
          aria-label="Programme in a window of its own"
          title="Programme in a window of its own"
          onClick={() => openOutputWindow(client.showId)}
        >
          <Tv size={16} />
        </Button>
        <Button
          look="quiet"
          className="px-1.5!"
          aria-label="Clean programme in a window of its own"
          title="Clean programme, below the lanes, in a window of its own"
          onClick={() => openOutputWindow(client.showId, CLEAN_OUTPUT)}
        >
          <TvMinimal size={16} />
        </Button>
        <Button
          look="quiet"
          className="px-1.5!"
          aria-label="Find a command"
          title="Find a command (Ctrl K)"
          onClick={() => setFinding(true)}
        >
          <Search size={16} />
        </Button>
        <Button look="quiet" className="px-1.5!" aria-label="Keys" title="Keys (?)" onClick={() => setKeys(true)}>
          <CircleHelp size={16} />
        </Button>
        <NavLink
          to="settings"
          className="grid h-7 w-7 place-items-center text-muted hover:text-text"
          aria-label="Show settings"
          title="Show settings"
        >
          <Settings size={16} />
        </NavLink>
        <TimeOfDay />
      </div>
      <CommandFinder open={finding} onClose={() => setFinding(false)} />
      <KeysSheet open={keys} onClose={() => setKeys(false)} />
      <Notices />
      <LoopBanner />
    </header>
  );
}
