/** The page of the simulated devices: a row of lamps, a projector and its shutter, a second wall; what came in, and presses that they tell. */
import clsx from 'clsx';
import { useCallback, useEffect, useState } from 'react';
import { type Lamp, type PierState, WALL_LAYOUTS } from '#standins/devices/pier';
import { Button } from '../parts/button';

/** How often they are looked at, milliseconds. */
const LOOK_MS = 250;

const LAMP_LOOKS: Record<Lamp, string> = {
  off: 'bg-deep border-line text-muted',
  next: 'bg-next border-next text-deep',
  air: 'bg-air border-air text-deep',
};

/** Boxes of the wall's layouts, as shares of its picture. */
const LAYOUTS: readonly (readonly [number, number, number, number])[][] = [
  [[0, 0, 1, 1]],
  [
    [0, 0, 0.5, 1],
    [0.5, 0, 0.5, 1],
  ],
  [
    [0, 0, 0.7, 1],
    [0.7, 0, 0.3, 1],
  ],
  [
    [0, 0, 0.5, 0.5],
    [0.5, 0, 0.5, 0.5],
    [0, 0.5, 0.5, 0.5],
    [0.5, 0.5, 0.5, 0.5],
  ],
  [
    [0, 0, 1, 0.7],
    [0, 0.7, 0.5, 0.3],
    [0.5, 0.7, 0.5, 0.3],
  ],
  [
    [0, 0, 0.34, 1],
    [0.34, 0, 0.33, 1],
    [0.67, 0, 0.33, 1],
  ],
];

function usePier(): { state: PierState | null; act: (what: object) => void } {
  const [state, setState] = useState<PierState | null>(null);
  const act = useCallback((what: object) => {
    void fetch('/simulated/devices', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(what) }).catch(
      () => undefined,
    );
  }, []);
  useEffect(() => {
    let stopped = false;
    const look = async () => {
      const found = await fetch('/simulated/devices.json')
        .then((r) => (r.ok ? (r.json() as Promise<PierState>) : null))
        .catch(() => null);
      if (stopped) return;
      setState(found);
      setTimeout(() => void look(), LOOK_MS);
    };
    void look();
    document.title = 'Simulated devices · Bivoca';
    return () => {
      stopped = true;
    };
  }, []);
  return { state, act };
}

export function PierWindow() {
  const { state, act } = usePier();
  if (!state)
    return <main className="grid h-full place-items-center text-muted">The server with the simulated devices does not answer.</main>;
  const { power, lamps, shutter, wall, heard, trouble } = state;
  return (
    <main className="flex h-full flex-col gap-4 overflow-auto p-4">
      <header className="flex items-center gap-3">
        <h1 className="flex-1 text-lg font-semibold">Simulated devices at the pier</h1>
        <Button pressed={power} title="Without current they answer nothing" onClick={() => act({ power: !power })}>
          {power ? 'Current: on' : 'Current: off'}
        </Button>
      </header>
      {trouble.map((t) => (
        <p key={t} className="text-caution">
          {t}
        </p>
      ))}
      <section aria-label="Row of lamps">
        <h2 className="text-sm text-muted">Row of lamps (TCP). A press is told to whoever is connected.</h2>
        <div className="flex gap-2 py-1">
          {lamps.map((lamp, i) => (
            <button
              key={i}
              type="button"
              aria-label={`Lamp ${i + 1}: ${power ? lamp : 'without current'}`}
              className={clsx(
                'grid h-16 flex-1 place-items-center rounded-full border-4 text-xl font-semibold',
                power ? LAMP_LOOKS[lamp] : LAMP_LOOKS.off,
              )}
              onClick={() => act({ press: i + 1 })}
            >
              {i + 1}
            </button>
          ))}
        </div>
      </section>
      <div className="grid grid-cols-2 gap-4">
        <section aria-label="Projector">
          <h2 className="text-sm text-muted">Projector with its shutter (HTTP)</h2>
          <p
            className={clsx(
              'mt-1 grid aspect-video place-items-center border-4',
              power && shutter ? 'border-text bg-text text-deep' : 'border-line bg-black text-muted',
            )}
          >
            {!power ? 'no current' : shutter ? 'light' : 'shutter closed'}
          </p>
        </section>
        <section aria-label="Second wall">
          <h2 className="text-sm text-muted">Second wall (OSC)</h2>
          <div className="relative mt-1 aspect-video border-4 border-line bg-black" aria-label={`Layout ${wall.layout}`} role="img">
            {power &&
              (LAYOUTS[wall.layout - 1] ?? []).map(([x, y, w, h], i) => (
                <span
                  key={i}
                  className="absolute grid place-items-center border border-deep bg-raised text-sm"
                  style={{ left: `${x * 100}%`, top: `${y * 100}%`, width: `${w * 100}%`, height: `${h * 100}%` }}
                >
                  {wall.cells[i] || i + 1}
                </span>
              ))}
          </div>
          <div className="flex gap-1 pt-1">
            {Array.from({ length: WALL_LAYOUTS }, (_, i) => (
              <Button key={i} pressed={wall.layout === i + 1} aria-label={`Wall layout ${i + 1}`} onClick={() => act({ layout: i + 1 })}>
                {i + 1}
              </Button>
            ))}
          </div>
        </section>
      </div>
      <ol className="figures min-h-24 flex-1 overflow-y-auto border-t border-line pt-1 text-[13px] text-muted" aria-label="What came">
        {[...heard].reverse().map((line, i) => (
          <li key={heard.length - i}>{line}</li>
        ))}
        {heard.length === 0 && <li>Nothing came yet.</li>}
      </ol>
    </main>
  );
}
