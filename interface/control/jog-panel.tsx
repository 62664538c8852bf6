/** The simulated controller in a window of its own: keys, jog and shuttle. */
import clsx from 'clsx';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { type ControlEvent } from '#core/control/control';
import { levelOf, shuttleRate, STICK_TRAVEL } from '#core/control/lever';
import { openPanel, type PanelState } from '#engine/control/panel-channel';

/** Degrees of the wheel for one click. */
const CLICK = 12;

const BUTTONS: [string, string][] = [
  ['mark-in', 'In'],
  ['mark-out', 'Out'],
  ['make-clip', 'Clip'],
  ['grab-1', 'Grab'],
  ['grab-2', 'Grab 2'],
  ['clip-before', '▲'],
  ['clip-after', '▼'],
  ['cue', 'Cue'],
  ['roll', 'Play clip'],
  ['to-air', 'To air'],
  ['look-back', 'Look back'],
  ['return', 'Return'],
  ['speed-50', '50 %'],
  ['speed-100', '100 %'],
  ['other-deck', 'Deck'],
  ['live', 'Live'],
];

function usePanel() {
  const [state, setState] = useState<PanelState | null>(null);
  const panel = useRef<ReturnType<typeof openPanel> | null>(null);
  useEffect(() => {
    const opened = openPanel(setState);
    panel.current = opened;
    return () => opened.close();
  }, []);
  return { state, send: (event: ControlEvent) => panel.current?.send(event) };
}

/** A wheel that clicks: turned with a finger, the mouse, or its own scroll wheel. */
function Jog({ send }: { send: (event: ControlEvent) => void }) {
  const [angle, setAngle] = useState(0);
  const turn = useRef<{ last: number; rest: number } | null>(null);
  const direction = (e: PointerEvent<HTMLDivElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    return (Math.atan2(e.clientY - box.top - box.height / 2, e.clientX - box.left - box.width / 2) * 180) / Math.PI;
  };
  const clicks = (n: number) => {
    setAngle((a) => a + n * CLICK);
    send({ kind: 'wheel', id: 'jog', clicks: n });
  };
  return (
    <div
      role="slider"
      aria-label="Jog"
      aria-valuenow={Math.round(angle)}
      tabIndex={0}
      className="relative grid aspect-square w-full max-w-64 touch-none place-items-center rounded-full border-8 border-line bg-raised"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        turn.current = { last: direction(e), rest: 0 };
        send({ kind: 'touch', id: 'jog', held: true });
      }}
      onPointerMove={(e) => {
        const t = turn.current;
        if (!t) return;
        const now = direction(e);
        let way = now - t.last;
        if (way > 180) way -= 360;
        if (way < -180) way += 360;
        t.last = now;
        t.rest += way;
        const n = Math.trunc(t.rest / CLICK);
        t.rest -= n * CLICK;
        if (n !== 0) clicks(n);
      }}
      onPointerUp={() => {
        turn.current = null;
        send({ kind: 'touch', id: 'jog', held: false });
      }}
      onWheel={(e) => clicks(e.deltaY > 0 ? 1 : -1)}
      onKeyDown={(e) => {
        if (e.key === 'ArrowRight' || e.key === 'ArrowUp') clicks(1);
        if (e.key === 'ArrowLeft' || e.key === 'ArrowDown') clicks(-1);
      }}
    >
      <span className="absolute inset-0" style={{ transform: `rotate(${angle}deg)` }}>
        <span className="absolute top-3 left-1/2 h-9 w-9 -translate-x-1/2 rounded-full bg-deep" />
      </span>
      <span className="text-muted">Jog</span>
    </div>
  );
}

/** A lever that springs back: let go, the deck is at rest. */
function Shuttle({ send }: { send: (event: ControlEvent) => void }) {
  const [value, setValue] = useState(0);
  const move = (next: number) => {
    setValue(next);
    send({ kind: 'lever', id: 'shuttle', value: next });
  };
  const rate = shuttleRate(levelOf(value, 'both', STICK_TRAVEL));
  return (
    <label className="flex w-full flex-col gap-1">
      <span className="flex justify-between text-muted">
        Shuttle <span className="figures text-text">{rate === 0 ? 'at rest' : `${rate}×`}</span>
      </span>
      <input
        type="range"
        aria-label="Shuttle"
        className="h-11 w-full"
        min={-1}
        max={1}
        step={0.01}
        value={value}
        onChange={(e) => move(Number(e.target.value))}
        onPointerUp={() => move(0)}
        onBlur={() => value !== 0 && move(0)}
        onKeyUp={() => move(0)}
      />
    </label>
  );
}

/** The simulated jog-shuttle panel. It knows nothing of the show: it sends what hands do, as a real one would. */
export function JogPanel({ large }: { large?: boolean }) {
  const { state, send } = usePanel();
  const press = (id: string) => {
    send({ kind: 'button', id, pressed: true });
    send({ kind: 'button', id, pressed: false });
  };
  const key = clsx(
    'rounded-[3px] border border-line bg-raised px-1 hover:border-muted active:bg-straw active:text-deep',
    large ? 'min-h-12 text-lg' : 'min-h-11',
  );
  return (
    <section aria-label="Jog panel" className={clsx('flex flex-col items-center gap-3', large ? 'mx-auto max-w-xl p-4' : 'w-64')}>
      <div className="flex w-full items-stretch">
        <span
          className={clsx(
            'figures grid flex-1 place-items-center py-1 text-2xl font-semibold',
            state?.live ? 'bg-text text-deep' : 'border-l-8 border-straw bg-raised text-straw',
          )}
        >
          {state?.sign ?? 'no show'}
        </span>
        <span className="figures flex flex-col justify-center px-2 text-[13px]">
          <span>
            Deck {state?.deck ?? '–'} · {state?.speed ?? '–'} %
          </span>
          <span>{state?.code ?? '––:––:––:––'}</span>
        </span>
      </div>
      <Jog send={send} />
      <Shuttle send={send} />
      <button type="button" className={clsx(key, 'w-full font-semibold')} onClick={() => press('toggle')}>
        ▶ Play · ❙❙ Pause
      </button>
      <div className="grid w-full grid-cols-4 gap-1">
        {BUTTONS.map(([id, label]) => (
          <button key={id} type="button" className={key} onClick={() => press(id)}>
            {label}
          </button>
        ))}
      </div>
    </section>
  );
}

/** The panel in a window of its own, for a touch device. */
export function JogPanelWindow() {
  useEffect(() => {
    document.title = 'Jog panel · Bivoca';
  }, []);
  return (
    <main className="min-h-dvh bg-deep">
      <h1 className="sr-only">Jog panel</h1>
      <JogPanel large />
    </main>
  );
}
