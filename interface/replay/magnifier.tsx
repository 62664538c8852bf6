/** A larger picture of the timeline under the pointer. */
import { useEffect, useRef, useState } from 'react';
import { formatTimecode } from '#core/time/timecode';
import { useShowClient, useShow } from '../client/show-client';

/** An edge of a clip on its way. */
export interface EdgeDrag {
  clip: string;
  edge: 'in' | 'out';
  frame: number;
}

/** Frames to either side of the edge. */
const AROUND = 2;
const WIDTH = 116;

/** The frames around a clip's edge while it is dragged: those in the clip are bright, those outside dimmed. */
export function Magnifier({ drag }: { drag: EdgeDrag }) {
  const host = useShowClient();
  const { angle, rate } = useShow(({ desk: { show } }) => ({
    angle: show.replay.clips.find((c) => c.id === drag.clip)?.angleIds[0] ?? null,
    rate: show.rate,
  }));
  // The out point is the frame after the last: the edge lies before it.
  const frames = Array.from({ length: AROUND * 2 }, (_, i) => drag.frame - AROUND + i);
  return (
    <div
      className="absolute bottom-2 left-1/2 z-20 flex -translate-x-1/2 gap-0.5 border border-straw bg-deep p-1 shadow-2xl"
      role="status"
      aria-label={`${drag.edge} point at ${formatTimecode(drag.edge === 'in' ? drag.frame : drag.frame - 1, rate)}`}
    >
      {frames.map((frame, i) => {
        const inside = drag.edge === 'in' ? frame >= drag.frame : frame < drag.frame;
        return (
          <figure key={frame} className={`${inside ? '' : 'opacity-35'} ${i === AROUND ? 'border-l-4 border-straw pl-0.5' : ''}`}>
            {angle && <Exact host={host} angle={angle} frame={frame} />}
            <figcaption className="figures text-center text-[13px]">{formatTimecode(Math.max(0, frame), rate)}</figcaption>
          </figure>
        );
      })}
    </div>
  );
}

/** One very frame. */
function Exact({ host, angle, frame }: { host: ReturnType<typeof useShowClient>; angle: string; frame: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [gone, setGone] = useState(false);
  useEffect(() => {
    let stopped = false;
    // A short wait: while the pointer flies past nothing is decoded.
    const timer = setTimeout(() => {
      void host.replay.thumbnail(angle, frame, WIDTH, true).then((image) => {
        if (!stopped && image) canvas.current?.getContext('2d')?.drawImage(image, 0, 0, WIDTH, canvas.current.height);
        if (!stopped) setGone(image === null);
        image?.close();
      });
    }, 60);
    return () => {
      stopped = true;
      clearTimeout(timer);
    };
  }, [host, angle, frame]);
  return <canvas ref={canvas} width={WIDTH} height={Math.round((WIDTH * 9) / 16)} className={gone ? 'bg-line' : ''} />;
}
