/** Marks where the eyes are in a picture. */
import { type PointerEvent } from 'react';
import { useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { Monitor } from '../parts/monitor';

/** A source with the mark of its eyes: a press or a drag puts the mark there; arrow keys move it. */
export function EyeMark({ sourceId }: { sourceId: string }) {
  const send = useSend();
  const { eye, aspect } = useShow(({ desk: { show }, sizes }) => {
    const size = sizes[sourceId] ?? show.raster;
    return { eye: show.eyes.find((e) => e.pictureId === sourceId) ?? null, aspect: size.width / size.height };
  });
  const share = (v: number) => Math.min(1, Math.max(0, v));
  const put = (x: number, y: number) => send('source.setEyes', { picture: sourceId, x: share(x), y: share(y) });
  const drag = (event: PointerEvent<HTMLButtonElement>) => {
    if (event.buttons !== 1) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const box = event.currentTarget.getBoundingClientRect();
    put((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  };
  return (
    <div className="flex items-end gap-2">
      <button
        type="button"
        aria-label="Mark of the eyes: press on them, or move it with the arrow keys"
        className="relative w-56 touch-none"
        style={{ aspectRatio: aspect }}
        onPointerDown={drag}
        onPointerMove={drag}
        onKeyDown={(e) => {
          const step = e.shiftKey ? 0.05 : 0.01;
          const by: Record<string, [number, number]> = {
            ArrowLeft: [-step, 0],
            ArrowRight: [step, 0],
            ArrowUp: [0, -step],
            ArrowDown: [0, step],
          };
          const move = by[e.code];
          if (!move) return;
          e.preventDefault();
          put((eye?.x ?? 0.5) + move[0], (eye?.y ?? 0.4) + move[1]);
        }}
      >
        <Monitor picture={{ kind: 'picture', id: sourceId }} label="" className="h-full w-full" />
        {eye && (
          <span
            aria-hidden
            className="pointer-events-none absolute h-5 w-9 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-next"
            style={{ left: `${eye.x * 100}%`, top: `${eye.y * 100}%` }}
          />
        )}
      </button>
      {eye && <Button onClick={() => send('source.setEyes', { picture: sourceId, x: null, y: null })}>Take the mark away</Button>}
    </div>
  );
}
