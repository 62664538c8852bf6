/** For the technician at a projector or a wall: one output large, what can be put over it, and all outputs by name. `?output=` is the first one. */
import clsx from 'clsx';
import { useEffect, useState } from 'react';
import { areaOf } from '#core/screens/canvas';
import { type Copy } from '#core/panels/copy';
import { coverOf, outputNow } from '#core/screens/outputs';
import { coverAfter, type Over } from '#core/screens/air';
import { showsWords } from '#core/screens/words';
import { toggleFull } from '../parts/full-screen';
import { OutputCanvas } from '../programme/output-canvas';
import { useCopy } from './use-copy';

/** How long a refusal is said, milliseconds. */
const SAYS_MS = 5000;

type Send = (type: string, args: Record<string, unknown>) => void;

const COVERS: { kind: Over['kind']; name: string; key: string }[] = [
  { kind: 'card', name: 'Card', key: 'C' },
  { kind: 'test', name: 'Test', key: 'T' },
  { kind: 'frozen', name: 'Freeze', key: 'Z' },
  { kind: 'black', name: 'Black', key: 'B' },
];

function Technician({ copy, send, showId }: { copy: Copy; send: Send; showId: string | null }) {
  const { show, air } = copy;
  const { outputs, surfaces } = show.screens;
  const [id, setId] = useState(() => new URLSearchParams(window.location.search).get('output'));
  const [shown, setShown] = useState(false);
  const at = Math.max(
    0,
    outputs.findIndex((o) => o.id === id),
  );
  const output = outputs[at];
  const over = output ? coverOf(air.screens, output.id) : null;
  useEffect(() => {
    document.title = `${output?.name ?? 'Outputs'} · Bivoca`;
  }, [output?.name]);
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.altKey || event.metaKey || event.repeat) return;
      if (event.code === 'KeyF') return toggleFull();
      const step = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[event.code];
      const next = step !== undefined && outputs[(at + step + outputs.length) % outputs.length];
      const cover = COVERS.find((c) => event.code === `Key${c.key}`);
      if (next) setId(next.id);
      else if (cover && output) send('screen.over', { outputs: [output.id], over: coverAfter(over, cover.kind) });
      else return undefined;
      event.preventDefault();
      return undefined;
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  });
  if (!output) return <p className="m-auto text-muted">The show has no outputs of its own yet: add one in the room Screens.</p>;
  const raster = output.raster ?? show.raster;
  const fed = surfaces.flatMap((s) => s.screens.filter((x) => x.outputId === output.id).map((screen) => ({ surface: s.name, screen })));
  return (
    <div className="flex min-h-0 flex-1 gap-2 max-beside:flex-col">
      <div className="relative grid min-h-0 min-w-0 flex-1 place-items-center bg-black">
        <OutputCanvas
          key={output.id}
          showId={showId}
          outputId={output.id}
          name={output.name}
          className="absolute inset-0 h-full w-full"
          onShown={setShown}
        />
        {!shown && (
          <p className="p-4 text-muted">The picture is seen in windows of the browser that runs the show. What is pressed here works.</p>
        )}
      </div>
      <aside className="flex w-72 shrink-0 flex-col gap-2 max-beside:w-full">
        <div>
          <h1 className="truncate text-2xl font-semibold">{output.name}</h1>
          <p className="figures text-lg">
            {raster.width}×{raster.height}
            {output.display !== '' && <span className="text-muted"> · {output.display}</span>}
          </p>
          <p className={clsx('truncate', over ? 'text-caution' : 'text-muted')}>
            {showsWords(show, outputNow(show, air.screens, output).shows)}
          </p>
        </div>
        <div className="grid grid-cols-2 gap-1.5" role="group" aria-label="Over the output">
          {COVERS.map(({ kind, name, key }) => (
            <button
              key={kind}
              type="button"
              aria-pressed={over?.kind === kind}
              className={clsx(
                'min-h-14 rounded-[4px] border border-line text-xl',
                over?.kind === kind ? 'bg-caution font-semibold text-deep' : 'bg-raised',
              )}
              onClick={() => send('screen.over', { outputs: [output.id], over: coverAfter(over, kind) })}
            >
              {name} <kbd className="text-[13px] opacity-70">{key}</kbd>
            </button>
          ))}
        </div>
        {fed.length > 0 && (
          <ul className="figures text-[15px]" aria-label="Screens that it feeds">
            {fed.map(({ surface, screen }) => {
              const { x, y, width, height } = areaOf(screen, raster);
              return (
                <li key={screen.id}>
                  <span className="font-semibold">{screen.name}</span>{' '}
                  <span className="text-muted">
                    {surface}, {width}×{height} at {x},{y}
                    {screen.turn === 'none' ? '' : `, turned ${screen.turn}`}
                  </span>
                </li>
              );
            })}
          </ul>
        )}
        <ul className="min-h-0 flex-1 overflow-y-auto border-t border-line" aria-label="Outputs">
          {outputs.map((o) => (
            <li key={o.id}>
              <button
                type="button"
                aria-current={o.id === output.id}
                className={clsx(
                  'flex min-h-11 w-full items-center gap-2 border-b border-line px-2 text-left',
                  o.id === output.id && 'bg-raised',
                )}
                onClick={() => setId(o.id)}
              >
                <span className="min-w-0 flex-1 truncate">{o.name}</span>
                {coverOf(air.screens, o.id) && <span className="rounded bg-caution px-1 text-[13px] font-semibold text-deep">covered</span>}
              </button>
            </li>
          ))}
        </ul>
      </aside>
    </div>
  );
}

/** A double press of the picture's own window fills a display; this one is worked with, by touch and by keys. */
export function TechnicianWindow() {
  const { copy, trouble, line } = useCopy();
  const [refusal, setRefusal] = useState('');
  const [showId] = useState(() => new URLSearchParams(window.location.search).get('show'));
  useEffect(() => {
    if (refusal === '') return undefined;
    const timer = setTimeout(() => setRefusal(''), SAYS_MS);
    return () => clearTimeout(timer);
  }, [refusal]);
  const send: Send = (type, args) => void line?.send({ type, args }).then((done) => !done.ok && setRefusal(done.error.message));
  return (
    <main className="flex h-full flex-col gap-2 overflow-hidden bg-deep p-2">
      {copy && <Technician copy={copy} send={send} showId={showId} />}
      <p role="status" className={clsx('truncate text-caution', !copy && 'm-auto')}>
        {trouble ?? refusal}
      </p>
    </main>
  );
}
