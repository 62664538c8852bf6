/** A level along the width of a card. */
import { useRef } from 'react';
import { useMeter } from '../parts/use-meter';

/** Where a held peak turns red, dBFS. */
const OVER_DB = -3;

export function MeterRow({ id, label }: { id: string; label: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useMeter(canvas, id, false, OVER_DB);
  return (
    <canvas
      ref={canvas}
      className="h-2 w-full"
      role="meter"
      aria-label={`Level of ${label}`}
      aria-valuemin={-60}
      aria-valuemax={0}
      aria-valuenow={-60}
    />
  );
}
