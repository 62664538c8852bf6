/** A meter with its peak and clip mark. */
import { useEffect, useRef } from 'react';
import { METER_FLOOR_DB } from '#core/sound/meter';
import { useShowClient } from '../client/show-client';
import { useMeter } from '../parts/use-meter';

/** Upright peak meter, left and right, with held peaks, and a lamp that stays lit after full scale until it is pressed. */
export function MeterColumn({ id, label }: { id: string; label: string }) {
  const host = useShowClient();
  const canvas = useRef<HTMLCanvasElement>(null);
  const lamp = useRef<HTMLButtonElement>(null);
  useMeter(canvas, id, true, -0.1);
  useEffect(
    () =>
      host.onTick(() => {
        const over = String(host.sound.clipped.has(id));
        if (lamp.current && lamp.current.dataset.over !== over) lamp.current.dataset.over = over;
      }),
    [host, id],
  );
  return (
    <div className="flex w-3 flex-col gap-0.5">
      <button
        ref={lamp}
        type="button"
        aria-label={`Full scale was reached in ${label}: press to clear`}
        title="Lit when full scale was reached; press to clear"
        className="group -ml-4 flex min-h-7 items-end justify-end pointer-coarse:min-h-11"
        onClick={() => host.sound.clipped.delete(id)}
      >
        <span className="h-3 w-3 border border-line group-data-[over=true]:border-air group-data-[over=true]:bg-air" />
      </button>
      <div className="relative min-h-0 flex-1">
        <canvas
          ref={canvas}
          role="meter"
          aria-label={`Level of ${label}`}
          aria-valuemin={METER_FLOOR_DB}
          aria-valuemax={0}
          aria-valuenow={METER_FLOOR_DB}
          className="absolute inset-0 h-full w-full"
          title="Peak level; lines at −6, −12, −20, −30, −40 and −50 dBFS"
        />
      </div>
    </div>
  );
}
