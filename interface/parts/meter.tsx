/** A level meter. */
import { useRef } from 'react';
import { METER_FLOOR_DB } from '#core/sound/meter';
import { useMeter } from './use-meter';

/** Held peaks from here on are shown as over, dBFS. */
const OVER_DB = -1.2;

/** Peak meter of a channel, left and right, with held peaks. */
export function Meter({ id, label, className = '' }: { id: string; label: string; className?: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useMeter(canvas, id, false, OVER_DB);
  return (
    <canvas
      ref={canvas}
      role="meter"
      aria-label={label}
      aria-valuemin={METER_FLOOR_DB}
      aria-valuemax={0}
      aria-valuenow={METER_FLOOR_DB}
      className={`h-[11px] w-full ${className}`}
    />
  );
}
